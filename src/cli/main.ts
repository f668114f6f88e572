import yargs from 'yargs';
import { SkevoError } from '../core/error.js';
import { nearest } from '../core/nearest.js';
import { commands } from './commands.js';
import { exitCode } from './exit.js';
import { renderError, say } from './print.js';
import { standardInput } from './standard-input.js';
import { version } from './version.js';

/** Runs the process: one command line, with a pipe that closes early looked after. */
export async function main(args: readonly string[]): Promise<void> {
  // A reader that has seen enough closes the pipe; that is no error.
  process.stdout.on('error', (error: NodeJS.ErrnoException) =>
    process.exit(error.code === 'EPIPE' ? exitCode.clean : exitCode.unusable),
  );
  await runCommandLine(args);
}

/** Runs one command line and sets the exit code; never throws. */
export async function runCommandLine(args: readonly string[]): Promise<void> {
  const debug = args.includes('--debug');
  try {
    await parser(args).parseAsync();
  } catch (error) {
    process.exitCode = exitCode.unusable;
    if (error instanceof SkevoError) {
      say(renderError(error));
      if (debug) say(error.stack ?? '');
    } else {
      const message = error instanceof Error ? error.message : String(error);
      say(
        renderError(
          new SkevoError(
            `something went wrong inside Skevo: ${message}`,
            debug ? undefined : 'Run it again with --debug for the details.',
          ),
        ),
      );
      if (debug && error instanceof Error) say(error.stack ?? '');
    }
  }
}

function parser(args: readonly string[]) {
  let cli = yargs(args.map((arg) => (arg === '-' ? standardInput : arg)))
    .scriptName('skevo')
    .usage(
      'skevo: from payloads to a JSON Schema, typed classes, and the proof that no field is lost\n\nUsage: $0 <command>',
    )
    .locale('en')
    .version(version)
    .help()
    .alias('help', 'h')
    .option('debug', {
      type: 'boolean',
      default: false,
      describe: 'show where in Skevo an error comes from',
      hidden: true,
    })
    .parserConfiguration({
      'camel-case-expansion': false,
      'duplicate-arguments-array': true,
      'parse-positional-numbers': false,
    })
    .strict()
    .demandCommand(1, 'a command is needed')
    .wrap(Math.min(100, process.stdout.columns || 100))
    .exitProcess(false)
    .showHelpOnFail(false)
    .epilog(
      'Exit codes: 0 clean, 1 findings, 2 unusable input, 3 a language that was asked for could not be run.',
    )
    .fail((message, error) => {
      throw error ?? usageError(message, args);
    });
  for (const { usage, summary, load } of commands) {
    cli = cli.command(
      usage,
      summary,
      async (argv) => positionals((await load()).options(argv), usage) as never,
      async (given) => (await load()).run(given),
    );
  }
  return cli;
}

function positionals(argv: ReturnType<typeof yargs>, usage: string) {
  if (usage.includes('<schema>'))
    argv.positional('schema', { type: 'string', describe: 'a JSON Schema file' });
  if (usage.includes('<payload..>')) {
    argv.positional('payload', {
      type: 'string',
      array: true,
      describe: 'files, folders or globs of .json, .ndjson, .jsonl (also .gz), or -',
    });
  }
  if (usage.includes('[folder]'))
    argv.positional('folder', { type: 'string', default: 'saltmere', describe: 'where to put the example' });
  return argv;
}

function usageError(message: string, args: readonly string[]): SkevoError {
  const names = commands.map(({ usage }) => usage.split(' ')[0]!);
  const [first] = args.filter((arg) => !arg.startsWith('-'));
  if (first !== undefined && !names.includes(first)) {
    const near = nearest(first, names);
    return new SkevoError(
      `there is no command ${JSON.stringify(first)}`,
      near === undefined ? 'skevo --help lists the commands.' : `Did you mean skevo ${near}?`,
    );
  }
  const text = message.charAt(0).toLowerCase() + message.slice(1);
  return new SkevoError(
    text,
    first === undefined ? 'skevo --help lists the commands.' : `skevo ${first} --help shows what it takes.`,
  );
}
