import { Ajv2020 } from 'ajv/dist/2020.js';
import type { ValidateFunction } from 'ajv';
import { schemaToJson, type Schema } from './schema.js';
import { compareExactly, knowFormats, meets, plainOf } from './exact.js';
import { engineFor, type PatternEngine } from './pattern.js';
import { SkevoError } from '../error.js';
import { excerptOf, type Source } from '../json/source.js';
import { json, type JsonValue } from '../json/value.js';

/** Keywords whose value has been read already. */
const plain = new Set(['enum', 'const', 'format']);

/** Tells whether values meet single keywords of a schema, such as `pattern` or `minimum`, each on its own. */
export class KeywordTester {
  private readonly ajv: Ajv2020;
  private readonly definitions: readonly (readonly [string, JsonValue])[];
  private readonly compiled = new Map<Schema, Map<string, ValidateFunction>>();

  /**
   * @param root what keywords may refer to
   * @param source where it was read, for errors
   */
  constructor(
    root: Schema,
    private readonly source: Source,
    patterns: PatternEngine,
  ) {
    this.ajv = new Ajv2020({
      strict: false,
      logger: false,
      ownProperties: true,
      validateFormats: true,
      validateSchema: false,
      code: { regExp: engineFor(patterns) },
    });
    knowFormats(this.ajv);
    compareExactly(this.ajv);
    const defs = json.object([...(root.$defs ?? [])].map(([name, def]) => [name, schemaToJson(def)]));
    this.definitions = [
      ['$defs', defs],
      ['definitions', defs],
    ];
  }

  /**
   * @param expected the keyword's own value in the schema
   * @throws SkevoError when it is not what such a keyword takes
   */
  meets(schema: Schema, keyword: string, expected: JsonValue, value: JsonValue): boolean {
    let ofSchema = this.compiled.get(schema);
    if (ofSchema === undefined) this.compiled.set(schema, (ofSchema = new Map()));
    let validate = ofSchema.get(keyword);
    if (validate === undefined) {
      const part = plainOf(json.object([...this.definitions, [keyword, expected]])) as Record<
        string,
        unknown
      >;
      try {
        // What the standard says of schemas takes long to compile, and says nothing more of these.
        if (!plain.has(keyword)) void this.ajv.validateSchema(part, true);
        validate = this.ajv.compile(part);
      } catch (error) {
        throw new SkevoError(
          `this is not a valid JSON Schema: ${(error as Error).message.replace(/^schema is invalid: data\//, '')}`,
          'Mend it, or make a new one with skevo infer.',
          excerptOf(this.source, expected.start),
        );
      }
      ofSchema.set(keyword, validate);
    }
    return meets(validate, value);
  }
}
