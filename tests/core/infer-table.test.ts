import { Ajv2020 } from 'ajv/dist/2020.js';
import { describe, expect, test } from 'vitest';
import { knowFormats } from '../../src/core/schema/exact.js';
import { writeJson } from '../../src/core/json/write.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import { infer } from '../payloads.js';

interface Plain {
  readonly [keyword: string]: unknown;
  readonly properties?: Record<string, Plain>;
  readonly $defs?: Record<string, Plain>;
  readonly items?: Plain;
  readonly additionalProperties?: Plain;
}

const inferred = (texts: readonly string[]) =>
  JSON.parse(writeJson(schemaToJson(infer(texts).schema))) as Plain;

/** Groups of payloads of the table that are large enough for one to be left out. */
const groups: string[][] = [];
const fewestToLeaveOut = 10;

/** The schema of the values of one field, each in a payload of its own. */
function field(values: readonly unknown[]): { schema: Plain; defs: Record<string, Plain> } {
  const payloads = values.map(
    (value) =>
      `{"a":${typeof value === 'string' && value.startsWith('raw ') ? value.slice(4) : JSON.stringify(value)}}`,
  );
  if (payloads.length >= fewestToLeaveOut) groups.push(payloads);
  const whole = inferred(payloads);
  return { schema: whole.properties!['a']!, defs: whole.$defs ?? {} };
}

const times = <T>(count: number, make: (i: number) => T): T[] =>
  Array.from({ length: count }, (_, i) => make(i));
const keyed = (keys: readonly string[], value: (i: number) => unknown) =>
  Object.fromEntries(keys.map((key, i) => [key, value(i)]));
/** A number in letters. */
const letters = (n: number): string => [...String(n)].map((digit) => 'abcdefghij'[Number(digit)]).join('');
const isMap = { type: 'object', additionalProperties: expect.anything() };
const isRecord = { $ref: '#/$defs/A' };
describe('keys that are data beside fields', () => {
  const years = (count: number) =>
    keyed(
      times(count, (i) => String(1962 + i)),
      (i) => i,
    );
  const alike = (count: number, value: (i: number) => unknown) =>
    keyed(
      times(count, (i) => `symbols-${letters(i + 10)}`),
      value,
    );
  const symbols = (i: number) => ({ plus: `+${i}`, minus: '-' });
  const letter = (i: number) => `x${'abcdefghijkl'[i]}`;
  test.each<[string, unknown[], 'map' | 'record' | string[]]>([
    ['two years', [{ name: 'Saltmere', ...years(2) }], ['name']],
    ['one year is a field', [{ name: 'Saltmere', ...years(1) }], 'record'],
    ['dates', [{ name: 'x', ...keyed(['2031-05-01', '2031-05-04'], (i) => ({ high: i })) }], ['name']],
    [
      'months, no two in one object',
      [
        { port: 'N', '2031-05': 1 },
        { port: 'S', '2031-07': 4 },
      ],
      ['port'],
    ],
    ['paths', [{ title: 'a', ...keyed(['/berths', '/tides/{id}'], () => ({ get: 'x y' })) }], ['title']],
    ['language tags', [{ key: 'a', ...keyed(['en-GB', 'da-DK'], () => 'Pier') }], ['key']],
    [
      'links',
      [{ count: 2, ...keyed(['https://a.example/1', 'https://a.example/2'], () => 'x y') }],
      ['count'],
    ],
    ['years over values of several kinds leave no field', [{ name: 'a', 1962: 1, 1963: [1] }], 'map'],
    ['years over what the field holds too leave none', [{ total: 9, ...years(4) }], 'map'],
    ['five records under keys that begin alike', [{ name: 'a', ...alike(5, symbols) }], ['name']],
    ['four such are fields', [{ name: 'a', ...alike(4, symbols) }], 'record'],
    ['texts under keys that begin alike are fields', [{ name: 'a', ...alike(6, letter) }], 'record'],
    [
      'records of other keys are fields',
      [{ name: 'a', ...alike(6, (i) => ({ [letter(i)]: 1, b: 2 })) }],
      'record',
    ],
    ['all of them years are a map', [years(3)], 'map'],
  ])('%s', (_, values, expected) => {
    const { schema, defs } = field(values);
    const { properties, additionalProperties } = schema.$ref === undefined ? schema : defs['A']!;
    if (expected === 'map') expect([properties, typeof additionalProperties]).toEqual([undefined, 'object']);
    else if (expected === 'record') expect(additionalProperties).toBeUndefined();
    else expect([Object.keys(properties!), typeof additionalProperties]).toEqual([expected, 'object']);
  });
});

