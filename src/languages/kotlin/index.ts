import type { TypeModel } from '../../core/model/types.js';
import {
  classPath,
  jackson,
  javaRuntime,
  jvmPackage,
  plainMapper,
  runClass,
  shortLivedCompiler,
  sparingMapper,
} from '../kit/jackson.js';
import { fileLibrary } from '../kit/library.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitKotlin, facadeName, packageName, reservedPackages } from './emit.js';
import { plainKotlin, reachKotlin } from './reach.js';
import { benchScope } from '../kit/bench.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.kt';
import { built, generated } from '../kit/ways.js';

const runtime = fileLibrary('kotlin-stdlib', 'apt-get install kotlin', [
  '/usr/share/java/kotlin-stdlib.jar',
  '/usr/lib/kotlinc/lib/kotlin-stdlib.jar',
  '/usr/local/lib/kotlinc/lib/kotlin-stdlib.jar',
  '/opt/homebrew/opt/kotlin/libexec/lib/kotlin-stdlib.jar',
]);

/** Kotlin: data classes for Jackson. */
export const kotlin: Language = {
  name: 'kotlin',
  title: 'Kotlin',
  text: 'utf-16',
  // Jackson takes an empty name for no name.
  unboundKeys: /^$/,
  package: jvmPackage(reservedPackages),
  tools: [
    {
      name: 'kotlinc',
      programs: ['kotlinc'],
      variable: 'SKEVO_KOTLINC',
      versionArguments: ['-version'],
      versionPattern: /kotlinc-jvm (\d+\.\d+(?:\.\d+)?)/,
      minimum: '1.3',
      install: 'apt-get install kotlin',
    },
    javaRuntime('11'),
  ],
  libraries: [jackson, runtime],
  styles: [
    {
      name: 'data',
      summary: 'data classes for Jackson',
      ways: [
        generated,
        plainMapper,
        { name: 'field', summary: "a field of the caller's own class" },
        sparingMapper,
        built,
        { name: 'changed', summary: 'copy with one field as in another payload' },
      ],
      natives: ['date-time', 'date', 'uuid', 'base64'],
      emit: emitKotlin,
      reach: reachKotlin,
      plain: plainKotlin,
      bench,
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions): Bench {
  const { pedantic } = options;
  const facade = `${packageName(model, options)}.${facadeName(model.roots[options.root ?? 0]!)}`;
  const { scope, changes } = benchScope(model, options);
  const program = `${fill(benchTemplate, { ...scope, package: packageName(model, options), facade })}\n`;
  const path = classPath([jackson, runtime]);
  return {
    changes,
    files: [{ path: 'Bench.kt', text: program }],
    build: [
      {
        tool: 'kotlinc',
        arguments: [
          ...shortLivedCompiler,
          ...(pedantic ? ['-Werror'] : ['-nowarn']),
          '-jvm-target',
          '1.8',
          '-cp',
          path,
          '-d',
          'build',
          'classes',
          'Bench.kt',
        ],
      },
    ],
    run: runClass('BenchKt', path),
  };
}
