import { describe, expect, test } from 'vitest';
import { draftMapping } from '../../src/core/convert/draft.js';
import { mapped, readMapping, uncarried } from '../../src/core/convert/mapping.js';
import { steps, StepTrouble } from '../../src/core/convert/steps.js';
import { parseJson } from '../../src/core/json/parse.js';
import { writeJson } from '../../src/core/json/write.js';
import { readSchema } from '../../src/core/schema/read.js';
import { bytes } from '../payloads.js';

const source = (value: unknown) => ({
  name: 'a.json',
  bytes: bytes(typeof value === 'string' ? value : JSON.stringify(value)),
  firstLine: 1,
});
const valueOf = (text: string) => parseJson(source(text)).root;
const schema = (value: unknown) => readSchema(source(value));

const text = { type: 'string' };
const whole = { type: 'integer' };
const partner = schema({
  type: 'object',
  properties: {
    dep_no: text,
    ship: { type: 'object', properties: { name: text, IMO: whole } },
    stops: {
      type: 'array',
      items: {
        type: 'object',
        properties: { code: text, minutes: text, gates: { type: 'array', items: text } },
      },
    },
    price: text,
    note: { type: ['string', 'null'] },
    tags: { type: 'array', items: text },
  },
  required: ['dep_no', 'price'],
});
const sailing = schema({
  type: 'object',
  properties: {
    depNo: text,
    vessel: { $ref: '#/$defs/Vessel' },
    legs: {
      type: 'array',
      items: {
        type: 'object',
        properties: { pier: text, minutes: whole, gate: text, line: text },
        required: ['pier'],
      },
    },
    fare: { type: 'number' },
    remarks: text,
    tag: text,
    count: whole,
    open: { type: 'boolean' },
  },
  required: ['depNo', 'fare'],
  $defs: { Vessel: { type: 'object', properties: { name: text }, required: ['name'] } },
});

const read = (fields: unknown) => {
  const document = source({ fields });
  return readMapping(parseJson(document).root, document, partner, sailing);
};
const make = (fields: unknown, payload: string) => {
  const made = mapped(read(fields), valueOf(payload));
  return 'kind' in made ? writeJson(made) : made.message;
};
const least = { '/depNo': '/dep_no', '/fare': { from: '/price', steps: ['number'] } };

