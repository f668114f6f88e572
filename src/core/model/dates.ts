import type { Schema } from '../schema/schema.js';
import { mapParts, mapTypes, type TextForm, type Type, type TypeModel } from './types.js';

/** What dates, times, UUIDs and bytes are in generated types: the texts that they are, or the types of the language. */
export const datesRules = ['text', 'native'] as const;
export type DatesRule = (typeof datesRules)[number];

/** The keyword of a schema that says so of one text. */
export const datesKeyword = 'x-dates';

/** What the schema of a text says that it is, of what languages have types for. */
export function formOf(schema: Schema): TextForm | undefined {
  const encoding = schema.other?.get('contentEncoding');
  if (encoding?.kind === 'string' && encoding.value === 'base64') return 'base64';
  return (['date-time', 'date', 'uuid'] as const).find((form) => form === schema.format);
}

/** What a schema says of its text; undefined where it says nothing. */
export function datesOf({ other }: Schema): DatesRule | undefined {
  const said = other?.get(datesKeyword);
  return datesRules.find((rule) => said?.kind === 'string' && said.value === rule);
}

/**
 * A model in which a text has a form just where it is to be of a type of the language's own.
 * @param rule for all texts; each as its schema says, else native, when not given
 * @param forms for which the language has types
 */
export function withDates(
  model: TypeModel,
  rule: DatesRule | undefined,
  forms: readonly TextForm[],
): TypeModel {
  const isNative = (type: Type & { readonly kind: 'string' }) =>
    type.form !== undefined && forms.includes(type.form) && (rule ?? type.dates ?? 'native') === 'native';
  const asSaid = (type: Type): Type =>
    type.kind !== 'string'
      ? mapParts(type, asSaid)
      : isNative(type)
        ? { kind: 'string', form: type.form! }
        : { kind: 'string' };
  // A payload or an alternative that is a text is the text: its type has a name that says nothing of a form.
  return mapTypes(model, asSaid, (type) => (type.kind === 'string' ? { kind: 'string' } : asSaid(type)));
}