describe('objects at one place are', () => {
  test.each<[string, unknown[], unknown]>([
    ['a map by date', [keyed(['2031-05-01', '2031-05-02'], (i) => i)], isMap],
    ['a map by date, one key a payload', [{ '2031-05-01': 1 }, { '2031-05-02': 2 }], isMap],
    [
      'a map by date-time',
      [
        keyed(
          times(
            100,
            (i) => `2031-05-01T${String(i % 24).padStart(2, '0')}:${String(i % 60).padStart(2, '0')}:00Z`,
          ),
          (i) => ({ height: i }),
        ),
      ],
      isMap,
    ],
    ['a map by month', [keyed(['2031-05', '2031-06'], (i) => i)], isMap],
    ['a map by number', [{ 1: 'a', 2: 'b', 17: 'c' }], isMap],
    ['a map by UUID', [{ '6f9619ff-8b86-d011-b42d-00c04fc964ff': { no: 1 } }], isMap],
    ['a map by language tag', [{ 'en-GB': 'Pier', 'da-DK': 'Mole' }], isMap],
    ['a map by language', [{ en: 'Pier', da: 'Mole', de: 'Pier' }], isMap],
    ['a map by language of three letters', [{ eng: 'Pier', dan: 'Mole', deu: 'Pier' }], isMap],
    ['a map by country', [{ GB: 1, DK: 2, NO: 3 }], isMap],
    ['a record of abbreviations', [{ ID: 1, NO: 2, X1: 'a' }], isRecord],
    ['a map by host', [{ 'api.saltmere.example': 1, 'www.saltmere.example': 2 }], isMap],
    ['a map by address', [{ '192.0.2.1': 1, '192.0.2.7': 2 }], isMap],
    ['a map by id', [keyed(['SF-1001', 'SF-1007', 'SF-1012'], (i) => i)], isMap],
    ['a map by hexadecimal id', [keyed(['9f86d081884c', '2c26b46b68ff'], (i) => i)], isMap],
    ['a map of values of different kinds, by date', [{ '2031-05-01': 1, '2031-05-02': 'x' }], isMap],
    ['a map by path', [{ '/v1/sailings': 1, '/v1/fares': 'x' }], isMap],
    ['a map by one path', [{ 'application/json': { a: 1 } }], isMap],
    ['a record with a field that begins with a digit', [{ '2nd_call': true }], isRecord],
    ['a map by media type', [{ 'application/json': { a: 1 }, 'text/csv': { b: 1 } }], isMap],
    ['a map by time', [{ '07:45': 1, '08:15': 'full' }], isMap],
    ['a map by amount', [{ '3 days': 1, '1 week': 2 }], isMap],
    ['a map by scope', [{ 'read:all': true, 'write:own': false }], isMap],
    ['a record of a vocabulary', [{ 'dc:title': 'x', 'dc:date': 'y' }], isRecord],
    ['a record of attributes', [{ '@id': 'x', '#text': 'y', $ref: 'z' }], isRecord],
    ['a record of columns with spaces', [{ 'Sailing No': 1, 'From Pier': 2, 'Km/h': 3 }], isRecord],
    [
      'a map by two languages, over records of the same keys',
      [{ en: { a: 1, b: 2 }, da: { a: 1, b: 3 } }],
      isMap,
    ],
    ['a record of two languages, over numbers', [{ no: 1, id: 2 }], isRecord],
    [
      'a map of five records of one type',
      [keyed(['north', 'south', 'east', 'west', 'mid'], (i) => ({ long: i, deep: 2 }))],
      isMap,
    ],
    [
      'a record of four records of one type',
      [keyed(['north', 'south', 'east', 'west'], (i) => ({ long: i, deep: 2 }))],
      isRecord,
    ],
    [
      'a map of keys that keep coming, whatever their values',
      times(200, (i) => ({ [`word${letters(i)}`]: i % 2 ? i : 'x', [`word${letters(i * 7)}`]: 1 })),
      isMap,
    ],
    [
      'a record of many fields that are each seen often',
      times(1600, (i) => ({ [`field${letters(i % 80)}`]: i % 2 ? i : 'x' })),
      isRecord,
    ],
    [
      'a map of many keys',
      [
        keyed(
          times(80, (i) => `berth ${'abcdefghij'[i % 10]}${'klmnopqr'[Math.floor(i / 10)]}`),
          (i) => ({ no: i, long: i * 2 }),
        ),
      ],
      isMap,
    ],
    [
      'a map of keys that vary',
      times(10, (i) => keyed([`q${'abcdefghij'[i]}x`, `r${'abcdefghij'[i]}y`], () => 1)),
      isMap,
    ],
    [
      'a record of fields that share a type',
      [
        {
          length: 1,
          beam: 2,
          draught: 3,
          height: 4,
          seats: 5,
          cars: 6,
          decks: 7,
          crew: 8,
          age: 9,
          speed: 10,
          range: 11,
          tanks: 12,
        },
      ],
      isRecord,
    ],
    [
      'a record of fields that share a type, in every payload',
      times(5, (i) => ({
        length: i,
        beam: i,
        draught: i,
        height: i,
        seats: i,
        cars: i,
        decks: i,
        crew: i,
        age: i,
        speed: i,
      })),
      isRecord,
    ],
    ['a record with numbered fields', [{ line1: 'a', line2: 'b', line3: 'c' }], isRecord],
    ['a record with two fields that are languages', [{ no: 1, id: 2 }], isRecord],
    [
      'a record of many fields of different kinds',
      [
        keyed(
          times(80, (i) => `field${'abcdefghij'[i % 10]}${'klmnopqr'[Math.floor(i / 10)]}`),
          (i) => (i % 2 ? i : 'x'),
        ),
      ],
      isRecord,
    ],
    [
      'a record with optional fields',
      [{ id: 1, name: 'a' }, { id: 2 }, { id: 3, name: 'c', gate: 'B' }],
      isRecord,
    ],
  ])('%s', (_what, values, expected) => expect(field(values).schema).toEqual(expected));
});

