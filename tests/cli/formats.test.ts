import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { gzipSync } from 'node:zlib';
import { describe, expect, test } from 'vitest';
import { addFiles, skevo, workspace } from '../support.js';

const partners = resolve('demo/partners');
const here = { cwd: resolve('.') };
const file = (name: string) => readFileSync(join(partners, name));

/** The schema that is inferred from a file of the demo. */
function inferred(
  name: string,
  ...args: string[]
): { properties: Record<string, object>; $defs: Record<string, { properties: object }> } {
  const { code, out } = skevo(['infer', join(partners, name), '--quiet', ...args], here);
  expect(code).toBe(0);
  return JSON.parse(out) as ReturnType<typeof inferred>;
}

describe('files of partners', () => {
  test('Avro: types of the file, dates and decimals as JSON writes them, proven to the document', () => {
    expect(inferred('tides.avro').properties).toMatchObject({
      read_at: { type: 'string', format: 'date-time' },
      height: { type: 'number' },
      water_temperature: { type: ['number', 'null'] },
      sequence: { type: 'integer', format: 'int64' },
    });
    const folder = workspace();
    const schema = join(folder, 'tides.schema.json');
    skevo(['infer', join(partners, 'tides.avro'), '--out', schema, '--quiet'], here);
    const check = skevo(['check', schema, join(partners, 'tides.avro'), '--language', 'python'], here);
    expect(check.out).toContain('24 of 24');
    expect(check.out).toContain('1 document, written again from what was read: the same');
    for (const format of ['avro', 'cbor', 'msgpack']) {
      const out = join(folder, format);
      expect(skevo(['vary', schema, '--to', format, '--out', out], here).code).toBe(0);
      // What was absent, null or a date in Avro is so again under the schema.
      expect(skevo(['validate', schema, out], here).err).toContain('all 11 payloads meet the schema');
    }
  });

  test('columns that are parts of records and lists, when asked for', () => {
    const folder = workspace({
      'legs.csv':
        'id,gate.pier,gate.open,legs[0].to,legs[0].min,legs[1].to,legs[1].min\n1,N1,true,S2,20,N3,15\n2,N2,false,S4,25,,\n',
    });
    const nested = [join(folder, 'legs.csv'), '--input', 'nested-csv'];
    const schema = join(folder, 'legs.schema.json');
    const { out } = skevo(['infer', ...nested, '--quiet'], here);
    expect(JSON.parse(out)).toMatchObject({
      properties: { gate: { $ref: '#/$defs/Gate' }, legs: { type: 'array', items: { $ref: '#/$defs/Leg' } } },
      $defs: {
        Gate: { properties: { open: { type: 'boolean' } }, required: ['pier', 'open'] },
        Leg: { properties: { min: { type: 'integer' } }, required: ['to', 'min'] },
      },
    });
    skevo(['infer', ...nested, '--out', schema, '--quiet'], here);
    const check = skevo(['check', schema, ...nested, '--language', 'python'], here);
    expect(check.out).toContain('2 of 2');
    expect(check.out).toContain('1 document, written again from what was read: the same');
    // Without the wish, names are names.
    expect(skevo(['outline', join(folder, 'legs.csv')], here).out).toMatch(/\/legs\[0\]\.to +string/);
    addFiles(folder, { 'wrong.csv': 'id,gate.pier,gate.open,legs[0].to,legs[0].min\n1,N1,true,S2,x\n' });
    const wrong = skevo(['validate', schema, join(folder, 'wrong.csv'), '--input', 'nested-csv'], here);
    expect(wrong.code).toBe(1);
    expect(wrong.out).toMatch(/wrong\.csv:2:14 {2}\/legs\/0\/min/);
  });

  test.each([
    ['id,id.x\n1,2\n', /"id\.x" is a part of what another column is[^]*1:4/],
    ['id,a[1]\n1,2\n', /a column of \[1\] and none of \[0\]/],
    ['id,a..b\n1,2\n', /the column "a\.\.b" names no part[^]*1:4/],
    ['id,a[0],a.b\n1,2,3\n', /"a\.b" is a part of what another column is[^]*1:9/],
  ])('columns that do not fit together are refused: %j', (text, message) => {
    const folder = workspace({ 'a.csv': text });
    const { code, err } = skevo(['outline', join(folder, 'a.csv'), '--input', 'nested-csv'], here);
    expect(code).toBe(2);
    expect(err).toMatch(message);
  });

  test('files packed by Zstandard, and cut off', () => {
    // Two lines, packed by another program.
    const packed = Buffer.from('KLUv/QRYkQAAeyJpZCI6MX0KeyJpZCI6Mn0K6COFGA==', 'base64');
    const folder = workspace({ 'a.ndjson.zst': packed, 'cut.ndjson.zst': packed.subarray(0, 20) });
    expect(skevo(['outline', join(folder, 'a.ndjson.zst')], here).err).toContain('2 payloads');
    const { code, err } = skevo(['outline', join(folder, 'cut.ndjson.zst')], here);
    expect(code).toBe(2);
    expect(err).toContain('is not Zstandard, or cut short');
  });

  test('CSV: columns are decided at once, and steered', () => {
    expect(inferred('timetable.csv').properties).toMatchObject({
      departs: { type: 'string', format: 'date-time' },
      seats: { type: ['integer', 'null'] },
      fare: { type: 'number' },
      cycles: { type: 'boolean' },
      phone: { type: 'string' },
      remarks: { type: 'string' },
    });
    expect(inferred('timetable.csv', '--decide', '/seats=text').properties['seats']).toEqual({
      type: 'string',
    });
    const { out } = skevo(['infer', join(partners, 'timetable.csv'), '--explain'], here);
    expect(out).toMatch(
      /\/seats +texts that are whole numbers +all 4 texts can be read as such; empty ones are null .*text:true/,
    );
  });

  test('XML: attributes, text beside them, lists where one is repeated, markup, entities', () => {
    const { $defs } = inferred('fares.xml');
    expect($defs['Fare']!.properties).toMatchObject({
      '@id': { type: 'integer', xml: { name: 'id', attribute: true } },
      price: { $ref: '#/$defs/Price' },
      route: { type: 'array', items: { type: 'string' } },
      until: { type: 'string', format: 'date' },
    });
    expect(inferred('fares.xml').properties).toMatchObject({
      'f:fares': { xml: { name: 'fares', prefix: 'f', namespace: 'https://saltmere.example/fares' } },
    });
    expect($defs['Price']).toMatchObject({
      properties: { '#text': { type: 'number' } },
      required: ['#text'],
    });
    const { out } = skevo(['outline', join(partners, 'fares.xml'), '--at', '/f:fares/fare/*/route/*'], here);
    expect(out).toMatch(/\(payload\) +string +4/);
  });

  test('YAML: each document is a payload, merges resolved, digits kept, comments told', () => {
    const { out, err } = skevo(['outline', join(partners, 'berths.yaml')], here);
    expect(out).toMatch(/\/defaults\/depth +number +2 +4\.50/);
    expect(err).toMatch(/berths\.yaml:2:1: comments are not kept/);
    expect(inferred('berths.yaml').$defs['Berth']).toMatchObject({ required: ['depth', 'lit', 'name'] });
  });

  test.each(['timetable.csv', 'fares.xml', 'berths.yaml'])(
    '%s goes the whole way, through two languages and to the document',
    (name) => {
      const folder = workspace({ [name]: file(name) });
      expect(skevo(['infer', name, '--out', 's.json', '--quiet'], { cwd: folder }).code).toBe(0);
      expect(skevo(['validate', 's.json', name], { cwd: folder })).toMatchObject({ code: 0, out: '' });
      const { code, out } = skevo(['check', 's.json', name, '--language', 'python,typescript'], {
        cwd: folder,
      });
      expect(out).toContain('1 document, written again from what was read: the same');
      expect(code).toBe(0);
      const json = JSON.parse(
        skevo(['check', 's.json', name, '--language', 'typescript', '--json'], { cwd: folder }).out,
      ) as object;
      expect(json).toMatchObject({ documents: { count: 1, losses: [] } });
      const again = name.replace(/\w+$/, 'again.$&');
      const { out: varied } = skevo(
        [
          'vary',
          's.json',
          '--to',
          name.split('.')[1]!,
          '--quiet',
          ...(name.endsWith('.xml') ? ['--out', 'varied'] : []),
        ],
        { cwd: folder },
      );
      if (!name.endsWith('.xml')) {
        const both = workspace({ [again]: varied, 's.json': readFileSync(join(folder, 's.json')) });
        expect(skevo(['validate', 's.json', again], { cwd: both })).toMatchObject({ code: 0, out: '' });
      } else
        expect(skevo(['validate', 's.json', 'varied'], { cwd: folder })).toMatchObject({ code: 0, out: '' });
    },
  );

  test('by --input, from the standard input, compressed, and in UTF-16', () => {
    const rows = (args: string[], input?: Buffer, folder?: string) => {
      const { code, out } = skevo(['outline', ...args, '--quiet'], {
        cwd: folder ?? here.cwd,
        ...(input && { input }),
      });
      expect(code).toBe(0);
      return out;
    };
    const plain = rows([join(partners, 'timetable.csv')]);
    expect(rows(['-', '--input', 'csv'], file('timetable.csv'))).toBe(plain);
    const utf16 = Buffer.concat([
      Buffer.from([0xff, 0xfe]),
      Buffer.from(file('timetable.csv').toString('utf8'), 'utf16le'),
    ]);
    const folder = workspace({
      't.csv.gz': gzipSync(file('timetable.csv')),
      'wide.csv': utf16,
      'named.txt.csv': file('timetable.csv'),
    });
    // XML shows what it is.
    const xml = rows([join(partners, 'fares.xml')]);
    expect(rows(['-'], file('fares.xml'))).toBe(xml);
    expect(rows(['fares.gml'], undefined, workspace({ 'fares.gml': file('fares.xml') }))).toBe(xml);
    for (const name of ['t.csv.gz', 'wide.csv', 'named.txt.csv'])
      expect(rows([name], undefined, folder)).toBe(plain);
  });

  test('a project learns from them and proves them', () => {
    const folder = workspace({
      'timetable.csv': file('timetable.csv'),
      'skevo.yaml':
        'contracts:\n  row:\n    samples: timetable.csv\n    schema: s.json\n    decisions: { /seats: { text: true } }\n    languages: [{ language: typescript, out: out }]\n',
    });
    const { code, out } = skevo(['run'], { cwd: folder });
    expect(out).toContain('nothing lost of 6 payloads');
    expect(out).toContain('1 document, written again from what was read: the same');
    expect(code).toBe(0);
    expect(JSON.parse(readFileSync(join(folder, 's.json'), 'utf8'))).toMatchObject({
      properties: { seats: { type: 'string' }, fare: { type: 'number' } },
    });
    expect(skevo(['run', '--locked'], { cwd: folder }).code).toBe(0);
  });

  test('init finds them, each a contract of its own', () => {
    const folder = workspace({
      'in/fares.xml': file('fares.xml'),
      'in/timetable.csv': file('timetable.csv'),
    });
    expect(skevo(['init', 'in', '--language', 'typescript'], { cwd: folder }).code).toBe(0);
    const { code, out } = skevo(['run'], { cwd: folder });
    expect(out).toContain('nothing lost of 6 payloads');
    expect(out).toContain('nothing lost of 1 payload in');
    expect(code).toBe(0);
  });

  test('what new files say is learned in their own places', () => {
    const folder = workspace({ 'a.csv': 'id,seats\n1,2\n2,3\n', 'b.csv': 'id,seats,wind\n3,many,7\n' });
    expect(skevo(['infer', 'a.csv', '--out', 's.json', '--quiet'], { cwd: folder }).code).toBe(0);
    const { out, err } = skevo(['infer', 'b.csv', '--update', 's.json'], { cwd: folder });
    expect(JSON.parse(out)).toMatchObject({
      properties: { seats: { anyOf: [{ type: 'integer' }, { type: 'string' }] }, wind: { type: 'integer' } },
    });
    expect(err).toMatch(/\/seats .*b\.csv:2:3/);
  });

  test('elements in an order that keys cannot keep are told with their place', () => {
    const folder = workspace({
      'log.xml': '<log>\n  <note>a</note><entry>1</entry>\n  <note>b</note>\n</log>\n',
    });
    skevo(['infer', 'log.xml', '--out', 's.json', '--quiet'], { cwd: folder });
    const { code, out } = skevo(['check', 's.json', 'log.xml', '--language', 'typescript'], { cwd: folder });
    expect(code).toBe(1);
    expect(out).toMatch(
      /1 document, written again from what was read: 1 not the same\n +log\.xml:2:\d+\n +<entry> comes back as <note>/,
    );
    addFiles(folder, {
      'skevo.yaml':
        'contracts:\n  log: { samples: log.xml, schema: s.json, languages: [{ language: typescript, out: out }] }\n',
    });
    const ran = skevo(['run'], { cwd: folder });
    expect([ran.code, ran.out]).toEqual([1, expect.stringContaining('1 not the same')]);
  });
});

