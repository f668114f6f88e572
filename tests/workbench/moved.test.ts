import { mkdirSync, readlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, expect, test, vi } from 'vitest';
import { workspace } from '../support.js';

/** Where the packages of this Skevo are said to be. */
let checkout = '';
vi.doMock('../../src/workbench/toolchain.js', async (original) => ({
  ...(await original<object>()),
  packageFolder: (name: string) => join(checkout, name),
}));
// Other tests may have loaded what is to be loaded anew, and load it again.
vi.resetModules();
const { buildBench } = await import('../../src/workbench/build.js');

const before = process.env['SKEVO_CACHE'];
afterAll(() => {
  process.env['SKEVO_CACHE'] = before;
  vi.doUnmock('../../src/workbench/toolchain.js');
  vi.resetModules();
});

test('a build of another checkout, which may be gone, is not taken for one of this', async () => {
  const folder = workspace();
  process.env['SKEVO_CACHE'] = join(folder, 'builds');
  const bench = {
    files: [{ path: 'main.js', text: '' }],
    packages: ['decoder'],
    build: [],
    run: { program: 'main.js', arguments: [] },
  };
  const workshop = { emitted: { files: [], names: new Map() }, bench, tools: new Map() };
  const built = [];
  for (const name of ['one', 'two', 'one']) {
    checkout = join(folder, name);
    mkdirSync(join(checkout, 'decoder'), { recursive: true });
    writeFileSync(join(checkout, 'decoder', 'index.js'), '');
    const made = await buildBench('typescript-class', workshop as never, {});
    built.push((made as { folder: string }).folder);
    expect(readlinkSync(join(built.at(-1)!, 'node_modules', 'decoder'))).toBe(join(checkout, 'decoder'));
  }
  expect(built[0]).toBe(built[2]);
  expect(built[0]).not.toBe(built[1]);
});
