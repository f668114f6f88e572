import { IsBoolean, IsInt, IsString, Max, Min } from 'class-validator';
import { cpSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Argv } from 'yargs';
import { SkevoError } from '../../core/error.js';
import { runCommandLine } from '../main.js';
import { places, serveFerries } from '../../standin/ferries.js';
import { validated } from '../options.js';
import { out, print } from '../print.js';

class DemoOptions {
  @IsString()
  folder!: string;

  @IsBoolean()
  serve = false;

  @IsInt({ message: '--port must be a whole number' })
  @Min(0, { message: '--port must be 0 or more' })
  @Max(65_535, { message: '--port must be at most 65535' })
  port = 4180;
}

export const options = (argv: Argv) =>
  argv
    .option('serve', {
      type: 'boolean',
      default: false,
      describe: "serve the ferry operator's API on this machine until Ctrl-C",
    })
    .option('port', {
      type: 'number',
      default: 4180,
      describe: 'where to serve it; 0 for any',
    });

const shipped = fileURLToPath(new URL('../demo', import.meta.url));

/** Every kind of payload of the example beside the sailings, which get the whole tour. */
const others = ['vessels', 'berths', 'fares', 'tides', 'notices'];

/** Puts the example into a folder and runs every step on it, each command shown before its output. */
export async function run(given: object): Promise<void> {
  const { folder, serve: serves, port } = validated(DemoOptions, given);
  if (serves) return serve(port);
  try {
    mkdirSync(folder, { recursive: true });
    cpSync(shipped, folder, { recursive: true });
  } catch (error) {
    throw new SkevoError(
      `cannot put the example into ${folder}: ${(error as Error).message}`,
      'Name another folder: skevo demo FOLDER.',
    );
  }
  const sailings = `${folder}/payloads/sailings`;
  const each = ['--at', '/results/*'];
  const codes: number[] = [];
  const step = async (why: string, ...args: string[]) => {
    const shown = args.map((arg) => (/^[\w./,:@=-]+$/.test(arg) ? arg : `'${arg}'`)).join(' ');
    print(
      `${why === '' ? '' : `\n${out.colours.faint(`# ${why}`)}\n`}${out.colours.strong(`$ skevo ${shown}`)}`,
    );
    await runCommandLine(args);
    codes.push(Number(process.exitCode ?? 0));
    process.exitCode = 0;
  };

  print(`${out.colours.strong('Saltmere Ferries')}: what its API answered is now in ${folder}/payloads.`);
  await step('What is in a page of sailings?', 'outline', sailings);
  await step(
    'Each result is a sailing: learn its shape.',
    'infer',
    sailings,
    ...each,
    '--name',
    'Sailing',
    '--out',
    `${folder}/sailing.schema.json`,
  );
  await step(
    'Write classes for it.',
    'generate',
    `${folder}/sailing.schema.json`,
    '--language',
    'python,typescript',
    '--out',
    `${folder}/classes`,
  );
  await step(
    'Do all sailings come back whole, in every language that can run here? (Builds are kept: the next check is fast.)',
    'check',
    `${folder}/sailing.schema.json`,
    sailings,
    ...each,
  );
  for (const name of others) {
    const schema = `${folder}/${name}.schema.json`;
    await step(
      `The same for the ${name}: learn, then prove.`,
      'infer',
      `${folder}/payloads/${name}`,
      '--out',
      schema,
      '--quiet',
    );
    await step('', 'check', schema, `${folder}/payloads/${name}`, '--language', 'typescript');
  }
  const clean = codes.every((code) => code === 0);

  print(
    `\n${out.colours.strong('Second act.')} A decoder written by hand in a hurry drops a field, forgets a rename, turns absent\ninto null and rounds a large integer. It is in ${folder}/broken-decoder.mjs; nothing looks wrong when it runs.`,
  );
  await step(
    'Does it lose anything?',
    'check',
    `${folder}/sailing.schema.json`,
    sailings,
    ...each,
    '--with',
    `node ${folder}/broken-decoder.mjs`,
  );
  const caught = codes.at(-1) === 1;

  print(
    [
      '',
      out.colours.strong('What to try next'),
      `  skevo infer ${sailings} --at '/results/*' --explain      why is each field as it is?`,
      `  skevo check ${folder}/sailing.schema.json ${sailings} --at '/results/*' --language typescript:interface`,
      '  skevo languages                                              what can run here?',
      '  skevo demo --serve                                           an API to capture from: see the README',
      '  skevo init YOUR-FOLDER, skevo run                            a project of your own payloads',
    ].join('\n'),
  );
  if (!clean || !caught) process.exitCode = Math.max(...codes.slice(0, -1), caught ? 0 : 1);
}

async function serve(port: number): Promise<void> {
  try {
    const { url } = await serveFerries(join(shipped, 'payloads'), port);
    print(`${out.colours.strong('Saltmere Ferries')} answers at ${out.colours.name(url)} until Ctrl-C\n`);
    const width = Math.max(...Object.keys(places).map((place) => place.length));
    for (const [place, about] of Object.entries(places))
      print(`  ${out.colours.name(place.padEnd(width))}  ${about}`);
  } catch (error) {
    throw new SkevoError(
      `cannot serve on port ${port}: ${(error as Error).message}`,
      'Choose another with --port, or 0 for any.',
    );
  }
}
