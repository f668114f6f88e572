import { IsString } from 'class-validator';
import { cpSync, mkdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Argv } from 'yargs';
import { SkevoError } from '../../core/error.js';
import { runCommandLine } from '../main.js';
import { validated } from '../options.js';
import { out, print } from '../print.js';

class DemoOptions {
  @IsString()
  folder!: string;
}

export const options = (argv: Argv) => argv;

/** Every kind of payload of the example beside the sailings, which get the whole tour. */
const others = ['vessels', 'berths', 'fares', 'tides', 'notices'];

/** Puts the example into a folder and runs every step on it, each command shown before its output. */
export async function run(given: object): Promise<void> {
  const { folder } = validated(DemoOptions, given);
  try {
    mkdirSync(folder, { recursive: true });
    cpSync(fileURLToPath(new URL('../demo', import.meta.url)), folder, { recursive: true });
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
      '  skevo outline YOUR-FOLDER                                    your own payloads',
    ].join('\n'),
  );
  if (!clean || !caught) process.exitCode = Math.max(...codes.slice(0, -1), caught ? 0 : 1);
}
