import { SkevoError } from '../error.js';
import type { IntegerWidth } from '../json/number.js';
import type { Mark } from './mark.js';
import { noForm, objectForm, type Form } from './form.js';
import { Field, formsAt, manyForms, Observation, Place, type Sighting } from './observation.js';
import type { Shape } from './shape.js';
import { many, Tokens } from './token.js';

/** Changes when an older reader would misread. */
const version = 5;

/** What every saved observation begins with. */
export const savedSign = '{"skevoObservation":';

type SavedMark = [file: number, line: number, column: number, example?: string];

/** A place with everything left out that is as in a place nothing was seen at. */
interface SavedPlace {
  nulls?: [number, SavedMark];
  booleans?: [trues: number, falses: number, SavedMark];
  integers?: [number, IntegerWidth, SavedMark, SavedMark];
  decimals?: [number, SavedMark];
  exact?: [number, SavedMark];
  strings?: [number, shortest: number, longest: number, formats: number, SavedMark];
  /** Missing when they were too many. */
  tokens?: [text: string, count: number, shapes: number[], beside: [field: number, forms: Form[]][]][];
  /** 0 for more than are counted. */
  ids?: string[] | 0;
  blanks?: [number, SavedMark];
  read?: SavedPlace;
  singles?: number;
  lists?: [number, empty: number, SavedMark];
  items?: SavedPlace;
  positions?: SavedPlace[];
  objects?: [number, empty: number, SavedMark];
  /** The forms are 0 when they are too many; those of objects are numbers of the shapes below, from -1 down. */
  fields?: [key: string, present: number, SavedMark, absent: SavedMark | 0, SavedPlace, forms: Form[] | 0][];
  values?: SavedPlace;
  /** Each but the first as the one before it, the field it adds and its count. Missing when they were too many. */
  shapes?: [around: number, field: number, count: number][];
}

interface Saved {
  skevoObservation: number;
  payloads: number;
  files: string[];
  root: SavedPlace;
}

/** What is known of the objects around a place: their shapes by number, and their fields in order. */
interface Around {
  readonly shapes: ReadonlyMap<Shape, number>;
  readonly fields: readonly Field[];
}

const upwards = (a: number, b: number): number => a - b;

/** The shapes of a place by their number in an order that depends on nothing but their keys. */
function numbersOf(place: Place): Map<Shape, number> {
  return new Map([...(place.shapes?.inOrder() ?? [])].map((shape, i) => [shape, i]));
}

/** Forms with the numbers that the shapes of a place are saved under. */
function numbered(forms: ReadonlySet<Form>, place: Place): Form[] {
  if ([...forms].every((form) => form >= 0)) return [...forms].sort(upwards);
  const serials = new Map([...numbersOf(place)].map(([shape, i]) => [-shape.serial, -1 - i]));
  const found = [...forms].map((form) => (form < 0 ? (serials.get(form) ?? objectForm) : form));
  return [...new Set(found)].sort(upwards);
}

