import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { describe, expect, test } from 'vitest';
import { SkevoError } from '../../src/core/error.js';
import { parseJson } from '../../src/core/json/parse.js';
import { member, type JsonObject, type JsonValue } from '../../src/core/json/value.js';
import { writeJson } from '../../src/core/json/write.js';
import { buildModel } from '../../src/core/model/build.js';
import { SchemaValidator } from '../../src/core/schema/apply.js';
import { loadSchema } from '../../src/schemas/load.js';
import { bytes, foundSchema, workspace } from '../support.js';

/** The official test suite of JSON Schema, which scripts/install-toolchains.sh fetches. */
const suite = resolve('tests/.suites/json-schema');

const dialects: Readonly<Record<string, string>> = {
  draft4: 'http://json-schema.org/draft-04/schema#',
  draft6: 'http://json-schema.org/draft-06/schema#',
  draft7: 'http://json-schema.org/draft-07/schema#',
  'draft2019-09': 'https://json-schema.org/draft/2019-09/schema',
  'draft2020-12': 'https://json-schema.org/draft/2020-12/schema',
};

/** Groups of the suite in which Skevo says otherwise than it, and why. */
const others: readonly (readonly [group: RegExp, reason: string])[] = [
  [
    /^refRemote|^ref\.json .*remote|vocabulary|strict-tree|base URI change|from a file|detached|URN \$id|retrieved nested/,
    'nothing is fetched from the network',
  ],
  [/^format\.json/, 'formats are asserted, since classes rely on them'],
  [/^properties\.json properties whose names are Javascript object/, 'the validator knows no key __proto__'],
  [/^(?:dynamicRef|recursiveRef)|\$dynamicRef/, 'dynamic references are those to anchors'],
  [
    /^unevaluated(?:Items|Properties)\.json .*(?:if\/then\/else|if without then|nested items|contains)/,
    'what the validator counts as evaluated',
  ],
  [
    /^ref\.json (?:refs with relative uris and defs|relative refs with absolute uris and defs|URN ref with nested pointer ref)/,
    'an identifier inside of allOf is not known to the validator',
  ],
];

/** How many groups of each draft are other; fewer is better. */
const most: Readonly<Record<string, number>> = {
  draft4: 12,
  draft6: 14,
  draft7: 14,
  'draft2019-09': 30,
  'draft2020-12': 64,
};

const at = (value: JsonValue, key: string) => member(value as JsonObject, key)!;
const textAt = (value: JsonValue, key: string) => (at(value, key) as { value: string }).value;
const isHere = existsSync(suite);

describe.runIf(isHere || process.env['SKEVO_ALL_LANGUAGES'] === '1')('the official test suite', () => {
  test.each(Object.keys(dialects))('of %s', async (draft) => {
    const folder = workspace();
    const unexpected: string[] = [];
    const other = new Set<string>();
    let agreed = 0;
    for (const file of readdirSync(join(suite, draft)).filter((each) => each.endsWith('.json'))) {
      const groups = parseJson({
        name: file,
        bytes: readFileSync(join(suite, draft, file)),
        firstLine: 1,
      }).root;
      for (const group of (groups as { items: readonly JsonValue[] }).items) {
        const label = `${file} ${textAt(group, 'description')}`;
        const tell = (what: string): void => {
          if (others.some(([pattern]) => pattern.test(label))) other.add(label);
          else unexpected.push(`${label}: ${what}`);
        };
        const schema = at(group, 'schema');
        const isNamed = schema.kind !== 'object' || member(schema, '$schema') !== undefined;
        const text = writeJson(schema);
        const dialect = `{"$schema":${JSON.stringify(dialects[draft])}`;
        const named = isNamed ? text : `${dialect}${text === '{}' ? '' : ','}${text.slice(1)}`;
        try {
          const source = { name: 'schema.json', bytes: bytes(named), firstLine: 1 };
          const loaded = await loadSchema(foundSchema(join(folder, 'schema.json'), source));
          // Types come of every schema.
          buildModel(loaded.schema, loaded.source);
          const validator = new SchemaValidator(loaded.validation);
          for (const each of (at(group, 'tests') as { items: readonly JsonValue[] }).items) {
            const payload = parseJson({
              name: 'p',
              bytes: bytes(writeJson(at(each, 'data'))),
              firstLine: 1,
            }).root;
            const isValid = validator.failures(payload).length === 0;
            if (isValid === (at(each, 'valid') as { value: boolean }).value) agreed++;
            else tell(textAt(each, 'description'));
          }
        } catch (error) {
          if (!(error instanceof SkevoError)) throw new Error(label, { cause: error });
          tell(error.message);
        }
      }
    }
    expect(unexpected).toEqual([]);
    expect(other.size).toBeLessThanOrEqual(most[draft]!);
    expect(agreed).toBeGreaterThan(590);
  });
});