describe('what is refused, with line, column and remedy', () => {
  test.each<[string, string | Buffer, string[]]>([
    [
      'a.csv',
      'a,b\n1\n',
      ['a.csv:2:1', 'this row has 1 cell, and the header 2 cells', 'told apart by commas'],
    ],
    ['a.csv', 'a;b\n1;2\n1;2;3\n', ['a.csv:3:5', '3 cells, and the header 2 cells', 'semicolons']],
    ['a.csv', 'a,b,a\n1,2,3\n', ['a.csv:1:5', 'two columns are called "a", 1 and 3']],
    ['a.csv', 'a,,b\n1,2,3\n', ['a.csv:1:3', 'column 2 has no name']],
    ['a.csv', '', ['a.csv', 'no header']],
    ['a.csv', 'a,b\n1,"x\n', ['a double quote is opened and never closed']],
    ['a.csv', 'a,b\n1,x"y\n', ['a.csv:2:', 'a double quote stands inside a cell']],
    ['a.csv', 'a,b\n1,"x"y\n', ['a.csv:2:', 'text goes on after a closing double quote']],
    [
      'a.csv',
      Buffer.from([0x61, 0x2c, 0x62, 0x0a, 0xe6, 0x2c, 0x31, 0x0a]),
      ['a.csv:2:1', 'neither UTF-8 nor UTF-16', 'iconv'],
    ],
    ['a.xml', '<a>\n <b>\n</a>', ['a.xml:3:', 'this is not XML: unexpected close tag']],
    ['a.xml', '<a>', ['a.xml:1:', 'this is not XML: unclosed tag: a']],
    ['a.xml', '<a>&nbsp;</a>', ['a.xml:1:', 'undefined entity']],
    ['a.xml', '', ['this is not XML: document must contain a root element']],
    ['a.xml', Buffer.from('<a>\xe6</a>', 'latin1'), ['a.xml:1:4', 'neither UTF-8 nor UTF-16']],
    ['a.yaml', 'a: 1\nb: [1,\nc: 2\n', ['a.yaml:3:', 'this is not YAML']],
    ['a.yaml', 'a:\n  1: x\n', ['a.yaml:2:3', 'a key here is no text', 'in quotes']],
    ['a.yaml', 'a: .inf\n', ['a.yaml:1:4', '.inf is a number that JSON has not']],
    ['a.yaml', 'a: *b\n', ['a.yaml:1:4', 'b']],
    ['a.yaml', 'a: &a [*a]\n', ['a.yaml:1:8', 'the alias *a refers to what it is in']],
    ['a.yaml', 'a: 1\na: 2\n', ['comes twice']],
  ])('%s: %j', (name, content, messages) => {
    const folder = workspace({ [name]: content });
    const { code, out, err } = skevo(['infer', name, '--out', 's.json'], { cwd: folder });
    for (const message of messages) expect(err).toContain(message);
    if (messages[0] === 'comes twice') return;
    expect([code, out]).toEqual([2, '']);
    expect(() => readFileSync(join(folder, 's.json'))).toThrow('ENOENT');
  });

  test('entities and aliases that make much of little', () => {
    const lol = Array.from({ length: 12 }, (_, i) => `<!ENTITY e${i + 1} "${`&e${i};`.repeat(10)}">`).join(
      '\n',
    );
    const folder = workspace({
      'bomb.xml': `<!DOCTYPE a [\n<!ENTITY e0 "ha">\n${lol}\n]>\n<a>&e12;</a>`,
      'bomb.yaml': `a0: &a0 [1]\n${Array.from({ length: 8 }, (_, i) => `a${i + 1}: &a${i + 1} [${`*a${i}, `.repeat(10)}]`).join('\n')}\n`,
    });
    expect(skevo(['infer', 'bomb.xml'], { cwd: folder })).toMatchObject({
      code: 2,
      out: '',
      err: expect.stringContaining('undefined entity') as unknown,
    });
    expect(skevo(['infer', 'bomb.yaml'], { cwd: folder })).toMatchObject({
      code: 2,
      out: '',
      err: expect.stringContaining('more than a million values') as unknown,
    });
  });

  test('rows of 10,000 cells, and a cell of megabytes', () => {
    const cells = (make: (i: number) => string) =>
      Array.from({ length: 10_000 }, (_, i) => make(i)).join(',');
    const folder = workspace({
      'wide.csv': `${cells((i) => `c${i}`)}\n${cells(String)}\n${cells((i) => String(2 * i))}\n`,
      'long.csv': `a,b\n1,"${'x, y\n'.repeat(600_000)}"\n2,z\n`,
    });
    expect(skevo(['infer', 'wide.csv', '--quiet'], { cwd: folder })).toMatchObject({ code: 0 });
    const { out } = skevo(['outline', 'long.csv', '--quiet'], { cwd: folder });
    expect(out).toMatch(/\/a +integer +2/);
  });

  test('an external entity is not fetched, and told', () => {
    const folder = workspace({
      'a.xml': '<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/hostname">]>\n<a>1</a>',
      'secret.txt': 'hush',
    });
    const { code, out, err } = skevo(['outline', 'a.xml'], { cwd: folder });
    expect(code).toBe(0);
    expect(out).toMatch(/\/a +integer +1 +1/);
    expect(err).toContain('nothing is fetched');
  });
});
