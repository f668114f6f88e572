/**
 * The form of a value in few bits: what a key of an object may decide about what stands under another.
 *
 * Of a scalar its kind; of a list the kinds of its elements, and of theirs, level above level; of an object which
 * shape it has at its place, below zero.
 */
export type Form = number;

export const noForm: Form = 0;
export const booleanForm: Form = 1;
export const numberForm: Form = 2;
export const stringForm: Form = 4;
export const objectForm: Form = 8;
export const listForm: Form = 16;

/** Outside of the levels: an element that is null says nothing of a list. */
export const nullForm: Form = 1 << 30;

const bitsOfLevel = 5;
const level = (1 << bitsOfLevel) - 1;
/** Lists in lists in lists in lists: what is deeper is of any form. */
const levels = 5;
const allLevels = (1 << (bitsOfLevel * (levels + 1))) - 1;

/** Whatever there is. */
export const anyForm: Form = allLevels;

/** A place with more forms than these under one key has none that is worth telling apart. */
export const mostForms = 48;

/** The form of scalars, and the bit of lists and objects, by the first byte of a value. */
export const formOfByte = new Int32Array(256);
formOfByte.fill(numberForm, 0x30, 0x3a);
formOfByte[0x2d] = numberForm;
formOfByte[0x22] = stringForm;
formOfByte[0x74] = formOfByte[0x66] = booleanForm;
formOfByte[0x6e] = nullForm;
formOfByte[0x7b] = objectForm;
formOfByte[0x5b] = listForm;

/** The form of a list. @param elements the forms of its elements together, objects as `objectForm` */
export function formOfList(elements: Form): Form {
  return listForm | ((elements << bitsOfLevel) & allLevels);
}

/** The kinds of a form alone, without what is in its lists. */
export function kindsOf(form: Form): Form {
  return form & level;
}

/** The forms of the elements of lists of a form; `noForm` where there was none, or it was too deep to be told. */
export function elementsOf(form: Form): Form {
  return form >> bitsOfLevel;
}

/** Whether values of the one form are never of the other; lists without elements are of any. */
export function areApart(a: Form, b: Form): boolean {
  const common = kindsOf(a) & kindsOf(b);
  if (common === 0) return true;
  if (common !== listForm || kindsOf(a) !== listForm || kindsOf(b) !== listForm) return false;
  const [ours, theirs] = [elementsOf(a), elementsOf(b)];
  return ours !== 0 && theirs !== 0 && areApart(ours, theirs);
}
