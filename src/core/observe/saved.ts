import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import { SkevoError } from '../error.js';
import { totalAt, type Observation, type Place } from './observation.js';
import { loadObservation } from './save.js';
import { mostShapes } from './shape.js';

const count = { type: 'integer', minimum: 0, maximum: Number.MAX_SAFE_INTEGER };
const tuple = (...items: readonly object[]) => ({
  type: 'array',
  prefixItems: items,
  items: false,
  minItems: items.length,
});
const listOf = (items: object) => ({ type: 'array', items });
const mark = tuple(count, count, count);
const sighting = tuple(count, count, count, { type: 'string' });
const place = { $ref: '#/$defs/place' };
const width = { enum: ['int32', 'double-int', 'int64', 'unbounded'] };
const form = { type: 'integer', minimum: -mostShapes, maximum: 2 ** 31 - 1 };
const index = { type: 'integer', minimum: -1 };

/** What `saveObservation` writes, as a schema. */
const saved = {
  type: 'object',
  required: ['skevoObservation', 'payloads', 'files', 'root'],
  additionalProperties: false,
  properties: {
    skevoObservation: count,
    payloads: { ...count, minimum: 1 },
    files: listOf({ type: 'string' }),
    root: place,
  },
  $defs: {
    place: {
      type: 'object',
      additionalProperties: false,
      properties: {
        nulls: tuple(count, mark),
        booleans: tuple(count, count, sighting),
        integers: tuple(count, width, sighting, sighting),
        decimals: tuple(count, sighting),
        exact: tuple(count, sighting),
        strings: tuple(count, count, count, count, sighting),
        tokens: listOf(tuple({ type: 'string' }, count, listOf(count), listOf(tuple(count, listOf(form))))),
        ids: { anyOf: [listOf({ type: 'string' }), { const: 0 }] },
        blanks: tuple(count, mark),
        read: place,
        singles: count,
        lists: tuple(count, count, mark),
        items: place,
        positions: listOf(place),
        objects: tuple(count, count, mark),
        fields: listOf(
          tuple({ type: 'string' }, count, mark, { anyOf: [mark, { const: 0 }] }, place, {
            anyOf: [listOf(form), { const: 0 }],
          }),
        ),
        values: place,
        shapes: listOf(tuple(index, index, count)),
      },
    },
  },
};

/** Compiled when the first is read: there may be thousands. */
let check: ValidateFunction | undefined;

/**
 * A saved observation that somebody hands in, which may be damaged.
 * @param name what the text is called, for errors
 * @throws SkevoError when it is no saved observation of this version, or says what no payloads can have been
 */
export function readObservation(text: string, name: string): Observation {
  const damaged = (why: string): SkevoError =>
    new SkevoError(
      `${name} is a damaged observation: ${why}`,
      'Make it again with skevo infer --save-observation.',
    );
  let found: Observation;
  try {
    found = loadObservation(text, name, 0, (root) => {
      check ??= new Ajv2020({ strict: false, logger: false }).compile(saved);
      if (check(root)) return;
      const [error] = check.errors!;
      throw damaged(`${error!.instancePath || 'the document'} ${error!.message}`);
    });
  } catch (error) {
    if (error instanceof SkevoError) throw error;
    throw damaged('it refers to what it does not hold');
  }
  const wrong = contradiction(found.root);
  if (wrong !== undefined) throw damaged(wrong);
  if (totalAt(found.root) !== found.payloads) throw damaged('its counts do not add up');
  return found;
}

/** What a place says that no values can have been; undefined when there is nothing of the kind. */
function contradiction(root: Place): string | undefined {
  const waiting = [root];
  for (let here = waiting.pop(); here !== undefined; here = waiting.pop()) {
    const { fields, objects, emptyObjects, lists, emptyLists, strings, tokens, decimals, exact } = here;
    for (const field of fields.values()) {
      if (field.present > objects || field.present > totalAt(field.place))
        return `the key ${JSON.stringify(field.key)} is counted ${field.present} times in ${objects} objects`;
      waiting.push(field.place);
    }
    const said = [...(tokens?.byText.values() ?? [])].reduce((sum, token) => sum + token.count, 0);
    if (emptyObjects > objects || emptyLists > lists || exact > decimals || said > strings)
      return 'its counts do not add up';
    waiting.push(...(here.positions ?? []));
    if (here.items !== undefined) waiting.push(here.items);
    if (here.values !== undefined) waiting.push(here.values);
  }
  return undefined;
}
