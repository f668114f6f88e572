import { describe, expect, test } from 'vitest';
import { inferSchema } from '../../src/core/infer/infer.js';
import { parseSteer } from '../../src/core/infer/steering.js';
import { widthOfFormat } from '../../src/core/json/number.js';
import { writeJson } from '../../src/core/json/write.js';
import { buildModel } from '../../src/core/model/build.js';
import { withDates, type DatesRule } from '../../src/core/model/dates.js';
import type { Type } from '../../src/core/model/types.js';
import { isCarriedNatively } from '../../src/core/observe/text-format.js';
import { readSchema } from '../../src/core/schema/read.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import { Learner } from '../../src/core/update/learn.js';
import { updateSchema } from '../../src/core/update/update.js';
import { bytes, observe, payloadsOf } from '../payloads.js';

const sourceOf = (schema: object) => ({
  name: 's.json',
  bytes: bytes(JSON.stringify(schema)),
  firstLine: 1,
});

describe('native types carry', () => {
  test.each([
    ['date-time', '2031-05-01T08:00:00Z', true],
    ['date-time', '2031-05-01T08:00:59+01:00', true],
    ['date-time', '2031-05-01T23:59:60Z', false],
    ['date-time', '2031-05-01t08:00:00Z', false],
    ['date-time', '2031-05-01 08:00:00Z', false],
    ['date-time', '2031-05-01T08:00:00z', false],
    ['date-time', '2031-05-01T08:00:00.123456Z', true],
    ['date-time', '2031-05-01T08:00:00.1234567Z', false],
    ['date-time', '2031-05-01T08:00:00.123456-00:30', true],
    ['date-time', '2031-05-01T08:00:00.1234567-00:30', false],
    ['date-time', '2031-05-01T08:00:00+14:00', true],
    ['date-time', '2031-05-01T08:00:00-14:01', false],
    ['date-time', '0001-01-01T00:00:00Z', true],
    ['date-time', '0000-12-31T00:00:00Z', false],
    ['date-time', '2031-05-01', false],
    ['date', '2031-05-01', true],
    ['date', '0000-05-01', false],
    ['date', 'today', false],
    ['uuid', '9b2c1a34-0f10-4c4d-9a9b-1f2e3d4c5b6a', true],
    ['uuid', '9B2c1a34-0f10-4c4d-9a9b-1f2e3d4c5b6a', false],
    ['base64', '', true],
    ['base64', 'Zm9n', true],
    ['base64', 'Zm8=', true],
    ['base64', 'Zm9=', false],
    ['base64', 'Zg==', true],
    ['base64', 'Zh==', false],
    ['base64', 'Zg=', false],
    ['base64', 'Zm9-', false],
    ['base64', 'Zm\r\n9n', false],
  ] as const)('%s %j: %s', (form, text, carried) => expect(isCarriedNatively(text, form)).toBe(carried));
});

function inferred(texts: readonly string[], ...decisions: string[]) {
  const observation = observe(texts.map((a) => JSON.stringify({ a })));
  const { schema, decisions: made } = inferSchema(observation, {
    name: 'Sailing',
    decisions: decisions.map(parseSteer),
  });
  const written = JSON.parse(writeJson(schemaToJson(schema))) as { properties: { a: object } };
  return { a: written.properties.a, made: made.find(({ rule }) => rule === 'format')! };
}

describe('what is inferred of dates', () => {
  const plain = { type: 'string', format: 'date-time' };
  const usual = '2031-05-01T08:00:00+01:00';
  const fine = '2031-05-01T08:00:00.123456789Z';

  test.each([
    ['all come back', [usual, usual], [], plain],
    ['one does not', [usual, fine], [], { ...plain, 'x-dates': 'text' }],
    ['somebody wants the type', [usual, fine], ['/a=dates:native'], { ...plain, 'x-dates': 'native' }],
    ['somebody wants the text', [usual], ['/a=dates:text'], { ...plain, 'x-dates': 'text' }],
    ['another text', [usual, 'soon'], ['/a=dates:native'], { type: 'string' }],
    ['addresses', ['10.0.0.1', '10.0.0.2'], ['/a=dates:text'], { type: 'string', format: 'ipv4' }],
  ])('%s', (_, texts, decisions, schema) => {
    // Whichever comes first.
    expect(inferred(texts, ...decisions).a).toEqual(schema);
    expect(inferred([...texts].reverse(), ...decisions).a).toEqual(schema);
  });

  test('why it stays text, and what to say to have it otherwise', () => {
    const { decision, because, otherwise } = inferred([usual, fine]).made;
    expect(decision).toBe('date-time (RFC 3339), as text');
    expect(because).toMatch(/; one would come back changed from native types$/);
    expect(otherwise).toBe('dates:native');
  });
});

