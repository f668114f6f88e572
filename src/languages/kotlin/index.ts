import { join } from 'node:path';
import type { TypeModel } from '../../core/model/types.js';
import {
  classPath,
  javaRuntime,
  jvmPackage,
  mavenLibrary,
  residentCompiler,
  runClass,
  shortLivedCompiler,
} from '../kit/jvm.js';
import { constructorScope } from '../kit/bench.js';
import { fill } from '../kit/template.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitKotlin, packageName, rootOf } from './emit.js';
import { plainKotlin, reachKotlin } from './reach.js';
import { reservedPackages, ways } from './spelling.js';
import benchTemplate from './templates/bench.kt';
import coordinates from './templates/libraries.text';

const libraries = [mavenLibrary('kotlinx.serialization', coordinates.trim().split('\n'))];

/** Kotlin: data classes for kotlinx.serialization. */
export const kotlin: Language = {
  name: 'kotlin',
  title: 'Kotlin',
  text: 'utf-16',
  // The library reads trees of 400 levels, those around the payload counted.
  deepest: 390,
  package: jvmPackage(reservedPackages),
  tools: [
    {
      name: 'kotlinc',
      programs: ['kotlinc'],
      variable: 'SKEVO_KOTLINC',
      versionArguments: ['-version'],
      versionPattern: /kotlinc-jvm (\d+\.\d+(?:\.\d+)?)/,
      minimum: '2.4',
      install: 'see kotlinlang.org/docs/command-line.html',
      resident: (home) => residentCompiler('kotlinc', { java: 'java', jars: join(home, 'lib', '*') }),
    },
    javaRuntime('17'),
  ],
  libraries,
  styles: [
    {
      name: 'data',
      summary: 'data classes for kotlinx.serialization',
      ways,
      typesOthers: true,
      natives: ['date-time', 'date', 'uuid'],
      emit: emitKotlin,
      reach: reachKotlin,
      plain: plainKotlin,
      bench,
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions): Bench {
  const { pedantic, paths } = options;
  const { Root, isRecord, members, keys } = rootOf(model, options.unknown, options.root ?? 0);
  const { changes, ...parts } = constructorScope(members, keys);
  const program = fill(benchTemplate, {
    package: packageName(model, options),
    Root,
    record: isRecord,
    ...parts,
  });
  const path = classPath(libraries);
  return {
    changes,
    files: [{ path: 'Bench.kt', text: `${program}\n` }],
    build: [
      {
        tool: 'kotlinc',
        arguments: [
          ...shortLivedCompiler,
          '-no-stdlib',
          '-no-reflect',
          '-Xplugin={home}/lib/kotlinx-serialization-compiler-plugin.jar',
          ...(pedantic ? ['-Werror', '-Xexplicit-api=strict'] : ['-nowarn']),
          '-jvm-target',
          '17',
          '-cp',
          path,
          '-d',
          'build',
          ...paths.map((each) => `classes/${each}`),
          'Bench.kt',
        ],
      },
    ],
    run: runClass('BenchKt', path),
  };
}
