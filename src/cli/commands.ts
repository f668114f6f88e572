import type { Argv } from 'yargs';

/** A command: how it is called, what it is for, and where its options and its work are; loaded when it is run. */
export interface Command {
  readonly usage: string;
  readonly summary: string;
  readonly load: () => Promise<{ options: (argv: Argv) => Argv; run: (given: object) => Promise<void> }>;
}

/** What stands below the help. */
export const closing =
  'From payloads to a JSON Schema, typed classes, and the proof that no field is lost.\n\nExit codes: 0 clean, 1 findings, 2 unusable input, 3 a language that was asked for could not be run.';

const widen = (options: (argv: Argv) => unknown) => options as (argv: Argv) => Argv;

/** Every command, in the order of the flow. */
export const commands: readonly Command[] = [
  {
    usage: 'outline <payload..>',
    summary: 'what is in the payloads, place by place',
    load: async () => load(await import('./commands/outline.js')),
  },
  {
    usage: 'locate <payload..>',
    summary: 'where a key or value is, and the code that reaches it',
    load: async () => load(await import('./commands/locate.js')),
  },
  {
    usage: 'infer <payload..>',
    summary: 'a JSON Schema from payloads',
    load: async () => load(await import('./commands/infer.js')),
  },
  {
    usage: 'validate <schema> <payload..>',
    summary: 'do payloads meet the schema',
    load: async () => load(await import('./commands/validate.js')),
  },
  {
    usage: 'generate <schema..>',
    summary: 'typed classes',
    load: async () => load(await import('./commands/generate.js')),
  },
  {
    usage: 'check <schema> <payload..>',
    summary: 'the round trip, per language',
    load: async () => load(await import('./commands/check.js')),
  },
  {
    usage: 'convert <payload..>',
    summary: 'payloads in another format or of another schema',
    load: async () => load(await import('./commands/convert.js')),
  },
  {
    usage: 'mapping <from> <to>',
    summary: 'a first mapping between two schemas',
    load: async () => load(await import('./commands/mapping.js')),
  },
  {
    usage: 'init [from]',
    summary: 'a first project file for a folder of payloads or a recording',
    load: async () => load(await import('./commands/init.js')),
  },
  {
    usage: 'run [contract..]',
    summary: 'bring schemas, classes and proofs of a project up to date',
    load: async () => load(await import('./commands/run.js')),
  },
  {
    usage: 'compare <old> <new>',
    summary: 'what differs between two schemas, and for whom it matters',
    load: async () => load(await import('./commands/compare.js')),
  },
  {
    usage: 'vary <schema>',
    summary: 'payloads made from a schema',
    load: async () => load(await import('./commands/vary.js')),
  },
  {
    usage: 'capture [url..]',
    summary: 'samples from an API or a recording of a browser',
    load: async () => load(await import('./commands/capture.js')),
  },
  {
    usage: 'languages',
    summary: 'the languages, their styles, and which can be run here',
    load: async () => load(await import('./commands/languages.js')),
  },
  {
    usage: 'completion <shell>',
    summary: 'what makes a shell complete commands, options, languages, contracts and places',
    load: async () => load(await import('./commands/completion.js')),
  },
  {
    usage: 'manual',
    summary: 'the manual page: skevo manual | man -l -',
    load: async () => load(await import('./commands/manual.js')),
  },
  {
    usage: 'demo [folder]',
    summary: 'all of it on the shipped example',
    load: async () => load(await import('./commands/demo.js')),
  },
];

function load(module: { options: (argv: Argv) => unknown; run: (given: object) => Promise<void> }) {
  return { options: widen(module.options), run: module.run };
}
