import type { Argv } from 'yargs';
import { closing, commands } from '../commands.js';
import { describedOptions, nameOf } from '../described.js';
import { print } from '../print.js';
import { version } from '../version.js';

export const options = (argv: Argv) => argv;

/** Prints the manual page, in the macros of man(7). */
export async function run(): Promise<void> {
  const parts = await Promise.all(
    commands.map(async (command) => [
      `.SS skevo ${text(command.usage)}`,
      paragraph(`${command.summary}.`),
      ...(await describedOptions(command))
        .filter(({ name }) => !['help', 'version', 'debug'].includes(name))
        .flatMap((each) => {
          const value = each.takesValue ? ' \\fIVALUE\\fR' : '';
          const usual = each.default === undefined ? '' : ` (usually ${each.default})`;
          return ['.TP', `\\fB\\-\\-${text(each.name)}\\fR${value}`, paragraph(each.describe + usual)];
        }),
    ]),
  );
  const lines = [
    `.TH SKEVO 1 "" "skevo ${text(version)}" "User Commands"`,
    '.SH NAME',
    'skevo \\- from payloads to a JSON Schema, typed classes, and the proof that no field is lost',
    '.SH SYNOPSIS',
    ...commands.flatMap((command) => [
      `\\fBskevo ${text(nameOf(command))}\\fR ${rest(command.usage)}`,
      '.br',
    ]),
    '.SH DESCRIPTION',
    ...closing.split('\n\n').flatMap((each) => ['.PP', paragraph(each)]),
    '.SH COMMANDS',
    ...parts.flat(),
    '.SH EVERY COMMAND',
    '.TP',
    '\\fB\\-\\-help\\fR',
    'what the command takes',
    '.TP',
    '\\fB\\-\\-debug\\fR',
    'where in Skevo an error comes from: its trace is printed behind the message',
    '.SH ENVIRONMENT',
    '.TP',
    '\\fBSKEVO_CACHE\\fR',
    'the folder in which builds are kept',
    '.TP',
    '\\fBNO_COLOR\\fR',
    'set to anything: no colours',
  ];
  print(`${lines.join('\n')}\n`);
}

const rest = (usage: string): string => text(usage.split(' ').slice(1).join(' '));

/** Text in which nothing is a request or an escape. */
const text = (value: string): string => value.replaceAll('\\', '\\e').replaceAll('-', '\\-');

const paragraph = (value: string): string => text(value).replace(/^(?=[.'])/gm, '\\&');
