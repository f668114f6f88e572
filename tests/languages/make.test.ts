import { chmodSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { parse } from 'yaml';
import { buildModel } from '../../src/core/model/build.js';
import { readSchema } from '../../src/core/schema/read.js';
import { languages } from '../../src/languages/index.js';
import { packageTrouble } from '../../src/languages/kit/packages.js';
import type { UnknownRule } from '../../src/languages/language.js';
import { make, makeAll } from '../../src/languages/make.js';
import { checkStyle, openSession } from '../../src/workbench/check.js';
import { isBrief } from '../effort.js';
import {
  addFiles,
  bytes,
  infer,
  languagesFor,
  languagesHere,
  payloadsOf,
  rulesOf,
  skevo,
  workspace,
  patient,
} from '../support.js';

const payloads = [
  '{"id":1,"departs":"2031-05-01T10:07:00+01:00","legs":[{"pier":"n1","gate":null}],"kind":"ferry"}',
  '{"id":2,"legs":[],"kind":"launch"}',
  '{"id":3,"legs":[{"pier":"n2"}],"kind":"ferry"}',
];
const model = buildModel(infer(payloads).schema);
const options = { strict: true, limits: patient };

describe.concurrent('a style in a package of another name is proven as it is written', async () => {
  for (const language of await languagesFor(1)) {
    for (const style of language.styles) {
      test.runIf(language.package !== undefined)(`${language.name} ${style.name}`, async ({ expect }) => {
        const { example } = language.package!;
        expect(packageTrouble(language, example)).toBeUndefined();
        const result = await checkStyle(language, style, model, 's.json', payloadsOf(payloads), {
          ...options,
          package: example,
        });
        expect(result.reason).toBeUndefined();
        expect(result).toMatchObject({ state: 'checked', returned: payloads.length, findings: [] });
      });
    }
  }
});

test('what run wrote is byte for byte what it proved, in every style, with its package and rule', () => {
  const entries = languages.flatMap((language) =>
    language.styles.map((style) => ({
      language: language.name,
      style: style.name,
      out: `out/${language.name}-${style.name}`,
      unknown: rulesOf(style).includes('keep') ? 'keep' : 'reject',
      ...(language.package === undefined ? {} : { package: language.package.example }),
    })),
  );
  const folder = workspace({
    'samples.ndjson': payloads.join('\n'),
    'skevo.yaml': JSON.stringify({
      contracts: {
        sailing: {
          samples: ['samples.ndjson'],
          name: 'Sailing',
          schema: 's.schema.json',
          languages: entries,
        },
      },
    }),
  });
  // A language that is not here is written too, and said to be not run; no compiler need be asked for the bytes.
  const ran = skevo(['run', '--report', 'r.json'], {
    cwd: folder,
    env: { SKEVO_CACHE: join(folder, '.cache'), PATH: '/nowhere' },
  });
  expect(ran.err).not.toContain('inside Skevo');
  const schema = readFileSync(join(folder, 's.schema.json'));
  const written = buildModel(readSchema({ name: 's.schema.json', bytes: schema, firstLine: 1 }));
  const made = makeAll(
    written,
    entries.map((entry) => {
      const language = languages.find(({ name }) => name === entry.language)!;
      const style = language.styles.find(({ name }) => name === entry.style)!;
      return { language, style, package: entry.package, unknown: entry.unknown as UnknownRule };
    }),
    { origin: 's.schema.json' },
  );
  made.forEach(({ emitted }, i) => {
    expect(emitted.files.length).toBeGreaterThan(0);
    for (const { path, text } of emitted.files)
      expect(readFileSync(join(folder, entries[i]!.out, path), 'utf8')).toBe(text);
  });
  const report = parse(readFileSync(join(folder, 'r.json'), 'utf8')) as {
    contracts: { check: { languages: { style: string }[] } }[];
  };
  expect(report.contracts[0]!.check.languages).toHaveLength(entries.length);
});

test('a program is built once and asked batch after batch', async () => {
  const python = (await languagesHere()).find(({ name }) => name === 'python')!;
  const [made] = make(model, [{ language: python, style: python.styles[0] }], { origin: 's.json' });
  const session = await openSession(made!, options);
  try {
    for (let i = 0; i < 3; i++) {
      const counts: number[] = [];
      const result = await session.ask(payloadsOf(payloads), (count) => counts.push(count));
      expect(result).toMatchObject({ state: 'checked', returned: 3, findings: [] });
      expect(counts.at(-1)).toBe(3);
    }
    const odd = await session.ask(payloadsOf(['{"id":"x","legs":[],"kind":"ferry"}']));
    expect(odd.findings.map(({ kind }) => kind)).toEqual(['refused']);
    expect(await session.ask(payloadsOf(payloads))).toMatchObject({ returned: 3, findings: [] });
  } finally {
    await session.close();
  }
});

test('a program that ends in the middle is started again for the next batch', async () => {
  const python = (await languagesHere()).find(({ name }) => name === 'python')!;
  const [made] = makeAll(model, [{ language: python, style: python.styles[0] }], { origin: 's.json' });
  const main = made!.bench.files.map(({ path, text }) => ({
    path,
    text: text.replace(
      'for line in sys.stdin.buffer:',
      'for line in sys.stdin.buffer:\n    if b\'"id":2\' in line:\n        sys.exit(7)',
    ),
  }));
  expect(main).not.toEqual(made!.bench.files);
  const session = await openSession({ ...made!, bench: { ...made!.bench, files: main } }, options);
  for (let i = 0; i < 2; i++) {
    const result = await session.ask(payloadsOf(payloads));
    expect(result.returned).toBe(2);
    expect(result.findings).toMatchObject([{ kind: 'crashed', payload: '0002.json' }]);
    expect(result.findings[0]!.cause).toContain('exit code 7');
  }
  await session.close();
});

describe('a package that a language keeps for itself is refused', () => {
  const folder = workspace({ 'a.json': payloads[0]! });
  addFiles(folder, { 's.json': skevo(['infer', 'a.json', '--quiet'], { cwd: folder }).out });
  test.for([
    ['go', 'type'],
    ['ruby', 'String'],
    ['java', 'a.package.b'],
    ['cpp', 'saltmere::time'],
    ['php', 'Saltmere\\List'],
    ['csharp', 'System'],
    ['kotlin', 'when'],
    ['scala', 'object'],
  ])('%s %s', ([language, name]) => {
    const flat = skevo(['generate', 's.json', '--language', language!, '--package', name!, '--out', 'o'], {
      cwd: folder,
    });
    expect(flat).toMatchObject({ code: 2, out: '' });
    expect(flat.err).toContain('for itself');
    addFiles(folder, {
      'skevo.yaml': `contracts:\n  one:\n    samples: [a.json]\n    schema: t.json\n    languages:\n      - language: ${language}\n        package: ${JSON.stringify(name)}\n        out: o\n`,
    });
    const run = skevo(['run'], { cwd: folder });
    expect(run).toMatchObject({ code: 2, out: '' });
    expect(run.err).toContain('at skevo.yaml:7:18');
    expect(bytes(run.err).length).toBeGreaterThan(0);
  });
});

/** Schemas that people write, with payloads that meet them, which some language did not take. */
const written: readonly (readonly [about: string, schema: object, payloads: readonly string[]])[] = [
  [
    'alternatives of the whole payload without names',
    {
      title: 'Notice',
      oneOf: [
        {
          type: 'object',
          properties: { kind: { const: 'delay' }, minutes: { type: 'integer' } },
          required: ['kind'],
        },
        {
          type: 'object',
          properties: { kind: { const: 'note' }, text: { type: 'string' } },
          required: ['kind'],
        },
      ],
    },
    ['{"kind":"delay","minutes":5}', '{"kind":"note","text":"fog"}'],
  ],
  [
    'alternatives with several words as their tag',
    {
      title: 'Remark',
      oneOf: [{ $ref: '#/$defs/Delay' }, { $ref: '#/$defs/Note' }],
      $defs: {
        Delay: { type: 'object', properties: { kind: { enum: ['late', 'later'] } }, required: ['kind'] },
        Note: {
          type: 'object',
          properties: { kind: { const: 'note' }, text: { type: 'string' } },
          required: ['kind'],
        },
      },
    },
    ['{"kind":"later"}', '{"kind":"note","text":"fog"}'],
  ],
  [
    'words of a choice that make the name of a type, of a function, or of a word of another choice',
    {
      title: 'Sailing',
      type: 'object',
      properties: {
        state: { title: 'State', type: 'string', enum: ['error', 'error code', 'ok'] },
        error: { $ref: '#/$defs/StateError' },
        reason: { title: 'StateError2', type: 'string', enum: ['code', 'other'] },
        mode: { title: 'Decode', type: 'string', enum: ['sailing'] },
      },
      $defs: { StateError: { type: 'object', properties: { text: { type: 'string' } } } },
    },
    ['{"state":"error","error":{"text":"x"},"reason":"code","mode":"sailing"}'],
  ],
  [
    'a word, or a list of such words',
    {
      title: 'Bulletin',
      type: 'object',
      properties: {
        audience: {
          anyOf: [{ $ref: '#/$defs/Audience' }, { type: 'array', items: { $ref: '#/$defs/Audience' } }],
        },
      },
      $defs: { Audience: { type: 'string', enum: ['crew', 'all'] } },
    },
    ['{"audience":"crew"}', '{"audience":["crew","all"]}', '{}'],
  ],
  [
    'names of packages, and of what generated code brings along',
    {
      title: 'Exact',
      type: 'object',
      properties: {
        java: { type: 'string' },
        scala: { type: 'number', format: 'decimal' },
        com: { type: 'integer' },
        system: { type: 'string', format: 'date-time' },
        std: { type: 'number' },
        json: { $ref: '#/$defs/Json' },
        io: { type: 'integer', format: 'int32' },
      },
      $defs: { Json: { type: 'object', properties: { x: { type: 'string' } } } },
    },
    [
      '{"java":"x","scala":1.25,"com":3,"system":"2031-05-01T10:07:00Z","std":1.5,"json":{"x":"y"},"io":3}',
      '{}',
    ],
  ],
  [
    'text that nobody sees',
    {
      title: 'Unseen',
      description: '\u200b',
      type: 'object',
      properties: { a: { type: 'string', description: '\u200b\u0000' } },
    },
    ['{"a":"x"}'],
  ],
];

/** Several of them as the fields of one payload, so that each is not built by itself. */
function together(some: typeof written): (typeof written)[number] {
  const parts = some.map(([, schema]) => schema as { $defs?: Record<string, object> });
  const count = Math.max(...some.map(([, , texts]) => texts.length));
  return [
    some.map(([about]) => about).join('; '),
    {
      title: 'Payload',
      type: 'object',
      properties: Object.fromEntries(parts.map(({ $defs: _, ...own }, i) => [`part ${i}`, own])),
      $defs: Object.assign({}, ...parts.map(({ $defs }) => $defs)) as object,
    },
    Array.from({ length: count }, (_, k) => {
      const fields = some.flatMap(([, , texts], i) =>
        texts[k] === undefined ? [] : [`"part ${i}":${texts[k]}`],
      );
      return `{${fields.join(',')}}`;
    }),
  ];
}

describe.concurrent('every style takes', async () => {
  for (const language of await languagesFor(2)) {
    for (const style of language.styles) {
      test.for(
        [...(isBrief ? [] : [written[0]!]), together(written.slice(1))].map(([about, schema, texts]) => ({
          about,
          schema,
          texts,
        })),
      )(`$about: ${language.name} ${style.name}`, async ({ schema, texts }, { expect }) => {
        const source = { name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 };
        const own = buildModel(readSchema(source), source);
        const result = await checkStyle(language, style, own, 's.json', payloadsOf(texts), {
          ...options,
          strict: false,
          pedantic: true,
        });
        expect(result.reason).toBeUndefined();
        expect(result).toMatchObject({ state: 'checked', returned: texts.length });
        expect(result.findings.filter(({ severity }) => severity === 'loss')).toEqual([]);
      });
    }
  }
});

test('numbers that are listed without a type are checked, and taught', () => {
  const folder = workspace({ 's.json': '{"title":"T","enum":[1,2,3]}', 'a.json': '1.0', 'b.json': '2.5' });
  expect(skevo(['check', 's.json', 'a.json', '--language', 'python'], { cwd: folder })).toMatchObject({
    code: 0,
  });
  expect(skevo(['infer', 'a.json', '--update', 's.json'], { cwd: folder })).toMatchObject({
    code: 0,
    err: expect.stringContaining('nothing new'),
  });
  const taught = skevo(['infer', 'b.json', '--update', 's.json'], { cwd: folder });
  expect(taught.err).not.toContain('inside Skevo');
  expect(taught.code).toBe(0);
});

test('rust without its crates is not run, with what to install', () => {
  const folder = workspace({
    'a.json': payloads[0]!,
    cargo:
      '#!/bin/sh\n[ "$1" = --version ] && { echo "cargo 1.90.0"; exit; }\necho "error: failed to get \\`serde\\` as a dependency" >&2\nexit 101\n',
    rustc: '#!/bin/sh\necho "rustc 1.90.0"\n',
  });
  chmodSync(join(folder, 'cargo'), 0o755);
  chmodSync(join(folder, 'rustc'), 0o755);
  addFiles(folder, { 's.json': skevo(['infer', 'a.json', '--quiet'], { cwd: folder }).out });
  const tools = ['cargo', 'rustc'].flatMap((name) => ['--tool', `${name}=${join(folder, name)}`]);
  const ran = skevo(['check', 's.json', 'a.json', '--language', 'rust', ...tools], {
    cwd: folder,
    env: { SKEVO_CACHE: join(folder, '.cache') },
  });
  expect(ran.code).toBe(3);
  expect(ran.out).toContain('not run');
  expect(ran.out).toContain(
    'cargo cannot have the crates of serde; get it with: cargo fetch, where its registry can be reached',
  );
});

test('help is not cut inside words', () => {
  for (const args of [['--help'], ['check', '--help'], ['locate', '--help']])
    expect(skevo(args, { cwd: workspace() }).out).toMatch(/^(Usage: )?skevo [\w<]/);
});

test.for([
  [10, 5],
  [1 << 20, 1],
  [3 << 20, 0],
])(
  'fields of payloads of %i bytes are set %i times: no more is sent than is worth it',
  async ([size, times]) => {
    const python = (await languagesHere()).find(({ name }) => name === 'python')!;
    const texts = ['1', 'null', '3'].map((id) =>
      JSON.stringify({ id: JSON.parse(id), note: 'x'.repeat(size!) }),
    );
    const own = buildModel(infer(texts).schema);
    const [made] = makeAll(own, [{ language: python, style: python.styles[0] }], { origin: 's.json' });
    const folder = workspace({ asked: '' });
    const files = made!.bench.files.map(({ path, text }) => ({
      path,
      text: text.replace(
        /def changed\(.*\n/,
        (head) => `${head}    open(${JSON.stringify(join(folder, 'asked'))}, "a").write("x")\n`,
      ),
    }));
    expect(files).not.toEqual(made!.bench.files);
    const session = await openSession({ ...made!, bench: { ...made!.bench, files } }, options);
    const result = await session.ask(payloadsOf(texts));
    await session.close();
    expect(result).toMatchObject({ state: 'checked', returned: 3, findings: [] });
    expect(readFileSync(join(folder, 'asked'), 'utf8')).toHaveLength(times!);
  },
);

describe('classes whose decorators look at the types of properties', () => {
  const schema = {
    title: 'Berth',
    type: 'object',
    properties: { vessel: { $ref: '#/$defs/Vessel' }, next: { $ref: '#' }, name: { type: 'string' } },
    required: ['vessel', 'name'],
    $defs: {
      Vessel: {
        type: 'object',
        properties: { home: { $ref: '#' }, engine: { $ref: '#/$defs/Engine' }, id: { type: 'string' } },
        required: ['id'],
      },
      Engine: { type: 'object', properties: { power: { type: 'string' } }, required: ['power'] },
    },
  };
  const circular = buildModel(
    readSchema({ name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 }),
  );
  const typescript = languages.find(({ name }) => name === 'typescript')!;
  const berths = [
    '{"name":"N1","vessel":{"id":"a","home":{"name":"N2","vessel":{"id":"b"}},"engine":{"power":"x"}}}',
    '{"name":"N3","vessel":{"id":"c"},"next":{"name":"N4","vessel":{"id":"d"}}}',
  ];

  test('stand behind the classes that they name, but for circles', () => {
    const target = { language: typescript, style: typescript.styles[0] };
    const [made] = makeAll(circular, [target], { origin: 's.json' });
    const { text } = made!.emitted.files[0]!;
    const at = (name: string) => text.indexOf(`export class ${name} extends Payload {`);
    expect(at('Engine')).toBeLessThan(at('Vessel'));
    expect(at('Vessel')).toBeLessThan(at('Berth'));
    expect(text).toContain('home?: Ref<Berth>;');
    expect(text).toContain('vessel!: Vessel;');
    expect(text).toContain('next?: Berth;');
  });

  test('load and lose nothing', async () => {
    const result = await checkStyle(
      typescript,
      typescript.styles[0],
      circular,
      's.json',
      payloadsOf(berths),
      options,
    );
    expect(result.reason).toBeUndefined();
    expect(result).toMatchObject({ state: 'checked', returned: 2, findings: [] });
  });
});
