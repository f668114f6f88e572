import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { describe, expect, test } from 'vitest';
import { parse } from 'yaml';
import { readHar } from '../../src/capture/har.js';
import { stemOf } from '../../src/capture/samples.js';
import { withoutSecrets } from '../../src/capture/secrets.js';
import { followed } from '../../src/capture/follow.js';
import { compareSchemas } from '../../src/core/contract/compare.js';
import { mapped, readMapping } from '../../src/core/convert/mapping.js';
import { SkevoError } from '../../src/core/error.js';
import { inferSchema } from '../../src/core/infer/infer.js';
import { parseJson } from '../../src/core/json/parse.js';
import { parsePlace } from '../../src/core/json/pointer.js';
import { buildModel } from '../../src/core/model/build.js';
import { saveObservation } from '../../src/core/observe/save.js';
import { readObservation } from '../../src/core/observe/saved.js';
import { SchemaValidator } from '../../src/core/schema/apply.js';
import { readSchema } from '../../src/core/schema/read.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import { Learner } from '../../src/core/update/learn.js';
import { updateSchema } from '../../src/core/update/update.js';
import { vary } from '../../src/core/vary/vary.js';
import { resolveInputs } from '../../src/formats/inputs.js';
import { observeInputs, readPayloads } from '../../src/formats/read.js';
import { languages } from '../../src/languages/index.js';
import { readProject } from '../../src/project/file.js';
import { loadSchema } from '../../src/schemas/load.js';
import { boundedPatterns } from '../../src/workbench/pattern.js';
import { bytes, foundSchema, observe, payloadsOf, skevo, workspace } from '../support.js';
import { randomOf, seed, tries } from './random.js';

const folder = workspace();

/** What stands in inputs that were made to break something. */
const tokens = [
  'null',
  'true',
  '-1',
  '1e999',
  '9007199254740993',
  '""',
  '[]',
  '{}',
  '"__proto__"',
  '"constructor"',
  '"toString"',
  '"\\ud800"',
  '"\\u0000"',
  '{"$ref":"#"}',
  '{"$ref":"#/$defs/Leg"}',
  '{"$ref":"#/%zz"}',
  '"%zz"',
  '"http://["',
  '"#"',
  '[[[[[[[[]]]]]]]]',
  '\ufeff',
  '\0',
  '\u2028',
  ',',
  ':',
  '{',
  ']',
  '&a',
  '*a',
  '<<: *a',
  '- ',
  '\n',
  '\t',
  '!!binary x',
  '0x1F',
  '(a+)+$',
  '"date-time"',
  '"object"',
  '"array"',
];

/** A text with a few changes: parts gone, doubled, moved, or in their place what breaks things. */
function mutated(text: string, random: (below: number) => number, others: readonly string[]): string {
  let result = text;
  for (let i = 0; i <= random(4); i++) {
    const at = random(result.length + 1);
    const to = Math.min(result.length, at + 1 + random(random(4) === 0 ? 60 : 4));
    const other = others[random(others.length)]!;
    const part = other.slice(random(other.length), random(other.length));
    const parts = [
      '',
      tokens[random(tokens.length)]!,
      result.slice(at, to).repeat(2),
      String.fromCharCode(random(0x180)),
      part.slice(0, 80),
    ];
    result = result.slice(0, at) + parts[random(parts.length)]! + result.slice(random(3) === 0 ? at : to);
  }
  return result;
}

/** The same on the values of JSON, so that more of it stays what a reader understands. */
function reshaped(text: string, random: (below: number) => number): string {
  const values: unknown[] = [];
  const collect = (value: unknown): void => {
    values.push(value);
    if (typeof value === 'object' && value !== null) Object.values(value).forEach(collect);
  };
  const root: unknown = JSON.parse(text);
  collect(root);
  const swap = (value: unknown, depth: number): unknown => {
    if (random(24) === 0) return values[random(values.length)];
    if (random(40) === 0) {
      const token = tokens[random(12)]!;
      return JSON.parse(token) as unknown;
    }
    if (Array.isArray(value)) return value.map((each) => swap(each, depth + 1));
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(
      Object.entries(value).map(([key, each]) => [
        random(60) === 0 ? '__proto__' : key,
        swap(each, depth + 1),
      ]),
    );
  };
  return JSON.stringify(swap(root, 0));
}

