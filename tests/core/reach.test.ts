import { describe, expect, test } from 'vitest';
import { parsePlace } from '../../src/core/json/pointer.js';
import { buildModel } from '../../src/core/model/build.js';
import { plainReach, reach, type ReachStep } from '../../src/core/model/reach.js';
import { infer, parse } from '../payloads.js';

/** The way through the types of payloads, in short words. */
function way(texts: readonly string[], tokens: readonly (string | number)[]): string[] {
  const model = buildModel(infer(texts).schema);
  return reach(model, parse(texts[0]!), tokens).map((step: ReachStep) => {
    switch (step.kind) {
      case 'field':
        return `${step.record}.${step.key}${step.mayLack ? '?' : ''}`;
      case 'each':
        return `each ${step.of} of ${step.word}${step.mayLack ? '?' : ''}`;
      case 'position':
        return `position ${step.index}`;
      case 'arm':
        return `only ${step.type.kind}`;
    }
  });
}

const notices = Array.from({ length: 12 }, (_, i) =>
  i % 2 ? `{"kind":"delay","minutes":${i}}` : `{"kind":"closure","berth":{"name":"N1"},"until":null}`,
);

describe('the way to a place through the types', () => {
  test.each<[what: string, payloads: string[], tokens: (string | number)[], steps: string[]]>([
    ['a field', ['{"id":1}'], ['id'], ['Sailing.id']],
    ['a field that may be absent', ['{"id":1}', '{}'], ['id'], ['Sailing.id?']],
    ['a field that may be null', ['{"id":1}', '{"id":null}'], ['id'], ['Sailing.id?']],
    [
      'an element of a list',
      ['{"legs":[{"pier":"N"},{"pier":"S"}]}'],
      ['legs', 1, 'pier'],
      ['Sailing.legs', 'each list of legs', 'Leg.pier'],
    ],
    [
      'elements that may be null',
      ['{"legs":[{"pier":"N"},null]}'],
      ['legs', 0, 'pier'],
      ['Sailing.legs', 'each list of legs?', 'Leg.pier'],
    ],
    [
      'a value of a map',
      ['{"tides":{"2031-05-01":{"height":1},"2031-05-02":{"height":2}}}'],
      ['tides', '2031-05-02', 'height'],
      ['Sailing.tides', 'each map of tides', 'Tide.height'],
    ],
    [
      'a position of a tuple',
      ['{"at":["N",1]}', '{"at":["S",2]}', '{"at":["L",3]}'],
      ['at', 1],
      ['Sailing.at', 'position 1'],
    ],
    [
      'an alternative of a union',
      [`[${notices.join(',')}]`],
      [0, 'berth', 'name'],
      ['each list of Sailing', 'only record', 'ClosureSailingItem.berth', 'Berth.name'],
    ],
    [
      'what lies deeper than the types',
      ['{"any":[]}', '{"any":{}}'],
      ['any', 0, 'x'],
      ['Sailing.any', 'only list', 'each list of any'],
    ],
    ['a key that the types do not know', ['{"id":1}'], ['name'], []],
  ])('to %s', (_what, payloads, tokens, steps) => expect(way(payloads, tokens)).toEqual(steps));
});

describe('the way through plain JSON', () => {
  const payload = parse('{"results":[{"legs":[{"pier":"N"}]}],"tides":{"2031-05-01":{"height":1}}}');
  const steps = (place: string) =>
    plainReach(payload, parsePlace(place)!, 'page').map((step) =>
      step.kind === 'key' ? step.key : `each ${step.of} of ${step.word}`,
    );

  test('tells lists from maps by the payload', () => {
    expect(steps('/results/*/legs/*/pier')).toEqual([
      'results',
      'each list of results',
      'legs',
      'each list of legs',
      'pier',
    ]);
    expect(steps('/tides/*/height')).toEqual(['tides', 'each map of tides', 'height']);
    expect(steps('')).toEqual([]);
  });
});