describe('strings at one place are', () => {
  const words = (values: readonly string[], count: number) => times(count, (i) => values[i % values.length]!);
  const closed = (...values: string[]) => ({ type: 'string', enum: values });
  const open = (...values: string[]) => ({ anyOf: [{ type: 'string', enum: values }, { type: 'string' }] });
  const text = { type: 'string' };
  test.each<[string, string[], unknown]>([
    ['a closed choice', words(['foot', 'freight', 'vehicle'], 60), closed('foot', 'freight', 'vehicle')],
    [
      'an open choice, of few texts',
      words(['foot', 'freight', 'vehicle'], 12),
      open('foot', 'freight', 'vehicle'),
    ],
    [
      'an open choice, one word once',
      [...words(['foot', 'freight'], 60), 'vehicle'],
      open('foot', 'freight', 'vehicle'),
    ],
    ['a choice in capitals', words(['ON_TIME', 'LATE'], 40), closed('LATE', 'ON_TIME')],
    ['free text', times(40, (i) => (i % 2 ? 'Mind the step.' : 'Dogs on leads.')), text],
    ['ids', words(['V01', 'V02', 'V03'], 40), text],
    ['names', words(['Petrel', 'Sandpiper'], 30), text],
    ['words that do not repeat', times(20, (i) => `word${'abcdefghijklmnopqrst'[i]}`), text],
    ['one word', words(['chart'], 40), text],
    [
      'words with spaces and capitals, often',
      words(['In Progress', 'Done'], 40),
      closed('Done', 'In Progress'),
    ],
    ['words with spaces and capitals, less often', words(['In Progress', 'Done'], 39), text],
    ['words with dots and digits, often', words(['UTF-8', 'fare.paid'], 40), closed('UTF-8', 'fare.paid')],
    ['sentences, however often', words(['see the notice at pier', 'ask the crew'], 80), text],
    ['clock times, however often', words(['08:00', '09:30'], 80), text],
    ['two texts', ['foot', 'vehicle'], text],
    ['empty at times', words(['foot', ''], 40), text],
    [
      'date-times',
      ['2031-05-01T08:00:00Z', '2031-05-01T08:00:00.5+01:00'],
      { type: 'string', format: 'date-time' },
    ],
    ['dates', ['2031-05-01', '2028-02-29'], { type: 'string', format: 'date' }],
    ['times', ['08:00:00Z', '00:59:60+01:00'], { type: 'string', format: 'time' }],
    ['durations', ['PT1H', 'P1DT2H', 'P2W'], { type: 'string', format: 'duration' }],
    ['UUIDs', ['6f9619ff-8b86-d011-b42d-00c04fc964ff'], { type: 'string', format: 'uuid' }],
    ['URIs', ['https://saltmere.example/v1?a=b#c'], { type: 'string', format: 'uri' }],
    [
      'URIs with escaped slashes',
      ['raw "https:\\/\\/saltmere.example\\/v1"'],
      { type: 'string', format: 'uri' },
    ],
    ['e-mail addresses', ['quay+north@saltmere.example'], { type: 'string', format: 'email' }],
    ['IPv4 addresses', ['192.0.2.1', '0.0.0.0'], { type: 'string', format: 'ipv4' }],
    ['IPv6 addresses', ['2001:db8::1', '::1', 'fe80::a:b'], { type: 'string', format: 'ipv6' }],
    [
      'base64',
      ['cG5nLW9mLUdyZXkgSGVyb25w', 'AAECAwQFBgcICQoLDA0ODxAREhMUFQ==', 'U2FsdG1lcmUgRmVycmllcyBhcmU='],
      { type: 'string', contentEncoding: 'base64' },
    ],
    [
      'base64 of text, short',
      times(3, () => 'U2FsdG1lcmUgRmVycmllcyBhcmU='),
      { type: 'string', contentEncoding: 'base64' },
    ],
    ['random letters', times(3, (i) => `q8Zx3Lk9Vb2Nw7Rt5Yp1Js${i}=`), text],
    [
      'URI templates',
      ['https://saltmere.example/{id}', 'https://saltmere.example/'],
      { type: 'string', format: 'uri-template' },
    ],
    ['words with braces', ['see {id}', '{id}'], text],
    ['numbers in strings', ['12', '13.5', '-1'], text],
    ['dates but for one', ['2031-05-01', '2031-05-02', 'soon'], text],
    ['days that are not in the calendar', ['2031-02-29', '2031-02-30'], text],
    ['date-times without an offset', ['2031-05-01T08:00:00', '2031-05-02T08:00:00'], text],
    ['short words of four letters', ['quay', 'boat', 'pier', 'dock'], text],
    ['one long word', ['harbourmastershipyards'], text],
    ['hexadecimal digests', times(5, (i) => `9f86d081884c7d659a2feaa0c55ad01${i}`), text],
    ['words with a colon', ['note: late', 'see: above'], text],
    ['paths', ['/v1/sailings', '/v1/vessels'], text],
    ['clock times', ['08:00', '09:30', '10:15'], text],
  ])('%s', (_what, values, expected) => expect(field(values).schema).toEqual(expected));
});

