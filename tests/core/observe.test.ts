import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Note } from '../../src/core/note.js';
import { writeJson } from '../../src/core/json/write.js';
import type { Form } from '../../src/core/observe/form.js';
import { formsAt, mergeObservation, Observation, type Place } from '../../src/core/observe/observation.js';
import { loadObservation, saveObservation } from '../../src/core/observe/save.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import { observeLines } from '../../src/formats/read.js';
import type { Shape } from '../../src/core/observe/shape.js';
import { Observer } from '../../src/core/observe/observe.js';
import { outlineOf, recordsIn } from '../../src/core/infer/outline.js';
import { bytes, infer, observe } from '../payloads.js';
import { payloadSet, tries } from '../arbitraries.js';
import { analyse, inferSchema } from '../../src/core/infer/infer.js';

/** All that is in an observation, scanner's notes to itself aside. */
function facts(place: Place): unknown {
  const {
    items,
    fields,
    positions,
    values,
    tokens,
    shapes,
    lastToken: _last,
    steadyFields: _steady,
    opening: _opening,
    candidates: _candidates,
    varied: _varied,
    lastForm: _lastForm,
    shapeCount: _shapeCount,
    ...rest
  } = place;
  const forms = (each: ReadonlySet<Form>, { shapes: its }: Place) =>
    [...each]
      .map((form) => (form < 0 ? shape([...its!.all()].find(({ serial }) => -serial === form)!) : form))
      .sort();
  const shape = (each: Shape) =>
    each
      .fields()
      .map(({ key }) => key)
      .join('\n');
  return {
    ...rest,
    // A width without an integer means nothing.
    width: place.integers > 0 ? place.width : undefined,
    items: items && facts(items),
    values: values && facts(values),
    positions: positions?.map(facts),
    tokens:
      tokens &&
      [...tokens.byText.values()]
        .map(({ text, count, shapes: around, forms: beside }) => [
          text,
          count,
          [...around].map(shape).sort(),
          [...(beside ?? [])].map(([field, its]) => [field.key, forms(its, field.place)]).sort(),
        ])
        .sort(),
    shapes: shapes && [...shapes.all()].map((each) => [shape(each), each.count]).sort(),
    fields: Object.fromEntries(
      [...fields]
        .sort(([a], [b]) => (a < b ? -1 : 1))
        .map(([key, field]) => [
          `key ${key}`,
          {
            present: field.present,
            first: field.first,
            firstAbsent: field.firstAbsent,
            forms: forms(formsAt(field), field.place),
            place: facts(field.place),
          },
        ]),
    ),
  };
}

function merged(...parts: Observation[]): Observation {
  const target = new Observation();
  for (const part of parts) mergeObservation(target, part);
  return target;
}

describe('merging observations', () => {
  test('of any parts, in any order, gives what one observation of all gives', () => {
    fc.assert(
      fc.property(payloadSet, payloadSet, payloadSet, (a, b, c) => {
        const parts = () =>
          [observe(a, () => {}, 1), observe(b, () => {}, 101), observe(c, () => {}, 201)] as const;
        const [x, y, z] = parts();
        const whole = facts(merged(x, y, z).root);
        const [x2, y2, z2] = parts();
        expect(facts(merged(z2, merged(y2, x2)).root)).toEqual(whole);

        const observer = new Observer([], () => {});
        [a, b, c].forEach((texts, part) =>
          texts.forEach((text, i) =>
            observer.document({
              name: `${String(part * 100 + i + 1).padStart(4, '0')}.json`,
              bytes: bytes(text),
              firstLine: 1,
            }),
          ),
        );
        expect(facts(observer.observation.root)).toEqual(whole);
        expect(inferSchema(merged(z2, y2, x2), { name: 'Sailing' }).schema.$defs).toEqual(
          inferSchema(observer.observation, { name: 'Sailing' }).schema.$defs,
        );
      }),
    );
  });
});

