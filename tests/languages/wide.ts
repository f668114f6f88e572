import { buildModel } from '../../src/core/model/build.js';
import type { TypeModel } from '../../src/core/model/types.js';
import { readSchema } from '../../src/core/schema/read.js';
import { bytes } from '../support.js';

const words = (count: number) =>
  Array.from({ length: count }, (_, i) => `${'tide'.slice(i % 4)}_of_pier_${i * 7}`);
const alternatives = (count: number) => ({
  oneOf: words(count).map((kind, i) => ({
    type: 'object',
    properties: { kind: { const: kind }, at: { type: 'integer' }, [`own_${i}`]: { type: 'string' } },
    required: ['kind', 'at'],
  })),
});
const wide = (long: string) => {
  const records = { type: 'object', properties: { [long]: { type: 'string' } }, additionalProperties: false };
  return {
    title: 'Sailing',
    type: 'object',
    properties: {
      [`${long}_at_the_outer_pier_of_the_harbour`]: { type: 'integer' },
      [`${long}_in_the_hold_below`]: { type: 'array', items: { type: 'integer' } },
      rows: { $ref: '#/$defs/Rows' },
      choice: { title: 'WordsOfAllPiersAndOfAllRampsToday', type: 'string', enum: words(30) },
      told: { title: 'TideOfAllPiersAndOfAllRampsThatAreLow', ...alternatives(3) },
      few: alternatives(9),
      event: alternatives(24),
      notice: {
        oneOf: [0, 1].map((i) => ({
          type: 'object',
          properties: {
            kind: { enum: words(16).filter((_, k) => k % 2 === i) },
            [`own_${i}`]: { type: 'string' },
          },
          required: ['kind'],
        })),
      },
      mixed: {
        type: 'array',
        prefixItems: [
          { type: 'string' },
          records,
          { type: 'array', items: records },
          { $ref: '#/$defs/Rows' },
        ],
        minItems: 4,
        items: false,
      },
      either: {
        anyOf: [records, { type: 'array', items: records }, { type: 'string' }, { type: 'integer' }],
      },
    },
    $defs: {
      Rows: {
        type: 'object',
        properties: Object.fromEntries(words(40).map((word) => [word, { type: 'integer' }])),
      },
    },
  };
};

/**
 * The model of a schema of which all that is folded is longer than a line: keys, words, alternatives, members, and what is asked of them.
 * @param long a key of a record, with which others begin
 */
export function wideModel(long: string): TypeModel {
  const source = { name: 's.json', bytes: bytes(JSON.stringify(wide(long))), firstLine: 1 };
  return buildModel(readSchema(source), source);
}