test('what points at something is never base64', () => {
  const text = 'U2FsdG1lcmUgRmVycmllcyBhcmU=';
  const { properties } = inferred(
    times(3, () => JSON.stringify({ image: text, pageToken: text, nodeId: text })),
  );
  expect(properties).toEqual({
    image: { type: 'string', contentEncoding: 'base64' },
    pageToken: { type: 'string' },
    nodeId: { type: 'string' },
  });
});

describe('words beside what tells records apart', () => {
  const state = (rows: readonly object[]) =>
    inferred(rows.map((row) => JSON.stringify({ sailing: row }))).$defs!['SailingSailing']!.properties!;
  const words = ['open', 'shut'];
  const rows = (records: number, seen = 60) =>
    times(seen, (i) => ({
      id: i % records,
      state: words[(i % records) % 2],
      kind: 'sailing',
      name: words[i % 2],
    }));
  test.each<[string, number, unknown]>([
    ['are none when two records said them', 2, { type: 'string' }],
    ['are none when five did', 5, { type: 'string' }],
    ['are open when six did', 6, { anyOf: [{ type: 'string', enum: words }, { type: 'string' }] }],
    ['are open when 29 did', 29, { anyOf: [{ type: 'string', enum: words }, { type: 'string' }] }],
    ['are closed when 30 did', 30, { type: 'string', enum: words }],
  ])('%s', (_what, records, expected) => expect(state(rows(records))['state']).toEqual(expected));

  test('one word under kind is a constant in 30 records, and text in 29', () => {
    expect(state(rows(30))['kind']).toEqual({ const: 'sailing' });
    expect(state(rows(29))['kind']).toEqual({ type: 'string' });
  });

  test('names are never a choice', () => expect(state(rows(60))['name']).toEqual({ type: 'string' }));
});

