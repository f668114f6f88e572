import { IsArray, IsOptional, IsString } from 'class-validator';
import type { Argv } from 'yargs';
import type { Steer } from '../core/infer/said.js';
import { parseSteer } from '../core/infer/steering.js';
import { readSource } from '../formats/source.js';
import { PayloadOptions } from './options.js';

/** What commands accept that infer from payloads. */
export class SteeredOptions extends PayloadOptions {
  @IsArray()
  @IsString({ each: true })
  decide: string[] = [];

  @IsOptional()
  @IsString({ message: '--decisions is given more than once' })
  decisions?: string;
}

export const steeringOptions = (argv: Argv) =>
  argv
    .option('decide', {
      type: 'string',
      array: true,
      nargs: 1,
      default: [] as string[],
      describe:
        "what you know of a place: '/labels=map', '/**/author=name:User', '/state=choice:open'; may be given again",
    })
    .option('decisions', {
      type: 'string',
      describe: 'a file of such decisions, by place',
    });

/** What a person decided: in the file first, so that the command line has the last word. @throws SkevoError */
export async function decisionsOf({ decide, decisions }: SteeredOptions): Promise<Steer[]> {
  const steers = decide.map(parseSteer);
  if (decisions === undefined) return steers;
  const text = new TextDecoder().decode(readSource(decisions).bytes);
  // YAML takes longer to load than most payloads to read.
  const { readDecisions } = await import('../project/decisions.js');
  return [...readDecisions(text, decisions), ...steers];
}
