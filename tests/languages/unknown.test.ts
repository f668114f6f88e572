import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { readSchema } from '../../src/core/schema/read.js';
import { unknownRules, type UnknownRule } from '../../src/languages/language.js';
import { checkStyle } from '../../src/workbench/check.js';
import { bytes, infer, languagesFor, languagesHere, payloadsOf, patient, rulesOf } from '../support.js';

const known = [
  '{"code":"A","legs":[{"pier":"North","next":{"pier":"South"}}],"notice":{"kind":"gale","force":8},"extras":{}}',
  '{"code":"B","delay":1,"legs":[],"notice":{"kind":"fog","metres":200},"extras":{}}',
  '{"code":"C","delay":null,"legs":[],"notice":{"kind":"fog","metres":200},"extras":{}}',
];
const { schema } = infer(known);
/** A record without fields: payloads alone would make it a map. */
const extras = {
  ...schema.properties!.get('extras')!,
  properties: new Map(),
  additionalProperties: undefined,
};
const strange =
  String.raw`{"code":"A","seats":12,"legs":[
  {"pier":"North","gate":null,"next":{"pier":"South","fares":[1.10,12345678901234567890,{},[],1e2]}}],
  "notice":{"kind":"gale","force":8,"unknown":{"a":"b"}},"extras":{"note":"\u0000é"},"unknown":1,"unknown2":true,
  "__proto__":{"x":1},"*/ #{x} $` +
  String.raw`{y} \" \\":"\"","7":7,"constructor":{"name":""}}`.replace(/\n\s*/g, '');
const places = [
  '/seats',
  '/legs/0/gate',
  '/legs/0/next/fares',
  '/notice/unknown',
  '/extras/note',
  '/unknown',
  '/unknown2',
  '/__proto__',
  '/*~1 #{x} ${y} " \\',
  '/7',
  '/constructor',
];

/** Records with keys that the schema names, and a type for all others. */
const typedOthers = {
  title: 'Sailing',
  type: 'object',
  properties: {
    code: { type: 'string' },
    fares: {
      type: 'object',
      properties: { adult: { type: 'integer', format: 'int32' } },
      required: ['adult'],
      additionalProperties: { type: 'integer', format: 'int32' },
    },
  },
  required: ['code'],
  additionalProperties: {
    type: 'object',
    properties: { pier: { type: ['string', 'null'] } },
    required: ['pier'],
  },
};
const typed = readSchema({ name: 's.json', bytes: bytes(JSON.stringify(typedOthers)), firstLine: 1 });
const modelWith = (more: readonly (readonly [string, typeof schema])[]) =>
  buildModel({ ...schema, properties: new Map([...schema.properties!, ['extras', extras], ...more]) });
/** Both in one program: a build takes most of the time. */
const whole = modelWith([['typed', { ...typed, title: undefined }]]);
const untyped = modelWith([]);
const withOthers = [
  '{"code":"A","fares":{"adult":5,"child":3,"dog":1},"N":{"pier":"x"},"S":{"pier":null}}',
  '{"code":"B","fares":{"adult":5}}',
  '{"code":"C"}',
].map((typed) => known[1]!.replace('"extras":{}', `"extras":{},"typed":${typed}`));

