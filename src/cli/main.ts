import yargs from 'yargs';
import { SkevoError } from '../core/error.js';
import { nearest } from '../core/nearest.js';
import { closing, commands } from './commands.js';
import { exitCode } from './exit.js';
import { isFull, reasonOf, unwritable } from '../formats/write.js';
import { fillColumns, out, print, renderError, say, whenOutputFails } from './print.js';
import { debugHelp, describedOptions, nameOf, widthHelp, type DescribedOption } from './described.js';
import { forParser } from './standard-input.js';
import { version } from './version.js';

/** Runs the process: one command line, with a pipe that closes early looked after. */
export async function main(args: readonly string[]): Promise<void> {
  const debug = args.includes('--debug');
  const end = (error: unknown): void => {
    report(error, debug);
    process.exit(exitCode.unusable);
  };
  // A reader that has seen enough closes the pipe; that is no error.
  whenOutputFails((error) =>
    error.code === 'EPIPE' ? process.exit(exitCode.clean) : end(unwritable('the standard output', error)),
  );
  // What goes wrong beside the command is said as what goes wrong in it.
  process.on('uncaughtException', end);
  process.on('unhandledRejection', end);
  await runCommandLine(args);
}

/** What to type first. */
const firstSteps = `Begin with one of:
  skevo demo                  all of it on the shipped example, in a folder of its own
  skevo outline response.json what is in a payload of yours`;

/** Runs one command line and sets the exit code; never throws. */
export async function runCommandLine(args: readonly string[]): Promise<void> {
  try {
    const [first, option, shell = '', line = ''] = args;
    // What a shell asks while somebody types: the line is no command line of this process.
    if (first === 'completion' && option === '--for')
      await (await import('./commands/completion.js')).runFor(shell, line);
    else if (args.length === 0) print(`${await parser(args).getHelp()}\n\n${firstSteps}`);
    else await parser(args).parseAsync();
  } catch (error) {
    process.exitCode = exitCode.unusable;
    const told = isUsageProblem(error) ? await usageError(error.message, args) : error;
    report(told, args.includes('--debug'));
  }
}

/** Says what went wrong. What a person can put right is told apart from what only Skevo's makers can. */
function report(error: unknown, debug: boolean): void {
  say(renderError(asTold(error, debug)));
  if (debug && error instanceof Error) say(error.stack ?? '');
}

function asTold(error: unknown, debug: boolean): SkevoError {
  if (error instanceof SkevoError) return error;
  const message = error instanceof Error ? error.message : String(error);
  if (error instanceof RangeError && /call stack/.test(message))
    return new SkevoError(
      'this is nested more deeply than Skevo can follow',
      'Some thousand levels are too many: look at what repeats itself there.',
    );
  const { path, syscall } = error as NodeJS.ErrnoException;
  const reason = reasonOf(error);
  if (reason !== undefined && (syscall !== undefined || path !== undefined))
    return new SkevoError(
      `${path ?? syscall!}: ${reason}`,
      isFull(error) ? 'Make room, and run it again.' : 'Put that right, and run it again.',
    );
  return new SkevoError(
    `something went wrong inside Skevo: ${message}`,
    debug ? undefined : 'Run it again with --debug for the details.',
  );
}

function parser(args: readonly string[]) {
  let cli = yargs(forParser(args))
    .scriptName('skevo')
    .usage('Usage: $0 <command>')
    .locale('en')
    .version(version)
    .help()
    .alias('help', 'h')
    .option('debug', {
      type: 'boolean',
      default: false,
      describe: debugHelp,
    })
    .option('width', { type: 'number', describe: widthHelp })
    .middleware(({ width }) => {
      if (width !== undefined) fillColumns(width);
    }, true)
    .parserConfiguration({
      'camel-case-expansion': false,
      'duplicate-arguments-array': true,
      'parse-positional-numbers': false,
    })
    .strict()
    .demandCommand(1, 'a command is needed')
    .wrap(Math.min(100, out.width))
    .exitProcess(false)
    .showHelpOnFail(false)
    .epilog(closing)
    .fail((message, error) => {
      throw error ?? new UsageProblem(message);
    });
  for (const command of commands) {
    const { usage, summary, load } = command;
    cli = cli.command(
      usage,
      summary,
      async (argv) => {
        const whole = positionals((await load()).options(argv), usage);
        const known = await describedOptions(command);
        refuseValues(args, known, nameOf(command));
        const taking = known.filter(({ takesValue }) => takesValue);
        return whole.requiresArg(taking.map(({ name }) => name)) as never;
      },
      async (given) => (await load()).run(given),
    );
  }
  return cli;
}

