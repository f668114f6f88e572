import type { Ajv as Validator, ErrorObject, Options, ValidateFunction } from 'ajv';
import { Ajv } from 'ajv';
import Draft04 from 'ajv-draft-04';
import draft6 from 'ajv/dist/refs/json-schema-draft-06.json' with { type: 'json' };
import { Ajv2019 } from 'ajv/dist/2019.js';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { SkevoError } from '../error.js';
import { parseJson } from '../json/parse.js';
import { parsePointer, resolvePointer } from '../json/pointer.js';
import { excerptOf, type Source } from '../json/source.js';
import { json, membersByKey, type JsonValue } from '../json/value.js';
import { writeJson } from '../json/write.js';
import { counted } from '../words.js';
import { draftOf, type Draft, type Validation } from './draft.js';
import { compareExactly, exclusives, knowFormats, meets, plainOf, spelledAt, standsFor } from './exact.js';
import { engineFor, platformPatterns, type PatternEngine } from './pattern.js';

/** One way in which a payload does not meet a schema. */
export interface Failure {
  /** JSON Pointer of the value in the payload. */
  readonly pointer: string;
  /** Byte offset of that value in the payload's source. */
  readonly offset: number;
  readonly expected: string;
  readonly found: string;
  /** The keyword of JSON Schema that failed, and where it stands in the schema. */
  readonly keyword: string;
  readonly schemaPointer: string;
  /** For a union: the alternative that comes closest, and what keeps the value from being it. */
  readonly nearest?: { readonly alternative: string; readonly failures: readonly Failure[] };
}

function validatorOf(draft: Draft, options: Options): Validator {
  switch (draft) {
    case '4':
    case 'openapi-3.0':
      return new Draft04.default(options) as unknown as Validator;
    case '6':
      return new Ajv(options).addMetaSchema(draft6);
    case '7':
      return new Ajv(options);
    case '2019-09':
      return new Ajv2019(options);
    case '2020-12':
      return new Ajv2020(options);
  }
}

/** A schema in words that the validator takes as its draft does. */
function inWordsOf(draft: Draft, root: JsonValue): JsonValue {
  const plain = isOld(draft) ? withoutSiblings(root) : root;
  return draft === 'openapi-3.0' ? withNulls(plain) : plain;
}

/** OpenAPI 3.0 says by `nullable` that null is a value too, also where no type is said. */
function withNulls(value: JsonValue, isMap = false): JsonValue {
  if (value.kind === 'list') return { ...value, items: value.items.map((each) => withNulls(each)) };
  if (value.kind !== 'object') return value;
  const isNullable =
    !isMap &&
    value.members.some(({ key, value: own }) => key === 'nullable' && own.kind === 'boolean' && own.value);
  const members = value.members
    .filter(({ key, value: own }) => isMap || key !== 'nullable' || own.kind !== 'boolean')
    .map((each) =>
      !isMap && (each.key === 'enum' || each.key === 'const')
        ? each
        : { ...each, value: withNulls(each.value, !isMap && maps.has(each.key)) },
    );
  if (!isNullable) return { ...value, members };
  const span = { start: value.start, end: value.end };
  const nothing = json.object([['type', json.string('null')]]);
  return { ...json.object([['anyOf', json.list([{ ...value, members }, nothing])]]), ...span };
}

/** Whether keywords beside a reference mean nothing. */
function isOld(draft: Draft): boolean {
  return draft !== '2019-09' && draft !== '2020-12';
}

/** What stands beside a reference and is none of its schema. */
const beside: ReadonlySet<string> = new Set([
  '$ref',
  '$schema',
  'definitions',
  '$defs',
  'components',
  'paths',
]);

/** A schema of an older draft without the keywords beside references, which mean nothing there. */
function withoutSiblings(value: JsonValue, isMap = false): JsonValue {
  if (value.kind === 'list') return { ...value, items: value.items.map((each) => withoutSiblings(each)) };
  if (value.kind !== 'object') return value;
  const isReference =
    !isMap && value.members.some(({ key, value: own }) => key === '$ref' && own.kind === 'string');
  const members = isReference ? value.members.filter(({ key }) => beside.has(key)) : value.members;
  return {
    ...value,
    members: members.map((each) =>
      !isMap && (each.key === 'enum' || each.key === 'const')
        ? each
        : { ...each, value: withoutSiblings(each.value, !isMap && maps.has(each.key)) },
    ),
  };
}

