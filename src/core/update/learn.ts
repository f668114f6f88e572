import { SkevoError } from '../error.js';
import { doubleCarries, integerWidthOf, isIntegerText, widerOf, widthOfFormat } from '../json/number.js';
import { formatPlace, type PlaceStep } from '../json/pointer.js';
import { excerptOf, placeOf, type Source } from '../json/source.js';
import { json, membersByKey, type JsonObject, type JsonValue } from '../json/value.js';
import { datesOf, formOf } from '../model/dates.js';
import type { Mark } from '../observe/mark.js';
import { explainRefusal } from '../observe/observe.js';
import { Scanner } from '../observe/scan.js';
import { isCarriedNatively } from '../observe/text-format.js';
import type { Payload } from '../roundtrip/payload.js';
import { KeywordTester } from '../schema/keyword.js';
import { platformPatterns, type PatternEngine } from '../schema/pattern.js';
import { bounds, intricate } from '../schema/keywords.js';
import { resolveReference } from '../schema/resolve.js';
import type { Schema } from '../schema/schema.js';
import { admitsType, alternativeFor, alternativesOf, tagOf, typesOf, wordsIn } from './admit.js';
import { Site, Strangers } from './site.js';

const mostReferences = 64;
/** RFC 4648 section 4. */
const base64 = /^(?:[A-Za-z0-9+/]{4})*(?:[A-Za-z0-9+/]{2}==|[A-Za-z0-9+/]{3}=)?$/;

/** Reads payloads against a schema and remembers what they contradict, and what it does not know. */
export class Learner {
  readonly sites = new Map<Schema, Site>();
  payloads = 0;
  /** Whether some payload had a key that the schema knows at the top, or could not have one. */
  isFamiliar = false;
  private readonly tester: KeywordTester;
  private readonly scanner = new Scanner();
  private opened: Source | undefined = undefined;
  private payload!: Payload;

  /**
   * @param root the schema as it stands; it is not changed
   * @param source where it was read
   * @param patterns what makes patterns of its regular expressions
   */
  constructor(
    readonly root: Schema,
    private readonly source: Source,
    patterns: PatternEngine = platformPatterns,
  ) {
    this.tester = new KeywordTester(root, source, patterns);
  }

  /** @throws SkevoError where a payload contradicts what cannot be widened, and for references that lead nowhere */
  learn(payload: Payload): void {
    this.payloads++;
    this.payload = payload;
    this.isFamiliar ||= this.knows(payload.root);
    this.visit(this.root, payload.root, []);
  }

  /** What a schema stands for. */
  readonly resolve = (schema: Schema): Schema => {
    let target = schema;
    for (let i = 0; target.$ref !== undefined; i++) {
      target = resolveReference(this.root, target.$ref, target, this.source);
      if (i > mostReferences) {
        throw new SkevoError(
          `the type ${schema.$ref} contains nothing but itself`,
          'Put an object between it and itself.',
          excerptOf(this.source, schema.span?.start ?? 0),
        );
      }
    }
    return target;
  };

  private knows(value: JsonValue): boolean {
    const target = this.resolve(this.root);
    const alternatives = alternativesOf(target, this.resolve).map((each) => each.target);
    const records = [target, ...alternatives].filter(({ properties }) => (properties?.size ?? 0) > 0);
    if (records.length === 0 || value.kind !== 'object' || value.members.length === 0) return true;
    return value.members.some(({ key }) => records.some(({ properties }) => properties!.has(key)));
  }

  private visit(use: Schema, value: JsonValue, steps: readonly PlaceStep[]): void {
    const target = this.resolve(use);
    this.testKeywords(target, value, steps);
    if (target.anyOf !== undefined || target.oneOf !== undefined) {
      const arm = alternativeFor(target, value, this.resolve);
      if (arm === undefined) this.noneOf(use, target, value, steps);
      else this.visit(arm, value, steps);
      return;
    }
    // What is listed as a value is known in all its parts.
    if (value.kind === 'object' || value.kind === 'list') {
      const listed = this.listed(target);
      if (listed !== undefined && this.tester.meets(target, ...listed, value)) return;
    }
    if (!admitsType(target, value)) {
      this.otherType(use, target, value, steps);
      return;
    }
    this.testValues(target, value, steps);
    if (value.kind === 'number') this.number(target, value.text, value, steps);
    else if (value.kind === 'object') this.object(target, value, steps);
    else if (value.kind === 'list') this.list(target, value.items, value, steps);
  }