for (const language of await languagesFor(0)) {
  describe.concurrent.each(language.styles)(`${language.name} $name`, (style) => {
    // What its library cannot bind, and what its strings cannot hold, it cannot carry either.
    const bound =
      style.unboundKeys === undefined
        ? strange
        : strange.replace('"__proto__":{"x":1},', '').replace(',"constructor":{"name":""}', '');
    const foreign = language.hasNul === false ? bound.replace('\\u0000', '') : bound;
    const isTyped = style.typesOthers === true;
    const others = isTyped ? withOthers : [];
    const check = (unknown: UnknownRule, payloads: readonly string[], model = isTyped ? whole : untyped) =>
      checkStyle(language, style, model, 'sailing.schema.json', payloadsOf(payloads), {
        strict: false,
        pedantic: true,
        unknown,
        limits: patient,
      });
    const losses = (result: Awaited<ReturnType<typeof check>>) => {
      expect(result.reason).toBeUndefined();
      return result.findings.filter(({ severity }) => severity === 'loss');
    };

    const rules = rulesOf(style);
    test.runIf(rules.includes('keep'))(
      'keeps fields that the schema does not know, or types without a name',
      async () => {
        const result = await check('keep', [foreign, ...known, ...others]);
        expect(losses(result)).toEqual([]);
        expect(result.returned).toBe(4 + others.length);
      },
    );

    test.runIf(!isTyped)(
      'carries what is typed without a name, untyped, and rejects nothing then',
      async () => {
        const result = await check('drop', [...known, ...withOthers], whole);
        expect(losses(result)).toEqual([]);
        expect(result.returned).toBe(6);
        expect((await check('reject', known, whole)).reason).toContain(
          'cannot reject fields that the schema does not know where it types those that it does not name',
        );
      },
    );

    test.runIf(style.carriesUnknown)('carries them all the same, some but for their digits', async () => {
      const found = losses(await check('drop', [foreign, ...known, ...others]));
      const rounded = [{ kind: 'altered', pointer: '/legs/0/next/fares/1' }];
      expect(found).toMatchObject(language.name === 'r' ? [] : rounded);
    });

    test.runIf(!style.carriesUnknown)(
      'drops them, each of which is found to be lost, and what is typed is not',
      async () => {
        const found = losses(await check('drop', [strange, ...known, ...others]));
        expect(found.map(({ kind, pointer }) => `${kind} ${pointer}`).sort()).toEqual(
          places.map((place) => `lost ${place}`).sort(),
        );
      },
    );

    test.each(unknownRules.filter((rule) => !rules.includes(rule)))(
      'cannot %s them, and says so',
      async (rule) => {
        expect((await check(rule, known)).reason).toContain(
          `${language.name}:${style.name} cannot ${rule} fields that the schema does not know\nTake --unknown `,
        );
      },
    );

    test.runIf(rules.includes('reject'))('refuses them and says where', async () => {
      const payloads = [
        known[0]!.replace('"pier":"South"', '"pier":"South","gate":1'),
        known[0]!.replace('"force":8', '"force":8,"gate":1'),
        known[0]!.replace('"extras":{}', '"extras":{"gate":1}'),
      ];
      const result = await check('reject', [...payloads, ...known, ...others]);
      const found = losses(result);
      expect(found.map(({ kind }) => kind)).toEqual(['refused', 'refused', 'refused']);
      for (const { cause } of found) expect(cause).toMatch(/gate/);
      // The library of Scala says where in the text it is, not on which way.
      const [first, last] =
        language.name === 'scala'
          ? [/offset: 0x00000041$/, /offset: 0x000000[0-9a-f]+$/]
          : [/legs.*0.*next/s, /extras\W.*gate|gate.*extras/s];
      expect(found[0]!.cause).toMatch(first!);
      expect(found[2]!.cause).toMatch(last!);
      expect(result.returned).toBe(3 + others.length);
    });
  });
}

test('Go refuses what is not of the type of the other fields', async () => {
  const go = (await languagesHere()).find(({ name }) => name === 'go')!;
  const odd = ['{"code":"A","fares":{"adult":5,"dog":"x"}}', '{"code":"A","N":{}}', '{"code":"A","N":null}'];
  const result = await checkStyle(go, go.styles[0], buildModel(typed), 's.json', payloadsOf(odd), {
    strict: false,
    limits: patient,
  });
  expect(result.findings.map(({ kind, cause }) => `${kind}: ${cause}`)).toEqual([
    'refused: json: cannot unmarshal string into Go struct field sailing.fares.dog of type int32',
    'refused: json: cannot unmarshal nothing into Go struct field .N.pier of type *string',
    'refused: json: cannot unmarshal null into Go struct field .N of type sailing.Other',
  ]);
});