const maps: ReadonlySet<string> = new Set([
  'properties',
  'patternProperties',
  'definitions',
  '$defs',
  'dependencies',
]);

/** Checks payloads against one schema. Values are described as they are written; numbers are compared to the digit. */
export class SchemaValidator {
  private readonly ajv: Validator;
  private readonly validate: ValidateFunction;
  private readonly alternatives = new Map<object, ValidateFunction>();
  /** What alternatives may refer to. */
  private readonly definitions: object;
  private readonly base: Readonly<Record<string, string>>;

  /**
   * @param validation a JSON Schema of any draft; 2020-12 when it does not say
   * @param patterns what makes patterns of the schema's regular expressions
   * @throws SkevoError when it is not JSON or not a schema
   */
  constructor(
    { source, root: given, pointer, draft, others = [], location = 'file:///schema' }: Validation,
    patterns: PatternEngine = platformPatterns,
  ) {
    const root = given ?? parseJson(source).root;
    // What is nested too deeply is refused with its place.
    if (root.kind === 'object') refuseDeep(root, source);
    if (root.kind !== 'object' && root.kind !== 'boolean') {
      throw new SkevoError(
        'this is not a JSON Schema: a schema is an object',
        'Give a schema here; skevo infer makes one from payloads.',
        excerptOf(source, root.start),
      );
    }
    const said = root.kind === 'object' ? membersByKey(root).get('$schema')?.value : undefined;
    const dialect = draft ?? draftOf(said?.kind === 'string' ? said.value : undefined);
    const schema = plainOf(inWordsOf(dialect, root)) as object;
    this.definitions = Object.fromEntries(
      Object.entries(schema).filter(([key]) =>
        /^(?:\$defs|definitions|\$schema|components|paths)$/.test(key),
      ),
    );
    // References to other documents start from this one.
    this.base = others.length === 0 ? {} : { [draft === '4' ? 'id' : '$id']: `${location}?part` };
    const options = {
      allErrors: true,
      strict: false,
      verbose: true,
      ownProperties: true,
      validateFormats: true,
      logger: false,
      code: { regExp: engineFor(patterns) },
    } as const;
    this.ajv = validatorOf(dialect, options);
    knowFormats(this.ajv);
    compareExactly(this.ajv, dialect === '4' || dialect === 'openapi-3.0');
    try {
      for (const [uri, other] of others)
        this.ajv.addSchema(plainOf(inWordsOf(dialect, other)) as object, uri);
      if (pointer === undefined && others.length === 0) this.validate = this.ajv.compile(schema);
      else {
        this.ajv.addSchema(schema, location);
        this.validate = this.ajv.compile({ $ref: `${location}#${encodeURI(pointer ?? '')}` });
      }
    } catch (error) {
      const words = (error as Error).message.replace(/^schema is invalid: /, '');
      throw new SkevoError(
        `this is not a valid JSON Schema: ${words}`,
        'Mend it, or make a new one with skevo infer.',
        excerptOf(source, root.start),
      );
    }
  }

  /** Every failure of a payload, in the order of places; none when it meets the schema. */
  failures(payload: JsonValue): Failure[] {
    if (ended(() => meets(this.validate, payload))) return [];
    return this.explained(this.validate.errors ?? [], payload, 0).sort((a, b) => a.offset - b.offset);
  }

