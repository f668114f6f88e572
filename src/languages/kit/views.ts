import type { RecordField, RecordType, TextForm } from '../../core/model/types.js';
import { wordsOf } from '../../core/words.js';
import { allocate, type Casing } from './names.js';

/**
 * A method that gives a text as a value of the language: a time, a date, a UUID, bytes. The field itself stays the
 * text that it was, since native types write it in a spelling of their own.
 */
export interface View {
  readonly field: RecordField;
  readonly form: TextForm;
  /** What the method is called. */
  readonly name: string;
  /** Whether there may be no text: the key may be absent, or the value null. */
  readonly mayLack: boolean;
  /** Whether absence and null are both possible, and told apart. */
  readonly isBoth: boolean;
}

const nouns: Readonly<Record<TextForm, string>> = {
  'date-time': 'time',
  date: 'date',
  uuid: 'UUID',
  base64: 'bytes',
};

const suffixes: Readonly<Record<TextForm, string>> = {
  'date-time': 'time',
  date: 'date',
  uuid: 'uuid',
  base64: 'bytes',
};

/**
 * The views of a record.
 * @param forms those for which the language has a type
 * @param taken names that a method may not have
 */
export function viewsOf(
  record: RecordType,
  forms: readonly TextForm[],
  casing: Casing,
  taken: ReadonlySet<string>,
): View[] {
  const found = record.fields.flatMap((field) =>
    field.type.kind === 'string' && field.type.form !== undefined && forms.includes(field.type.form)
      ? [{ field, form: field.type.form }]
      : [],
  );
  const wanted = ({ field, form }: (typeof found)[number]) =>
    `${field.key} ${wordsOf(field.key).at(-1) === suffixes[form] ? 'value' : suffixes[form]}`;
  const names = allocate(found.map(wanted), casing, taken);
  return found.map((each) => ({
    ...each,
    name: names.get(wanted(each))!,
    mayLack: !each.field.required || each.field.nullable,
    isBoth: !each.field.required && each.field.nullable,
  }));
}

/** What a view is, for documentation. @param none what it gives when there is no text */
export function aboutView({ form, mayLack }: View, own: string, none: string): string {
  return `The ${nouns[form]} in ${own}${mayLack ? `; ${none} when there is none` : ''}.`;
}
