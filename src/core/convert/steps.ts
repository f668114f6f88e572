import { json, type JsonKind, type JsonValue } from '../json/value.js';
import { instantOf } from '../roundtrip/instant.js';
import { writeJson } from '../json/write.js';

/** What a step does to a value; undefined for nothing. @throws StepTrouble for a value that it cannot take */
type Change = (value: JsonValue | undefined) => JsonValue | undefined;

/** One step on the way of a value from one schema to another. */
export interface Step {
  /** The word of the step. */
  readonly word: string;
  readonly takes: readonly JsonKind[];
  /** What it makes of each kind; those that it passes on stay. */
  readonly gives: readonly JsonKind[];
  /** Whether nothing, and null, are changed too. */
  readonly fillsGaps: boolean;
  readonly change: Change;
}

/** A value that a step cannot take. */
export class StepTrouble extends Error {}

/** How a step is made of what is written behind its word; a text says why it cannot be. */
type Make = (argument: JsonValue | undefined) => Step | string;

const texts: readonly JsonKind[] = ['string'];
const scalars: readonly JsonKind[] = ['string', 'number', 'boolean'];

function onText(word: string, change: (text: string) => string): Make {
  return (argument) =>
    argument !== undefined
      ? `"${word}" stands alone`
      : step(word, texts, texts, (value) => json.string(change((value as { value: string }).value)));
}

function step(
  word: string,
  takes: readonly JsonKind[],
  gives: readonly JsonKind[],
  change: (value: JsonValue) => JsonValue | undefined,
): Step {
  return {
    word,
    takes,
    gives,
    fillsGaps: false,
    change: (value) => {
      if (value === undefined || value.kind === 'null') return value;
      if (!takes.includes(value.kind))
        throw new StepTrouble(`"${word}" takes ${spoken(takes)}, found ${shown(value)}`);
      return change(value);
    },
  };
}

/** Every step, by its word. */
export const steps: ReadonlyMap<string, Make> = new Map<string, Make>([
  ['trim', onText('trim', (text) => text.trim())],
  ['upper', onText('upper', (text) => text.toUpperCase())],
  ['lower', onText('lower', (text) => text.toLowerCase())],
  [
    'split',
    (argument) =>
      argument?.kind !== 'string' || argument.value === ''
        ? '"split" needs the sign between the parts, such as split: ","'
        : step('split', texts, ['list'], (value) => {
            const { value: text } = value as { value: string };
            return json.list(text === '' ? [] : text.split(argument.value).map(json.string));
          }),
  ],
  [
    'join',
    (argument) =>
      argument?.kind !== 'string'
        ? '"join" needs the sign between the parts, such as join: ","'
        : step('join', ['list'], texts, (value) =>
            json.string(
              (value as { items: readonly JsonValue[] }).items
                .map((each) => textOf(each, 'join'))
                .join(argument.value),
            ),
          ),
  ],
  ['number', number],
  ['text', text],
  [
    'boolean',
    (argument) =>
      argument !== undefined
        ? '"boolean" stands alone; other words than true and false take "lookup"'
        : step('boolean', [...texts, 'boolean'], ['boolean'], (value) => {
            if (value.kind === 'boolean') return value;
            const { value: word } = value as { value: string };
            if (word !== 'true' && word !== 'false')
              throw new StepTrouble(`"boolean" takes true and false, found ${shown(value)}`);
            return json.boolean(word === 'true');
          }),
  ],
  ['date', date],
  [
    'default',
    (argument) =>
      argument === undefined
        ? '"default" needs the value, such as default: 0'
        : {
            word: 'default',
            takes: ['null', 'boolean', 'number', 'string', 'list', 'object'],
            gives: [argument.kind],
            fillsGaps: true,
            change: (value) => (value === undefined || value.kind === 'null' ? argument : value),
          },
  ],
  ['lookup', lookup],
  ['first', element('first', (items) => items[0])],
  ['last', element('last', (items) => items.at(-1))],
  [
    'count',
    (argument) =>
      argument !== undefined
        ? '"count" stands alone'
        : step('count', ['list', 'object'], ['number'], (value) =>
            json.number(
              value.kind === 'list' ? value.items.length : value.kind === 'object' ? value.members.length : 0,
            ),
          ),
  ],
]);

function element(word: string, of: (items: readonly JsonValue[]) => JsonValue | undefined): Make {
  return (argument) =>
    argument !== undefined
      ? `"${word}" stands alone`
      : step(word, ['list'], [...scalars, 'list', 'object'], (value) =>
          of((value as { items: readonly JsonValue[] }).items),
        );
}

function number(argument: JsonValue | undefined): Step | string {
  if (argument !== undefined && (argument.kind !== 'string' || argument.value.length !== 1))
    return '"number" stands alone, or with the sign before a fraction, such as number: ","';
  const sign = argument?.kind === 'string' ? argument.value : '.';
  return step('number', ['string', 'number'], ['number'], (value) => {
    if (value.kind === 'number') return value;
    const { value: said } = value as { value: string };
    const plain = said.trim().replace(/^\+/, '').replace(sign, '.');
    const match = /^(-?)0*(\d+(?:\.\d+)?(?:[eE][-+]?\d+)?)$/.exec(plain);
    if (match === null || (sign !== '.' && said.includes('.')))
      throw new StepTrouble(`"number" takes a number, found ${shown(value)}`);
    return json.number(`${match[1]!}${match[2]!}`);
  });
}

