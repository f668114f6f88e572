import type { TypeModel } from '../../core/model/types.js';
import { fileLibrary } from '../kit/library.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitCpp, fileName, namespaceName, rootOf } from './emit.js';
import { plainCpp, reachCpp } from './reach.js';
import { benchScope } from '../kit/bench.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.cpp';
import { reservedPackages, ways } from './spelling.js';

const nlohmann = fileLibrary(
  'nlohmann/json',
  'apt-get install nlohmann-json3-dev',
  ['/usr/include', '/usr/local/include', '/opt/homebrew/include'].map(
    (folder) => `${folder}/nlohmann/json.hpp`,
  ),
);

const shared = {
  ways,
  typesOthers: true,
  reach: reachCpp,
  plain: plainCpp,
} as const;

/** C++: structs for nlohmann/json. */
export const cpp: Language = {
  name: 'cpp',
  title: 'C++',
  text: 'utf-8',
  // As deep as the generated code reads: deeper recursion might overflow the stack.
  deepest: 512,
  // Numbers of nlohmann/json have 64 bits, and what is larger than every double is refused.
  lossyNumbers: /\d{17}|\d[\d.]{16}|[eE]\+?[1-9]\d{2,}$/,
  package: {
    pattern: /^[a-z]\w*(::[a-z]\w*)*$/,
    example: 'saltmere::sailings',
    reserved: reservedPackages,
  },
  tools: [
    {
      name: 'g++',
      programs: ['g++'],
      variable: 'SKEVO_CXX',
      versionArguments: ['--version'],
      versionPattern: /(\d+\.\d+\.\d+)/,
      minimum: '12',
      install: 'apt-get install g++',
    },
  ],
  libraries: [nlohmann],
  styles: [
    {
      name: 'struct',
      summary: 'structs for nlohmann/json, C++20',
      ...shared,
      emit: emitCpp,
      bench: (model, options) => bench(model, options, `${fileName(model)}.cpp`),
    },
    {
      name: 'header',
      summary: 'the same in headers alone, with nothing to compile on its own',
      ...shared,
      variantOf: 'struct',
      emit: (model, options) => emitCpp(model, options, true),
      bench: (model, options) => bench(model, options, `${fileName(model)}.hpp`),
    },
  ],
};

const dialect = ['-std=c++20', '-O0'];

/** @param file which has all of the types with it */
function bench(model: TypeModel, options: BenchOptions, file: string): Bench {
  const { pedantic } = options;
  const { scope, changes } = benchScope(model, options, true);
  const program = `${fill(benchTemplate, {
    ...scope,
    ...rootOf(model, options),
    file,
    namespace: namespaceName(model, options),
  })}\n`;
  return {
    changes,
    files: [{ path: 'main.cpp', text: program }],
    // The library's header takes most of the time of a build.
    prepared: {
      files: [
        {
          path: 'library.hpp',
          text: '#include <nlohmann/json.hpp>\n#include <algorithm>\n#include <iostream>\n#include <variant>\n#include <optional>\n#include <map>\n',
        },
      ],
      build: [
        { tool: 'g++', arguments: [...dialect, '-x', 'c++-header', 'library.hpp', '-o', 'library.hpp.gch'] },
      ],
    },
    build: [
      {
        tool: 'g++',
        arguments: [
          ...dialect,
          ...(pedantic ? ['-Wall', '-Wextra', '-Wpedantic', '-Wconversion', '-Wshadow', '-Werror'] : ['-w']),
          '-include',
          '{prepared}/library.hpp',
          '-s',
          'main.cpp',
          '-o',
          'bench',
        ],
      },
    ],
    run: { program: 'bench', arguments: [] },
  };
}
