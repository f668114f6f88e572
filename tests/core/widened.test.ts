import { describe, expect, test } from 'vitest';
import type { ChoicePolicy } from '../../src/core/infer/rule.js';
import { steer } from '../../src/core/infer/steering.js';
import { writeJson } from '../../src/core/json/write.js';
import { formatMark } from '../../src/core/observe/mark.js';
import { readSchema } from '../../src/core/schema/read.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import { platformPatterns } from '../../src/core/schema/pattern.js';
import { Learner } from '../../src/core/update/learn.js';
import { refreshSchema } from '../../src/core/update/refresh.js';
import { updateSchema, type SchemaChange } from '../../src/core/update/update.js';
import { bytes, observe, payloadsOf } from '../payloads.js';

/**
 * What payloads make of a schema on both sides of each limit: what was and what is now, why, where it shows first, and the schema
 * that comes of it, as text in `widened/`.
 */
interface Case {
  readonly name: string;
  readonly schema: object;
  readonly payloads: readonly string[];
  readonly choices?: ChoicePolicy;
  readonly decide?: readonly (readonly [place: string, what: string, value: string])[];
}

const sourceOf = (schema: object) => ({ name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 });
const steersOf = ({ decide = [] }: Case) =>
  decide.map(([place, what, value]) => steer(place, what, value, 'you'));

const toldOf = (changes: readonly SchemaChange[]) =>
  changes.map(
    ({ place, was, now, because, first }) =>
      `  ${place || 'the payload'}  ${was} -> ${now}\n    ${because} [${formatMark(first)}]`,
  );

function updated(each: Case): string {
  const source = sourceOf(each.schema);
  const learner = new Learner(readSchema(source), source);
  for (const payload of payloadsOf(each.payloads)) learner.learn(payload);
  const { schema, changes } = updateSchema(learner, each.choices ?? 'auto', steersOf(each));
  const text = writeJson(schemaToJson(schema));
  const same = text === JSON.stringify(each.schema) ? 'the same' : text;
  return [each.name, ...toldOf(changes), `  ${same}`, ''].join('\n');
}

async function refreshed(each: Case): Promise<string> {
  const source = sourceOf(each.schema);
  const { text, changes, unmet } = await refreshSchema(
    observe(each.payloads),
    { schema: readSchema(source), source },
    { choices: each.choices, decisions: steersOf(each) },
    async function* () {
      yield* payloadsOf(each.payloads);
    },
    platformPatterns,
  );
  const whole = JSON.stringify(JSON.parse(text));
  return [each.name, ...toldOf(changes), ...unmet.map((note) => `  unmet ${note}`), `  ${whole}`, ''].join(
    '\n',
  );
}

const of = (a: object, more: object = {}) => ({
  title: 'Sailing',
  type: 'object',
  properties: { a },
  ...more,
});
const each = (...values: unknown[]) => values.map((value) => JSON.stringify({ a: value }));
const words = (count: number, stem = 'w') => Array.from({ length: count }, (_, i) => `${stem}${i + 10}`);

const record = (fields: object, required = Object.keys(fields)) => ({
  type: 'object',
  properties: fields,
  required,
});
const text = { type: 'string' };
const notice = (more: object = {}) => ({
  title: 'Notice',
  oneOf: [{ $ref: '#/$defs/Delay' }, { $ref: '#/$defs/Closure' }],
  $defs: {
    Delay: record({ kind: { const: 'delay' }, minutes: { type: 'integer' } }),
    Closure: record({ kind: { const: 'closure' }, berth: text }),
  },
  ...more,
});