const samples = [
  '{"id":"SF-1001","departs":"2031-05-01T10:07:00+01:00","fare":{"minor":450,"currency":"SAL"},"legs":[{"pier":"n1","gate":null}],"kind":"ferry","tides":{"2031-05-01":1.25}}',
  '{"id":"SF-1002","departs":"2031-05-02T10:07:00+01:00","fare":null,"legs":[],"kind":"launch","seats":12345678901234567890}',
  '[{"kind":"a","x":1},{"kind":"b","y":[1,2]},3,null,"text"]',
];
const schemas = [
  JSON.stringify({
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Sailing',
    type: 'object',
    properties: {
      id: { type: 'string', pattern: '^SF-\\d+$', minLength: 2, maxLength: 12 },
      departs: { type: 'string', format: 'date-time' },
      fare: { anyOf: [{ $ref: '#/$defs/Fare' }, { type: 'null' }] },
      legs: { type: 'array', items: { $ref: '#/$defs/Leg' }, minItems: 1 },
      kind: { type: 'string', enum: ['ferry', 'launch'] },
      tides: { type: 'object', additionalProperties: { type: 'number', minimum: -3, maximum: 9 } },
      notice: { oneOf: [{ $ref: '#/$defs/Leg' }, { $ref: '#/$defs/Delay' }] },
      pair: {
        type: 'array',
        prefixItems: [{ type: 'integer' }, { type: 'string' }],
        items: false,
        minItems: 2,
      },
    },
    required: ['id', 'departs'],
    $defs: {
      Fare: {
        type: 'object',
        properties: { minor: { type: 'integer', format: 'int32' } },
        required: ['minor'],
      },
      Leg: {
        type: 'object',
        properties: { kind: { const: 'leg' }, next: { $ref: '#/$defs/Leg' } },
        required: ['kind'],
      },
      Delay: { type: 'object', properties: { kind: { const: 'delay' } }, required: ['kind'] },
    },
  }),
];
const project = `secrets: [ticket]
contracts:
  sailing:
    samples: [samples/sailings, "samples/*.json"]
    at: /results/*
    name: Sailing
    schema: schemas/sailing.schema.json
    unknown: keep
    capture:
      - url: https://ferries.example/v1/sailings?page=1
        headers: { accept: application/json }
        headers-from: { authorization: FERRY_TOKEN }
        next: /next
        pages: 8
    languages: &all
      - { language: python, style: pydantic, out: clients/python }
      - language: go
        package: sailings
        out: clients/go
  vessel: { samples: v, schema: v.json, languages: *all }
`;
const har = JSON.stringify({
  log: {
    entries: [
      {
        startedDateTime: '2031-05-01T10:07:00Z',
        request: {
          method: 'GET',
          url: 'https://ferries.example/v1/sailings/17?token=abcdefgh#x',
          headers: [{ name: 'Cookie', value: 'crew=abcdefghij; x=y' }],
          queryString: [{ name: 'token', value: 'abcdefgh' }],
        },
        response: { status: 200, headers: [], content: { mimeType: 'application/json', text: '{"a":1}' } },
      },
    ],
  },
});

