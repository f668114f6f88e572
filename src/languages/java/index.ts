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
import type { Bench, BenchOptions, Language, Style } from '../language.js';
import { emitJava, facadeName, packageName, reservedPackages, type JavaStyle } from './emit.js';
import { plainJava, reachJava } from './reach.js';
import { benchScope } from '../kit/bench.js';
import { fill } from '../kit/template.js';
import { capitalised } from '../../core/words.js';
import benchTemplate from './templates/bench.java';
import { built, changed, generated } from '../kit/ways.js';

const install = 'apt-get install openjdk-17-jdk-headless libjackson2-databind-java';

/** Java: records or classes for Jackson. */
export const java: Language = {
  name: 'java',
  title: 'Java',
  text: 'utf-16',
  // Jackson takes an empty name for no name.
  unboundKeys: /^$/,
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
    },
    javaRuntime('17'),
  ],
  libraries: [jackson],
  styles: [style('record', 'records for Jackson'), style('class', 'immutable classes for Jackson')],
};

function style(name: JavaStyle, summary: string): Style {
  return {
    name,
    summary,
    ways: [
      generated,
      plainMapper,
      { name: 'field', summary: "a field of the caller's own record" },
      sparingMapper,
      {
        ...built,
        limits:
          name === 'class'
            ? [
                {
                  says: 'classes are not compared by their fields',
                  ours: true,
                  kinds: ['refused'],
                  causes: /not equal/,
                },
              ]
            : [],
      },
      changed,
    ],
    natives: ['date-time', 'date', 'uuid', 'base64'],
    emit: (model, options) => emitJava(model, options, name),
    reach: (root, steps, names) => reachJava(name, root, steps, names),
    plain: plainJava,
    bench: (model, options) => bench(model, options, name),
  };
}

function bench(model: TypeModel, options: BenchOptions, style: JavaStyle): Bench {
  const { pedantic } = options;
  const name = packageName(model, options);
  const facade = facadeName(model.roots[options.root ?? 0]!);
  const { scope, changes } = benchScope(model, options);
  const getter = (name: string) => (style === 'record' ? `${name}()` : `get${capitalised(name)}()`);
  const program = fill(benchTemplate, {
    ...scope,
    package: name,
    facade,
    fields: scope.fields.map((field) => ({ ...field, Get: getter(field.Field) })),
    setters: scope.setters.map((field) => ({
      ...field,
      each: field.each.map((own) => ({ ...own, Own: getter(own['Own'] as string) })),
    })),
  });
  const path = classPath([jackson]);
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
          '-nowarn',
          ...(pedantic ? ['-Xlint:all', '-Werror'] : []),
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
