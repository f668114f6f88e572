import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { expect, test } from 'vitest';
import { writeJson } from '../../src/core/json/write.js';
import { resolveInputs } from '../../src/formats/inputs.js';
import { holdInputs, observeInputs, readPayloads } from '../../src/formats/read.js';
import { skevo, workspace } from '../support.js';

const lines = '{"id":1}\n{"id":2,"gate":"A"}\n';

test('inputs that are held are the same however often they are gone through, and whatever becomes of the files', async () => {
  const folder = workspace({
    'a.json': '{"id":3}',
    'b.ndjson': lines,
    'c.ndjson.gz': gzipSync(lines),
    'd.json.gz': gzipSync('{"id":4}'),
  });
  const inputs = await holdInputs(await resolveInputs([folder]));
  for (const file of ['a.json', 'b.ndjson', 'c.ndjson.gz', 'd.json.gz']) rmSync(join(folder, file));
  const seen: string[] = [];
  for (let i = 0; i < 2; i++)
    for await (const payload of readPayloads(inputs, [], () => {})) seen.push(writeJson(payload.root));
  const once = ['{"id":3}', '{"id":1}', '{"id":2,"gate":"A"}', '{"id":1}', '{"id":2,"gate":"A"}', '{"id":4}'];
  expect(seen).toEqual([...once, ...once]);
  const observation = await observeInputs(inputs, [], () => {}, { workers: 4 });
  expect(observation.root.objects).toBe(6);
});

test('more than is held is read from the files', async () => {
  const folder = workspace({ 'a.json': '{"id":3}' });
  writeFileSync(join(folder, 'b.json'), `{"text":"${'x'.repeat(65 << 20)}"}`);
  const inputs = await resolveInputs([folder]);
  expect(await holdInputs(inputs)).toBe(inputs);
});

test('a run of a contract learns from what it proves', () => {
  const folder = workspace({
    'samples.ndjson': lines,
    'skevo.yaml': JSON.stringify({
      contracts: {
        sailing: {
          samples: ['samples.ndjson'],
          name: 'Sailing',
          schema: 's.schema.json',
          languages: [{ language: 'python', out: 'out' }],
        },
      },
    }),
  });
  const { code, out } = skevo(['run'], { cwd: folder, env: { SKEVO_CACHE: join(folder, '.cache') } });
  expect(code, out).toBe(0);
  expect(out).toContain('nothing lost of 2 payloads');
});
