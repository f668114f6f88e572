import { widerOf, type IntegerWidth } from '../json/number.js';
import { compareMarks, earlier, type Mark } from './mark.js';
import { mostForms, noForm, objectForm, type Form } from './form.js';
import { mostShapes, Shape } from './shape.js';
import { everyFormat } from './text-format.js';
import { isIdentifying, many, Tokens, withIdentifier, type Token } from './token.js';

/** Where a kind of value was seen first, with that value as JSON text, cut to `exampleLength` characters. */
export interface Sighting extends Mark {
  readonly example: string;
}

export const exampleLength = 60;

/**
 * Everything counted at one place. All counts are of values, so that
 * `nulls + trues + falses + integers + decimals + strings + lists + objects` is the number of values seen.
 */
export class Place {
  nulls = 0;
  firstNull: Mark | undefined = undefined;
  trues = 0;
  falses = 0;
  firstBoolean: Sighting | undefined = undefined;
  /** Numbers written without fraction or exponent, except `-0`. */
  integers = 0;
  width: IntegerWidth = 'int32';
  firstInteger: Sighting | undefined = undefined;
  /** The first integer that needed the present width. */
  firstWide: Sighting | undefined = undefined;
  /** Numbers written with a fraction or an exponent, and `-0`. */
  decimals = 0;
  firstDecimal: Sighting | undefined = undefined;
  /** Decimals that a double does not carry. */
  exact = 0;
  firstExact: Sighting | undefined = undefined;
  strings = 0;
  firstString: Sighting | undefined = undefined;
  /** Bytes between the quotes of the shortest and the longest string. */
  shortest = Infinity;
  longest = 0;
  /** The formats that every string has (`text-format.ts`). */
  formats = everyFormat;
  /** Different strings while they are few and token-like; undefined once they were not. */
  tokens: Tokens | undefined = new Tokens();
  /** The token of the last value, when it was one. For the scanner. */
  lastToken: Token | undefined = undefined;
  /** Different identifiers, for the values of keys that tell one record from another; `many` when they are. */
  ids: ReadonlySet<string> | undefined = undefined;
  /** Empty texts of files without types, which are not among the strings. */
  blanks = 0;
  firstBlank: Mark | undefined = undefined;
  /** Of strings that all have no types: what they are when they are read as numbers and booleans; missing when one cannot be. */
  read: Place | undefined = undefined;
  /** Values that stood alone in files in which a list of one does, too. */
  singles = 0;
  lists = 0;
  emptyLists = 0;
  firstList: Mark | undefined = undefined;
  /** The elements of all lists; undefined while `positions` holds them, and when there was none. */
  items: Place | undefined = undefined;
  /** The elements by position, as long as all lists that have any are equally long and at most `longestTuple`. */
  positions: Place[] | undefined = [];
  objects = 0;
  emptyObjects = 0;
  firstObject: Mark | undefined = undefined;
  /** All emptied when there were more than `mostFields`, and few left where most are data: `values` holds the others. */
  readonly fields = new Map<string, Field>();
  values: Place | undefined = undefined;
  /** The shapes of the objects; undefined when there were too many. */
  shapes: Shape | undefined = new Shape(undefined, undefined, 1);
  shapeCount = 1;
  /** Fields whose tokens are still collected. For the scanner. */
  candidates: Field[] = [];
  /** Fields whose values have several forms, though not too many. */
  varied: Field[] = [];
  /** The form of the last object or list. For the scanner. */
  lastForm: Form = noForm;
  /** Fields that no object has lacked so far. For the scanner. */
  steadyFields = 0;
  /** The field that began the last object. For the scanner. */
  opening: Field | undefined = undefined;
  /** The field whose value is being read. For the scanner. */
  current: Field | undefined = undefined;
}

/** Lists longer than this are never tuples. */
export const longestTuple = 8;

/** Objects with more different keys than this at one place are a map, and what is below each key is put together. */
export const mostFields = 8_000;

/** One key of the objects at a place. */
export class Field {
  /** Objects that had the key. */
  present = 0;
  /** The first object that lacked the key. */
  firstAbsent: Mark | undefined = undefined;
  readonly place = new Place();
  /** Whether it stays a field where the others were put together. */
  isKept = false;
  /** The form that its values had first. */
  form: Form = noForm;
  /** All forms of its values once there are several; `manyForms` when there are too many. */
  forms: ReadonlySet<Form> | undefined = undefined;
  /** The form of the last value. For the scanner. */
  lastForm: Form = noForm;
  /** Serial number of the last object that had the key. For the scanner. */
  lastObject = -1;
  /** The field that followed last time. For the scanner. */
  follower: Field | undefined = undefined;

