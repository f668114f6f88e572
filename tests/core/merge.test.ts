import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { mergeModels } from '../../src/core/model/merge.js';
import { infer } from '../payloads.js';

const modelOf = (name: string, ...payloads: unknown[]) =>
  buildModel(
    infer(
      payloads.map((each) => JSON.stringify(each)),
      name,
    ).schema,
  );
const leg = { pier: 'N', minutes: 5 };

describe('types of several payloads', () => {
  test('that are the same are one, whatever is said of them', () => {
    const a = modelOf('Sailing', { legs: [leg, leg] });
    const b = modelOf('Timetable', { legs: [leg, leg], page: 1 });
    const said = { ...b, records: b.records.map((each) => ({ ...each, description: `of ${each.name}` })) };
    const { model, parts } = mergeModels([a, said], 'ferries');
    expect(model.records.map(({ name }) => name).sort()).toEqual(['Leg', 'Sailing', 'Timetable']);
    expect(model.roots.map(({ name }) => name)).toEqual(['Sailing', 'Timetable']);
    expect(parts[1]!.records.map(({ name }) => name)).toEqual(b.records.map(({ name }) => name));
    expect(model.records.find(({ name }) => name === 'Leg')).not.toHaveProperty('description');
  });

  test('that differ get names apart, and so does what holds them', () => {
    const a = modelOf('Sailing', { route: { legs: [leg, leg] } });
    const b = modelOf('Timetable', { route: { legs: [{ pier: 'N' }, { pier: 'S' }] } });
    const { model, parts } = mergeModels([a, b], 'ferries');
    expect(model.records.map(({ name }) => name).sort()).toEqual([
      'Leg',
      'Route',
      'Sailing',
      'Timetable',
      'TimetableLeg',
      'TimetableRoute',
    ]);
    const route = parts[1]!.records.find(({ name }) => name === 'TimetableRoute')!;
    expect(route.fields[0]!.type).toEqual({ kind: 'list', items: { kind: 'record', name: 'TimetableLeg' } });
    expect(parts[1]!.root).toEqual({ kind: 'record', name: 'Timetable' });
  });

  test('with roots of one name have two', () => {
    const a = modelOf('Sailing', { id: 1 });
    const b = modelOf('Sailing', { id: 'x' });
    const { model } = mergeModels([a, b], 'ferries');
    expect(model.roots.map(({ name }) => name)).toEqual(['Sailing', 'SailingSailing']);
    expect(model.roots.map(({ type }) => type)).toEqual([
      { kind: 'record', name: 'Sailing' },
      { kind: 'record', name: 'SailingSailing' },
    ]);
    const same = mergeModels([a, a], 'ferries').model;
    expect(same.records).toHaveLength(1);
    expect(same.roots.map(({ name }) => name)).toEqual(['Sailing', 'Sailing 2']);
  });

  test('that contain themselves are one when they are the same', () => {
    const comment = { text: 'a', replies: [{ text: 'b', replies: [{ text: 'c', replies: [] }] }] };
    const a = modelOf('Notice', { comments: [comment, comment] });
    const b = modelOf('Report', { comments: [comment, comment], id: 1 });
    const names = mergeModels([a, b], 'ferries').model.records.map(({ name }) => name);
    expect(names.filter((name) => name.includes('Comment'))).toEqual(['Comment']);
  });
});