/** An observation as JSON text, to be merged elsewhere. The same observation gives the same text. */
export function saveObservation(observation: Observation): string {
  const files = new Map<string, number>();
  const mark = (each: Mark | Sighting | undefined): SavedMark => {
    const { file, line, column } = each!;
    if (!files.has(file)) files.set(file, files.size);
    const saved: SavedMark = [files.get(file)!, line, column];
    if ('example' in each!) saved.push(each.example);
    return saved;
  };
  const save = (place: Place, around?: Around): SavedPlace => {
    const saved: SavedPlace = {};
    if (place.nulls > 0) saved.nulls = [place.nulls, mark(place.firstNull)];
    if (place.trues + place.falses > 0)
      saved.booleans = [place.trues, place.falses, mark(place.firstBoolean)];
    if (place.integers > 0)
      saved.integers = [place.integers, place.width, mark(place.firstInteger), mark(place.firstWide)];
    if (place.decimals > 0) saved.decimals = [place.decimals, mark(place.firstDecimal)];
    if (place.exact > 0) saved.exact = [place.exact, mark(place.firstExact)];
    if (place.strings > 0)
      saved.strings = [place.strings, place.shortest, place.longest, place.formats, mark(place.firstString)];
    if (place.tokens !== undefined) {
      saved.tokens = [...place.tokens.byText.values()]
        .map((token): NonNullable<SavedPlace['tokens']>[number] => [
          token.text,
          token.count,
          [...token.shapes].flatMap((shape) => around?.shapes.get(shape) ?? []).sort(upwards),
          (around?.fields ?? []).flatMap((field, i): [number, Form[]][] =>
            token.forms?.has(field) ? [[i, numbered(token.forms.get(field)!, field.place)]] : [],
          ),
        ])
        .sort(([a], [b]) => (a < b ? -1 : 1));
    }
    if (place.ids !== undefined) saved.ids = place.ids === many ? 0 : [...place.ids].sort();
    if (place.blanks > 0) saved.blanks = [place.blanks, mark(place.firstBlank)];
    if (place.read !== undefined) saved.read = save(place.read);
    if (place.singles > 0) saved.singles = place.singles;
    if (place.lists > 0) saved.lists = [place.lists, place.emptyLists, mark(place.firstList)];
    if (place.items !== undefined) saved.items = save(place.items);
    if (place.positions !== undefined) saved.positions = place.positions.map((each) => save(each));
    if (place.objects > 0) saved.objects = [place.objects, place.emptyObjects, mark(place.firstObject)];
    const shapes = numbersOf(place);
    const fields = [...place.fields.values()].sort((a, b) => (a.key < b.key ? -1 : 1));
    if (place.shapes !== undefined) {
      const numbers = new Map(fields.map((field, i) => [field, i]));
      saved.shapes = [...shapes.keys()].map((shape) => [
        shape.around === undefined ? -1 : shapes.get(shape.around)!,
        shape.field === undefined ? -1 : numbers.get(shape.field)!,
        shape.count,
      ]);
    }
    if (fields.length > 0) {
      saved.fields = fields.map((field) => [
        field.key,
        field.present,
        mark(field.first),
        field.firstAbsent === undefined ? 0 : mark(field.firstAbsent),
        save(field.place, { shapes, fields }),
        field.forms === manyForms ? 0 : numbered(formsAt(field), field.place),
      ]);
    }
    if (place.values !== undefined) saved.values = save(place.values);
    return saved;
  };
  const root = save(observation.root);
  const saved: Saved = {
    skevoObservation: version,
    payloads: observation.payloads,
    files: [...files.keys()],
    root,
  };
  return JSON.stringify(saved);
}

/**
 * An observation from its saved text.
 * @param name what the text is called, for errors
 * @param lineShift lines to add to every place, for one part of a file
 * @param check told of the document before anything is taken from it
 * @throws SkevoError when the text is no saved observation of this version
 * @throws RangeError when it refers to what it does not hold
 */