  private explained(errors: readonly ErrorObject[], payload: JsonValue, depth: number): Failure[] {
    // What fails inside an alternative is only a reason why the union fails, and told with it.
    const unions = errors.filter(({ keyword }) => keyword === 'anyOf' || keyword === 'oneOf');
    const outermost = unions.filter(
      (each) => !unions.some((other) => other !== each && isBelow(each.instancePath, other.instancePath)),
    );
    // A value of another type has no format to speak of.
    const mistyped = new Set(errors.flatMap((each) => (each.keyword === 'type' ? [each.instancePath] : [])));
    const told = errors.filter(
      (each) =>
        outermost.includes(each) ||
        (each.keyword !== 'if' &&
          !isReasonOf(each, errors) &&
          !(each.keyword === 'format' && mistyped.has(each.instancePath)) &&
          !outermost.some(
            (union) =>
              each.instancePath === union.instancePath || isBelow(each.instancePath, union.instancePath),
          )),
    );
    return told.map((error) => this.failure(error, payload, depth));
  }

  private failure(error: ErrorObject, payload: JsonValue, depth: number): Failure {
    const value = resolvePointer(payload, parsePointer(error.instancePath) ?? []) ?? payload;
    const base = {
      pointer: error.instancePath,
      offset: value.start,
      keyword: error.keyword,
      schemaPointer: schemaPointerOf(error),
    };
    if (error.keyword === 'anyOf' || error.keyword === 'oneOf') {
      const matched = (error.params as { passingSchemas?: readonly number[] | null }).passingSchemas;
      if (matched)
        return {
          ...base,
          expected: `exactly one of ${(error.schema as unknown[]).length} alternatives`,
          found: 'a value that meets several',
        };
      return {
        ...base,
        expected: `one of ${(error.schema as unknown[]).length} alternatives`,
        found: describeValue(value),
        nearest: depth > 3 ? undefined : this.nearest(error, payload, depth),
      };
    }
    return { ...base, ...describeFailure(error, value) };
  }

  /** The alternative with the fewest failures; of several, the one whose failures lie deepest. */
  private nearest(error: ErrorObject, payload: JsonValue, depth: number): Failure['nearest'] {
    const value = resolvePointer(payload, parsePointer(error.instancePath) ?? []) ?? payload;
    let best: { position: number; failures: Failure[]; cost: number } | undefined;
    const alternatives = error.schema as object[];
    for (const [position, alternative] of alternatives.entries()) {
      const validate = this.compiled(alternative);
      // What it refers to stands in another document.
      if (validate === undefined) return undefined;
      if (meets(validate, value)) continue;
      const errors = validate.errors ?? [];
      const failures = this.explained(errors, value, depth + 1);
      // A tag or a type that does not fit says that this is not the alternative that was meant.
      const wrong = errors.filter(
        ({ keyword, instancePath }) => keyword === 'const' || (keyword === 'type' && instancePath === ''),
      ).length;
      const cost = wrong * 100 + failures.length;
      if (best === undefined || cost < best.cost) best = { position, failures, cost };
    }
    if (best === undefined) return undefined;
    const { position, failures } = best;
    const own = `${schemaPointerOf(error)}/${position}`;
    const moved = failures.map((each) => seenFrom(each, error.instancePath, own));
    return { alternative: nameOf(alternatives, position), failures: moved };
  }

  private compiled(alternative: object): ValidateFunction | undefined {
    let validate = this.alternatives.get(alternative);
    if (validate === undefined) {
      try {
        validate = this.ajv.compile(
          standsFor(alternative, { ...this.definitions, ...this.base, ...alternative }),
        );
      } catch {
        return undefined;
      }
      if ('$id' in this.base || 'id' in this.base) this.ajv.removeSchema(Object.values(this.base)[0]);
      this.alternatives.set(alternative, validate);
    }
    return validate;
  }
}

/** Levels of a schema, keywords and their lists and objects counted, that the validator is given. */
const deepest = 1200;

function refuseDeep(root: JsonValue, source: Source): void {
  const waiting: (readonly [JsonValue, number])[] = [[root, 0]];
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    const [value, depth] = next;
    if (depth > deepest)
      throw new SkevoError(
        `the schema is nested more than ${deepest} levels deep`,
        'Move parts of it to "$defs", and refer to them by "$ref".',
        excerptOf(source, value.start),
      );
    if (value.kind === 'list') for (const item of value.items) waiting.push([item, depth + 1]);
    if (value.kind === 'object') for (const member of value.members) waiting.push([member.value, depth + 1]);
  }
}

