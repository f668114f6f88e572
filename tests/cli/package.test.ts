import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { basename, delimiter, join, resolve } from 'node:path';
import { expect, test } from 'vitest';
import { addFiles, workspace } from '../support.js';

/** Where later versions of Node.js are, if they were installed. */
const versions = ['22', '24']
  .map((version) => resolve(`tests/.tools/node-${version}/node_modules/node/bin`))
  .filter((bin) => existsSync(join(bin, 'node')));

test('the package installs elsewhere, and its command and library run there', () => {
  const folder = workspace({ 'a.json': '{"id":9007199254740993}', 'package.json': '{"type":"module"}' });
  const run = (file: string, args: string[], cwd = folder, env = process.env) => {
    const ran = spawnSync(file, args, { cwd, env, encoding: 'utf8' });
    expect(ran.status, ran.stdout + ran.stderr).toBe(0);
    return ran.stdout;
  };
  mkdirSync(join(folder, 'packed'));
  const [packed] = JSON.parse(
    run(
      'npm',
      ['pack', '--json', '--ignore-scripts', '--pack-destination', join(folder, 'packed')],
      resolve('.'),
    ),
  );
  run('npm', [
    'install',
    '--prefer-offline',
    '--no-audit',
    '--no-fund',
    join(folder, 'packed', packed.filename),
  ]);

  // Nothing in it tells where it was built.
  const installed = join(folder, 'node_modules', 'skevo', 'dist');
  const built = readdirSync(installed).filter((file) => file.endsWith('.js'));
  expect(built).toContain('index.js');
  expect(built.filter((file) => readFileSync(join(installed, file), 'utf8').includes(resolve('.')))).toEqual(
    [],
  );

  expect(run('npx', ['skevo', 'infer', 'a.json', '--quiet'])).toContain('"format": "int64"');
  const checked =
    run('npx', ['skevo', 'infer', 'a.json', '--quiet', '--out', 's.json']) +
    run('npx', ['skevo', 'check', 's.json', 'a.json', '--language', 'typescript,typescript:interface']);
  expect(checked.match(/1 of 1 .*nothing lost/gm)).toHaveLength(2);

  addFiles(folder, {
    'use.ts': `import { inferSchema, observeInputs, resolveInputs, schemaToJson, writeJson } from 'skevo';
const observation = await observeInputs(await resolveInputs(['a.json']), [], () => {});
const text: string = writeJson(schemaToJson(inferSchema(observation, { name: 'Sailing' }).schema));
console.log(text);
`,
    'tsconfig.json': JSON.stringify({
      compilerOptions: {
        strict: true,
        module: 'nodenext',
        target: 'es2022',
        lib: ['es2023'],
        types: ['node'],
        typeRoots: [resolve('node_modules/@types')],
        skipLibCheck: false,
        noUncheckedIndexedAccess: true,
      },
      include: ['use.ts', 'example*.ts'],
    }),
  });
  run('node', [join(folder, 'node_modules', 'typescript-native', 'bin', 'tsc'), '-p', '.']);
  expect(run('node', ['use.js'])).toContain('"title":"Sailing"');

  // The same on later versions, the library and the command, with workers and programs of its own.
  expect(versions.length > 0 || process.env['SKEVO_ALL_LANGUAGES'] === undefined).toBe(true);
  addFiles(folder, { 'lines.ndjson': '{"id":1,"text":"ferry"}\n'.repeat(1_000_000) });
  for (const bin of versions) {
    const env = { ...process.env, PATH: `${bin}${delimiter}${process.env['PATH']}` };
    const node = (...args: string[]) => run(join(bin, 'node'), args, folder, env);
    expect(`node-${node('--version').slice(1, 3)}`).toBe(basename(resolve(bin, '../../..')));
    expect(node('use.js')).toContain('"title":"Sailing"');
    const skevo = 'node_modules/skevo/dist/skevo.js';
    expect(node(skevo, 'infer', 'a.json', 'lines.ndjson', '--workers', '2', '--quiet')).toContain('"int64"');
    const report = node(skevo, 'check', 's.json', 'a.json', '--language', 'typescript,typescript:interface');
    expect(report.match(/1 of 1 .*nothing lost/gm)).toHaveLength(2);
  }

  // The page about the library, as it stands there.
  const examples = [...readFileSync('docs/library.md', 'utf8').matchAll(/^```ts\n([\s\S]*?)^```$/gm)];
  expect(examples).toHaveLength(2);
  addFiles(folder, {
    'samples/a.json': '{"code":"A","legs":[]}',
    'samples/b.json': '{"code":"B","legs":[{"gate":null}]}',
    ...Object.fromEntries(examples.map(([, text], i) => [`example${i}.ts`, text!])),
  });
  run('node', [join(folder, 'node_modules', 'typescript-native', 'bin', 'tsc'), '-p', '.']);
  expect(run('node', ['example0.js'])).toMatch(/^\d+ decisions from 2 payloads\n$/);
  expect(run('node', ['example1.js'])).toMatch(
    /^typescript: \d payloads[\s\S]*\ntypescript checked: 2 back, 0 findings\n\d+ things that no payload shows\n$/,
  );
});

test('the page about languages shows what is generated', () => {
  expect(spawnSync(process.execPath, ['scripts/language-records.mjs', '--check'])).toMatchObject({
    status: 0,
  });
});