export function loadObservation(
  text: string,
  name: string,
  lineShift = 0,
  check: (root: unknown) => void = () => {},
): Observation {
  const saved = parsed(text, name);
  check(saved);
  const { files } = saved;
  const mark = ([file, line, column]: SavedMark): Mark => ({
    file: within(files, file),
    line: line + lineShift,
    column,
  });
  const sighting = (each: SavedMark): Sighting => ({ ...mark(each), example: each[3]! });
  const alone = { shapes: [], fields: [] };
  const load = (
    place: Place,
    from: SavedPlace,
    around: { readonly shapes: readonly Shape[]; readonly fields: readonly Field[] } = alone,
  ): Place => {
    if (from.nulls) [place.nulls, place.firstNull] = [from.nulls[0], mark(from.nulls[1])];
    if (from.booleans)
      [place.trues, place.falses, place.firstBoolean] = [
        from.booleans[0],
        from.booleans[1],
        sighting(from.booleans[2]),
      ];
    if (from.integers) {
      [place.integers, place.width] = from.integers;
      place.firstInteger = sighting(from.integers[2]);
      place.firstWide = sighting(from.integers[3]);
    }
    if (from.decimals) [place.decimals, place.firstDecimal] = [from.decimals[0], sighting(from.decimals[1])];
    if (from.exact) [place.exact, place.firstExact] = [from.exact[0], sighting(from.exact[1])];
    if (from.strings) {
      [place.strings, place.shortest, place.longest, place.formats] = from.strings;
      place.firstString = sighting(from.strings[4]);
    }
    place.tokens = from.tokens && new Tokens();
    for (const [token, count, shapes, beside] of from.tokens ?? []) {
      const known = place.tokens!.of(token)!;
      known.count = count;
      for (const shape of shapes) known.shapes.add(within(around.shapes, shape));
      for (const [field, forms] of beside)
        for (const form of forms) known.addForm(within(around.fields, field), form);
    }
    if (from.ids !== undefined) place.ids = from.ids === 0 ? many : new Set(from.ids);
    if (from.blanks) [place.blanks, place.firstBlank] = [from.blanks[0], mark(from.blanks[1])];
    if (from.read) place.read = load(new Place(), from.read);
    if (from.singles) place.singles = from.singles;
    if (from.lists)
      [place.lists, place.emptyLists, place.firstList] = [from.lists[0], from.lists[1], mark(from.lists[2])];
    if (from.items) place.items = load(new Place(), from.items);
    place.positions = from.positions?.map((each) => load(new Place(), each));
    if (from.objects)
      [place.objects, place.emptyObjects, place.firstObject] = [
        from.objects[0],
        from.objects[1],
        mark(from.objects[2]),
      ];
    const fields = (from.fields ?? []).map(([key, present, first, absent, , forms]) => {
      const field = new Field(key, mark(first), new TextEncoder().encode(JSON.stringify(key)));
      field.present = present;
      field.firstAbsent = absent === 0 ? undefined : mark(absent);
      if (forms === 0) field.forms = manyForms;
      else {
        field.form = forms[0] ?? noForm;
        if (forms.length > 1) field.forms = new Set(forms);
      }
      place.fields.set(key, field);
      return field;
    });
    const shapes: Shape[] = [];
    if (from.shapes === undefined) place.shapes = undefined;
    for (const [before, field, count] of from.shapes ?? []) {
      const shape = before < 0 ? place.shapes! : shapes[before]!.add(fields[field]!, shapes.length + 1);
      shape.count = count;
      shapes.push(shape);
    }
    place.shapeCount = Math.max(1, shapes.length);
    fields.forEach((field, i) => load(field.place, from.fields![i]![4], { shapes, fields }));
    place.steadyFields = fields.filter((field) => field.firstAbsent === undefined).length;
    place.varied = fields.filter(({ forms }) => forms !== undefined && forms !== manyForms);
    place.candidates = fields.filter((field) => field.place.tokens !== undefined);
    if (from.values) place.values = load(new Place(), from.values);
    return place;
  };
  const observation = new Observation();
  observation.payloads = saved.payloads;
  load(observation.root, saved.root);
  return observation;
}

function within<T>(list: readonly T[], index: number): T {
  const found = list[index];
  if (found === undefined) throw new RangeError(`there is nothing at ${index} of ${list.length}`);
  return found;
}

function parsed(text: string, name: string): Saved {
  let saved: Partial<Saved>;
  try {
    saved = JSON.parse(text) as Partial<Saved>;
  } catch {
    throw new SkevoError(
      `${name} is not a saved observation, or cut short`,
      'Make it with skevo infer --save-observation.',
    );
  }
  if (typeof saved !== 'object' || saved === null || saved.root === undefined || saved.files === undefined) {
    throw new SkevoError(
      `${name} is not a saved observation`,
      'Make it with skevo infer --save-observation.',
    );
  }
  if (saved.skevoObservation !== version) {
    throw new SkevoError(`${name} was saved by another version of Skevo`, 'Save it again with this one.');
  }
  return saved as Saved;
}
