import { chmodSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { observeInputs, readPayloads } from '../../src/formats/read.js';
import { resolveInputs } from '../../src/formats/inputs.js';
import { languages } from '../../src/languages/index.js';
import { make, makeAll } from '../../src/languages/make.js';
import { buildBench } from '../../src/workbench/build.js';
import { checkAll } from '../../src/workbench/check-all.js';
import { infer, payloadsOf, workspace, patient } from '../support.js';

const payloads = ['{"code":"A"}', '{"code":"B"}'];
const model = buildModel(infer(payloads).schema);
const folder = workspace({
  'hangs.mjs': 'process.stdin.resume();\nsetInterval(() => {}, 1000);\n',
  'a.ndjson': '{"code":"A"}\n'.repeat(200_000),
  'tool/mcs':
    '#!/bin/sh\n[ "$1" = --version ] && echo Mono C# compiler version 6.8.0.105 && exit\nsleep 60\n',
  'tool/mono': '#!/bin/sh\necho Mono JIT compiler version 6.8.0.105\n',
});
const reason = new Error('nobody waits for it');
const soon = (): AbortSignal => {
  const controller = new AbortController();
  setTimeout(() => controller.abort(reason), 300);
  return controller.signal;
};

describe('a signal', () => {
  test('ends a program that does not answer', async () => {
    const started = performance.now();
    const checking = checkAll([], model, payloadsOf(payloads), {
      program: `node ${join(folder, 'hangs.mjs')}`,
      strict: false,
      limits: patient,
      signal: soon(),
    });
    await expect(checking).rejects.toBe(reason);
    expect(performance.now() - started).toBeLessThan(patient.seconds * 500);
  });

  test('ends a compiler', async () => {
    const language = languages.find(({ name }) => name === 'csharp')!;
    for (const tool of ['mcs', 'mono']) chmodSync(join(folder, 'tool', tool), 0o755);
    const started = performance.now();
    const checking = checkAll(
      make(model, [{ language, style: language.styles[0] }], { origin: 's.json' }),
      model,
      payloadsOf(payloads),
      {
        strict: false,
        limits: patient,
        tools: new Map([
          ['mcs', join(folder, 'tool/mcs')],
          ['mono', join(folder, 'tool/mono')],
        ]),
        signal: soon(),
      },
    );
    await expect(checking).rejects.toBe(reason);
    expect(performance.now() - started).toBeLessThan(30_000);
  });

  test('that was given before a compiler starts ends it too', async () => {
    const language = languages.find(({ name }) => name === 'csharp')!;
    chmodSync(join(folder, 'tool', 'mcs'), 0o755);
    const [made] = makeAll(model, [{ language, style: language.styles[0] }], { origin: 's.json' });
    const mcs = { file: join(folder, 'tool/mcs'), version: '6.8', prefix: [] };
    const workshop = { ...made!, tools: new Map([['mcs', mcs]]) };
    const started = performance.now();
    const building = buildBench('csharp-class', workshop, { signal: AbortSignal.abort(reason) });
    await expect(building).rejects.toBe(reason);
    expect(performance.now() - started).toBeLessThan(30_000);
  });

  test('that has been given is heard before anything is read or built', async () => {
    const inputs = await resolveInputs([join(folder, 'a.ndjson')]);
    const signal = AbortSignal.abort(reason);
    await expect(observeInputs(inputs, [], () => {}, { signal })).rejects.toBe(reason);
    await expect(readPayloads(inputs, [], () => {}, { signal }).next()).rejects.toBe(reason);
    const [typescript] = languages.filter(({ name }) => name === 'typescript');
    const made = make(model, [{ language: typescript!, style: typescript!.styles[0] }], { origin: 's.json' });
    const options = { strict: false, limits: patient, signal };
    await expect(checkAll(made, model, payloadsOf(payloads), options)).rejects.toBe(reason);
  });

  test('ends reading between two parts of a file', async () => {
    const inputs = await resolveInputs([join(folder, 'a.ndjson')]);
    const controller = new AbortController();
    let read = 0;
    const reading = observeInputs(inputs, [], () => {}, {
      signal: controller.signal,
      progress: (bytes) => {
        read += bytes;
        controller.abort(reason);
      },
    });
    await expect(reading).rejects.toBe(reason);
    expect(read).toBeLessThan(2_600_000);
    expect(read).toBeGreaterThan(0);
  });
});