/** @throws SkevoError when neither the payload nor the schema comes to an end */
function ended(validate: () => boolean): boolean {
  try {
    return validate();
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new SkevoError(
      'the payload is nested too deeply to be validated, or the schema refers to itself without end',
      'Put something between a "$ref" and itself, or select a part of the payload by --at.',
    );
  }
}

/**
 * Whether an error only says why an element is none of those that a list is to contain, or which name of a key is not as names
 * are to be: the latter is told by what is wrong with it.
 */
function isReasonOf({ keyword, schemaPath }: ErrorObject, errors: readonly ErrorObject[]): boolean {
  if (keyword === 'propertyNames') return errors.some((other) => isBelow(other.schemaPath, schemaPath));
  return errors.some((other) => other.keyword === 'contains' && isBelow(schemaPath, other.schemaPath));
}

function isBelow(pointer: string, around: string): boolean {
  return pointer.length > around.length && pointer.startsWith(`${around}/`);
}

/** A failure inside a value, and those that are told with it, from where the value and its schema stand. */
function seenFrom(failure: Failure, place: string, own: string): Failure {
  const { pointer, schemaPointer, nearest } = failure;
  return {
    ...failure,
    pointer: place + pointer,
    // What is referred to stands where it stands.
    schemaPointer: isDefined(schemaPointer) ? schemaPointer : own + schemaPointer,
    ...(nearest && {
      nearest: { ...nearest, failures: nearest.failures.map((each) => seenFrom(each, place, own)) },
    }),
  };
}

/** Whether a place of a schema is among its definitions. */
function isDefined(pointer: string): boolean {
  return /^\/(\$defs|definitions|components|paths)\//.test(pointer);
}