describe('an update', () => {
  const schema = (a: object) => ({ type: 'object', properties: { a }, required: ['a'] });
  const updated = (of: object, text: string, ...decisions: string[]) => {
    const source = sourceOf(of);
    const learner = new Learner(readSchema(source), source);
    for (const payload of payloadsOf([JSON.stringify({ a: text })])) learner.learn(payload);
    const { schema: wider, changes } = updateSchema(learner, 'auto', decisions.map(parseSteer));
    return { wider: JSON.parse(writeJson(schemaToJson(wider))) as object, changes };
  };
  const plain = { type: 'string', format: 'date-time' };
  const fine = '2031-05-01T08:00:00.123456789Z';

  test.each([
    ['what types change is text from then on', plain, fine, [], { ...plain, 'x-dates': 'text' }],
    ['what is decided stands', plain, fine, ['/a=dates:native'], { ...plain, 'x-dates': 'native' }],
    ['what types carry changes nothing', plain, '2031-05-01T08:00:00Z', [], plain],
    [
      'what the schema says stands',
      { ...plain, 'x-dates': 'native' },
      fine,
      [],
      { ...plain, 'x-dates': 'native' },
    ],
    ['what is no date any more is text anyhow', plain, 'soon', [], { type: 'string' }],
  ])('%s', (_, a, text, decisions, expected) => {
    const { wider } = updated(schema(a), text, ...decisions);
    expect(wider).toEqual(schema(expected));
    expect(updated(wider, text, ...decisions).changes).toEqual([]);
  });

  test('and it says what it was and is', () => {
    expect(updated(schema(plain), fine).changes).toMatchObject([
      { place: '/a', was: 'string (date-time)', now: 'string (date-time, as text)' },
    ]);
  });
});

describe('in the model', () => {
  const said = (dates?: DatesRule) => ({
    type: 'string',
    format: 'date',
    ...(dates === undefined ? {} : { 'x-dates': dates }),
  });
  const source = sourceOf({
    title: 'Sailing',
    type: 'object',
    properties: {
      plain: said(),
      text: said('text'),
      native: said('native'),
      list: { type: 'array', items: said() },
      either: { anyOf: [said(), { type: 'integer' }] },
    },
  });
  const model = buildModel(readSchema(source), source);
  const formsBy = (rule: DatesRule | undefined, forms: readonly 'date'[]) => {
    const { records, unions } = withDates(model, rule, forms);
    const form = (type: Type): unknown =>
      type.kind === 'list' ? form(type.items) : type.kind === 'string' ? type.form : type.kind;
    return [...records[0]!.fields.slice(0, 4).map(({ type }) => form(type)), form(unions[0]!.arms[0]!.type)];
  };

  test.each([
    ['each is as its schema says', undefined, ['date', undefined, 'date', 'date', undefined]],
    ['all are text', 'text', [undefined, undefined, undefined, undefined, undefined]],
    ['all but alternatives are native', 'native', ['date', 'date', 'date', 'date', undefined]],
  ] as const)('%s', (_, rule, forms) => expect(formsBy(rule, ['date'])).toEqual(forms));

  test('none is native where a language has no type', () =>
    expect(formsBy('native', []).every((form) => form === undefined)).toBe(true));
});

describe('a format of integers promises', () => {
  test.each([
    ['int8', 'int32'],
    ['uint16', 'int32'],
    ['int32', 'int32'],
    ['uint32', 'double-int'],
    ['double-int', 'double-int'],
    ['int64', 'int64'],
    [undefined, 'int64'],
    ['no format that is known', 'int64'],
    ['uint64', 'unbounded'],
    ['decimal', 'unbounded'],
  ] as const)('%s: %s', (format, width) => expect(widthOfFormat(format)).toBe(width));
});