describe('a mapping', () => {
  test('makes records, lists in lists, and what comes from nowhere', () => {
    expect(
      make(
        {
          ...least,
          '/vessel/name': '/ship/name',
          '/legs/*/pier': '/stops/*/code',
          '/legs/*/minutes': { from: '/stops/*/minutes', steps: ['trim', 'number'] },
          '/legs/*/gate': { from: '/stops/*/gates/*', steps: [{ join: '+' }] },
          '/legs/*/line': '/ship/name',
          '/count': { from: '/stops', steps: ['count'] },
          '/tag': { from: '/tags', steps: ['last'] },
          '/open': { value: true },
        },
        '{"dep_no":"7","price":"12.50","ship":{"name":"Tern"},"stops":[{"code":"N1","minutes":" 20 ","gates":["a","b"]},{"code":"S2"}],"tags":["x","y"]}',
      ),
    ).toBe(
      '{"depNo":"7","fare":12.50,"vessel":{"name":"Tern"},"legs":[{"pier":"N1","minutes":20,"gate":"a+b","line":"Tern"},{"pier":"S2","line":"Tern"}],"count":2,"tag":"y","open":true}',
    );
  });

  test('leaves out what is absent, and an empty list empty', () => {
    expect(
      make(
        { ...least, '/vessel/name': '/ship/name', '/remarks': { from: '/note' } },
        '{"dep_no":"7","price":"1"}',
      ),
    ).toBe('{"depNo":"7","fare":1}');
    expect(make({ ...least, '/legs/*/pier': '/stops/*/code' }, '{"dep_no":"7","price":"1","stops":[]}')).toBe(
      '{"depNo":"7","fare":1,"legs":[]}',
    );
    expect(
      make({ ...least, '/legs/*/pier': '/stops/*/code' }, '{"dep_no":"7","price":"1","stops":null}'),
    ).toBe('{"depNo":"7","fare":1}');
  });

  test('fills gaps only by default', () => {
    const fields = { ...least, '/remarks': { from: '/note', steps: ['upper', { default: 'NONE' }] } };
    expect(make(fields, '{"dep_no":"7","price":"1","note":null}')).toContain('"remarks":"NONE"');
    expect(make(fields, '{"dep_no":"7","price":"1"}')).toContain('"remarks":"NONE"');
    expect(make(fields, '{"dep_no":"7","price":"1","note":""}')).toContain('"remarks":""');
  });

  test('says which value a step cannot take', () => {
    const made = mapped(read(least), valueOf('{"dep_no":"7","price":"cheap"}'));
    expect(made).toMatchObject({
      message: '/fare: "number" takes a number, found "cheap"',
      value: { start: 22 },
    });
  });

  test('tells what of the source nothing carries', () => {
    expect(uncarried(read(least))).toEqual([
      '/ship/name',
      '/ship/IMO',
      '/stops/*/code',
      '/stops/*/minutes',
      '/stops/*/gates/*',
      '/note',
      '/tags/*',
    ]);
    expect(uncarried(read({ ...least, '/count': { from: '/stops', steps: ['count'] } }))).toEqual([
      '/ship/name',
      '/ship/IMO',
      '/note',
      '/tags/*',
    ]);
  });

  test.each<[string, unknown, string, string, string]>([
    [
      'an unknown target',
      { ...least, '/depno': '/dep_no' },
      'the target has no "depno" at the top',
      'Did you mean /depNo?',
      '"/depno"',
    ],
    [
      'an unknown source',
      { ...least, '/remarks': '/notes' },
      'the source has no "notes" at the top',
      'Did you mean /note?',
      '"/notes"',
    ],
    [
      'an unknown source inside',
      { ...least, '/vessel/name': '/ship/nam' },
      'the source has no "nam" at /ship',
      'Did you mean /ship/name?',
      '"/ship/nam"',
    ],
    [
      'a list where there is none',
      { ...least, '/remarks': '/price/*' },
      'the source has no list or map at /price',
      'skevo outline shows the places of payloads.',
      '"/price/*"',
    ],
    [
      'types that do not fit',
      { '/depNo': '/dep_no', '/fare': '/price' },
      '/fare takes a number, and gets text',
      'Give it steps: [number].',
      '"/price"',
    ],
    [
      'types that do not fit the other way',
      { ...least, '/remarks': '/ship/IMO' },
      '/remarks takes text, and gets a number',
      'Give it steps: [text].',
      '"/ship/IMO"',
    ],
    [
      'a list for a text',
      { ...least, '/tag': '/tags' },
      '/tag takes text, and gets a list',
      'Give it steps: [first].',
      '"/tags"',
    ],
    [
      'a step that takes something else',
      { ...least, '/tag': { from: '/tags', steps: ['trim'] } },
      '"trim" takes text, and gets a list',
      'Put another step before it.',
      '"/tags"',
    ],
    [
      'a step that is none',
      { ...least, '/tag': { from: '/note', steps: ['uper'] } },
      'there is no step "uper"',
      'Did you mean upper?',
      '"uper"',
    ],
    [
      'a step without what it needs',
      { ...least, '/tag': { from: '/note', steps: ['split'] } },
      '"split" needs the sign between the parts, such as split: ","',
      'See docs/convert.md.',
      '"split"',
    ],
    [
      'a step with too much',
      { ...least, '/tag': { from: '/note', steps: [{ trim: 1 }] } },
      '"trim" stands alone',
      'See docs/convert.md.',
      '{"trim"',
    ],
    [
      'a required target that nothing fills',
      { '/depNo': '/dep_no' },
      'nothing fills /fare, which the target must have',
      'Add /fare: and where it comes from, or a value.',
      '{"fields"',
    ],
    [
      'a required target inside',
      { ...least, '/legs/*/gate': '/stops/*/code' },
      'nothing fills /legs/*/pier, which the target must have',
      'Add /legs/*/pier: and where it comes from, or a value.',
      '{"fields"',
    ],
    [
      'one place twice',
      { ...least, '/vessel': '/ship', '/vessel/name': '/ship/name' },
      '/vessel/name is a part of /vessel, which is filled whole',
      'Keep one.',
      '"/vessel/name"',
    ],
    [
      'a list from two lists',
      { ...least, '/legs/*/pier': '/stops/*/code', '/legs/*/gate': '/tags/*' },
      'the elements of /legs/* come from /stops/* and from /tags/*',
      'A list comes from one list.',
      '"/legs/*/gate"',
    ],
    [
      'a list of nobody knows how many',
      { ...least, '/legs/*/pier': { value: 'N1' } },
      'nothing says how many elements /legs/* has',
      'Let something in it come from a list, as /legs/*: /places/*.',
      '"/legs/*/pier"',
    ],
    [
      'an entry from nowhere',
      { ...least, '/tag': {} },
      '/tag comes from a place, or has a value',
      'Write /tag: /place, or { value: ... }.',
      '{}',
    ],
    [
      'a word that is none',
      { ...least, '/tag': { frm: '/note' } },
      'there is no "frm" here',
      'Did you mean from?',
      '"frm"',
    ],
    [
      'no place',
      { ...least, tag: '/note' },
      '"tag" is no place',
      'A place begins with /, such as /vessel/name or /legs/*/pier.',
      '"tag"',
    ],
  ])('is refused with %s', (_, fields, message, remedy, found) => {
    let failed: unknown;
    try {
      read(fields);
    } catch (error) {
      failed = error;
    }
    expect(failed).toMatchObject({ message, remedy });
    const { column } = (failed as { place: { column: number } }).place;
    expect(JSON.stringify({ fields }).slice(column - 1, column - 1 + found.length)).toBe(found);
  });
});

