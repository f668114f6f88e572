import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { condensed, mostAlike, occurrencesOf } from '../../src/core/roundtrip/condense.js';
import type { Finding } from '../../src/core/roundtrip/finding.js';
import { Coverage } from '../../src/core/roundtrip/unproven.js';
import { infer, parse } from '../payloads.js';

const lost = (line: number, more: Partial<Finding> = {}): Finding => ({
  kind: 'lost',
  severity: 'loss',
  pointer: '/gate',
  place: '/gate',
  payload: 'sailings.ndjson',
  line,
  column: 7,
  cause: 'the decoder does not know the key',
  ...more,
});
const many = (count: number, from = 1, more: Partial<Finding> = {}) =>
  Array.from({ length: count }, (_, i) => lost(from + i, more));

describe('findings that are alike', () => {
  test('are all kept up to a hundred', () => {
    expect(condensed(many(mostAlike))).toEqual(many(mostAlike));
  });

  test('are the first hundred and a count from there on', () => {
    const found = condensed(many(mostAlike + 1));
    expect(found).toEqual([...many(mostAlike - 1), lost(mostAlike, { like: 1 })]);
    expect(occurrencesOf(found)).toBe(mostAlike + 1);
  });

  test('are counted the same in parts, whichever comes first', () => {
    const all = many(1000);
    const parts = [all.slice(400, 1000), all.slice(0, 130), all.slice(130, 400)].map(condensed);
    expect(condensed(parts.flat())).toEqual(condensed(all));
    expect(condensed(condensed(parts.slice(0, 2).flat()).concat(parts[2]!))).toEqual(condensed(all));
  });

  test('are those of one kind, place, way and cause, but for the values in the cause', () => {
    const told = (i: number) => ({ cause: `"SF-${i}" at ${i}.5 is no berth` });
    const found = condensed([
      ...Array.from({ length: 150 }, (_, i) => lost(i, told(i))),
      ...many(60, 1, { way: 'field' }),
      ...many(60, 1, { place: '/legs/*/gate' }),
      ...many(60, 1, { kind: 'emptied' }),
    ]);
    expect(found).toHaveLength(100 + 3 * 60);
    expect(found.flatMap(({ like }) => like ?? [])).toEqual([50]);
  });

  test('stand in the order of files, lines and columns', () => {
    const found = condensed([
      lost(2, { payload: 'b.json' }),
      lost(9),
      lost(1, { payload: 'b.json', column: 3 }),
      lost(1, { payload: 'b.json', column: 1 }),
    ]);
    expect(found.map(({ payload, line, column }) => `${payload}:${line}:${column}`)).toEqual([
      'b.json:1:1',
      'b.json:1:3',
      'b.json:2:7',
      'sailings.ndjson:9:7',
    ]);
  });
});

describe('what payloads exercise', () => {
  const payloads = [
    '{"code":"A","kind":"gale","legs":[1,null],"berth":"N1","gate":null}',
    '{"code":"B","kind":"fog","legs":[2],"berth":{"no":1},"gate":"G"}',
    '{"code":"C","kind":"gale","legs":[],"berth":{"no":2}}',
    '{"code":"D","kind":"fog","legs":[3],"berth":"N2","gate":"H"}',
  ];
  const twice = [...payloads, ...payloads, ...payloads, ...payloads];
  const model = buildModel(infer(twice).schema);
  const of = (texts: readonly string[]) => {
    const coverage = new Coverage(model);
    for (const text of texts) coverage.add(parse(text));
    return coverage;
  };

  test('is the same in parts', () => {
    for (const apart of [0, 1, 2, 3, 4]) {
      const joint = new Coverage(model);
      for (const part of [payloads.slice(apart), payloads.slice(0, apart)])
        joint.load(JSON.parse(JSON.stringify(of(part).save())) as ReturnType<Coverage['save']>);
      const whole = of(payloads);
      expect(joint.coverage()).toEqual(whole.coverage());
      expect(joint.unproven(() => true)).toEqual(whole.unproven(() => true));
      expect(joint.save()).toEqual(whole.save());
    }
  });

  test('leaves unproven what no part shows', () => {
    const joint = new Coverage(model);
    joint.load(of(payloads.slice(0, 1)).save());
    expect(joint.unproven(() => false).map(({ pointer, state }) => `${pointer} ${state}`)).toEqual([
      '/kind choice "fog", never used',
      '/berth Berth of a union, never used',
      '/berth/no never present',
      '/gate optional, never absent',
      '/gate nullable, never other than null',
    ]);
  });

  test('of another model is refused', () => {
    expect(() =>
      new Coverage(model).load({ fields: [[99, 1, 0, 0]], nulls: [], arms: [], words: [] }),
    ).toThrow(RangeError);
    expect(() => new Coverage(model).load({ fields: [], nulls: [99], arms: [], words: [] })).toThrow(
      RangeError,
    );
  });
});