test('threads that each read a part of a file of lines find what one would, to the byte', () => {
  fc.assert(
    fc.property(payloadSet, payloadSet, payloadSet, (...groups) => {
      const parts = groups.map((texts) => bytes(texts.map((text) => `${text}\n`).join('')));
      const part = (chunk: Uint8Array, line = 1) => {
        const observer = new Observer([], () => {});
        observeLines(observer, 'a.ndjson', chunk, line);
        return observer.observation;
      };
      let lines = 0;
      const loaded = parts.map((chunk, i) => {
        const observation = loadObservation(saveObservation(part(chunk)), 'a.ndjson', lines);
        lines += groups[i]!.length;
        return observation;
      });
      const whole = part(Buffer.concat(parts));
      expect(saveObservation(merged(...loaded))).toBe(saveObservation(whole));
      const infer = (observation: Observation) => inferSchema(observation, { name: 'Sailing' });
      const { schema, decisions } = infer(merged(...loaded));
      expect(writeJson(schemaToJson(schema))).toBe(writeJson(schemaToJson(infer(whole).schema)));
      expect(decisions).toEqual(infer(whole).decisions);
    }),
    { numRuns: tries(200) },
  );
});

describe('what is observed', () => {
  test('present, absent and null are counted apart, with their first places', () => {
    const { root } = observe([
      '{"pier":"N"}',
      '{"pier":null}',
      '{\n  "gate": "A"\n}',
      '{"gate":"B","pier":"S"}',
    ]);
    const pier = root.fields.get('pier')!;
    expect(pier).toMatchObject({ present: 3, firstAbsent: { file: '0003.json', line: 1, column: 1 } });
    expect(pier.place).toMatchObject({
      nulls: 1,
      firstNull: { file: '0002.json', line: 1, column: 9 },
      strings: 2,
    });
    expect(root.fields.get('gate')).toMatchObject({
      present: 2,
      first: { file: '0003.json', line: 2, column: 3 },
      firstAbsent: { file: '0001.json', line: 1, column: 1 },
    });
  });

  test('columns count characters', () => {
    const { root } = observe(['{"å": "Østhavn", "b": 1}']);
    expect(root.fields.get('b')!.first).toEqual({ file: '0001.json', line: 1, column: 18 });
  });

  test('keys are found in any order and spelling', () => {
    const { root } = observe(['{"a":1,"b":2,"c":3}', '{"c":1,"a":2}', '{"\\u0061":4,"d":1,"b":1}']);
    expect([...root.fields].map(([key, { present }]) => [key, present])).toEqual([
      ['a', 3],
      ['b', 2],
      ['c', 2],
      ['d', 1],
    ]);
  });

  test('a key that comes twice is noted with both places and counted once', () => {
    const notes: Note[] = [];
    const { root } = observe(['{"a":1,\n"a":2}'], (note) => notes.push(note));
    expect(root.fields.get('a')!.present).toBe(1);
    expect(notes).toEqual([
      {
        message: 'the key "a" comes twice in one object, first at 1:2; the last one counts',
        place: { file: '0001.json', line: 2, column: 1 },
      },
    ]);
  });

  test('nesting that generated decoders could not follow is refused with its place', () => {
    expect(() => observe(['['.repeat(201) + ']'.repeat(201)])).toThrow(/nested more than 200 levels/);
    expect(() => observe(['['.repeat(200) + ']'.repeat(200)])).not.toThrow();
  });
});

describe('the outline', () => {
  test('names the places as --at takes them, and finds the records under an envelope', () => {
    const observation = observe(['{"page":1,"results":[{"id":1,"*":2,"no":3},{"id":2,"no":4}]}']);
    expect(
      outlineOf(analyse(observation, { name: 'Page' })).map(({ place, count, of, types }) => [
        place,
        count,
        of,
        types.join(),
      ]),
    ).toEqual([
      ['', 1, 1, 'object'],
      ['/page', 1, 1, 'integer'],
      ['/results', 1, 1, 'list'],
      ['/results/*', 2, 2, 'object'],
      ['/results/*/id', 2, 2, 'integer'],
      ['/results/*/~2', 1, 2, 'integer'],
      ['/results/*/no', 2, 2, 'integer'],
    ]);
    expect(recordsIn(observation)).toBe('/results/*');
  });
});

test('one payload is said to be too few', () => {
  expect(infer(['{"a":1}']).notes).toHaveLength(1);
  expect(infer(['{"a":1}', '{"a":2}']).notes).toEqual([]);
});