describe('records of the very same keys', () => {
  const names = (payload: object) => Object.keys(inferred([JSON.stringify(payload)]).$defs ?? {});
  const link = (key: string) => ({ [key]: { href: 'x' } });
  test('are one type when there are three, called as what they are in', () => {
    expect(names({ links: { ...link('self'), ...link('next') } })).toEqual(['Links', 'Next', 'Self']);
    expect(names({ links: { ...link('self'), ...link('next'), ...link('last') } })).toEqual([
      'Link',
      'Links',
    ]);
  });
  test('are one type when there are two, if two keys say something', () => {
    const berth = { long: 3, deep: 4 };
    expect(names({ home: berth, away: berth })).toEqual(['Home']);
    expect(names({ home: { ...berth, deep: undefined, id: 1 }, away: { long: 3, id: 1 } })).toEqual([
      'Away',
      'Home',
    ]);
  });
  test.each<[string, object, string[]]>([
    [
      'by the key that most places use',
      { a: { berth: { long: 1, deep: 2 } }, b: { berth: { long: 1, deep: 2 } }, alt: { long: 1, deep: 2 } },
      ['A', 'B', 'Berth'],
    ],
    ['by how they all end', { homeBerth: { long: 1, deep: 2 }, awayBerth: { long: 1, deep: 2 } }, ['Berth']],
    ['by how they all begin', { tideLow: { long: 1, deep: 2 }, tideHigh: { long: 1, deep: 2 } }, ['Tide']],
    [
      'by the key that has most values',
      {
        fares: [
          { child: { long: 1, deep: 2 }, price: { long: 1, deep: 2 } },
          { price: { long: 1, deep: 2 } },
        ],
      },
      ['Fare', 'Price'],
    ],
    ['not by ids', { vessels: { SF10012: { long: 1 }, x: { deep: 2 } } }, ['Vessels', 'VesselsVessels', 'X']],
  ])('are called %s', (_what, payload, expected) => expect(names(payload)).toEqual(expected));
});

describe('types that want one name', () => {
  const names = (payload: object) => Object.keys(inferred([JSON.stringify(payload)]).$defs ?? {});
  test('leave it to the one nearer the top, or much the larger', () => {
    expect(names({ item: { a: 1 }, out: { item: { b: 1 } } })).toEqual(['Item', 'Out', 'OutItem']);
    const big = { b: 1, c: '', d: true, e: [] };
    expect(names({ back: { item: { a: 1 } }, out: { item: big } })).toEqual([
      'Back',
      'BackItem',
      'Item',
      'Out',
    ]);
  });
});

