import type { TypeModel } from '../../core/model/types.js';
import type { Bench, Language } from '../language.js';
import { emitClasses } from './emit-classes.js';
import { emitInterfaces } from './emit-interfaces.js';
import { plainTypeScript, reachTypeScript } from './reach.js';
import { Names } from './names.js';

/** TypeScript: decorated classes, or interfaces without any dependency. */
export const typescript: Language = {
  name: 'typescript',
  title: 'TypeScript',
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
      emit: emitClasses,
      reach: (root, steps, names) => reachTypeScript(root, steps, names, true),
      plain: plainTypeScript,
      bench: (model) => bench(model, ['class-transformer', 'class-validator', 'reflect-metadata']),
    },
    {
      name: 'interface',
      summary: 'interfaces with functions, no dependency',
      emit: emitInterfaces,
      reach: (root, steps, names) => reachTypeScript(root, steps, names, false),
      plain: plainTypeScript,
      bench: (model) => bench(model, []),
    },
  ],
};

function bench(model: TypeModel, packages: readonly string[]): Bench {
  const names = new Names(model);
  const program = `import { createInterface } from "node:readline";
import { ${names.decode} as decode, ${names.encode} as encode } from "./classes/${names.file.replace(/\.ts$/, '.js')}";

for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity })) {
  let answer: string;
  try {
    answer = encode(decode(line));
  } catch (error) {
    answer = "!" + String(error instanceof Error ? error.message : error).replace(/\\s+/g, " ");
  }
  process.stdout.write(answer + "\\n");
}
`;
  const settings = {
    compilerOptions: {
      strict: true,
      target: 'es2022',
      module: 'nodenext',
      moduleResolution: 'nodenext',
      experimentalDecorators: true,
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