  private noneOf(use: Schema, target: Schema, value: JsonValue, steps: readonly PlaceStep[]): void {
    const alternatives = alternativesOf(target, this.resolve).map((each) => each.target);
    const tag = tagOf(alternatives);
    const tagged = tag !== undefined && value.kind === 'object' ? membersByKey(value).get(tag) : undefined;
    if (tag !== undefined && tagged?.value.kind === 'string') {
      const site = this.site(target, steps);
      site.tag = tag;
      const word = tagged.value.value;
      let strangers = site.arms.get(word);
      if (strangers === undefined)
        site.arms.set(word, (strangers = new Strangers(steps, this.mark(tagged.value))));
      this.observe(strangers, value);
      return;
    }
    this.otherType(value.kind === 'object' ? target : use, target, value, steps);
  }

  /** @param use where the schema is used: another type there says nothing about the type's own definition */
  private otherType(use: Schema, target: Schema, value: JsonValue, steps: readonly PlaceStep[]): void {
    if (value.kind === 'number' && typesOf(target).includes('integer')) {
      this.site(target, steps).decimal ??= this.mark(value);
      this.testValues(target, value, steps);
      this.number({ ...target, type: ['number'] }, value.text, value, steps, target);
      return;
    }
    const site = this.site(use, steps);
    if (value.kind === 'null') site.nulls ??= this.mark(value);
    else this.observe((site.others ??= new Strangers(steps, this.mark(value))), value);
  }

  private number(
    schema: Schema,
    text: string,
    value: JsonValue,
    steps: readonly PlaceStep[],
    owner = schema,
  ): void {
    const types = typesOf(schema);
    if (types.length === 0) return;
    if (types.includes('integer') && isIntegerText(text)) {
      const promised = widthOfFormat(schema.format);
      const needed = integerWidthOf(text);
      if (widerOf(promised, needed) === promised) return;
      const site = this.site(owner, steps);
      if (site.width === undefined || widerOf(site.width.needed, needed) !== site.width.needed)
        site.width = { needed, first: this.mark(value) };
    } else if (schema.format !== 'decimal' && !doubleCarries(text)) {
      this.site(owner, steps).exact ??= this.mark(value);
    }
  }

  private object(schema: Schema, value: JsonObject, steps: readonly PlaceStep[]): void {
    const { properties, additionalProperties, other } = schema;
    if (properties === undefined && additionalProperties === undefined) {
      const isUnsaid = typesOf(schema).length > 0 && !other?.has('patternProperties');
      if (isUnsaid && value.members.length > 0) {
        this.observe((this.site(schema, steps).others ??= new Strangers(steps, this.mark(value))), value);
      }
      return;
    }
    const members = membersByKey(value);
    for (const key of schema.required ?? []) {
      if (members.has(key)) continue;
      const { absent } = this.site(schema, steps);
      if (!absent.has(key)) absent.set(key, this.mark(value));
    }
    for (const [key, each] of members) {
      const property = properties?.get(key);
      if (property !== undefined) this.visit(property, each.value, [...steps, { key }]);
      else if (typeof additionalProperties === 'object')
        this.visit(additionalProperties, each.value, [...steps, 'every']);
      else if (additionalProperties !== true && !other?.has('patternProperties') && !other?.has('allOf')) {
        const { fields } = this.site(schema, steps);
        let strangers = fields.get(key);
        if (strangers === undefined)
          fields.set(key, (strangers = new Strangers([...steps, { key }], this.mark(each.value))));
        this.observe(strangers, each.value);
      }
    }
  }

