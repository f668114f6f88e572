import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { describe, expect, test } from 'vitest';
import { addFiles, skevo, workspace } from '../support.js';

const partners = resolve('demo/partners');
const schemas = resolve('demo/schemas');
const timetable = join(partners, 'timetable.csv');
const here = { cwd: resolve('.') };

describe('payloads in another format', () => {
  test.each<[string, string]>([
    ['json', '.json'],
    ['ndjson', '.ndjson'],
    ['yaml', '.yaml'],
    ['csv', '.csv'],
    ['tsv', '.tsv'],
    ['xml', '.xml'],
    ['avro', '.avro'],
    ['cbor', '.cbor'],
    ['msgpack', '.msgpack'],
  ])('a timetable to %s and back', (to, ending) => {
    const folder = workspace();
    const there = join(folder, `there${ending}`);
    const made = skevo(['convert', timetable, '--out', there], here);
    expect(made.err).toContain(`6 payloads written to ${there}`);
    expect(made.code).toBe(0);
    const at = to === 'json' ? ['--at', '/*'] : to === 'xml' ? ['--at', '/timetables/timetable/*'] : [];
    const again = skevo(['convert', there, ...at, '--to', 'ndjson', '--quiet'], here);
    const expected = skevo(['convert', timetable, '--to', 'ndjson', '--quiet'], here);
    // What has doubles writes 12.50 as 12.5.
    const plain = (text: string) => text.replace(/(\d\.\d*?)0+\b/g, '$1').replace(/\.(?=[,}])/g, '');
    expect(plain(again.out)).toBe(plain(expected.out));
    expect(expected.out.split('\n')[1]).toBe(
      '{"sailing":"SF-2","pier":"S2","departs":"2031-05-01T09:30:00Z","seats":null,"fare":14.00,"cycles":false,"phone":"5550102","remarks":""}',
    );
    // The same every time.
    expect(skevo(['convert', timetable, '--to', to, '--quiet'], here).code).toBe(0);
    const second = join(folder, `second${ending}`);
    skevo(['convert', timetable, '--out', second], here);
    if (to !== 'xml') expect(readFileSync(second).equals(readFileSync(there))).toBe(true);
  });

  test('one payload is one document of JSON, and a document of XML', () => {
    const folder = workspace({ 'a.json': '{"fares":{"@id":1,"fare":["x","y"]}}' });
    expect(skevo(['convert', join(folder, 'a.json'), '--to', 'xml', '--quiet'], here).out).toBe(
      '<?xml version="1.0" encoding="UTF-8"?>\n<fares id="1">\n  <fare>x</fare>\n  <fare>y</fare>\n</fares>\n',
    );
    expect(skevo(['convert', join(folder, 'a.json'), '--to', 'json', '--quiet'], here).out).toContain(
      '{\n  "fares": {',
    );
  });

  test.each<[string, string, string, RegExp]>([
    ['a list in a cell', '{"a":1}\n{"a":[1]}\n', 'csv', /\/a: a cell cannot hold a list[^]*a\.ndjson:2:6/],
    [
      'null and an empty text in one column',
      '{"a":null}\n{"a":""}\n',
      'csv',
      /\/a: an empty cell cannot be an empty text here and null in another row[^]*:2:6/,
    ],
    [
      'absent and null in one column',
      '{"a":null,"b":1}\n{"b":2}\n',
      'tsv',
      /\/a: an empty cell cannot be nothing here/,
    ],
    ['a key that is no name', '{"x":{"a b":1}}\n', 'xml', /\/x\/a b: "a b" is no name in XML[^]*:1:\d/],
    [
      'a number with more digits than a double',
      '{"n":0.12345678901234567890}\n',
      'msgpack',
      /\/n: MessagePack has no number with the digits/,
    ],
    [
      'a number with more digits than a double',
      '{"n":0.12345678901234567890}\n',
      'avro',
      /\/n: a double does not hold all digits/,
    ],
    ['what may be anything', '{"n":null}\n', 'avro', /what may be anything has no type in Avro/],
    ['half of a character', '{"n":"\\ud800"}\n', 'cbor', /\/n: this text has half of a character/],
  ])('%s is named before anything is written', (_, payloads, to, message) => {
    const folder = workspace({ 'a.ndjson': payloads });
    const out = join(folder, `out.${to}`);
    const toFile = skevo(['convert', join(folder, 'a.ndjson'), '--out', out], here);
    expect(toFile.code).toBe(2);
    expect(toFile.err).toMatch(message);
    expect(existsSync(out)).toBe(false);
    const toPipe = skevo(['convert', join(folder, 'a.ndjson'), '--to', to], here);
    expect([toPipe.code, toPipe.out]).toEqual([2, '']);
  });

  test('what is asked for must be said, and must not be an input', () => {
    expect(skevo(['convert', timetable], here).err).toContain('convert needs to know what to write');
    expect(skevo(['convert', timetable, '--to', 'ods'], here).err).toContain('--to must be one of');
    const folder = workspace({ 'a.ndjson': '{"a":1}\n' });
    const path = join(folder, 'a.ndjson');
    expect(skevo(['convert', path, '--out', path], here).err).toContain('which is an input');
    expect(skevo(['convert', path, '--to', 'csv', '--rejects', path], here).err).toContain(
      'which is an input',
    );
    expect(skevo(['convert', path, '--to', 'csv', '--back', 'x'], here).err).toContain(
      '--back says something of a mapping',
    );
  });
});

