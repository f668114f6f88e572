import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { describe, expect, test } from 'vitest';
import { addFiles, skevo, workspace } from '../support.js';

const schemas = resolve('demo/schemas');
const here = { cwd: resolve('.') };
const description = join(schemas, 'ferries.openapi.yaml');

describe('schemas of other kinds', () => {
  test.each<[string, string, string]>([
    ['an answer of an OpenAPI description', `${description}#listSailings`, join(schemas, 'sailings.json')],
    ['an Avro schema', join(schemas, 'tides.avsc'), resolve('demo/partners/tides.avro')],
    ['an XML Schema', `${join(schemas, 'fares.xsd')}#f:fares`, resolve('demo/partners/fares.xml')],
  ])('%s: payloads meet it, and come back whole', (_, schema, payload) => {
    expect(skevo(['validate', schema, payload], here)).toMatchObject({ code: 0 });
    const { code, out } = skevo(['check', schema, payload, '--language', 'python'], here);
    expect(out).toMatch(/nothing lost/);
    expect(code).toBe(0);
    const made = skevo(['vary', schema, '--quiet'], here);
    expect(made.code).toBe(0);
    const folder = workspace({ 'made.ndjson': made.out });
    expect(skevo(['validate', schema, join(folder, 'made.ndjson')], here)).toMatchObject({ code: 0 });
  });

  test('OpenAPI: words of a discriminator tell alternatives apart, parts are included, notes say what is not', () => {
    const { out, err } = skevo(
      ['generate', `${description}#listSailings`, '--language', 'typescript:interface'],
      here,
    );
    expect(out).toMatch(
      /interface CarFerry extends VesselBase \{\n {2}kind: "car";\n {2}cars: number;\n {2}ramps\?: string\[\];/,
    );
    expect(out).toContain('interface ListSailingsAnswer');
    expect(err).toMatch(
      /ferries\.openapi\.yaml:\d+:11: classes do not express the keyword "patternProperties"/,
    );
  });

  test('OpenAPI: what includes a schema with a discriminator are its alternatives, and theirs', () => {
    const including = (base: string, key: string) => ({
      allOf: [{ $ref: `#/components/schemas/${base}` }, { properties: { [key]: { type: 'boolean' } } }],
    });
    const folder = workspace({
      'api.json': JSON.stringify({
        openapi: '3.0.3',
        components: {
          schemas: {
            Fleet: { type: 'array', items: { $ref: '#/components/schemas/Vessel' } },
            Vessel: {
              type: 'object',
              required: ['kind', 'id'],
              properties: { kind: { type: 'string' }, id: { type: 'integer', format: 'int32' } },
              discriminator: {
                propertyName: 'kind',
                mapping: { car: 'CarFerry', cat: '#/components/schemas/Cat' },
              },
            },
            CarFerry: including('Vessel', 'ramps'),
            Cat: including('Vessel', 'hulls'),
            NightCat: including('Cat', 'lights'),
            Berth: { type: 'object', properties: { vessel: { $ref: '#/components/schemas/Cat' } } },
          },
        },
      }),
      'fleet.json':
        '[{"kind":"car","id":1,"ramps":true},{"kind":"cat","id":2},{"kind":"NightCat","id":3,"hulls":true,"lights":true}]',
    });
    const made = skevo(['generate', 'api.json#Fleet', '--language', 'typescript:interface'], { cwd: folder });
    expect(made).toMatchObject({ code: 0, err: '' });
    expect(made.out).toMatch(/type Vessel = CarFerry \| Cat \| NightCat/);
    expect(made.out).toMatch(
      /interface NightCat extends VesselBase \{\n {2}kind: "NightCat";\n {2}hulls\?: boolean;/,
    );
    const checked = skevo(['check', 'api.json#Fleet', 'fleet.json', '--language', 'python'], { cwd: folder });
    expect(checked).toMatchObject({ code: 0, out: expect.stringContaining('nothing lost') });
    // A schema that has one alternative alone is not the union.
    const one = skevo(['generate', 'api.json#Berth', '--language', 'typescript:interface'], { cwd: folder });
    expect(one.out).toMatch(/vessel\?: Cat;/);
  });

  test('OpenAPI: the closest alternative is told', () => {
    const folder = workspace({ 'a.json': '{"results":[{"id":1,"vessel":{"id":1,"kind":"car"}}]}' });
    const { out, code } = skevo(['validate', `${description}#listSailings`, join(folder, 'a.json')], here);
    expect(code).toBe(1);
    expect(out).toMatch(/closest is CarFerry:\n.*expected the key "cars"/);
  });

  test.each<[string, RegExp]>([
    ['', /of it, one schema or one answer is asked for[^]*listSailings/],
    ['#listSailing', /neither a schema nor an operation "listSailing"[^]*Did you mean .*#listSailings/],
    ['#listSailings:404', /listSailings has no answer 404[^]*There are 200, default/],
    ['#/components/schemas/Salling', /leads nowhere in this schema[^]*Did you mean "Sailing"/],
  ])('OpenAPI: %s is refused', (fragment, message) => {
    const { code, err } = skevo(['generate', `${description}${fragment}`, '--language', 'python'], here);
    expect(code).toBe(2);
    expect(err).toMatch(message);
  });

  test('OpenAPI: a schema, an answer by its status, and by its pointer', () => {
    for (const [fragment, type] of [
      ['#Sailing', 'class Sailing'],
      ['#listSailings:default', 'class Problem'],
      ['#/components/schemas/CarFerry', 'class CarFerry'],
    ] as const)
      expect(skevo(['generate', `${description}${fragment}`, '--language', 'python'], here).out).toContain(
        type,
      );
  });

  test.each<[string, string, RegExp]>([
    [
      'a space in a name',
      '{"type":"record","name":"Tide","fields":[{"name":"a b","type":"int"}]}',
      /"a b" is no name in Avro[^]*:1:50/,
    ],
    [
      'an unknown type',
      '{"type":"record","name":"Tide","fields":[{"name":"a","type":"itn"}]}',
      /there is no type "itn" before this[^]*:1:61/,
    ],
    [
      'a field twice',
      '{"type":"record","name":"Tide","fields":[{"name":"a","type":"int"},{"name":"a","type":"int"}]}',
      /two fields "a"/,
    ],
    [
      'a union in a union',
      '{"type":"record","name":"Tide","fields":[{"name":"a","type":["int",["null"]]}]}',
      /a union holds no union/,
    ],
    [
      'a symbol that is none',
      '{"type":"enum","name":"Tide","symbols":["a-b"]}',
      /this symbol is no name in Avro/,
    ],
    [
      'a type twice',
      '[{"type":"fixed","name":"A","size":2},{"type":"fixed","name":"A","size":2}]',
      /the type A is defined twice/,
    ],
  ])('Avro: %s is refused with its place', (_, text, message) => {
    const folder = workspace({ 'tide.avsc': text });
    const { code, err } = skevo(['generate', join(folder, 'tide.avsc'), '--language', 'python'], here);
    expect(code).toBe(2);
    expect(err).toMatch(message);
  });

  test('Avro: namespaces, aliases, a type in itself, and logical types', () => {
    const folder = workspace({
      'tide.avsc': JSON.stringify({
        type: 'record',
        name: 'Tide',
        namespace: 'a.b',
        aliases: ['Old'],
        fields: [
          { name: 'day', type: { type: 'int', logicalType: 'date' } },
          { name: 'next', type: ['null', 'a.b.Tide'] },
          { name: 'before', type: ['null', 'Old'] },
          { name: 'kind', type: { type: 'enum', name: 'c.Kind', symbols: ['high', 'low'] } },
          { name: 'again', type: 'c.Kind' },
          { name: 'raw', type: { type: 'fixed', name: 'Raw', size: 2 } },
        ],
      }),
    });
    const { out, code } = skevo(
      ['generate', join(folder, 'tide.avsc'), '--language', 'typescript:interface'],
      here,
    );
    expect(code).toBe(0);
    expect(out).toMatch(
      /interface Tide \{\n {2}day: string;\n {2}next: Tide \| null;\n {2}before: Tide \| null;\n {2}kind: Kind;\n {2}again: Kind;\n {2}raw: string;/,
    );
  });

  test('XML Schema: extensions, groups, choices, substitutions, lists, includes', () => {
    const folder = workspace();
    addFiles(folder, {
      'main.xsd': `<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema">
  <xs:include schemaLocation="parts.xsd"/>
  <xs:element name="sailing" type="CarSailing"/>
  <xs:complexType name="CarSailing">
    <xs:complexContent>
      <xs:extension base="Sailing">
        <xs:sequence><xs:group ref="deck"/><xs:element ref="place" maxOccurs="2"/></xs:sequence>
        <xs:attributeGroup ref="marks"/>
      </xs:extension>
    </xs:complexContent>
  </xs:complexType>
</xs:schema>`,
      'parts.xsd': `<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema">
  <xs:complexType name="Sailing">
    <xs:sequence>
      <xs:element name="no" type="xs:int"/>
      <xs:choice><xs:element name="day" type="Days"/><xs:element name="date" type="xs:date" nillable="true"/></xs:choice>
    </xs:sequence>
    <xs:attribute name="id" type="xs:long" use="required"/>
  </xs:complexType>
  <xs:simpleType name="Days"><xs:list itemType="xs:token"/></xs:simpleType>
  <xs:group name="deck"><xs:all><xs:element name="cars" type="xs:int" minOccurs="0"/></xs:all></xs:group>
  <xs:attributeGroup name="marks"><xs:attribute name="mark"><xs:simpleType><xs:union memberTypes="xs:int"><xs:simpleType><xs:restriction base="xs:string"><xs:enumeration value="none"/></xs:restriction></xs:simpleType></xs:union></xs:simpleType></xs:attribute></xs:attributeGroup>
  <xs:element name="place" type="xs:string" abstract="true"/>
  <xs:element name="pier" type="xs:string" substitutionGroup="place"/>
  <xs:element name="buoy" type="xs:int" substitutionGroup="place"/>
</xs:schema>`,
      'a.xml':
        '<sailing id="1" mark="4"><no>7</no><day>Mon Tue</day><cars>2</cars><pier>N1</pier><buoy>3</buoy></sailing>',
      'b.xml':
        '<sailing id="2" mark="none" xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance"><no>8</no><date xsi:nil="true"/><pier>N1</pier><pier>S2</pier></sailing>',
      'c.xml': '<sailing id="x"><no>8</no></sailing>',
    });
    const schema = join(folder, 'main.xsd');
    const payloads = [join(folder, 'a.xml'), join(folder, 'b.xml')];
    const { out, err } = skevo(['generate', schema, '--language', 'typescript:interface'], here);
    for (const field of [
      'no: number',
      'day?: string',
      'date?: string | null',
      'cars?: number',
      'pier?: string[]',
      'buoy?: number[]',
      '"@id": ',
      '"@mark"?: IntegerOrMark',
    ])
      expect(out).toContain(field);
    expect(err).toContain('which of several elements there is (xs:choice)');
    expect(skevo(['validate', schema, ...payloads], here)).toMatchObject({ code: 0 });
    expect(skevo(['check', schema, ...payloads, '--language', 'python'], here).out).toMatch(
      /2 of 2 .*nothing lost[^]*2 documents, written again from what was read: the same/,
    );
    expect(skevo(['validate', schema, join(folder, 'c.xml')], here).out).toMatch(
      /c\.xml:1:1 {2}\/sailing\/@id/,
    );
  });

  test.each<[string, string, RegExp]>([
    [
      '<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema"><xs:element name="a" type="B"/></xs:schema>',
      '',
      /there is no type "B"[^]*:1:56/,
    ],
    ['<fares/>', '', /this is XML, and no XML Schema/],
    [
      '<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema"><xs:element name="a"/><xs:element name="b"/></xs:schema>',
      '',
      /2 elements may be the document[^]*there are a and b/,
    ],
    [
      '<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema"><xs:element name="fares"/></xs:schema>',
      '#fare',
      /no element "fare" here[^]*Did you mean .*#fares/,
    ],
    [
      '<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema"><xs:include schemaLocation="gone.xsd"/><xs:element name="a"/></xs:schema>',
      '',
      /there is no file .*gone\.xsd/,
    ],
    [
      '<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema"><xs:element name="a"></xs:schema>',
      '',
      /this is not XML: unexpected close tag/,
    ],
  ])('XML Schema: %s%s is refused', (text, fragment, message) => {
    const folder = workspace({ 'a.xsd': text });
    const { code, err } = skevo(
      ['generate', `${join(folder, 'a.xsd')}${fragment}`, '--language', 'python'],
      here,
    );
    expect(code).toBe(2);
    expect(err).toMatch(message);
  });

  test('XML Schema: an element in itself is a type in itself, and a type of itself is refused', () => {
    const head = '<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema">';
    const folder = workspace({
      'tree.xsd': `${head}<xs:element name="tree"><xs:complexType><xs:sequence><xs:element ref="berth"/></xs:sequence></xs:complexType></xs:element><xs:element name="berth"><xs:complexType><xs:sequence><xs:element ref="berth" minOccurs="0" maxOccurs="unbounded"/></xs:sequence><xs:attribute name="id"/></xs:complexType></xs:element></xs:schema>`,
      'self.xsd': `${head}<xs:element name="a" type="A"/><xs:complexType name="A"><xs:complexContent><xs:extension base="A"/></xs:complexContent></xs:complexType></xs:schema>`,
      'group.xsd': `${head}<xs:element name="a" type="A"/><xs:complexType name="A"><xs:group ref="g"/></xs:complexType><xs:group name="g"><xs:sequence><xs:group ref="g"/></xs:sequence></xs:group></xs:schema>`,
      'nameless.xsd': `${head}<xs:element name="a"><xs:complexType><xs:sequence><xs:element/></xs:sequence></xs:complexType></xs:element></xs:schema>`,
    });
    const { out } = skevo(['generate', join(folder, 'tree.xsd'), '--language', 'typescript:interface'], here);
    expect(out).toMatch(/interface Berth \{\n {2}berth\?: Berth\[\];\n {2}"@id"\?: string;\n\}/);
    for (const [file, message] of [
      ['self.xsd', 'this is a part of itself'],
      ['group.xsd', 'this is a part of itself'],
      ['nameless.xsd', 'an element has a name'],
    ] as const) {
      const refused = skevo(['generate', join(folder, file), '--language', 'python'], here);
      expect([refused.code, refused.err.split('\n')[0]]).toEqual([2, `skevo: ${message}`]);
    }
  });

  test('a recording is matched with a description: each answer with its operation and status', () => {
    const recording = join(schemas, 'morning.har');
    const { code, out } = skevo(['check', description, recording, '--language', 'python', '--quiet'], here);
    expect(code).toBe(0);
    expect(out).toMatch(
      /listSailings 200: GET \/sailings, 2 answers[^]*2 of 2[^]*listSailings default: GET \/sailings, 1 answer[^]*1 of 1[^]*of no operation GET \/v1\/tides 200/,
    );
    const text = readFileSync(recording, 'utf8');
    const folder = workspace({
      'wrong.har': text
        .replace('\\"cars\\": 20', '\\"cars\\": true')
        .replaceAll('page=99', 'day=9')
        .replace('"status": 404', '"status": 201'),
      'other.har': text.replaceAll('/v1/sailings', '/v1/harbours'),
    });
    const wrong = skevo(['check', description, join(folder, 'wrong.har'), '--language', 'python'], here);
    expect(wrong.code).toBe(1);
    expect(wrong.out).toMatch(/1 of 2[^]*\/results\/0\/vessel\/cars: true or false instead of an integer/);
    const other = skevo(['check', description, join(folder, 'other.har'), '--language', 'python'], here);
    expect(other.code).toBe(2);
    expect(other.out).toMatch(/no answer showed listSailings 200 and listSailings default/);
    expect(skevo(['check', description, recording, '--json'], here).err).toContain(
      '--json cannot be given for a whole description',
    );
  });

  test.each(['openapi', 'avro'])('a schema is written as %s, and read again says the same', (to) => {
    const folder = workspace();
    const samples = resolve('demo/partners/timetable.csv');
    const path = join(folder, to === 'avro' ? 'a.avsc' : 'a.json');
    skevo(['infer', samples, '--to', to, '--out', path, '--quiet'], here);
    const fields = (schema: string) =>
      /export interface Timetable \{([^]*?)\}/.exec(
        skevo(['generate', schema, '--language', 'typescript:interface'], here).out,
      )?.[1];
    const plain = join(folder, 'plain.schema.json');
    skevo(['infer', samples, '--out', plain, '--quiet'], here);
    expect(fields(to === 'avro' ? path : `${path}#Timetable`)).toBe(fields(plain));
    const refused = skevo(['infer', samples, '--to', to, '--update', plain], here);
    expect(refused.err).toContain(`--to ${to} cannot be given with --update`);
  });

  test('schemas of different kinds are compared', () => {
    const folder = workspace({
      'reading.schema.json': JSON.stringify({
        title: 'TideReading',
        type: 'object',
        properties: { station: { type: 'string' } },
        required: ['station'],
      }),
    });
    const { out, code } = skevo(
      ['compare', join(schemas, 'tides.avsc'), join(folder, 'reading.schema.json')],
      here,
    );
    expect(code).toBe(1);
    expect(out).toContain('/gusts');
  });
});
