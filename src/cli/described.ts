import type { Argv, Options } from 'yargs';
import type { Command } from './commands.js';

/** An option of a command, as its help has it. */
export interface DescribedOption {
  readonly name: string;
  readonly describe: string;
  readonly takesValue: boolean;
  readonly default?: string;
}

export const debugHelp = 'show where in Skevo an error comes from';
export const widthHelp = 'columns to fill; those of the terminal when not given';

/** What every command takes beside its own options. */
const common: readonly DescribedOption[] = [
  { name: 'help', describe: 'what the command takes', takesValue: false },
  { name: 'version', describe: 'which Skevo this is', takesValue: false },
  { name: 'debug', describe: debugHelp, takesValue: false },
  { name: 'width', describe: widthHelp, takesValue: true },
];

/** The name of a command, without what it takes. */
export const nameOf = ({ usage }: Pick<Command, 'usage'>): string => usage.split(' ')[0]!;

/** The options of a command, in the order in which it declares them: they are what help, completion and the manual are made of. */
export async function describedOptions(command: Command): Promise<DescribedOption[]> {
  const found: DescribedOption[] = [];
  const recorder = {
    option: (name: string, { describe, type, default: usual, hidden }: Options) => {
      const isTold = type !== 'boolean' && usual !== undefined && !Array.isArray(usual);
      if (!hidden)
        found.push({
          name,
          describe: String(describe ?? ''),
          takesValue: type !== 'boolean',
          ...(isTold ? { default: String(usual) } : {}),
        });
      return recorder;
    },
    positional: () => recorder,
  };
  (await command.load()).options(recorder as unknown as Argv);
  return [...found, ...common];
}
