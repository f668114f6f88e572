/** Options that several commands have, for yargs. This file loads nothing: a run that has nothing to do reads it. */

export const unknownOption = {
  type: 'string',
  default: 'drop',
  describe: 'fields that the schema does not know: keep, drop or reject',
} as const;

export const datesOption = {
  type: 'string',
  describe: 'dates, UUIDs and bytes as text or native types; each as the schema says when not given',
} as const;

export const buildersOption = {
  type: 'string',
  default: 'on',
  describe: 'builders for records of more than four fields, in Java: on or off',
} as const;

export const toolOption = {
  type: 'string',
  array: true,
  nargs: 1,
  default: [] as string[],
  describe: 'a program to use, as in go=/opt/go/bin/go (repeatable)',
} as const;

export const reportOption = {
  type: 'string',
  array: true,
  nargs: 1,
  default: [] as string[],
  describe: 'write a report: .html, .sarif, .junit.xml, .json or .md (repeatable)',
} as const;