function positionals(argv: ReturnType<typeof yargs>, usage: string) {
  if (usage.includes('<schema..>'))
    argv.positional('schema', {
      type: 'string',
      array: true,
      describe: 'a file of JSON Schema, OpenAPI (#NAME), Avro or XML Schema; several come out as one package',
    });
  if (usage.includes('<schema>'))
    argv.positional('schema', {
      type: 'string',
      describe: 'a file of JSON Schema, OpenAPI (#NAME), Avro or XML Schema',
    });
  if (usage.includes('<payload..>')) {
    argv.positional('payload', {
      type: 'string',
      array: true,
      describe:
        'files, folders or globs of .json, .ndjson, .yaml, .csv, .xml, .avro and more (also .gz, .zst), or -',
    });
  }
  if (usage.includes('[folder]'))
    argv.positional('folder', { type: 'string', default: 'saltmere', describe: 'where to put the example' });
  return argv;
}

/** What the parser of the command line says of a line that it does not understand. */
class UsageProblem extends Error {}

function isUsageProblem(error: unknown): error is Error {
  // What the parser throws itself has no class that is told to others.
  return error instanceof UsageProblem || (error instanceof Error && error.name === 'YError');
}

/** The same in words that help. */
async function usageError(message: string, args: readonly string[]): Promise<SkevoError> {
  const names = commands.map(nameOf);
  const [first] = args.filter((arg) => !arg.startsWith('-'));
  if (first !== undefined && !names.includes(first)) {
    const near = nearest(first, names);
    return new SkevoError(
      `there is no command ${JSON.stringify(first)}`,
      near === undefined ? 'skevo --help lists the commands.' : `Did you mean skevo ${near}?`,
    );
  }
  const command = commands.find((each) => nameOf(each) === first);
  if (command !== undefined) {
    const known = (await describedOptions(command)).map(({ name }) => name);
    const option = unknownOption(args, known);
    if (option !== undefined) {
      const name = option.replace(/^-+(no-)?/, '');
      const near = name.length > 2 ? nearest(name, known) : undefined;
      return new SkevoError(
        `${first} has no option ${option}`,
        near === undefined ? `skevo ${first} --help shows what it takes.` : `Did you mean --${near}?`,
      );
    }
    const [, lacking] = /^Not enough arguments following: (.*)$/s.exec(message) ?? [];
    if (lacking !== undefined)
      return new SkevoError(
        `${first} --${lacking} needs a value`,
        `skevo ${first} --help shows what it takes.`,
      );
    if (message.startsWith('Not enough non-option arguments'))
      return new SkevoError(
        `${first} needs more than that: skevo ${command.usage}`,
        `skevo ${first} --help shows what it takes.`,
      );
  }
  const text = message.charAt(0).toLowerCase() + message.slice(1);
  return new SkevoError(
    text,
    first === undefined ? 'skevo --help lists the commands.' : `skevo ${first} --help shows what it takes.`,
  );
}

/** The parser takes every word that is not `true` for no. @throws SkevoError when an option has a value that takes none */
function refuseValues(args: readonly string[], known: readonly DescribedOption[], command: string): void {
  for (const arg of optionsOf(args)) {
    const [, name, value] = /^--(?:no-)?([^=]+)=(.*)$/s.exec(arg) ?? [];
    const isFlag = known.some((each) => each.name === name && !each.takesValue);
    if (isFlag && value !== 'true' && value !== 'false')
      throw new SkevoError(
        `${command} --${name} takes no value`,
        `skevo ${command} --help shows what it takes.`,
      );
  }
}

/** What may be options in a command line. */
function optionsOf(args: readonly string[]): readonly string[] {
  const end = args.indexOf('--');
  return args.slice(0, end < 0 ? args.length : end);
}

/** The first option of a command line that its command does not know, as it is written. */
function unknownOption(args: readonly string[], known: readonly string[]): string | undefined {
  return optionsOf(args)
    .map((arg) => arg.replace(/=.*$/s, ''))
    .find((arg) => {
      // A value may be below zero.
      const [, name] = /^--?(\D.*)$/s.exec(arg) ?? [];
      return name !== undefined && !['h', ...known, ...known.map((each) => `no-${each}`)].includes(name);
    });
}
