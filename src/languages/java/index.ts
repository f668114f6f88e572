import { join } from 'node:path';
import type { TypeModel } from '../../core/model/types.js';
import { settable } from '../kit/bench.js';
import { fill } from '../kit/template.js';
import {
  classPath,
  javaRuntime,
  jvmPackage,
  mavenLibrary,
  residentCompiler,
  runClass,
  shortLivedCompiler,
} from '../kit/jvm.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitJava, mostPositional, packageName, rootOf } from './emit.js';
import { plainJava, reachJava } from './reach.js';
import { reservedPackages, ways } from './spelling.js';
import benchTemplate from './templates/bench.java';
import coordinates from './templates/libraries.text';
import olderCoordinates from './templates/jackson-2.text';

const install = 'apt-get install openjdk-17-jdk-headless';

const libraries = [mavenLibrary('Jackson 3 with JSpecify', coordinates.trim().split('\n'))];
const older = [mavenLibrary('Jackson 2', olderCoordinates.trim().split('\n'))];

/** Java: records for Jackson. */
export const java: Language = {
  name: 'java',
  title: 'Java',
  text: 'utf-16',
  // Jackson takes an empty name for no name, and no name has half a surrogate pair.
  unboundKeys: /^$|\p{Surrogate}/u,
  // Deeper text is refused.
  deepest: 500,
  package: jvmPackage(reservedPackages),
  tools: [
    {
      name: 'javac',
      programs: ['javac'],
      variable: 'SKEVO_JAVAC',
      versionArguments: ['-version'],
      versionPattern: /javac (\d+(?:\.\d+)*)/,
      minimum: '17',
      install,
      resident: (home) => residentCompiler('javac', { java: join(home, 'bin', 'java') }),
    },
    javaRuntime('17'),
  ],
  libraries,
  styles: [
    {
      name: 'record',
      summary: 'records for Jackson 3',
      ways,
      typesOthers: true,
      hasBuilders: true,
      natives: ['date-time', 'date', 'uuid'],
      emit: emitJava,
      reach: reachJava,
      plain: plainJava,
      bench: (model, options) => bench(model, options, false),
    },
    {
      name: 'jackson2',
      summary: 'the same records for Jackson 2, dates as text',
      ways,
      typesOthers: true,
      hasBuilders: true,
      // Those of times come in a module that a new mapper does not have.
      natives: ['uuid'],
      libraries: older,
      emit: (model, options) => emitJava(model, options, true),
      reach: reachJava,
      plain: plainJava,
      bench: (model, options) => bench(model, options, true),
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions, isOlder: boolean): Bench {
  const { pedantic } = options;
  const { Root, isRecord, members, keys } = rootOf(model, options.unknown, options.root ?? 0);
  const comma = (i: number) => (i < members.length - 1 ? ',' : '');
  const isBuilt = keys.length > mostPositional && options.builders !== 'off';
  const changes = isBuilt ? keys : settable(keys);
  const program = fill(benchTemplate, {
    package: packageName(model, options),
    Root,
    record: isRecord,
    older: isOlder,
    jackson: isOlder ? 'com.fasterxml.jackson' : 'tools.jackson',
    members: members.map((name, i) => ({ name, comma: comma(i) })),
    setters: changes.map((_, i) => ({
      i: String(i),
      name: members[i]!,
      builder: isBuilt,
      each: members.map((name, k) => ({ name, from: k === i ? 'other' : 'value', comma: comma(k) })),
    })),
  });
  const path = classPath(isOlder ? [...libraries, ...older] : libraries);
  return {
    changes,
    files: [{ path: 'Bench.java', text: `${program}\n` }],
    build: [
      {
        tool: 'javac',
        arguments: [
          ...shortLivedCompiler,
          '-encoding',
          'UTF-8',
          '-proc:none',
          ...(pedantic ? ['-Xlint:all', '-Werror'] : ['-nowarn']),
          '-d',
          'build',
          '-cp',
          path,
          '-sourcepath',
          'classes',
          'Bench.java',
        ],
      },
    ],
    run: runClass('Bench', path),
  };
}
