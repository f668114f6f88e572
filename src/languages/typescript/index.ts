import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitClasses } from './emit-classes.js';
import { emitInterfaces } from './emit-interfaces.js';
import { plainTypeScript, reachTypeScript } from './reach.js';
import { Names } from './names.js';
import { benchScope } from '../kit/bench.js';
import { quoted } from './source.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.ts.text';
import { built, changed, generated } from '../kit/ways.js';

/** TypeScript: decorated classes, or interfaces without any dependency. */
export const typescript: Language = {
  name: 'typescript',
  title: 'TypeScript',
  package: {
    pattern: /^[a-z][a-z0-9]*(-[a-z0-9]+)*$/,
    example: 'sailing-pages',
    reserved: new Set(),
    isFile: true,
  },
  text: 'utf-16',
  tools: [
    {
      name: 'node',
      programs: ['node'],
      variable: 'SKEVO_NODE',
      versionArguments: ['--version'],
      versionPattern: /v(\d+\.\d+\.\d+)/,
      minimum: '20.0',
      install: 'apt-get install nodejs',
    },
    {
      name: 'tsc',
      bundled: { package: 'typescript-native', path: 'bin/tsc' },
      variable: 'SKEVO_TSC',
      versionArguments: ['--version'],
      versionPattern: /Version (\d+\.\d+\.\d+)/,
      minimum: '5.0',
      install: 'npm install skevo',
    },
  ],
  styles: [
    {
      name: 'class',
      summary: 'classes decorated for class-validator and class-transformer',
      ways: [
        generated,
        {
          name: 'plainToInstance',
          summary: 'plainToInstance, validate and instanceToPlain of JSON.parse',
          limits: [{ says: 'long integers and decimals need the generated functions', ours: true }],
        },
        built,
        changed,
      ],
      natives: ['date-time', 'base64'],
      emit: emitClasses,
      reach: (root, steps, names) => reachTypeScript(root, steps, names, true),
      plain: plainTypeScript,
      bench: (model, options) =>
        bench(model, options, ['class-transformer', 'class-validator', 'reflect-metadata']),
    },
    {
      name: 'interface',
      summary: 'interfaces with functions, no dependency',
      ways: [generated, { name: 'built', summary: 'an object of the fields that were decoded' }, changed],
      emit: emitInterfaces,
      reach: (root, steps, names) => reachTypeScript(root, steps, names, false),
      plain: plainTypeScript,
      bench: (model, options) => bench(model, options, []),
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions, packages: readonly string[]): Bench {
  const names = new Names(model);
  const payload = model.roots[options.root ?? 0]!;
  const { scope, changes } = benchScope(model, options, true);
  const setters = scope.setters.map((field) => ({ ...field, key: quoted(field.Field) }));
  const program = `${fill(benchTemplate, {
    ...scope,
    setters,
    library: packages.length > 0,
    file: names.file.replace(/\.ts$/, '.js'),
    decode: names.decode(payload),
    encode: names.encode(payload),
  })}\n`;
  const settings = {
    compilerOptions: {
      strict: true,
      target: 'es2022',
      module: 'nodenext',
      moduleResolution: 'nodenext',
      experimentalDecorators: true,
      // As many an application has it, for other libraries.
      emitDecoratorMetadata: packages.length > 0,
      skipLibCheck: true,
      types: [],
      lib: ['es2022'],
      outDir: 'out',
      rootDir: '.',
    },
    include: ['*.ts', 'classes'],
  };
  const declarations = `declare module "node:readline" {
  export function createInterface(options: object): AsyncIterable<string>;
}
declare const process: { readonly stdin: object; readonly stdout: { write(text: string): boolean } };
`;
  return {
    changes,
    files: [
      { path: 'main.ts', text: program },
      { path: 'node.d.ts', text: declarations },
      { path: 'tsconfig.json', text: `${JSON.stringify(settings, null, 2)}\n` },
      { path: 'package.json', text: '{ "type": "module" }\n' },
    ],
    packages,
    build: [{ tool: 'tsc', arguments: ['-p', 'tsconfig.json'] }],
    run: { tool: 'node', arguments: ['out/main.js'] },
  };
}