const groups: Readonly<Record<string, readonly Case[]>> = {
  values: [
    { name: 'what is known', schema: of(text), payloads: each('x') },
    { name: 'null', schema: of(text), payloads: each('x', null, null) },
    { name: 'null where it may be', schema: of({ type: ['string', 'null'] }), payloads: each(null) },
    {
      name: 'null beside a reference',
      schema: of({ $ref: '#/$defs/P' }, { $defs: { P: record({ x: text }) } }),
      payloads: each(null),
    },
    {
      name: 'null beside alternatives',
      schema: of({ anyOf: [text, { type: 'boolean' }] }),
      payloads: each(null),
    },
    { name: 'null beside a constant', schema: of({ const: 'x' }), payloads: each(null) },
    { name: 'another constant', schema: of({ const: 'x' }), payloads: each('y') },
    { name: 'a number beside a constant', schema: of({ const: 'x' }), payloads: each(1) },
    { name: 'a word', schema: of({ type: 'string', enum: ['a', 'c'] }), payloads: each('b') },
    {
      name: 'a word of what stands in another order',
      schema: of({ type: 'string', enum: ['c', 'a'] }),
      payloads: each('b'),
    },
    {
      name: 'a word beside null',
      schema: of({ type: ['string', 'null'], enum: ['a', 'c', null] }),
      payloads: each('b'),
    },
    { name: 'two words of two', schema: of({ enum: ['a', 'c'] }), payloads: each('b', 'd') },
    {
      name: 'three words of five',
      schema: of({ enum: ['a', 'c', 'e', 'g', 'i'] }),
      payloads: each('b', 'd', 'f'),
    },
    {
      name: 'three words of six',
      schema: of({ enum: ['a', 'c', 'e', 'g', 'i', 'k'] }),
      payloads: each('b', 'd', 'f'),
    },
    {
      name: 'three words of two that are to be closed',
      schema: of({ enum: ['a', 'c'] }),
      payloads: each('b', 'd', 'f'),
      choices: 'closed',
    },
    {
      name: 'a word where all are to be open',
      schema: of({ enum: ['a', 'c'] }),
      payloads: each('b'),
      choices: 'open',
    },
    {
      name: 'a word where none are to be',
      schema: of({ enum: ['a', 'c'] }),
      payloads: each('b'),
      choices: 'none',
    },
    {
      name: 'a word where this one is to be open',
      schema: of({ enum: ['a', 'c'] }),
      payloads: each('b'),
      decide: [['/a', 'choice', 'open']],
    },
    { name: '48 words', schema: of({ enum: words(47) }), payloads: each('x') },
    { name: '49 words', schema: of({ enum: words(48) }), payloads: each('x') },
    {
      name: 'words in another order than theirs',
      schema: of({ enum: ['a', 'x'] }),
      payloads: each('d', 'b'),
    },
    { name: 'a fraction beside listed integers', schema: of({ enum: [1, 2] }), payloads: each(1.5) },
    {
      name: 'many digits beside listed numbers',
      schema: of({ enum: [1, 2.5] }),
      payloads: ['{"a":0.12345678901234567891}'],
    },
    {
      name: 'a wide integer beside a constant one',
      schema: of({ const: 1 }),
      payloads: ['{"a":9007199254740993}'],
    },
    {
      name: 'an integer beside a constant one that has a format',
      schema: of({ const: 1, format: 'int32' }),
      payloads: each(5),
    },
    {
      name: 'a text beside what is listed of several kinds',
      schema: of({ enum: ['x', 1, true] }),
      payloads: each('y'),
    },
    {
      name: 'a number beside what is listed of several kinds',
      schema: of({ enum: ['x', 1] }),
      payloads: each(2),
    },
    { name: 'a text beside null alone', schema: of({ enum: [null] }), payloads: each('y') },
    { name: 'a text beside listed numbers', schema: of({ enum: [1, 2] }), payloads: each('y') },
    { name: 'numbers that are listed', schema: of({ enum: [1, 2] }), payloads: each(3, 9007199254740991) },
    { name: 'a date', schema: of({ type: 'string', format: 'date' }), payloads: each('2031-05-01') },
    { name: 'no date', schema: of({ type: 'string', format: 'date' }), payloads: each('soon') },
    {
      name: 'a date-time that would change',
      schema: of({ type: 'string', format: 'date-time' }),
      payloads: each('2031-05-01T08:00:00Z', '2031-05-01t08:00:00z'),
    },
    {
      name: 'a date-time that would change, where it may',
      schema: of({ type: 'string', format: 'date-time' }),
      payloads: each('2031-05-01t08:00:00z'),
      decide: [['/a', 'dates', 'native']],
    },
    {
      name: 'integers up to 32 bits',
      schema: of({ type: 'integer', format: 'int32' }),
      payloads: each(2147483647, -2147483648),
    },
    {
      name: 'an integer beyond 32 bits',
      schema: of({ type: 'integer', format: 'int32' }),
      payloads: each(2147483648),
    },
    {
      name: 'an integer beyond 53 bits',
      schema: of({ type: 'integer', format: 'double-int' }),
      payloads: ['{"a":9007199254740993}'],
    },
    {
      name: 'an integer beyond 64 bits',
      schema: of({ type: 'integer' }),
      payloads: ['{"a":18446744073709551616}'],
    },
    { name: 'a fraction', schema: of({ type: 'integer', format: 'int32' }), payloads: each(1.5) },
    {
      name: 'a fraction beside wide integers',
      schema: of({ type: 'integer', format: 'int64' }),
      payloads: each(1.5),
    },
    {
      name: 'a fraction of many digits',
      schema: of({ type: 'integer' }),
      payloads: ['{"a":0.12345678901234567891}'],
    },
    { name: 'many digits', schema: of({ type: 'number' }), payloads: ['{"a":0.12345678901234567891}'] },
    {
      name: 'a wide integer among numbers',
      schema: of({ type: 'number' }),
      payloads: ['{"a":9007199254740993}'],
    },
    {
      name: 'another type',
      schema: of({ ...text, description: 'kept', maxLength: 5, 'x-unit': 'm' }),
      payloads: each(true),
    },
    { name: 'two other types', schema: of(text), payloads: each(true, [1]) },
    {
      name: 'another type of an alternative that is',
      schema: of({ anyOf: [text, { type: 'boolean' }] }),
      payloads: each(1),
    },
    {
      name: 'bounds',
      schema: of({ type: 'integer', minimum: 2, maximum: 5, multipleOf: 2 }),
      payloads: each(1, 9),
    },
    { name: 'a pattern', schema: of({ type: 'string', pattern: '^S', minLength: 2 }), payloads: each('x') },
    {
      name: 'bounds of lists',
      schema: of({ type: 'array', items: text, minItems: 1, maxItems: 2, uniqueItems: true }),
      payloads: each([], ['a', 'b', 'c'], ['a', 'a']),
    },
    { name: 'no base64', schema: of({ type: 'string', contentEncoding: 'base64' }), payloads: each('*') },
    {
      name: 'a list of another length',
      schema: of({ type: 'array', prefixItems: [text, { type: 'boolean' }], items: false, minItems: 2 }),
      payloads: each(['x']),
    },
    {
      name: 'a list of another length, with more',
      schema: of({ type: 'array', prefixItems: [text, { type: 'boolean' }], items: false, minItems: 2 }),
      payloads: each(['x', true, 1]),
    },
    { name: 'what was in no list', schema: of({ type: 'array' }), payloads: each(['x', 1]) },
    { name: 'what was in no object', schema: of({ type: 'object' }), payloads: each({ x: 1 }, { y: 'z' }) },
  ],
  records: [
    { name: 'a key that is absent', schema: of(text, { required: ['a'] }), payloads: ['{}', '{"a":"x"}'] },
    {
      name: 'new keys',
      schema: of(text),
      payloads: ['{"a":"x","legs":[{"pier":"N","no":1}]}', '{"a":"y","at":"2031-05-01"}'],
    },
    { name: 'a new key in all', schema: of(text), payloads: ['{"a":"x","b":1}', '{"a":"y","b":2}'] },
    {
      name: 'a new key of a list in a list',
      schema: of({ type: 'array', items: { type: 'array', items: record({ x: text }) } }),
      payloads: each([[{ x: 'a', y: { z: 1, w: 2 } }]]),
    },
    {
      name: 'a record that is known',
      schema: of(
        { $ref: '#/$defs/Pier' },
        { $defs: { Pier: record({ no: { type: 'integer', format: 'int32' }, side: text }, []) } },
      ),
      payloads: ['{"b":{"no":1,"side":"x"}}'],
    },
    {
      name: 'a record that asks for less than is known',
      schema: of(
        { $ref: '#/$defs/Pier' },
        { $defs: { Pier: record({ no: { type: 'integer', format: 'int32' }, side: text }) } },
      ),
      payloads: ['{"b":[{"no":1,"side":"x"},{"no":1}]}'],
    },
    {
      name: 'a record of one key that is known',
      schema: of(
        { $ref: '#/$defs/Pier' },
        { $defs: { Pier: record({ no: { type: 'integer', format: 'int32' } }) } },
      ),
      payloads: ['{"b":{"no":1}}'],
    },
    {
      name: 'a record whose name is taken',
      schema: of(text, { $defs: { Leg: record({ code: text }) } }),
      payloads: ['{"legs":[{"minutes":5,"gate":"A"}]}'],
    },
    {
      name: 'a record whose longer name is taken',
      schema: of(text, { $defs: { Leg: record({ code: text }), SailingLeg: record({ way: text }) } }),
      payloads: ['{"legs":[{"minutes":5,"gate":"A"}]}'],
    },
    {
      name: 'a record that is called as the payload',
      schema: of(text),
      payloads: ['{"sailing":{"minutes":5,"gate":"A"}}'],
    },
    {
      name: 'new keys of a shared record',
      schema: {
        title: 'Sailing',
        type: 'object',
        properties: { from: { $ref: '#/$defs/Pier' }, to: { $ref: '#/$defs/Pier' } },
        $defs: { Pier: record({ x: text }) },
      },
      payloads: ['{"from":{"x":"a"},"to":{"x":"b","lit":true}}'],
    },
    {
      name: 'a new key of definitions',
      schema: {
        title: 'Sailing',
        type: 'object',
        properties: { a: { $ref: '#/definitions/P' } },
        definitions: { P: record({ x: text }) },
      },
      payloads: ['{"a":{"x":"a","y":{"z":1}}}'],
    },
  ],
  unions: [
    { name: 'what is known', schema: notice(), payloads: ['{"kind":"delay","minutes":1}'] },
    { name: 'null in the record of a tag', schema: notice(), payloads: ['{"kind":"delay","minutes":null}'] },
    { name: 'a new word of the tag', schema: notice(), payloads: ['{"kind":"strike","since":"2031-05-01"}'] },
    {
      name: 'two new words of the tag',
      schema: notice(),
      payloads: ['{"kind":"strike","since":"2031-05-01"}', '{"kind":"fog","from":"N"}'],
    },
    {
      name: 'alternatives that list texts and numbers under one key',
      schema: of({
        anyOf: [record({ s: { enum: ['a', 1] }, x: text }), record({ s: { enum: ['b'] }, y: text })],
      }),
      payloads: each({ s: 'b', x: 'z' }),
    },
    {
      name: 'an alternative that is no record beside records that are told',
      schema: of({
        anyOf: [record({ s: { const: 'a' }, x: text }), record({ s: { const: 'b' }, y: text }), text],
      }),
      payloads: each({ s: 'b', y: null }, { s: 'c', z: 1 }),
    },
    { name: 'no tag', schema: notice(), payloads: ['{"minutes":1}'] },
    { name: 'a tag that is no text', schema: notice(), payloads: ['{"kind":7,"minutes":1}'] },
    { name: 'no object', schema: notice(), payloads: ['"soon"'] },
    {
      name: 'a list of them',
      schema: {
        title: 'Sailing',
        type: 'object',
        properties: { notices: { type: 'array', items: { $ref: '#/$defs/Notice' } } },
        $defs: { ...notice().$defs, Notice: { oneOf: notice().oneOf } },
      },
      payloads: ['{"notices":[{"kind":"strike","since":"2031-05-01"}]}'],
    },
    {
      name: 'records without a tag, the nearer',
      schema: of({ oneOf: [record({ x: text, y: text }), record({ p: text, q: text })] }),
      payloads: each({ x: 'a', y: 'b', z: 1 }),
    },
    {
      name: 'records without a tag, as near to both',
      schema: of({ oneOf: [record({ x: text }), record({ p: text })] }),
      payloads: each({ z: 1 }),
    },
    {
      name: 'records told by words',
      schema: of({
        anyOf: [record({ s: { enum: ['a', 'b'] }, x: text }), record({ s: { enum: ['c', 'd'] }, y: text })],
      }),
      payloads: each({ s: 'd', x: 'z' }),
    },
    {
      name: 'lists and texts',
      schema: of({ anyOf: [{ type: 'array', items: text }, text] }),
      payloads: each([1], 2),
    },
    {
      name: 'alternatives that come to overlap',
      schema: of({ oneOf: [record({ x: text }), text] }),
      payloads: each({ x: 'a', y: 1 }, { y: 1 }),
    },
  ],
};