describe('payloads that do not meet a schema', () => {
  const folder = workspace();
  const schema = join(schemas, 'timetable.schema.json');
  const rows = readFileSync(timetable, 'utf8')
    .replace(';80;', ';eighty;')
    .replace('14.00;false', '14.00;perhaps');
  addFiles(folder, { 'bad.csv': rows });
  const bad = join(folder, 'bad.csv');

  test('end the conversion with their place', () => {
    const out = join(folder, 'none.ndjson');
    const { code, err } = skevo(['convert', bad, '--schema', schema, '--out', out], here);
    expect(code).toBe(2);
    expect(err).toMatch(
      /does not meet the schema: \/cycles, expected type boolean, found string "perhaps"\n.*bad\.csv:3:37/,
    );
    expect(existsSync(out)).toBe(false);
  });

  test('go as they were to a file of their own, with the reasons, and the others go on', () => {
    const [out, rejects] = [join(folder, 'good.ndjson'), join(folder, 'rejects.ndjson')];
    const { code, err } = skevo(
      ['convert', bad, '--schema', schema, '--out', out, '--rejects', rejects],
      here,
    );
    expect(code).toBe(1);
    expect(err).toMatch(
      /note: .*bad\.csv:3:37: \/cycles, expected type boolean, found string "perhaps"[^]*4 payloads written[^]*2 payloads rejected/,
    );
    expect(readFileSync(out, 'utf8').trim().split('\n')).toHaveLength(4);
    const lines = readFileSync(rejects, 'utf8')
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as object);
    expect(lines).toMatchObject([
      {
        payload: { sailing: 'SF-2', seats: '', cycles: 'perhaps' },
        line: 3,
        column: 1,
        reasons: [
          {
            pointer: '/cycles',
            message: 'expected type boolean, found string "perhaps"',
            line: 3,
            column: 37,
          },
        ],
      },
      {
        payload: { sailing: 'SF-3', seats: 'eighty' },
        line: 4,
        reasons: [{ pointer: '/seats', line: 4, column: 30 }],
      },
    ]);
    // Mended, they go on: --at says where they are.
    const again = skevo(['convert', rejects, '--at', '/payload', '--to', 'csv', '--quiet'], here);
    expect(again.out.split('\n')[0]).toBe('sailing,pier,departs,seats,fare,cycles,phone,remarks');
  });

  test('that cannot be written down leave nothing behind', () => {
    const out = join(folder, 'full.ndjson');
    const { code, err } = skevo(
      ['convert', bad, '--schema', schema, '--out', out, '--rejects', '/dev/full'],
      here,
    );
    expect(code).toBe(2);
    expect(err).toContain('the disk is full');
    expect(existsSync(out)).toBe(false);
  });
});

describe('payloads of another schema', () => {
  const [there, back] = [join(schemas, 'to-departure.yaml'), join(schemas, 'from-departure.yaml')];

  test('there and back, nothing is lost', () => {
    const made = skevo(
      ['convert', timetable, '--mapping', there, '--back', back, '--to', 'ndjson', '--strict'],
      here,
    );
    expect(made.err).toMatch(/6 payloads written\nthere and back, nothing is lost/);
    expect(made.out.split('\n')[0]).toBe(
      '{"number":"sf-1","quay":"north","leaves":"2031-05-01T08:00:00Z","price":12.50,"cycles":true,"remark":"Mind the step; it moves","freeSeats":120,"phone":"5550101"}',
    );
    const folder = workspace({ 'departures.ndjson': made.out });
    const again = skevo(
      [
        'convert',
        join(folder, 'departures.ndjson'),
        '--mapping',
        back,
        '--back',
        there,
        '--to',
        'csv',
        '--quiet',
      ],
      here,
    );
    expect(again.out).toBe(skevo(['convert', timetable, '--to', 'csv', '--quiet'], here).out);
  });

  test('what is left behind is told, refused when strict, and found on the way back', () => {
    const folder = workspace();
    const less = readFileSync(there, 'utf8').replace('  /phone: /phone\n', '');
    const files = ['timetable.schema.json', 'departure.schema.json', 'from-departure.yaml'];
    addFiles(folder, {
      'less.yaml': less,
      ...Object.fromEntries(files.map((file) => [file, readFileSync(join(schemas, file), 'utf8')])),
    });
    const call = (...args: string[]) =>
      skevo(['convert', timetable, '--mapping', join(folder, 'less.yaml'), '--to', 'ndjson', ...args], here);
    expect(call().err).toMatch(/less\.yaml leaves \/phone behind/);
    expect(call('--strict')).toMatchObject({ code: 2, out: '' });
    const lost = call('--back', join(folder, 'from-departure.yaml'));
    expect(lost.code).toBe(2);
    expect(lost.err).toMatch(/does not go through the mapping: .*phone/);
  });

  test('a first mapping is drafted, and says what is to be done', () => {
    const [from, to] = [join(schemas, 'timetable.schema.json'), join(schemas, 'departure.schema.json')];
    const { out, err } = skevo(['mapping', from, to], here);
    expect(out).toBe(`from: demo/schemas/timetable.schema.json
to: demo/schemas/departure.schema.json
fields:
  /cycles: /cycles
  /remark: /remarks
  /phone: /phone

  # to fill, and what is most alike:
  # /number: /sailing or /pier  (required)
  # /quay: /sailing or /pier  (required)
  # /leaves: /departs  (required)
  # /price: /seats or /fare  (required)
  # /freeSeats: /seats

  # left over:
  # /sailing
  # /pier
  # /departs
  # /seats
  # /fare
`);
    expect(err).toContain('3 joined, 5 to fill, 4 of them required, 5 left over');
    const folder = workspace();
    const path = join(folder, 'draft.yaml');
    skevo(['mapping', from, to, '--out', path], here);
    const refused = skevo(['convert', timetable, '--mapping', path, '--to', 'ndjson'], here);
    expect(refused.err).toMatch(/nothing fills \/number, which the target must have\n.*draft\.yaml:1:1/);
  });
});
