import { join } from 'node:path';
import type { TypeModel } from '../../core/model/types.js';
import { constructorScope } from '../kit/bench.js';
import {
  classPath,
  javaRuntime,
  jvmPackage,
  mavenLibrary,
  residentCompiler,
  runClass,
  shortLivedCompiler,
} from '../kit/jvm.js';
import { fill } from '../kit/template.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitScala, packageName, rootOf } from './emit.js';
import { plainScala, reachScala } from './reach.js';
import { reservedPackages, ways } from './spelling.js';
import benchTemplate from './templates/bench.scala';
import coordinates from './templates/libraries.text';

const libraries = [mavenLibrary('jsoniter-scala', coordinates.trim().split('\n'))];

/** Scala: case classes for jsoniter-scala. */
export const scala: Language = {
  name: 'scala',
  title: 'Scala',
  // The library refuses halves of surrogate pairs.
  text: 'utf-8',
  // Deeper text would overflow the stack.
  deepest: 1000,
  package: jvmPackage(reservedPackages),
  tools: [
    {
      name: 'scalac',
      programs: ['scalac'],
      variable: 'SKEVO_SCALAC',
      versionArguments: ['-version'],
      versionPattern: /version (\d+\.\d+(?:\.\d+)?)/,
      minimum: '3.9',
      install: 'see scala-lang.org/download',
      resident: (home) => residentCompiler('scalac', { java: 'java', jars: join(home, 'lib', '*') }),
    },
    javaRuntime('17'),
  ],
  libraries,
  styles: [
    {
      name: 'case',
      summary: 'case classes for jsoniter-scala',
      ways,
      typesOthers: true,
      natives: ['date-time', 'date', 'uuid'],
      emit: emitScala,
      reach: reachScala,
      plain: plainScala,
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
    files: [
      { path: 'Bench.scala', text: `${program}\n` },
      // The compiler wants the folder to be there.
      { path: 'build/made', text: '' },
    ],
    build: [
      {
        tool: 'scalac',
        arguments: [
          ...shortLivedCompiler,
          ...(pedantic ? ['-Werror', '-Wunused:all', '-deprecation', '-feature'] : ['-nowarn']),
          '-classpath',
          path,
          '-d',
          'build',
          ...paths.map((each) => `classes/${each}`),
          'Bench.scala',
        ],
      },
    ],
    run: runClass('Bench', path),
  };
}