const kept: readonly Case[] = [
  {
    name: 'nothing new',
    schema: of({ ...text, description: 'Where' }, { required: ['a'] }),
    payloads: each('x', 'y'),
  },
  {
    name: 'descriptions, titles and bounds that hold',
    schema: of(
      {
        ...text,
        title: 'Pier',
        maxLength: 5,
        default: 'x',
        deprecated: true,
        'x-unit': 'm',
        'x-evidence': { seen: 9 },
      },
      { required: ['a'] },
    ),
    payloads: each('x', 'y'),
  },
  {
    name: 'a bound that does not hold',
    schema: of({ ...text, maxLength: 1, minLength: 1 }, { required: ['a'] }),
    payloads: each('xyz', 'y'),
  },
  {
    name: 'fields in the order of people',
    schema: { title: 'Sailing', type: 'object', properties: { b: text, a: text }, required: ['b', 'a'] },
    payloads: ['{"a":"x","c":"z","b":"y"}'],
  },
  {
    name: 'a name of people',
    schema: {
      title: 'Sailing',
      type: 'object',
      properties: { from: { $ref: '#/$defs/Mooring' }, to: { $ref: '#/$defs/Mooring' } },
      required: ['from', 'to'],
      $defs: { Mooring: record({ pier: text, gate: text }) },
    },
    payloads: ['{"from":{"pier":"a","gate":"b"},"to":{"pier":"c","gate":"d"}}'],
  },
  {
    name: 'a name of people that another would have',
    schema: {
      title: 'Sailing',
      type: 'object',
      properties: { from: { $ref: '#/$defs/To' } },
      required: ['from'],
      $defs: { To: record({ pier: text }) },
    },
    payloads: ['{"from":{"pier":"a"},"to":{"x":1,"y":2}}'],
  },
  {
    name: 'two names of what is one',
    schema: {
      title: 'Sailing',
      type: 'object',
      properties: { from: { $ref: '#/$defs/From' }, to: { $ref: '#/$defs/To' } },
      $defs: { From: record({ pier: text, gate: text }), To: record({ pier: text, gate: text }) },
    },
    payloads: ['{"from":{"pier":"a","gate":"b"},"to":{"pier":"c","gate":"d"}}'],
  },
  { name: 'types that narrow', schema: of({ type: ['string', 'null'] }), payloads: each('x') },
  {
    name: 'alternatives, side by side',
    schema: { ...notice(), description: 'What is new' },
    payloads: Array.from({ length: 12 }, (_, i) =>
      i % 2 ? '{"kind":"delay","minutes":1}' : '{"kind":"closure","berth":"N"}',
    ),
  },
  {
    name: 'elements and values',
    schema: of(
      { type: 'array', items: { ...text, description: 'one' } },
      {
        properties: {
          a: { type: 'array', items: { ...text, description: 'one' } },
          m: { type: 'object', additionalProperties: { type: 'integer', description: 'by day' } },
        },
      },
    ),
    payloads: ['{"a":["x"],"m":{"2031-05-01":1}}'],
  },
  {
    name: 'positions',
    schema: of({
      type: 'array',
      prefixItems: [
        { ...text, title: 'Pier' },
        { type: 'integer', title: 'Deck' },
      ],
      items: false,
      minItems: 2,
    }),
    payloads: each(['x', 1], ['y', 2], ['z', 3]),
  },
  {
    name: 'a decision about a place that is not',
    schema: of(text),
    payloads: each('x'),
    decide: [['/b', 'map', 'true']],
  },
  {
    name: 'alternatives in another order, by their tags',
    schema: {
      title: 'Notice',
      oneOf: [{ $ref: '#/$defs/Zu' }, { $ref: '#/$defs/Spät' }],
      $defs: {
        Spät: {
          ...record({ kind: { const: 'delay' }, at: text, minutes: { type: 'integer' } }),
          description: 'late',
        },
        Zu: {
          ...record({ kind: { enum: ['closure', 'strike'] }, at: text, berth: text }),
          description: 'shut',
        },
      },
    },
    payloads: Array.from({ length: 18 }, (_, i) =>
      i % 3 === 0
        ? '{"kind":"delay","at":"N","minutes":1}'
        : `{"kind":"${i % 3 === 1 ? 'closure' : 'strike'}","at":"N","berth":"x"}`,
    ),
  },
  {
    name: 'alternatives without a tag, by their keys',
    schema: of(
      {
        oneOf: [{ $ref: '#/$defs/Way' }, { $ref: '#/$defs/Stay' }],
      },
      {
        $defs: {
          Way: record({ from: text, to: text, via: text }),
          Stay: record({ berth: text, nights: { type: 'integer' } }),
        },
      },
    ),
    payloads: Array.from({ length: 12 }, (_, i) =>
      JSON.stringify({ a: i % 2 ? { berth: 'x', nights: 1, deck: 2 } : { from: 'a', to: 'b', via: 'c' } }),
    ),
  },
  {
    name: 'alternatives of several kinds',
    schema: of(
      {
        anyOf: [
          { type: 'string', title: 'Code' },
          { $ref: '#/$defs/Leg' },
          { type: 'array', items: { type: 'integer', title: 'Deck' } },
        ],
      },
      { $defs: { Leg: record({ from: text }) } },
    ),
    payloads: each('x', { from: 'a' }, [1, 2]),
  },
  {
    name: 'one alternative of what were two',
    schema: of({
      anyOf: [
        { type: 'string', title: 'Code' },
        { type: 'integer', title: 'Number' },
      ],
    }),
    payloads: each('x', 'y'),
  },
  {
    name: 'a type inside itself',
    schema: {
      title: 'Note',
      type: 'object',
      properties: {
        text: { ...text, description: 'said' },
        at: { type: 'integer' },
        by: text,
        reply: { $ref: '#' },
      },
      required: ['text', 'at', 'by'],
    },
    payloads: [
      '{"text":"a","at":5,"by":"x","reply":{"text":"b","at":6,"by":"y","reply":{"text":"c","at":7,"by":"z"}}}',
    ],
  },
  {
    name: 'a named type inside itself',
    schema: {
      title: 'Page',
      type: 'object',
      properties: { note: { $ref: '#/$defs/Remark' } },
      required: ['note'],
      $defs: {
        Remark: {
          type: 'object',
          properties: { text, at: { type: 'integer' }, by: text, reply: { $ref: '#/$defs/Remark' } },
          required: ['text', 'at', 'by'],
        },
      },
    },
    payloads: [
      '{"note":{"text":"a","at":5,"by":"x","reply":{"text":"b","at":6,"by":"y","reply":{"text":"c","at":7,"by":"z"}}}}',
    ],
  },
  {
    name: 'another draft, its definitions and its address',
    schema: {
      $schema: 'http://json-schema.org/draft-07/schema#',
      $id: 'https://saltmere.example/s',
      title: 'Sailing',
      type: 'object',
      properties: { z: { $ref: '#/definitions/Zone' }, a: { $ref: '#/definitions/Area' } },
      required: ['z', 'a'],
      definitions: { Zone: record({ x: text }), Area: record({ y: text }) },
    },
    payloads: ['{"z":{"x":"a"},"a":{"y":"b"},"n":{"w":1}}'],
  },
  {
    name: 'no title, and a record that is referred to in one place and written in another',
    schema: {
      type: 'object',
      properties: {
        from: { $ref: '#/$defs/Pier' },
        to: {
          type: 'object',
          title: 'Ziel',
          properties: { lon: { type: 'integer', description: 'east' }, lat: { type: 'integer' } },
        },
      },
      $defs: { Pier: record({ x: text, y: text }) },
    },
    payloads: ['{"from":{"x":"a","y":"b"},"to":{"lon":1,"lat":2}}'],
  },
  {
    name: 'alternatives that have changed keys, by their tags',
    schema: {
      title: 'Notice',
      oneOf: [{ $ref: '#/$defs/Late' }, { $ref: '#/$defs/Shut' }],
      $defs: {
        Late: record({ kind: { const: 'delay' }, at: text }),
        Shut: record({ kind: { enum: ['closure'] }, pier: text, berth: text, since: text }),
      },
    },
    payloads: Array.from({ length: 24 }, (_, i) =>
      i % 2 ? '{"kind":"closure","at":"N"}' : '{"kind":"delay","pier":"N","berth":"x","since":"now"}',
    ),
  },
];

describe.each(Object.entries(groups))('%s', (name, cases) => {
  test('are widened as in their file', async () => {
    await expect(cases.map(updated).join('\n')).toMatchFileSnapshot(`widened/${name}.txt`);
  });
});

test('what people wrote is kept as in its file, where all is decided anew', async () => {
  const texts: string[] = [];
  for (const each of kept) texts.push(await refreshed(each));
  await expect(texts.join('\n')).toMatchFileSnapshot('widened/anew.txt');
});