  /**
   * @param first where the key was seen first
   * @param literal the key's JSON literal with its quotes, as UTF-8
   */
  constructor(
    readonly key: string,
    public first: Mark,
    readonly literal: Uint8Array,
  ) {
    if (isIdentifying(key)) this.place.ids = new Set();
  }
}

/** Stands for more forms than are told apart. */
export const manyForms: ReadonlySet<Form> = new Set();

/** Notes a form of the values of a field at a place, which may be a new one. */
export function noteForm(place: Place, field: Field, form: Form): void {
  if (field.form === noForm) {
    field.form = form;
    return;
  }
  if (field.forms === undefined ? field.form === form : field.forms === manyForms || field.forms.has(form))
    return;
  setForms(place, field, [...formsAt(field), form]);
}

/** The forms of the values of a field. */
export function formsAt({ form, forms }: Field): ReadonlySet<Form> {
  return forms ?? new Set(form === noForm ? [] : [form]);
}

/** The forms of the values of a field beside a token, `undefined` when they are not told apart. */
export function formsBeside(token: Token, field: Field): ReadonlySet<Form> | undefined {
  if (field.forms === manyForms) return undefined;
  if (field.forms !== undefined) return token.forms?.get(field) ?? new Set();
  return [...token.shapes].some((shape) => shape.has(field)) ? formsAt(field) : new Set();
}

function setForms(place: Place, field: Field, forms: Iterable<Form>): void {
  const all = new Set(forms);
  // What stood beside a token so far was of the one form that there was.
  if (field.forms === undefined && all.size > 1) {
    for (const token of tokensBeside(place, field))
      for (const form of formsBeside(token, field)!) token.addForm(field, form);
    place.varied.push(field);
  }
  if (all.size > 1) field.forms = all;
  for (const form of all) if (field.form === noForm) field.form = form;
  if (all.size > mostForms) forgetForms(place, field);
}

function forgetForms(place: Place, field: Field): void {
  field.forms = manyForms;
  place.varied = place.varied.filter((each) => each !== field);
  for (const token of tokensBeside(place, field)) token.forms?.delete(field);
}

function* tokensBeside(place: Place, field: Field): Generator<Token> {
  for (const other of place.fields.values())
    if (other !== field && other.place.tokens !== undefined) yield* other.place.tokens.byText.values();
}

/** What was seen in payloads, place by place. */
export class Observation {
  payloads = 0;
  readonly root = new Place();
}

/** How many values were seen at a place. */
export function totalAt(place: Place): number {
  return (
    place.nulls +
    place.trues +
    place.falses +
    place.integers +
    place.decimals +
    place.strings +
    place.blanks +
    place.lists +
    place.objects
  );
}

/** The fields of a place in the order of the first payload that had them. */
export function fieldsInOrder(place: Place): Field[] {
  return [...place.fields.values()].sort((a, b) => compareMarks(a.first, b.first));
}

/**
 * Adds what `other` saw to `target`. Associative and commutative: counts add up, and every first place is the
 * earliest by file name, line and column.
 */
export function mergeObservation(target: Observation, other: Observation): void {
  target.payloads += other.payloads;
  mergePlace(target.root, other.root);
}

export function mergePlace(target: Place, other: Place): void {
  mergeReadings(target, other);
  mergeTexts(target, other);
  mergeFields(target, other);
  mergeElements(target, other);
  mergeFacts(target, other);
}

/** To be called before the facts are merged, which say how many strings there were. */
function mergeReadings(target: Place, other: Place): void {
  if (other.strings === 0) return;
  if (other.read === undefined || (target.strings > 0 && target.read === undefined)) target.read = undefined;
  else mergePlace((target.read ??= new Place()), other.read);
}

function mergeFields(target: Place, other: Place): void {
  if (target.values !== undefined || other.values !== undefined) {
    mergeCollapsed(target, other);
    return;
  }
  const steps = new Map<Field, Field>();
  for (const theirs of other.fields.values()) steps.set(theirs, mergeField(target, theirs));
  noteAbsences(target, other);
  mergeForms(target, steps);
  mergeShapes(target, other, steps);
  target.candidates = [...target.fields.values()].filter(({ place }) => place.tokens !== undefined);
  if (target.fields.size > mostFields) collapse(target);
}