test('a map of records that hold such maps is one, wherever it is met', () => {
  const part = (depth: number): object => ({
    note: 'x',
    long: depth,
    parts: depth === 0 ? {} : keyed(['bow', 'stern', 'keel', 'mast', 'hold'], () => part(depth - 1)),
  });
  const { properties, $defs } = inferred([JSON.stringify({ parts: (part(3) as { parts: object }).parts })]);
  expect(properties!['parts']).toEqual({ type: 'object', additionalProperties: { $ref: '#/$defs/Part' } });
  expect(Object.keys($defs!)).toEqual(['Part']);
});

describe('a record inside a record', () => {
  const names = (payload: object) => Object.keys(inferred([JSON.stringify(payload)]).$defs ?? {});
  const crew = { login: 'a', rank: 'b', since: 'c', mail: 'd' };
  test('is not of its type when the key that leads to it does not recur', () =>
    expect(names({ crew: { ...crew, chief: crew } })).toEqual(['Chief', 'Crew']));
  test('is when it does', () =>
    expect(names({ crew: { ...crew, chief: { ...crew, chief: null } } })).toEqual(['Crew']));
});

describe('null', () => {
  test('belongs to the place: what shares a type with it is not nullable', () => {
    const user = { login: 'a', mail: 'b', deep: 1 };
    const { properties } = inferred(
      times(3, (i) => JSON.stringify({ sender: user, assignee: i === 1 ? null : user })),
    );
    expect(properties).toEqual({
      sender: { $ref: '#/$defs/Sender' },
      assignee: { anyOf: [{ $ref: '#/$defs/Sender' }, { type: 'null' }] },
    });
  });

  test('in a list makes its elements nullable, not those of another list of the type', () => {
    const leg = { pier: 'N', deep: 1, lit: true };
    const { properties } = inferred([JSON.stringify({ out: [leg, null], back: [leg] })]);
    expect(properties).toEqual({
      out: { type: 'array', items: { anyOf: [{ $ref: '#/$defs/Out' }, { type: 'null' }] } },
      back: { type: 'array', items: { $ref: '#/$defs/Out' } },
    });
  });

  test('alone says nothing of what else there may be', () => {
    expect(inferred(['{"a":null}', '{"a":null}']).properties).toEqual({ a: {} });
  });
});

describe('numbers at one place are', () => {
  test.each<[string, string[], unknown]>([
    ['small integers', ['1', '-5'], { type: 'integer', format: 'int32' }],
    ['integers, one of them large', ['1', '9007199254740993'], { type: 'integer', format: 'int64' }],
    ['numbers, all but one whole', ['1', '2', '3', '4.5'], { type: 'number' }],
    ['numbers written with a fraction', ['1.0', '2.0'], { type: 'number' }],
    ['integers up to 2^27', ['134217728', '-134217728'], { type: 'integer', format: 'int32' }],
    ['integers beyond 2^27', ['1', '134217729'], { type: 'integer', format: 'double-int' }],
    ['negative integers beyond 2^27', ['-134217729'], { type: 'integer', format: 'double-int' }],
    ['exact decimals', ['1.5', '0.12345678901234567890'], { type: 'number', format: 'decimal' }],
  ])('%s', (_what, values, expected) =>
    expect(field(values.map((value) => `raw ${value}`)).schema).toEqual(expected),
  );
});