/** @throws whatever is no error of the trade */
async function tryOut(work: () => unknown): Promise<boolean> {
  try {
    await work();
    return true;
  } catch (error) {
    if (!(error instanceof SkevoError)) throw error;
    expect(error.message).not.toMatch(/undefined|\[object|NaN|Cannot read|is not a function|inside Skevo/);
    expect(error.message.trim()).not.toBe('');
    return false;
  }
}

const source = (text: string | Uint8Array, name = 'mutated.json') => ({
  name,
  bytes: typeof text === 'string' ? bytes(text) : text,
  firstLine: 1,
});

function followSchema(text: string): void {
  const read = readSchema(source(text));
  const steps = [
    () => buildModel(read, source(text)),
    () =>
      new SchemaValidator({ source: source(text) }, boundedPatterns).failures(payloadsOf(samples)[0]!.root),
    () => compareSchemas({ schema: read, source: source(text) }, { schema: read, source: source(text) }),
    () => vary(read, source(text), 0, 5000),
    () => {
      const learner = new Learner(read, source(text), boundedPatterns);
      payloadsOf(samples.slice(0, 2)).forEach((payload) => learner.learn(payload));
      schemaToJson(updateSchema(learner, 'auto').schema);
    },
    () => {
      const model = buildModel(read, source(text));
      for (const language of languages)
        for (const style of language.styles) style.emit(model, { origin: 'x' });
    },
  ];
  for (const step of steps) {
    try {
      step();
    } catch (error) {
      if (
        !(error instanceof SkevoError) &&
        (error as Error).message !== 'the schema requires itself without end'
      )
        throw error;
    }
  }
}

/** By reader: what it is given, and what it does with it. */
const schemaAt = (path: string) => readSchema(source(readFileSync(path, 'utf8'), path));
const [timetable, departure] = [
  schemaAt('demo/schemas/timetable.schema.json'),
  schemaAt('demo/schemas/departure.schema.json'),
];
const mapping = JSON.stringify({
  fields: {
    '/number': { from: '/sailing', steps: ['lower'] },
    '/quay': { from: '/pier', steps: [{ lookup: { N1: 'north' } }] },
    '/leaves': { from: '/departs', steps: [{ date: { to: 'YYYY-MM-DD' } }] },
    '/price': '/fare',
    '/freeSeats': { from: '/seats', steps: [{ default: 0 }] },
  },
});
/** The description of the demo in JSON. */
const description = JSON.stringify(parse(readFileSync('demo/schemas/ferries.openapi.yaml', 'utf8')));
/** A schema with parts that are worked out before types are made. */
const joined = JSON.stringify({
  allOf: [{ $ref: '#/$defs/Vessel' }, { properties: { legs: { type: 'array', items: { $ref: '#' } } } }],
  oneOf: [{ properties: { kind: { const: 'car' } }, required: ['kind'] }, { required: ['id'] }],
  if: { properties: { id: { const: 1 } } },
  then: { properties: { gate: { type: 'string' } } },
  patternProperties: { '^x-': { type: 'string' } },
  $defs: {
    Vessel: { type: ['object', 'null'], properties: { id: { type: 'integer' } }, not: { required: ['x'] } },
  },
});

const readers: readonly (readonly [
  name: string,
  valid: readonly string[],
  read: (text: string) => unknown,
])[] = [
  ['schemas', schemas, followSchema],
  [
    'payloads',
    samples,
    async (text) => {
      writeFileSync(join(folder, 'one.json'), text);
      const inputs = await resolveInputs([join(folder, 'one.json')]);
      const observation = await observeInputs(inputs, [], () => {});
      const { schema } = inferSchema(observation, { name: 'Sailing' });
      buildModel(schema);
      for await (const payload of readPayloads(inputs, [], () => {})) void payload;
      await tryOut(async () => {
        for await (const payload of readPayloads(inputs, parsePlace('/legs/*')!, () => {})) void payload;
      });
    },
  ],
  [
    'lines of payloads',
    [`${samples.join('\n')}\n`, `${samples[0]}\r\n\n${samples[1]}`],
    async (text) => {
      writeFileSync(join(folder, 'lines.ndjson'), text);
      writeFileSync(
        join(folder, 'lines.ndjson.gz'),
        gzipSync(text).subarray(0, text.length % 7 === 3 ? 40 : undefined),
      );
      for (const name of ['lines.ndjson', 'lines.ndjson.gz']) {
        const inputs = await resolveInputs([join(folder, name)]);
        inferSchema(await observeInputs(inputs, [], () => {}), { name: 'Sailing' });
        for await (const payload of readPayloads(inputs, [], () => {})) void payload;
      }
    },
  ],
  [
    'observations',
    [saveObservation(observe(samples)), saveObservation(observe(samples.slice(0, 2)))],
    (text) => inferSchema(readObservation(text, 'mutated.observation'), { name: 'Sailing' }),
  ],
  ['recordings', [har], async (text) => void (await readHar(source(text, 'mutated.har')))],
  [
    'schemas of other kinds',
    [description, readFileSync('demo/schemas/tides.avsc', 'utf8'), joined],
    async (text) => {
      for (const fragment of ['', '#Sailing', '#listSailings']) {
        try {
          const loaded = await loadSchema(
            foundSchema(join(folder, `other.json${fragment}`), source(text, 'other.json')),
          );
          buildModel(loaded.schema, loaded.source);
          new SchemaValidator(loaded.validation, boundedPatterns).failures(payloadsOf(samples)[0]!.root);
          return;
        } catch (error) {
          if (!(error instanceof SkevoError) || fragment === '#listSailings') throw error;
        }
      }
    },
  ],
  [
    'XML Schemas',
    [readFileSync('demo/schemas/fares.xsd', 'utf8')],
    async (text) => {
      const { schema, source: made } = await loadSchema(
        foundSchema(join(folder, 'a.xsd'), source(text, 'a.xsd')),
      );
      buildModel(schema, made);
    },
  ],
  [
    'mappings',
    [mapping],
    (text) => {
      const document = source(text, 'mapping.json');
      const read = readMapping(parseJson(document).root, document, timetable, departure);
      mapped(read, payloadsOf(['{"sailing":"SF-1","pier":"N1","fare":1.50,"seats":null}'])[0]!.root);
    },
  ],
  [
    'project files',
    [project],
    (text) => {
      writeFileSync(join(folder, 'skevo.yaml'), text);
      readProject(join(folder, 'skevo.yaml'));
    },
  ],
  [
    'URLs',
    ['https://ferries.example/v1/sailings/17?token=abc&page=%C3%98#top', '//ferries.example/%zz'],
    async (text) => {
      withoutSecrets(text, ['ticket']);
      const url = await followed(text, 'https://ferries.example/v1', [], 'the answer', async () => []);
      stemOf(url.href);
      withoutSecrets(url.href, []);
    },
  ],
];

describe.concurrent(`what is read is understood, or refused in words (seed ${seed})`, () => {
  for (const [name, valid, read] of readers) {
    test(name, { timeout: 600_000 }, async ({ expect }) => {
      const random = randomOf(seed);
      const isJson = !['project files', 'URLs', 'lines of payloads', 'XML Schemas'].includes(name);
      for (const text of valid) await read(text);
      let understood = 0;
      const count = tries(name === 'schemas' ? 250 : 600);
      for (let i = 0; i < count; i++) {
        const text = valid[random(valid.length)]!;
        const changed =
          isJson && i % 2
            ? reshaped(text, random)
            : mutated(text, random, [...valid, ...samples, har, project]);
        try {
          if (await tryOut(() => read(changed))) understood++;
        } catch (error) {
          throw new Error(`case ${i}: ${JSON.stringify(changed)}`, { cause: error });
        }
      }
      // Of cases that are all refused, or all understood, nothing would be learned.
      expect(understood).toBeGreaterThan(0);
      expect(understood).toBeLessThan(count);
    });
  }
});

describe('the program says what is wrong with', () => {
  const run = (args: readonly string[], input?: string | Buffer) =>
    skevo(args, { cwd: folder, ...(input === undefined ? {} : { input }) });
  const files: Record<string, string | Buffer> = {
    'ref.json': '{"$ref":"#"}',
    'loop.json': '{"$defs":{"A":{"$ref":"#/$defs/B"},"B":{"$ref":"#/$defs/A"}},"$ref":"#/$defs/A"}',
    'deep.json': `${'{"properties":{"a":'.repeat(3000)}{}${'}}'.repeat(3000)}`,
    'format.json':
      '{"type":"object","properties":{"a":{"type":"string","format":"constructor"},"b":{"type":"integer","format":"__proto__"}}}',
    'pattern.json': '{"type":"string","pattern":"("}',
    'bom.ndjson': '{"a":1}\n\ufeff{"a":2}\n',
    'a.json': '{"a":1}',
    'alias.yaml': 'contracts: &a\n  x: *a\n',
    'bomb.yaml': `a: &a [1]\n${Array.from({ length: 12 }, (_, i) => `${'bcdefghijklm'[i]}: &${'bcdefghijklm'[i]} [${`*${'abcdefghijkl'[i]},`.repeat(9)}]`).join('\n')}\ncontracts: *m\n`,
    '-x.json': '{"a":1}',
    'empty.har': '{}',
    'wants.json': '{"type":"object","required":["b"]}',
  };
  for (const [name, text] of Object.entries(files)) writeFileSync(join(folder, name), text);
  writeFileSync(Buffer.from(`${folder}/\xff.json`, 'latin1'), '{"a":1}');

  test.for([
    [2, ['vary', 'ref.json']],
    [2, ['generate', 'ref.json', '--language', 'python']],
    [2, ['validate', 'ref.json', 'a.json']],
    [2, ['generate', 'loop.json', '--language', 'python']],
    [2, ['vary', 'loop.json']],
    [2, ['compare', 'loop.json', 'loop.json']],
    [2, ['infer', 'a.json', '--update', 'loop.json']],
    [2, ['generate', 'deep.json', '--language', 'python']],
    [2, ['validate', 'deep.json', 'a.json']],
    [2, ['vary', 'deep.json']],
    [2, ['compare', 'deep.json', 'deep.json']],
    [0, ['vary', 'format.json']],
    [0, ['generate', 'format.json', '--language', 'python']],
    [2, ['validate', 'pattern.json', 'a.json']],
    [0, ['outline', 'bom.ndjson']],
    [2, ['run', '--project', 'alias.yaml']],
    [2, ['run', '--project', 'bomb.yaml']],
    [0, ['outline', '--', '-x.json']],
    [1, ['validate', 'wants.json', '--', '-x.json']],
    [2, ['capture', 'empty.har', '--out', 'h']],
    [2, ['check', '-', '-']],
    [2, ['outline', '.', '--at', 'x']],
  ] as const)('%j', ([code, args]) => {
    const ran = run(args);
    expect(ran.out + ran.err).not.toMatch(/inside Skevo| {4}at .*:\d+:\d+/);
    expect(ran.code, ran.err).toBe(code);
    if (code === 2) expect(ran.err).toMatch(/^skevo: /m);
  });

  test('a file whose name is not UTF-8', () => {
    const ran = run(['outline', '.']);
    expect(ran.err).not.toContain('inside Skevo');
    expect(ran.code).toBe(2);
  });

  test('a sample that is gone before it is read', async () => {
    const own = workspace({ 'a.json': '{}', 'b.ndjson': '{}' });
    for (const name of ['a.json', 'b.ndjson']) {
      const inputs = await resolveInputs([join(own, name)]);
      rmSync(join(own, name));
      await expect(observeInputs(inputs, [], () => {})).rejects.toThrow('is gone: it was there a moment ago');
    }
  });

  test.for(['samples', 'schema', 'out'])('a null character in the path of %s', (key) => {
    const odd = 'a\\0b';
    const value = (name: string, usual: string) =>
      JSON.stringify(name === key ? 'ODD' : usual).replace('ODD', odd);
    const own = workspace({
      'a.json': '{"a":1}',
      'skevo.yaml': `contracts:\n  one:\n    samples: [${value('samples', 'a.json')}]\n    schema: ${value('schema', 's.json')}\n    languages: [{ language: python, out: ${value('out', 'o')} }]\n`,
    });
    const ran = skevo(['run'], { cwd: own });
    expect(ran.err).not.toContain('inside Skevo');
    expect(ran.code).toBe(2);
  });

  test('a schema that comes by the standard input', () => {
    const inferred = run(['infer', '-', '--name', 'Todo'], '{"a":1}').out;
    expect(run(['generate', '-', '--language', 'python'], inferred)).toMatchObject({
      code: 0,
      out: expect.stringContaining('class Todo'),
    });
    expect(run(['check', '-', 'a.json', '--language', 'python'], inferred)).toMatchObject({
      code: 0,
      out: expect.stringContaining('nothing lost'),
    });
    expect(run(['validate', 'format.json', '-'], '{"a":1}').err).not.toContain('inside Skevo');
  });
});