/**
 * Puts together what is below the keys of objects that are too many to be fields.
 * @param kept those that stay fields
 */
export function collapse(place: Place, kept: ReadonlySet<string> = new Set()): void {
  place.values ??= new Place();
  place.steadyFields = 0;
  for (const [key, field] of place.fields) {
    if (kept.has(key)) {
      field.isKept = true;
      // Nothing is to remember the fields that are none now.
      field.follower = undefined;
      for (const token of field.place.tokens?.byText.values() ?? []) token.forget();
      if (field.firstAbsent === undefined) place.steadyFields++;
      // What is being read there is put to the others when it is over.
    } else if (field !== place.current) fold(place, field);
  }
  place.shapes = undefined;
  place.candidates = [];
  place.varied = [];
  place.opening = undefined;
}

/** Puts what is below one key to what is below the others. */
export function fold(place: Place, field: Field): void {
  place.fields.delete(field.key);
  mergePlace(place.values!, field.place);
}

/** Merges fields where most of those of one of the places were put together: only what both keep stays one. */
function mergeCollapsed(target: Place, other: Place): void {
  const [first, ...others] = [target, other].filter(({ values }) => values !== undefined);
  const kept = [...first!.fields.keys()].filter((key) => others.every(({ fields }) => fields.has(key)));
  collapse(target, new Set(kept));
  for (const theirs of other.fields.values()) {
    if (kept.includes(theirs.key)) mergeField(target, theirs).isKept = true;
    else mergePlace(target.values!, theirs.place);
  }
  if (other.values !== undefined) mergePlace(target.values!, other.values);
  noteAbsences(target, other);
}

function mergeField(target: Place, theirs: Field): Field {
  let ours = target.fields.get(theirs.key);
  if (ours === undefined) {
    ours = new Field(theirs.key, theirs.first, theirs.literal);
    ours.present = theirs.present;
    ours.firstAbsent = earlier(theirs.firstAbsent, target.firstObject);
    target.fields.set(theirs.key, ours);
  } else {
    ours.present += theirs.present;
    ours.first = earlier(ours.first, theirs.first)!;
    ours.firstAbsent = earlier(ours.firstAbsent, theirs.firstAbsent);
  }
  mergePlace(ours.place, theirs.place);
  return ours;
}

/** Notes which fields the objects of another place lack. */
function noteAbsences(target: Place, other: Place): void {
  target.steadyFields = 0;
  for (const [key, ours] of target.fields) {
    if (!other.fields.has(key)) ours.firstAbsent = earlier(ours.firstAbsent, other.firstObject);
    if (ours.firstAbsent === undefined) target.steadyFields++;
  }
}

/** To be called before the shapes are merged, which say beside what a token stood. */
function mergeForms(target: Place, fields: ReadonlyMap<Field, Field>): void {
  for (const [theirs, ours] of fields) {
    if (ours.forms === manyForms) continue;
    if (theirs.forms === manyForms) {
      forgetForms(target, ours);
      continue;
    }
    const translate = translatorOf(theirs.place, ours.place);
    const [known, all] = [formsAt(ours), [...formsAt(theirs)].map(translate)];
    setForms(target, ours, [...known, ...all]);
    if (ours.forms === undefined || (ours.forms as ReadonlySet<Form>) === manyForms) continue;
    for (const [theirTag, ourTag] of fields) {
      if (theirTag === theirs) continue;
      for (const [text, token] of theirTag.place.tokens?.byText ?? []) {
        const same = ourTag.place.tokens?.byText.get(text);
        for (const form of formsBeside(token, theirs)!) same?.addForm(ours, translate(form));
      }
    }
  }
}

/** From forms of values of one place to the same of another, which has all its shapes. */
function translatorOf(from: Place, to: Place): (form: Form) => Form {
  const serials = new Map<Form, Form>();
  return (form) => {
    if (form >= 0) return form;
    if (from.shapes === undefined || to.shapes === undefined) return objectForm;
    if (serials.size === 0) {
      for (const shape of from.shapes.all()) {
        let same: Shape | undefined = to.shapes;
        for (const { key } of shape.fields()) same = same?.with(to.fields.get(key)!);
        serials.set(-shape.serial, same === undefined ? objectForm : -same.serial);
      }
    }
    return serials.get(form)!;
  };
}

