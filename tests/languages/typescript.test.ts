import { symlinkSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { ESLint } from 'eslint';
import { expect, test } from 'vitest';
import tseslint from 'typescript-eslint';
import { buildModel } from '../../src/core/model/build.js';
import { languages } from '../../src/languages/index.js';
import { unknownRules } from '../../src/languages/language.js';
import { addFiles, infer, workspace } from '../support.js';
import { cases } from './cases.js';

/** Cases that together use all of what is written once a package. */
const wanted = [
  'the four states of a record, a list or a flag',
  'the four states of an exact decimal',
  'a union told apart by its keys',
  'a union told apart by a tag',
  'a closed choice',
  'a tuple with records and nulls',
];

test('what is written in TypeScript is as typescript-eslint wants it, strict and with types', async () => {
  const folder = workspace();
  symlinkSync(resolve('node_modules'), join(folder, 'node_modules'));
  const { styles } = languages.find(({ name }) => name === 'typescript')!;
  const files = wanted.flatMap((wish, i) =>
    styles.flatMap((style) => {
      const model = buildModel(infer(cases.find(({ name }) => name === wish)!.payloads).schema);
      const unknown = unknownRules[i % unknownRules.length]!;
      return style
        .emit(model, { origin: 's.json', unknown })
        .files.map(({ path, text }) => [`${style.name}${i}/${path}`, text] as const);
    }),
  );
  const compilerOptions = {
    strict: true,
    target: 'es2023',
    module: 'nodenext',
    experimentalDecorators: true,
    emitDecoratorMetadata: true,
    skipLibCheck: true,
    types: [],
  };
  addFiles(folder, {
    ...Object.fromEntries(files),
    'package.json': '{ "type": "module" }\n',
    'tsconfig.json': JSON.stringify({ compilerOptions, include: ['**/*.ts'] }),
  });
  const eslint = new ESLint({
    cwd: folder,
    overrideConfigFile: true,
    overrideConfig: [
      ...tseslint.configs.strictTypeChecked,
      ...tseslint.configs.stylisticTypeChecked,
      { languageOptions: { parserOptions: { project: './tsconfig.json', tsconfigRootDir: folder } } },
    ] as never,
  });
  const found = await eslint.lintFiles(['**/*.ts']);
  expect(found).toHaveLength(files.length);
  expect(
    found.flatMap(({ filePath, messages }) =>
      messages.map(
        ({ line, ruleId, message }) => `${filePath.slice(folder.length)}:${line} ${ruleId}: ${message}`,
      ),
    ),
  ).toEqual([]);
});