/** Where a keyword stands in its schema. */
function schemaPointerOf({ schemaPath, keyword }: ErrorObject): string {
  // A schema that is false has no keyword.
  const path = keyword === 'false schema' ? schemaPath.replace(/\/false schema$/, '') : schemaPath;
  const pointer = path.replace(/^#/, '');
  try {
    return decodeURIComponent(pointer);
  } catch {
    return pointer; // It has a sign of percent that encodes nothing.
  }
}

interface Alternative {
  readonly $ref?: string;
  readonly title?: string;
  readonly type?: string | readonly string[];
  readonly properties?: Readonly<Record<string, { readonly const?: unknown }>>;
}

/** What an alternative is called: its name, what tells it from the others, or else its number. */
function nameOf(all: readonly object[], position: number): string {
  const { $ref, title, type, properties = {} } = all[position] as Alternative;
  const named = $ref?.split('/').at(-1) ?? title;
  if (named !== undefined) return named;
  const [tag] = Object.entries(properties).filter((each) => each[1]?.const !== undefined);
  if (tag !== undefined) return `that of ${tag[0]} ${JSON.stringify(tag[1].const)}`;
  const kind = [type ?? []].flat().join(' or ');
  const isAlone =
    all.filter((each) => [(each as Alternative).type ?? []].flat().join(' or ') === kind).length === 1;
  return kind !== '' && isAlone ? kind : `alternative ${position + 1}`;
}

function describeFailure(error: ErrorObject, value: JsonValue): { expected: string; found: string } {
  const params = error.params as Record<string, unknown>;
  const { propertyName: name } = error;
  const found = name === undefined ? describeValue(value) : `the key ${JSON.stringify(name)}`;
  switch (error.keyword) {
    case 'type':
      return { expected: `type ${[params['type']].flat().join(' or ')}`, found };
    case 'required':
      return { expected: `the key ${JSON.stringify(params['missingProperty'])}`, found: keysOf(value) };
    case 'additionalProperties':
    case 'unevaluatedProperties':
      return {
        expected: 'no other keys',
        found: `the key ${JSON.stringify(params['additionalProperty'] ?? params['unevaluatedProperty'])}`,
      };
    case 'enum':
      return {
        expected: `one of ${fewOf((error.schema as unknown[]).map((_, i) => spelledAt(error.schema as object, i)))}`,
        found,
      };
    case 'const':
      return { expected: spelledAt(error.parentSchema!, 'const'), found };
    case 'format':
      return { expected: `format ${String(params['format'])}`, found };
    case 'pattern': {
      const pattern = String(params['pattern']);
      return {
        expected: `${name === undefined ? 'text that matches' : 'keys that match'} ${pattern}`,
        found,
      };
    }
    case 'multipleOf':
      return { expected: `a multiple of ${spelledAt(error.parentSchema!, 'multipleOf')}`, found };
    case 'minimum':
    case 'maximum':
    case 'exclusiveMinimum':
    case 'exclusiveMaximum':
      return { expected: `${boundSign(error)} ${spelledAt(error.parentSchema!, error.keyword)}`, found };
    case 'minLength':
    case 'maxLength':
    case 'minItems':
    case 'maxItems':
    case 'minProperties':
    case 'maxProperties':
    case 'items':
    case 'additionalItems':
      return { expected: expectedCount(error), found };
    case 'uniqueItems':
      return { expected: 'elements that differ', found };
    case 'contains': {
      const { minContains: least, maxContains: most } = params as {
        minContains: number;
        maxContains?: number;
      };
      const count = most === undefined ? `at least ${least}` : `${least} to ${most}`;
      return { expected: `${count} of the elements that it is to contain`, found };
    }
    case 'propertyNames':
      return { expected: 'keys of another form', found: `the key ${JSON.stringify(params['propertyName'])}` };
    case 'dependentRequired':
    case 'dependencies': {
      const { property, missingProperty } = params as { property: string; missingProperty: string };
      return {
        expected: `the key ${JSON.stringify(missingProperty)} beside ${JSON.stringify(property)}`,
        found,
      };
    }
    case 'not':
      return { expected: 'anything else', found };
    case 'false schema':
      return { expected: 'nothing here', found };
    default:
      return {
        expected: (error.message ?? error.keyword).replace(/^must (be |NOT |match |have )?/, (word) =>
          word.includes('NOT') ? 'not ' : '',
        ),
        found,
      };
  }
}

/** How a number stands to a bound that it keeps. */
function boundSign({ keyword, parentSchema }: ErrorObject): string {
  const isLeast = /min/i.test(keyword);
  // Up to draft 4, another keyword says whether the bound itself is none of the values.
  const isExclusive =
    keyword.startsWith('ex') || parentSchema![isLeast ? exclusives.minimum : exclusives.maximum] === true;
  return `${isLeast ? '>' : '<'}${isExclusive ? '' : '='}`;
}

function fewOf(all: readonly string[]): string {
  const more = all.length - mostTold;
  return more > 1 ? `${all.slice(0, mostTold).join(', ')} and ${more} more` : all.join(', ');
}

/** How many characters, elements or keys there are to be. */
function expectedCount({ keyword, params }: ErrorObject): string {
  const { limit } = params as { limit: number };
  const noun = /Length$/.test(keyword) ? 'character' : /Properties$/.test(keyword) ? 'key' : 'element';
  return `at ${keyword.startsWith('min') ? 'least' : 'most'} ${counted(limit, noun)}`;
}

/** So many values of a list of them are told. */
const mostTold = 8;

function describeValue(value: JsonValue): string {
  const text = writeJson(value);
  const short = text.length > 60 ? `${text.slice(0, 59)}…` : text;
  switch (value.kind) {
    case 'list':
      return `a list of ${value.items.length}`;
    case 'object':
      return keysOf(value);
    case 'null':
    case 'boolean':
      return short;
    case 'number':
    case 'string':
      return `${value.kind} ${short}`;
  }
}

function keysOf(value: JsonValue): string {
  if (value.kind !== 'object') return describeValue(value);
  const keys = value.members.map(({ key }) => JSON.stringify(key));
  return keys.length === 0
    ? 'an object without keys'
    : `an object with ${keys.slice(0, 6).join(', ')}${keys.length > 6 ? ` and ${keys.length - 6} more` : ''}`;
}
