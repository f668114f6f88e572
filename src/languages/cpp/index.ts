import type { TypeModel } from '../../core/model/types.js';
import { fileLibrary } from '../kit/library.js';
import { identifier, snakeCase } from '../kit/names.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitCpp, fileName, namespaceName, reservedPackages } from './emit.js';
import { plainCpp, reachCpp } from './reach.js';
import { benchScope } from '../kit/bench.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.cpp';
import { changed, generated } from '../kit/ways.js';

const nlohmann = fileLibrary(
  'nlohmann/json',
  'apt-get install nlohmann-json3-dev',
  ['/usr/include', '/usr/local/include', '/opt/homebrew/include'].map(
    (folder) => `${folder}/nlohmann/json.hpp`,
  ),
);

/** C++: structs for nlohmann/json. */
export const cpp: Language = {
  name: 'cpp',
  title: 'C++',
  text: 'utf-8',
  // nlohmann/json refuses what is larger than every double.
  lossyNumbers: /[eE]\+?[1-9]\d{2,}$/,
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
      minimum: '10',
      install: 'apt-get install g++',
    },
  ],
  libraries: [nlohmann],
  styles: [
    {
      name: 'struct',
      summary: 'structs for nlohmann/json, C++17',
      ways: [
        generated,
        {
          name: 'get',
          summary: 'get of parsed JSON, and json of a value',
          limits: [
            {
              says: 'exact numbers are parsed by the generated function alone',
              ours: true,
              kinds: ['retyped', 'refused'],
            },
          ],
        },
        {
          name: 'field',
          summary: "a member of the caller's own struct",
          limits: [
            {
              says: 'exact numbers are parsed by the generated function alone',
              ours: true,
              kinds: ['retyped', 'refused'],
            },
          ],
        },
        {
          name: 'elements',
          summary: 'elements of a vector',
          limits: [
            {
              says: 'exact numbers are parsed by the generated function alone',
              ours: true,
              kinds: ['retyped', 'refused'],
            },
          ],
        },
        { name: 'built', summary: 'members set to those that were decoded' },
        changed,
      ],
      emit: emitCpp,
      reach: reachCpp,
      plain: plainCpp,
      bench,
    },
  ],
};

const dialect = ['-std=c++17', '-O0'];

function bench(model: TypeModel, options: BenchOptions): Bench {
  const { pedantic } = options;
  const namespace = namespaceName(model, options);
  const name = identifier(model.roots[options.root ?? 0]!.name, snakeCase);
  const { scope, changes } = benchScope(model, options);
  const program = `${fill(benchTemplate, {
    ...scope,
    file: fileName(model),
    namespace,
    decode: `decode_${name}`,
    encode: `encode_${name}`,
  })}\n`;
  return {
    changes,
    files: [{ path: 'main.cpp', text: program }],
    // The library's header takes most of the time of a build.
    prepared: {
      files: [
        {
          path: 'library.hpp',
          text: '#include <nlohmann/json.hpp>\n#include <iostream>\n#include <variant>\n#include <optional>\n#include <map>\n',
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
          ...(pedantic ? ['-Wall', '-Wextra', '-Wpedantic', '-Werror'] : ['-w']),
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
