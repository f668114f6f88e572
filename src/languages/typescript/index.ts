import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, GeneratedFile, Language, Limit, Way } from '../language.js';
import { emitClasses, rootOfClass } from './class.js';
import { emitInterfaces, rootOfInterface } from './interface.js';
import { plainTypeScript, reachTypeScript } from './reach.js';
import { fileOf } from './names.js';
import { quoted } from './source.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.ts.text';
import { built, changed } from '../kit/ways.js';

/** JSON.parse has no more digits than a double, and JSON.stringify refuses integers that need more. */
const rounded: Limit = {
  says: 'JSON.parse rounds what a double does not hold; parse and stringify do not',
  kinds: ['altered', 'refused'],
  causes: /double|2\^53|BigInt|an integer|Infinity/,
};

/** How both styles are read. */
const reading: readonly Way[] = [
  { name: 'parse', summary: 'the parse function, and JSON.stringify where doubles hold all numbers' },
  {
    name: 'response',
    summary: 'the read function on what response.json() made, and JSON.stringify',
    limits: [rounded],
  },
];

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
        ...reading,
        { name: 'field', summary: "a field of the caller's own class" },
        { name: 'elements', summary: 'elements of a list and of a map' },
        {
          name: 'plainToInstance',
          summary: 'plainToInstance, validate and instanceToPlain of JSON.parse',
          limits: [rounded],
        },
        built,
        changed,
      ],
      carriesUnknown: true,
      // class-transformer passes over them.
      unboundKeys: /^(?:|__proto__|constructor)$/,
      emit: emitClasses,
      reach: (root, steps, names) => reachTypeScript(root, steps, names, true),
      plain: plainTypeScript,
      bench: benchOfClasses,
    },
    {
      name: 'interface',
      summary: "interfaces of the payload's keys, checked in place, no dependency",
      ways: [
        ...reading,
        { name: 'field', summary: "a field of the caller's own interface" },
        { name: 'elements', summary: 'elements of a list and of a map' },
        { name: 'built', summary: 'an object of the fields that were decoded' },
        changed,
      ],
      typesOthers: true,
      carriesUnknown: true,
      emit: emitInterfaces,
      reach: (root, steps, names) => reachTypeScript(root, steps, names, false),
      plain: plainTypeScript,
      bench: benchOfInterfaces,
    },
  ],
};

const shared = {
  exactOptionalPropertyTypes: true,
  noUncheckedIndexedAccess: true,
  verbatimModuleSyntax: true,
  noPropertyAccessFromIndexSignature: true,
  noUnusedLocals: true,
  noUnusedParameters: true,
};

function benchOfClasses(model: TypeModel, options: BenchOptions): Bench {
  const packages = ['class-transformer', 'class-validator', 'reflect-metadata'];
  // As many an application has it, for other libraries.
  const decorated = { experimentalDecorators: true, emitDecoratorMetadata: true, noImplicitOverride: true };
  return { ...bench(model, options, rootOfClass, decorated), packages };
}

function benchOfInterfaces(model: TypeModel, options: BenchOptions): Bench {
  return bench(model, options, rootOfInterface, {
    erasableSyntaxOnly: true,
    isolatedDeclarations: true,
    declaration: true,
  });
}

function bench(
  model: TypeModel,
  { unknown, root = 0 }: BenchOptions,
  rootOf: typeof rootOfClass,
  settings: Readonly<Record<string, boolean>>,
): Bench {
  const { Root, digits, record, keys, fields } = rootOf(model, unknown, root);
  const program = fill(benchTemplate, {
    Root,
    digits,
    record,
    classes: rootOf === rootOfClass,
    file: fileOf(model).replace(/\.ts$/, '.js'),
    fields: fields.map((field) => ({ field: quoted(field) })),
  });
  return {
    changes: keys,
    files: [{ path: 'main.ts', text: `${program}\n` }, ...surroundings({ ...shared, ...settings })],
    build: [{ tool: 'tsc', arguments: ['-p', 'tsconfig.json'] }],
    run: { tool: 'node', arguments: ['out/main.js'] },
  };
}

/** What a program is compiled with, beside what all have. */
function surroundings(options: Readonly<Record<string, boolean>>): GeneratedFile[] {
  const settings = {
    compilerOptions: {
      strict: true,
      target: 'es2022',
      module: 'nodenext',
      moduleResolution: 'nodenext',
      ...options,
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
  return [
    { path: 'node.d.ts', text: declarations },
    { path: 'tsconfig.json', text: `${JSON.stringify(settings, null, 2)}\n` },
    { path: 'package.json', text: '{ "type": "module" }\n' },
  ];
}
