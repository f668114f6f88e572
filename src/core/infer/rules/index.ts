import type { Rule } from '../rule.js';
import { boolean } from './boolean.js';
import { choice } from './choice.js';
import { format } from './format.js';
import { integer } from './integer.js';
import { list } from './list.js';
import { number } from './number.js';
import { object } from './object.js';
import { presence } from './presence.js';
import { string } from './string.js';

/** The rules in the order in which they are asked. */
export const rules: readonly Rule[] = [
  presence,
  object,
  list,
  string,
  format,
  choice,
  integer,
  number,
  boolean,
];
