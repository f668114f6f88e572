import { IsString } from 'class-validator';
import type { Argv } from 'yargs';
import { SkevoError } from '../../core/error.js';
import { inWords } from '../../core/words.js';
import bashScript from '../shells/skevo.bash';
import fishScript from '../shells/skevo.fish';
import zshScript from '../shells/skevo.zsh';
import { validated } from '../options.js';
import { print } from '../print.js';

const scripts = new Map([
  ['bash', bashScript],
  ['zsh', zshScript],
  ['fish', fishScript],
]);

class CompletionOptions {
  @IsString()
  shell!: string;
}

export const options = (argv: Argv) =>
  argv.positional('shell', {
    type: 'string',
    describe: 'bash, zsh or fish; the first line of what is printed says where it goes',
  });

/** Prints the script that makes a shell complete commands, options, languages, contracts and places. */
export async function run(given: object): Promise<void> {
  const { shell } = validated(CompletionOptions, given);
  const script = scripts.get(shell);
  if (script === undefined)
    throw new SkevoError(
      `there is no completion for a shell ${JSON.stringify(shell)}`,
      `There is ${inWords([...scripts.keys()])}.`,
    );
  print(script);
}

/**
 * Prints what may stand at the end of a command line, a candidate a line, as the script of a shell reads it. It is no command of
 * people's: the line may be anything.
 */
export async function runFor(shell: string, line: string): Promise<void> {
  const { candidates } = await import('../complete.js');
  const lines = (await candidates(line)).map(({ text, describe }) => {
    const flat = describe.replaceAll('\n', ' ');
    if (shell === 'zsh') return `${text.replace(/[\\:]/g, '\\$&')}:${flat}`;
    return shell === 'fish' && flat !== '' ? `${text}\t${flat}` : text;
  });
  if (lines.length > 0) print(lines.join('\n'));
}