describe('records at one place are', () => {
  const notices = (...kinds: unknown[][]) => kinds.flatMap((each) => times(4, (i) => each[i % each.length]));
  test('a tagged union when a property decides which keys there are', () => {
    const { schema, defs } = field(
      notices(
        [{ kind: 'delay', sailing: 'SF', minutes: 5 }],
        [{ kind: 'closure', berth: 'N1', until: '2031-05-01' }],
      ),
    );
    expect(defs['A']).toEqual({ oneOf: [{ $ref: '#/$defs/ClosureA' }, { $ref: '#/$defs/DelayA' }] });
    expect(schema).toEqual({ $ref: '#/$defs/A' });
    expect(defs['DelayA']).toMatchObject({
      properties: { kind: { const: 'delay' } },
      required: ['kind', 'sailing', 'minutes'],
    });
  });

  test('a tagged union whose arms have optional fields', () => {
    const { defs } = field(
      notices(
        [
          { kind: 'delay', sailing: 'SF', minutes: 5 },
          { kind: 'delay', sailing: 'SF', minutes: 5, why: 'fog' },
        ],
        [{ kind: 'closure', berth: 'N1', until: 'x' }],
      ),
    );
    expect(defs['DelayA']).toMatchObject({
      properties: { why: { type: 'string' } },
      required: ['kind', 'sailing', 'minutes'],
    });
  });

  test('an untagged union when only their keys tell them apart', () => {
    const { defs } = field(notices([{ lat: 54.1, lon: -0.4 }], [{ pier: 'N', gate: 'A' }]));
    expect(defs['A']).toEqual({ oneOf: [{ $ref: '#/$defs/PierA' }, { $ref: '#/$defs/LatA' }] });
  });

  test.each<[string, unknown[]]>([
    [
      'near-identical ones',
      notices([{ id: 1, name: 'a', long: 3, wide: 2 }], [{ id: 2, name: 'b', long: 3, wide: 2, note: 'x' }]),
    ],
    [
      'with a word that says nothing of the keys',
      notices([{ state: 'open', no: 1 }], [{ state: 'shut', no: 2 }]),
    ],
    [
      'with a key that is missing by chance',
      times(8, (i) => ({ state: i % 2 ? 'open' : 'shut', no: i, ...(i === 3 ? { note: 'x' } : {}) })),
    ],
    ['of which one is empty', [{ a: 1, b: 2 }, {}]],
  ])('one record: %s', (_what, values) => {
    const { schema, defs } = field(values);
    expect(schema).toEqual({ $ref: '#/$defs/A' });
    expect(defs['A']).toMatchObject({ type: 'object', properties: expect.anything() });
  });

  test('beside a list of the same, one or many', () => {
    const { schema } = field([{ pier: 'N', no: 1 }, [{ pier: 'S', no: 2 }], []]);
    expect(schema).toEqual({
      anyOf: [{ $ref: '#/$defs/A' }, { type: 'array', items: { $ref: '#/$defs/A' } }],
    });
    expect(infer(['{"a":{"b":1,"c":2}}', '{"a":[{"b":1,"c":2}]}']).decisions).toContainEqual(
      expect.objectContaining({ place: '/a', decision: 'one or many' }),
    );
  });
});

describe('lists at one place are', () => {
  const integer = { type: 'integer', format: 'int32' };
  test.each<[string, unknown[], unknown]>([
    [
      'tuples when positions differ in kind',
      [
        ['N', 1],
        ['S', 2],
        ['L', 3],
      ],
      { type: 'array', prefixItems: [{ type: 'string' }, integer], items: false, minItems: 2 },
    ],
    [
      'lists when positions are of one kind',
      [
        [54.1, -0.4],
        [54.2, 0],
        [1.5, 2],
      ],
      { type: 'array', items: { type: 'number' } },
    ],
    [
      'lists when they differ in length',
      [
        ['N', 1],
        ['S', 2],
        ['L', 3, 4],
      ],
      { type: 'array', items: { anyOf: [{ type: 'string' }, integer] } },
    ],
    [
      'lists when a position holds several kinds',
      [
        ['N', 1],
        [2, 'x'],
        ['L', 3],
      ],
      { type: 'array', items: { anyOf: [{ type: 'string' }, integer] } },
    ],
    [
      'lists when there are two only',
      [
        ['N', 1],
        ['S', 2],
      ],
      { type: 'array', items: { anyOf: [{ type: 'string' }, integer] } },
    ],
    [
      'lists when one is empty',
      [['N', 1], ['S', 2], ['L', 3], []],
      { type: 'array', items: { anyOf: [{ type: 'string' }, integer] } },
    ],
    ['lists of lists', [[[1], [2, 3]], []], { type: 'array', items: { type: 'array', items: integer } }],
  ])('%s', (_what, values, expected) => expect(field(values).schema).toEqual(expected));
});