describe('steps', () => {
  const run = (word: string, argument: unknown, value: unknown): string => {
    const made = steps.get(word)!(argument === undefined ? undefined : valueOf(JSON.stringify(argument)));
    if (typeof made === 'string') return made;
    try {
      const changed = made.change(
        value === undefined ? undefined : valueOf(typeof value === 'string' ? value : JSON.stringify(value)),
      );
      return changed === undefined ? 'nothing' : writeJson(changed);
    } catch (error) {
      if (error instanceof StepTrouble) return error.message;
      throw error;
    }
  };
  test.each<[string, unknown, unknown, string]>([
    ['trim', undefined, '" a "', '"a"'],
    ['upper', undefined, '"ø"', '"Ø"'],
    ['lower', undefined, 'null', 'null'],
    ['lower', undefined, '1', '"lower" takes text, found 1'],
    ['split', ',', '"a,b"', '["a","b"]'],
    ['split', ',', '""', '[]'],
    ['join', '-', '["a",1,true]', '"a-1-true"'],
    ['join', '-', '[[1]]', '"join" takes texts, numbers and booleans, found [1]'],
    ['number', undefined, '"0012.50"', '12.50'],
    ['number', undefined, '"12345678901234567890"', '12345678901234567890'],
    ['number', undefined, '"+5"', '5'],
    ['number', undefined, '"1,5"', '"number" takes a number, found "1,5"'],
    ['number', ',', '"1,5"', '1.5'],
    ['number', ',', '"1.5"', '"number" takes a number, found "1.5"'],
    ['number', undefined, '""', '"number" takes a number, found ""'],
    ['text', undefined, '1.50', '"1.50"'],
    ['text', ',', '1.50', '"1,50"'],
    ['text', undefined, 'true', '"true"'],
    ['boolean', undefined, '"true"', 'true'],
    ['boolean', undefined, '"yes"', '"boolean" takes true and false, found "yes"'],
    ['date', { from: 'DD.MM.YYYY' }, '"1.5.2031"', '"2031-05-01"'],
    ['date', { from: 'DD.MM.YYYY' }, '"31.02.2031"', '"date" takes dates as DD.MM.YYYY, found "31.02.2031"'],
    [
      'date',
      { from: 'DD.MM.YYYY HH:mm', zone: '+02:00' },
      '"01.05.2031 08:05"',
      '"2031-05-01T08:05:00+02:00"',
    ],
    ['date', { to: 'DD.MM.YYYY' }, '"2031-05-01"', '"01.05.2031"'],
    ['date', { to: 'YYYYMMDDHHmmss' }, '"2031-05-01T08:05:09.5Z"', '"20310501080509"'],
    ['date', { from: 'DD.MM' }, '"1.5"', '"date" needs YYYY, MM and DD in "DD.MM"'],
    ['date', { from: 'YYYY-MM-DD', zone: 'CET' }, '"x"', '"zone" is Z or an offset such as +02:00'],
    ['default', 0, undefined, '0'],
    ['default', 0, 'null', '0'],
    ['default', 0, '""', '""'],
    ['lookup', { N: 'north' }, '"N"', '"north"'],
    ['lookup', { '1': true }, '1', 'true'],
    ['lookup', { N: 'north' }, '"S"', '"lookup" does not know "S"'],
    ['first', undefined, '[1,2]', '1'],
    ['first', undefined, '[]', 'nothing'],
    ['last', undefined, '[1,2]', '2'],
    ['count', undefined, '{"a":1}', '1'],
  ])('%s %j makes of %s %s', (word, argument, value, expected) => {
    expect(run(word, argument, value)).toBe(expected);
  });
});

test('a first mapping joins equal names, whatever their casing and number, lists to lists, and lists the rest', () => {
  const { lines, open, left } = draftMapping(partner, sailing);
  expect(lines).toEqual([
    { target: '/depNo', source: '/dep_no', steps: [] },
    { target: '/vessel/name', source: '/ship/name', steps: [] },
    { target: '/legs/*/minutes', source: '/stops/*/minutes', steps: ['number'] },
    { target: '/legs/*/gate', source: '/stops/*/gates/*', steps: ['first'] },
    { target: '/tag', source: '/tags/*', steps: ['first'] },
  ]);
  expect(open.map(({ target, isRequired }) => `${target} ${isRequired}`)).toEqual([
    '/legs/*/pier false',
    '/legs/*/line false',
    '/fare true',
    '/remarks false',
    '/count false',
    '/open false',
  ]);
  expect(left).toEqual(['/ship/IMO', '/stops/*/code', '/price', '/note']);
});
