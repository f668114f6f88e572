import { plainToInstance, type ClassConstructor } from 'class-transformer';
import {
  IsArray,
  IsBoolean,
  IsIn,
  IsNumber,
  IsOptional,
  IsPositive,
  IsString,
  validateSync,
} from 'class-validator';
import type { Argv } from 'yargs';
import { SkevoError } from '../core/error.js';
import { parseSelector, type Selector } from '../core/json/pointer.js';
import { usualInputLimit, usualStandardInput, writings, type Writing } from '../formats/inputs.js';
import { asGiven } from './standard-input.js';

/** What every command that reads payloads accepts. */
export class PayloadOptions {
  @IsArray()
  @IsString({ each: true })
  payload: string[] = [];

  @IsOptional()
  @IsString({ message: '--at is given more than once' })
  at?: string;

  @IsOptional()
  @IsIn(writings, { message: `--input must be one of ${writings.join(', ')}` })
  input?: Writing;

  @IsString({ message: '--stdin-name is given more than once' })
  'stdin-name' = usualStandardInput;

  @IsNumber({}, { message: '--limit must be a number of megabytes' })
  @IsPositive({ message: '--limit must be more than 0 megabytes' })
  limit = usualInputLimit / (1 << 20);

  @IsBoolean()
  quiet = false;
}

/** Options as an instance of their class. @throws SkevoError naming the first that is not as it should be */
export function validated<T extends object>(type: ClassConstructor<T>, given: object): T {
  const entries = Object.entries(given).map(([name, value]) => [name, asGiven(value)] as const);
  const options = plainToInstance(
    type,
    // Written to the standard output is what is written nowhere else.
    Object.fromEntries(entries.filter(([name, value]) => !(name === 'out' && value === '-'))),
  );
  const [error] = validateSync(options, { forbidUnknownValues: false });
  if (error !== undefined) {
    const [message] = Object.values(error.constraints ?? {});
    throw new SkevoError(
      message?.startsWith('--') ? message : `--${message ?? `${error.property} is not as it should be`}`,
      message?.endsWith('given more than once')
        ? 'Give the option once; --help shows what it takes.'
        : '--help shows what it takes.',
    );
  }
  return options;
}

/** The steps of `--at`. @throws SkevoError when it is not a place */
export function placeOption(at: string | undefined): Selector {
  if (at === undefined) return [];
  const steps = parseSelector(at);
  if (steps === undefined) {
    throw new SkevoError(
      `--at ${JSON.stringify(at)} is not a JSON Pointer`,
      'It begins with / and has * for every element or key, such as /results/*; skevo outline prints the places.',
    );
  }
  if (steps.at(-1) === 'any depth') {
    throw new SkevoError(
      `--at ${JSON.stringify(at)} says no key`,
      'Name what is looked for at any depth, such as /**/author.',
    );
  }
  return steps;
}

export const payloadOptions = <T>(argv: Argv<T>) =>
  argv
    .option('at', {
      type: 'string',
      describe: 'where the payload sits in each document, such as /results/* or /**/leg',
    })
    .option('input', {
      type: 'string',
      describe: `what the payloads are written in, where their names do not say it: ${writings.join(', ')}`,
    })
    .option('stdin-name', {
      type: 'string',
      default: usualStandardInput,
      describe: 'what the standard input is called in places, notes and findings',
    })
    .option('limit', {
      type: 'number',
      default: usualInputLimit / (1 << 20),
      describe: 'megabytes that one document, or one line, may have',
    })
    .option('quiet', { type: 'boolean', default: false, describe: 'no notes and no progress' });