describe('types are shared', () => {
  const names = (...texts: string[]) => Object.keys(inferred(texts).$defs ?? {});
  test.each<[string, string[], string[]]>([
    [
      'by records of the same keys',
      ['{"from":{"name":"N","deep":2,"lit":true},"to":{"name":"S","deep":3,"lit":false}}'],
      ['From'],
    ],
    [
      'by records of nearly the same keys',
      [
        '{"from":{"name":"N","deep":2,"lit":true,"no":1},"to":{"name":"S","deep":3,"lit":false,"no":2,"note":"x"}}',
      ],
      ['From'],
    ],
    [
      'by the same name in two records',
      [
        '{"out":{"price":{"amount":1,"currency":"SMC"},"seats":1},"back":{"price":{"amount":2,"currency":"SMC"},"cars":2}}',
      ],
      ['Back', 'Out', 'Price'],
    ],
    ['by a tree', ['{"node":{"id":1,"parts":[{"id":2,"parts":[]}]}}'], ['Node']],
    [
      'by comments with replies',
      ['{"comments":[{"by":"a","text":"x","replies":[{"by":"b","text":"y","at":"z","replies":[]}]}]}'],
      ['Comment'],
    ],
    [
      'but not on two common keys',
      ['{"vessel":{"id":1,"name":"P","seats":3},"berth":{"id":2,"name":"N","long":4}}'],
      ['Berth', 'Vessel'],
    ],
    ['but not when kinds differ', ['{"a":{"x":1,"y":2,"z":3},"b":{"x":"1","y":"2","z":"3"}}'], ['A', 'B']],
    [
      'but not from one to the next',
      [
        '{"a":{"p":1,"q":1,"r":1,"s":1},"b":{"q":1,"r":1,"s":1,"t":1},"c":{"r":1,"s":1,"t":1,"u":1},"d":{"s":1,"t":1,"u":1,"v":1}}',
      ],
      ['A', 'B', 'C', 'D'],
    ],
  ])('%s', (_what, texts, expected) => expect(names(...texts)).toEqual(expected));

  test('at any depth', () => {
    const deep = (n: number): string => `{"id":${n},"name":"x","kids":[${n > 0 ? deep(n - 1) : ''}]}`;
    expect(names(`{"node":${deep(60)}}`)).toEqual(['Node']);
  });
});

describe('names', () => {
  const names = (...texts: string[]) => Object.keys(inferred(texts).$defs ?? {});
  test.each<[string, string[], string[]]>([
    [
      'are singular for elements',
      ['{"legs":[{"a":1}],"ferries":[{"b":1}],"buses":[{"c":1}]}'],
      ['Bus', 'Ferry', 'Leg'],
    ],
    ['pass over envelopes', ['{"vessels":{"data":[{"a":1}]}}'], ['Vessel', 'Vessels']],
    ['of records in an envelope at the top', ['{"results":[{"a":1}],"page":1}'], ['SailingItem']],
    ['of map values', ['{"readings":{"2031-05-01":{"a":1}}}'], ['Reading']],
    [
      'are not numbered where the record around tells',
      ['{"out":{"item":{"a":1}},"back":{"item":{"b":1}}}'],
      ['Back', 'BackItem', 'Out', 'OutItem'],
    ],
  ])('%s', (_what, texts, expected) => expect(names(...texts)).toEqual(expected));

  test('that were only suggested go to the record that the payload wraps', () => {
    // A name that somebody chose stays with the payload.
    expect(infer(['{"results":[{"a":1}],"page":1}']).schema.title).toBe('Sailing');
  });
});

test('of the larger groups no payload is refused by the schema of the others, nor by that of all', () => {
  const meets = (schema: Plain) => {
    const validator = new Ajv2020({ strict: false, logger: false });
    knowFormats(validator);
    return validator.compile(schema);
  };
  let refused = 0;
  let all = 0;
  for (const payloads of groups) {
    const whole = meets(inferred(payloads));
    for (const [i, payload] of payloads.slice(0, 6).entries()) {
      expect(whole(JSON.parse(payload)), payload).toBe(true);
      all++;
      if (!meets(inferred(payloads.filter((_, k) => k !== i)))(JSON.parse(payload))) refused++;
    }
  }
  expect(groups).toHaveLength(18);
  expect([all, refused]).toEqual([108, 0]);
});
