import type { TypeModel } from '../../core/model/types.js';
import { classPath, jackson, javaRuntime, jvmPackage, runClass, shortLivedCompiler } from '../kit/jackson.js';
import { fileLibrary } from '../kit/library.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitScala, facadeName, packageName, reservedPackages } from './emit.js';
import { plainScala, reachScala } from './reach.js';
import { benchScope } from '../kit/bench.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.scala';
import { generated } from '../kit/ways.js';

const runtime = fileLibrary('scala-library', 'apt-get install scala-library', [
  '/usr/share/scala-2.11/lib/scala-library.jar',
  '/usr/share/java/scala-library.jar',
  '/usr/share/scala/lib/scala-library.jar',
]);

/** Scala: case classes over the tree of Jackson. */
export const scala: Language = {
  name: 'scala',
  title: 'Scala',
  text: 'utf-16',
  // Jackson's tree takes what is larger than every double for infinity.
  lossyNumbers: /[eE]\+?[1-9]\d{2,}$/,
  package: jvmPackage(reservedPackages),
  tools: [
    {
      name: 'scalac',
      programs: ['scalac'],
      variable: 'SKEVO_SCALAC',
      versionArguments: ['-version'],
      versionPattern: /version (\d+\.\d+\.\d+)/,
      minimum: '2.11',
      install: 'apt-get install scala',
    },
    javaRuntime('11'),
  ],
  libraries: [jackson, runtime],
  styles: [
    {
      name: 'case',
      summary: "case classes over Jackson's tree",
      ways: [
        generated,
        { name: 'built', summary: 'copy of what was decoded' },
        { name: 'changed', summary: 'copy with one field as in another payload' },
      ],
      natives: ['date-time', 'date', 'uuid', 'base64'],
      emit: emitScala,
      reach: reachScala,
      plain: plainScala,
      bench,
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions): Bench {
  const { pedantic } = options;
  const facade = `${packageName(model, options)}.${facadeName(model.roots[options.root ?? 0]!)}`;
  const [source] = emitScala(model, { origin: '', package: options.package }).files;
  const { scope, changes } = benchScope(model, options);
  const program = `${fill(benchTemplate, { ...scope, facade })}\n`;
  const path = classPath([jackson, runtime]);
  return {
    changes,
    files: [
      { path: 'Bench.scala', text: program },
      { path: 'build/made-by-scalac', text: '' },
    ],
    build: [
      {
        tool: 'scalac',
        arguments: [
          ...shortLivedCompiler,
          // What it makes of a case class of many fields nests as deep as there are fields.
          '-J-Xss16m',
          '-encoding',
          'UTF-8',
          ...(pedantic
            ? ['-deprecation', '-feature', '-unchecked', '-Xlint:-missing-interpolator,_', '-Xfatal-warnings']
            : ['-nowarn']),
          '-classpath',
          path,
          '-d',
          'build',
          `classes/${source!.path}`,
          'Bench.scala',
        ],
      },
    ],
    run: runClass('Bench', path),
  };
}
