import type { PlaceStep } from '../json/pointer.js';
import { wordsOf } from '../words.js';
import { earlier, type Mark } from './mark.js';
import {
  joinPositions,
  manyForms,
  mergeObservation,
  mergeFacts,
  mergePlace,
  Observation,
  Place,
  totalAt,
} from './observation.js';
import { formatsIn } from './text-format.js';
import { Tokens } from './token.js';

/** What was made of the texts of a place that have no types. */
export interface Settled {
  readonly steps: readonly PlaceStep[];
  readonly decision: string;
  readonly because: string;
  readonly first: Mark | undefined;
  readonly doubt: number;
}

/** Digits under such keys count nothing. */
const notCounted = new Set(
  'phone tel telephone fax mobile zip postcode postal iban isbn ean gtin barcode plate pin'.split(' '),
);

/** A word that comes twice on the mean may be one of a choice. */
const repeated = 2;

/**
 * An observation in which what files without types left open is settled, place by place: whether texts are numbers or
 * booleans, whether empty ones are null, whether what stands alone is one of a list. The very observation when nothing was
 * open.
 * @param isText whether somebody decided that the texts of a place are texts
 */
export function settle(
  observation: Observation,
  isText: (steps: readonly PlaceStep[]) => boolean,
): { observation: Observation; settled: readonly Settled[] } {
  if (!isOpen(observation.root)) return { observation, settled: [] };
  const copy = new Observation();
  mergeObservation(copy, observation);
  const settled: Settled[] = [];
  const waiting: [Place, readonly PlaceStep[]][] = [[copy.root, []]];
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    const [place, steps] = next;
    const { firstString, firstBlank } = place;
    // Files without types have no tuples.
    joinPositions(place);
    joinTexts(place);
    if (place.lists > 0 && place.singles > 0) joinSingles(place);
    const found = settleTexts(place, steps, isText);
    if (found !== undefined) settled.push({ steps, first: earlier<Mark>(firstString, firstBlank), ...found });
    for (const field of place.fields.values()) {
      // The forms of texts say nothing of what they stand for.
      field.forms = manyForms;
      waiting.push([field.place, [...steps, { key: field.key }]]);
    }
    place.varied = [];
    if (place.values !== undefined) waiting.push([place.values, [...steps, 'every']]);
    if (place.items !== undefined) waiting.push([place.items, [...steps, 'every']]);
  }
  return { observation: copy, settled };
}

function isOpen(root: Place): boolean {
  const waiting = [root];
  for (let place = waiting.pop(); place !== undefined; place = waiting.pop()) {
    if (place.blanks > 0 || place.read !== undefined || place.singles > 0) return true;
    for (const field of place.fields.values()) waiting.push(field.place);
    for (const below of [place.values, place.items, ...(place.positions ?? [])])
      if (below !== undefined) waiting.push(below);
  }
  return false;
}

/** Texts where other elements of the name have attributes beside their text: all are such records. */
function joinTexts(place: Place): void {
  const text = place.fields.get('#text') ?? place.fields.get('#markup');
  if (text === undefined || place.strings + place.blanks === 0) return;
  const alone = new Place();
  mergePlace(alone, place);
  Object.assign(alone, {
    objects: 0,
    emptyObjects: 0,
    firstObject: undefined,
    lists: 0,
    emptyLists: 0,
    firstList: undefined,
  });
  Object.assign(alone, {
    nulls: 0,
    firstNull: undefined,
    singles: 0,
    items: undefined,
    positions: [],
    values: undefined,
  });
  const { shapes, shapeCount } = new Place();
  Object.assign(alone, { shapes, shapeCount, varied: [], candidates: [] });
  alone.fields.clear();
  const count = totalAt(alone);
  const first = earlier<Mark>(place.firstString, place.firstBlank);
  mergePlace(text.place, alone);
  text.present += place.strings;
  for (const field of place.fields.values())
    if (field !== text || place.blanks > 0)
      field.firstAbsent = earlier(field.firstAbsent, field === text ? place.firstBlank : first);
  place.objects += count;
  place.emptyObjects += place.blanks;
  place.firstObject = earlier(place.firstObject, first);
  // Which keys come together is told by the elements that have several.
  if (place.shapes !== undefined) {
    const shape = place.shapes.with(text) ?? place.shapes.add(text, ++place.shapeCount);
    shape.count += place.strings;
    place.shapes.count += place.blanks;
  }
  text.place.blanks -= place.blanks;
  if (text.place.blanks === 0) text.place.firstBlank = undefined;
  forgetTexts(place);
  place.blanks = 0;
  place.firstBlank = undefined;
}