function mergeShapes(target: Place, other: Place, fields: ReadonlyMap<Field, Field>): void {
  if (target.shapes === undefined || other.shapes === undefined) {
    target.shapes = undefined;
    return;
  }
  const twins = new Map<Shape, Shape>([[other.shapes, target.shapes]]);
  for (const theirs of other.shapes.all()) {
    if (theirs.field !== undefined) {
      const around = twins.get(theirs.around!)!;
      const field = fields.get(theirs.field)!;
      let ours = around.with(field);
      if (ours === undefined) {
        if (++target.shapeCount > mostShapes) {
          target.shapes = undefined;
          return;
        }
        ours = around.add(field, target.shapeCount);
      }
      twins.set(theirs, ours);
    }
    twins.get(theirs)!.count += theirs.count;
  }
  for (const [theirs, ours] of fields) {
    for (const [text, token] of theirs.place.tokens?.byText ?? []) {
      const known = ours.place.tokens?.byText.get(text);
      for (const shape of token.shapes) known?.shapes.add(twins.get(shape)!);
    }
  }
}

/** Adds what is known of the texts of one place to another. */
export function mergeTexts(target: Place, other: Place): void {
  target.shortest = Math.min(target.shortest, other.shortest);
  target.longest = Math.max(target.longest, other.longest);
  target.formats &= other.formats;
  if (other.tokens === undefined) target.tokens = undefined;
  for (const [text, theirs] of other.tokens?.byText ?? []) {
    const ours = target.tokens?.of(text);
    if (ours === undefined) {
      target.tokens = undefined;
      break;
    }
    ours.count += theirs.count;
  }
  if (other.ids !== undefined) target.ids = joinedIdentifiers(target.ids ?? new Set(), other.ids);
}

function joinedIdentifiers(ours: ReadonlySet<string>, theirs: ReadonlySet<string>): ReadonlySet<string> {
  if (ours === many || theirs === many) return many;
  let joined = ours;
  for (const id of theirs) joined = withIdentifier(joined, id);
  return joined;
}

function mergeElements(target: Place, other: Place): void {
  const { positions: ours } = target;
  const { positions: theirs } = other;
  if (
    ours !== undefined &&
    theirs !== undefined &&
    (ours.length === theirs.length || ours.length === 0 || theirs.length === 0)
  ) {
    theirs.forEach((place, i) => mergePlace((ours[i] ??= new Place()), place));
    return;
  }
  joinPositions(target);
  for (const place of theirs ?? (other.items === undefined ? [] : [other.items]))
    mergePlace((target.items ??= new Place()), place);
}

/** Puts the elements of all positions together, for lists that are no tuples. */
export function joinPositions(place: Place): void {
  const [first, ...others] = place.positions ?? [];
  place.positions = undefined;
  if (first === undefined) return;
  if (place.items === undefined) place.items = first;
  else mergePlace(place.items, first);
  for (const each of others) mergePlace(place.items, each);
}

/** Adds the counts and first places of one place to another, leaving fields and items alone. */
export function mergeFacts(target: Place, other: Place): void {
  if (other.integers > 0) {
    const width = target.integers === 0 ? other.width : widerOf(target.width, other.width);
    target.firstWide = earlier(
      target.integers > 0 && target.width === width ? target.firstWide : undefined,
      other.width === width ? other.firstWide : undefined,
    );
    target.width = width;
  }
  target.nulls += other.nulls;
  target.trues += other.trues;
  target.falses += other.falses;
  target.integers += other.integers;
  target.decimals += other.decimals;
  target.exact += other.exact;
  target.strings += other.strings;
  target.blanks += other.blanks;
  target.firstBlank = earlier(target.firstBlank, other.firstBlank);
  target.singles += other.singles;
  target.lists += other.lists;
  target.emptyLists += other.emptyLists;
  target.objects += other.objects;
  target.emptyObjects += other.emptyObjects;
  target.firstNull = earlier(target.firstNull, other.firstNull);
  target.firstBoolean = earlier(target.firstBoolean, other.firstBoolean);
  target.firstInteger = earlier(target.firstInteger, other.firstInteger);
  target.firstDecimal = earlier(target.firstDecimal, other.firstDecimal);
  target.firstExact = earlier(target.firstExact, other.firstExact);
  target.firstString = earlier(target.firstString, other.firstString);
  target.firstList = earlier(target.firstList, other.firstList);
  target.firstObject = earlier(target.firstObject, other.firstObject);
}