  private list(
    schema: Schema,
    items: readonly JsonValue[],
    value: JsonValue,
    steps: readonly PlaceStep[],
  ): void {
    const { prefixItems } = schema;
    const every: readonly PlaceStep[] = [...steps, 'every'];
    const isUnsaid = schema.items === undefined && prefixItems === undefined && typesOf(schema).length > 0;
    if (isUnsaid) {
      if (items.length > 0)
        this.observe((this.site(schema, steps).others ??= new Strangers(steps, this.mark(value))), value);
      return;
    }
    const length = prefixItems?.length ?? 0;
    const isTooShort = prefixItems !== undefined && items.length < (schema.minItems ?? 0);
    const isTooLong = schema.items === false && items.length > length;
    if (isTooShort || isTooLong) this.site(schema, steps).tuple ??= new Strangers(every, this.mark(value));
    items.forEach((item, i) => {
      if (i < length) this.visit(prefixItems![i]!, item, [...steps, { key: String(i) }]);
      else if (typeof schema.items === 'object') this.visit(schema.items, item, every);
      else if (schema.items === false) this.observe(this.site(schema, steps).tuple!, item);
    });
  }

  /** The keyword that lists the values of a schema, and they. */
  private listed(schema: Schema): [keyword: 'const' | 'enum', expected: JsonValue] | undefined {
    if (schema.const !== undefined) return ['const', schema.const];
    return schema.enum === undefined ? undefined : ['enum', json.list(schema.enum)];
  }

  /** Choices and constants. */
  private testValues(schema: Schema, value: JsonValue, steps: readonly PlaceStep[]): void {
    const listed = this.listed(schema);
    if (listed === undefined || this.tester.meets(schema, ...listed, value)) return;
    const [keyword] = listed;
    const site = this.site(schema, steps);
    if (wordsIn(schema) === undefined || (value.kind !== 'string' && value.kind !== 'null'))
      this.drop(site, keyword, value);
    else if (value.kind === 'null') site.nulls ??= this.mark(value);
    else if (!site.words.has(value.value)) site.words.set(value.value, this.mark(value));
  }

  private testKeywords(schema: Schema, value: JsonValue, steps: readonly PlaceStep[]): void {
    const { format, minItems, prefixItems } = schema;
    const test = (keyword: string, expected: JsonValue) => {
      if (!this.tester.meets(schema, keyword, expected, value))
        this.drop(this.site(schema, steps), keyword, value);
    };
    if (format !== undefined && value.kind === 'string') test('format', json.string(format));
    const form = value.kind === 'string' && datesOf(schema) === undefined ? formOf(schema) : undefined;
    if (form !== undefined && value.kind === 'string' && !isCarriedNatively(value.value, form))
      this.site(schema, steps).text ??= this.mark(value);
    if (minItems !== undefined && prefixItems === undefined) test('minItems', json.number(minItems));
    for (const [keyword, expected] of schema.other ?? []) {
      if (keyword === 'contentEncoding') {
        const isBase64 = expected.kind === 'string' && expected.value === 'base64';
        const breaks = isBase64 && value.kind === 'string' && !base64.test(value.value);
        if (breaks) this.drop(this.site(schema, steps), keyword, value);
      } else if (bounds.has(keyword)) {
        test(keyword, expected);
      } else if (intricate.has(keyword) && !this.tester.meets(schema, keyword, expected, value)) {
        const { file, line, column } = placeOf(this.payload.source, value.start);
        throw new SkevoError(
          `the value at ${formatPlace(steps) || 'the top'} of ${file}:${line}:${column} does not meet "${keyword}", which cannot be widened by itself`,
          'Change that part of the schema by hand, then update again.',
          excerptOf(this.source, expected.start),
        );
      }
    }
  }

  private drop(site: Site, keyword: string, value: JsonValue): void {
    if (!site.keywords.has(keyword)) site.keywords.set(keyword, this.mark(value));
  }

  private site(schema: Schema, steps: readonly PlaceStep[]): Site {
    let site = this.sites.get(schema);
    if (site === undefined) this.sites.set(schema, (site = new Site(steps)));
    return site;
  }

  private mark(value: JsonValue): Mark {
    const { file, line, column } = placeOf(this.payload.source, value.start);
    return { file, line, column };
  }

  private observe(strangers: Strangers, value: JsonValue): void {
    const { source } = this.payload;
    if (this.opened !== source) this.scanner.open(source);
    this.opened = source;
    if (!this.scanner.scan(strangers.place, value.start, value.end)) explainRefusal(this.scanner, source);
  }
}