/** What stood alone where others are repeated: all are elements of lists. */
function joinSingles(place: Place): void {
  const alone = new Place();
  mergePlace(alone, place);
  const { lists, firstList, emptyLists } = place;
  Object.assign(alone, {
    lists: 0,
    emptyLists: 0,
    firstList: undefined,
    items: undefined,
    positions: [],
    singles: 0,
  });
  const items = place.items ?? new Place();
  mergePlace(items, alone);
  const first = [alone.firstObject, alone.firstString, alone.firstBlank, alone.firstNull].reduce<
    Mark | undefined
  >((a, b) => earlier<Mark>(a, b), firstList);
  place.fields.clear();
  Object.assign(place, new Place(), {
    lists: lists + totalAt(alone),
    emptyLists,
    firstList: first,
    items,
    positions: undefined,
    fields: place.fields,
  });
}

function settleTexts(
  place: Place,
  steps: readonly PlaceStep[],
  isText: (steps: readonly PlaceStep[]) => boolean,
): Pick<Settled, 'decision' | 'because' | 'doubt'> | undefined {
  const { read, strings, blanks, firstBlank } = place;
  const isRead =
    read !== undefined &&
    strings > 0 &&
    totalAt(read) === strings &&
    !isText(steps) &&
    isOfOneKind(read) &&
    !isNotCounted(steps);
  let told: Pick<Settled, 'decision' | 'because' | 'doubt'> | undefined;
  if (isRead) {
    const what = read.trues + read.falses > 0 ? 'booleans' : read.decimals > 0 ? 'numbers' : 'whole numbers';
    mergeFacts(place, read);
    forgetTexts(place);
    const all = strings === 1 ? 'the one text' : `all ${strings} texts`;
    told = {
      decision: `texts that are ${what}`,
      because: `${all} can be read as such${blanks > 0 ? '; empty ones are null' : ''}`,
      doubt: 0.4 / (strings + 1),
    };
  }
  place.read = undefined;
  if (blanks === 0) return told;
  place.blanks = 0;
  place.firstBlank = undefined;
  const isWord = place.tokens !== undefined && strings >= repeated * place.tokens.byText.size;
  const hasForm = formatsIn(place.formats).some((format) => format !== 'number') || isWord;
  if (isRead || place.objects + place.lists > 0 || (place.strings > 0 && hasForm)) {
    place.nulls += blanks;
    place.firstNull = earlier(place.firstNull, firstBlank);
    return told;
  }
  const wasEmpty = place.strings === 0;
  place.strings += blanks;
  place.shortest = 0;
  place.formats = 0;
  place.tokens = undefined;
  if (wasEmpty) place.firstString = { ...firstBlank!, example: '""' };
  return told;
}

/** Whether readings are all of numbers, or all of booleans. */
function isOfOneKind({ trues, falses, integers, decimals }: Place): boolean {
  return trues + falses === 0 || integers + decimals === 0;
}

function isNotCounted(steps: readonly PlaceStep[]): boolean {
  const step = steps.findLast((each) => each !== 'every');
  const words = step === undefined ? [] : wordsOf(step.key);
  return words.some((word, i) => notCounted.has(word) || notCounted.has(word + (words[i + 1] ?? '')));
}

function forgetTexts(place: Place): void {
  const { formats, shortest, longest } = new Place();
  Object.assign(place, { strings: 0, firstString: undefined, formats, shortest, longest, read: undefined });
  place.tokens = new Tokens();
}