function text(argument: JsonValue | undefined): Step | string {
  if (argument !== undefined && (argument.kind !== 'string' || argument.value.length !== 1))
    return '"text" stands alone, or with the sign before a fraction, such as text: ","';
  const sign = argument?.kind === 'string' ? argument.value : '.';
  return step('text', scalars, texts, (value) => {
    const plain = textOf(value, 'text');
    return json.string(value.kind === 'number' ? plain.replace('.', sign) : plain);
  });
}

function textOf(value: JsonValue, word: string): string {
  if (value.kind === 'string') return value.value;
  if (value.kind === 'number') return value.text;
  if (value.kind === 'boolean') return String(value.value);
  throw new StepTrouble(`"${word}" takes texts, numbers and booleans, found ${shown(value)}`);
}

function lookup(argument: JsonValue | undefined): Step | string {
  if (argument?.kind !== 'object' || argument.members.length === 0)
    return '"lookup" needs the words and what they stand for, such as lookup: { N: north, S: south }';
  const table = new Map(argument.members.map(({ key, value }) => [key, value]));
  const kinds = [...new Set([...table.values()].map(({ kind }) => kind))];
  return step('lookup', scalars, kinds, (value) => {
    const found = table.get(textOf(value, 'lookup'));
    if (found === undefined) throw new StepTrouble(`"lookup" does not know ${shown(value)}`);
    return found;
  });
}

const parts = /YYYY|MM|DD|HH|mm|ss/g;

/** The spelling of a point in time: what stands for year, month, day, hour, minute and second, and the zone where none is written. */
function date(argument: JsonValue | undefined): Step | string {
  const wrong = '"date" needs a spelling to read or to write, such as date: { from: DD.MM.YYYY }';
  if (argument?.kind !== 'object') return wrong;
  const said = new Map(argument.members.map(({ key, value }) => [key, value]));
  for (const key of said.keys()) if (!['from', 'to', 'zone'].includes(key)) return wrong;
  const of = (key: string) => {
    const value = said.get(key);
    return value?.kind === 'string' ? value.value : undefined;
  };
  const [from, to, zone = 'Z'] = [of('from'), of('to'), of('zone')];
  const spelling = from ?? to;
  if (spelling === undefined || (from === undefined) === (to === undefined)) return wrong;
  if (!/YYYY/.test(spelling) || !/MM/.test(spelling) || !/DD/.test(spelling))
    return `"date" needs YYYY, MM and DD in ${JSON.stringify(spelling)}`;
  if (!/^(?:Z|[-+]\d\d:\d\d)$/.test(zone)) return '"zone" is Z or an offset such as +02:00';
  return from === undefined ? dateTo(spelling) : dateFrom(spelling, zone);
}

function dateFrom(spelling: string, zone: string): Step {
  const names: string[] = [];
  const escaped = spelling.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
  const pattern = new RegExp(
    `^${escaped.replace(parts, (name) => {
      names.push(name);
      return name === 'YYYY' ? '(\\d{4})' : '(\\d{1,2})';
    })}$`,
  );
  return step('date', texts, texts, (value) => {
    const match = pattern.exec((value as { value: string }).value.trim());
    const trouble = (): never => {
      throw new StepTrouble(`"date" takes dates as ${spelling}, found ${shown(value)}`);
    };
    if (match === null) return trouble();
    const of = (name: string, otherwise: string) =>
      (match[names.indexOf(name) + 1] ?? otherwise).padStart(2, '0');
    const has = (name: string) => names.includes(name);
    const day = `${match[names.indexOf('YYYY') + 1]!}-${of('MM', '')}-${of('DD', '')}`;
    const time = `${has('HH') ? of('HH', '') : '00'}:${has('mm') ? of('mm', '') : '00'}:${has('ss') ? of('ss', '') : '00'}`;
    if (instantOf(`${day}T${time}Z`) === undefined) return trouble();
    return json.string(has('HH') ? `${day}T${time}${zone}` : day);
  });
}

function dateTo(spelling: string): Step {
  return step('date', texts, texts, (value) => {
    const match =
      /^(\d{4})-(\d\d)-(\d\d)(?:[Tt](\d\d):(\d\d):(\d\d)(?:\.\d+)?(?:[Zz]|[-+]\d\d:\d\d)?)?$/.exec(
        (value as { value: string }).value,
      );
    if (match === null)
      throw new StepTrouble(`"date" takes dates as RFC 3339 has them, found ${shown(value)}`);
    const [, year, month, day, hour = '00', minute = '00', second = '00'] = match;
    const of: Readonly<Record<string, string>> = {
      YYYY: year!,
      MM: month!,
      DD: day!,
      HH: hour,
      mm: minute,
      ss: second,
    };
    return json.string(spelling.replace(parts, (name) => of[name]!));
  });
}

export function spoken(kinds: readonly JsonKind[]): string {
  const words: Readonly<Record<JsonKind, string>> = {
    string: 'text',
    number: 'a number',
    boolean: 'a boolean',
    list: 'a list',
    object: 'a record',
    null: 'null',
  };
  return kinds.map((kind) => words[kind]).join(' or ');
}

function shown(value: JsonValue): string {
  const all = writeJson(value);
  return all.length > 40 ? `${all.slice(0, 39)}…` : all;
}
