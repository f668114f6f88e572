import { plainToInstance, type ClassConstructor } from 'class-transformer';
import { IsArray, IsBoolean, IsOptional, IsString, validateSync } from 'class-validator';
import type { Argv } from 'yargs';
import { SkevoError } from '../core/error.js';
import { parsePlace, type PlaceStep } from '../core/json/pointer.js';

/** What every command that reads payloads accepts. */
export class PayloadOptions {
  @IsArray()
  @IsString({ each: true })
  payload: string[] = [];

  @IsOptional()
  @IsString({ message: '--at is given more than once' })
  at?: string;

  @IsBoolean()
  quiet = false;
}

/** Options as an instance of their class. @throws SkevoError naming the first that is not as it should be */
export function validated<T extends object>(type: ClassConstructor<T>, given: object): T {
  const options = plainToInstance(type, given);
  const [error] = validateSync(options, { forbidUnknownValues: false });
  if (error !== undefined) {
    const [message] = Object.values(error.constraints ?? {});
    throw new SkevoError(
      message?.startsWith('--') ? message : `--${message ?? `${error.property} is not as it should be`}`,
      'Give the option once; --help shows what it takes.',
    );
  }
  return options;
}

/** The steps of `--at`. @throws SkevoError when it is not a place */
export function placeOption(at: string | undefined): readonly PlaceStep[] {
  if (at === undefined) return [];
  const steps = parsePlace(at);
  if (steps === undefined) {
    throw new SkevoError(
      `--at ${JSON.stringify(at)} is not a JSON Pointer`,
      'It begins with / and has * for every element or key, such as /results/*; skevo outline prints the places.',
    );
  }
  return steps;
}

export const payloadOptions = <T>(argv: Argv<T>) =>
  argv
    .option('at', {
      type: 'string',
      requiresArg: true,
      describe: 'where the payload sits in each document, such as /results/*',
    })
    .option('quiet', { type: 'boolean', default: false, describe: 'no notes and no progress' });

export const unknownOption = {
  type: 'string',
  requiresArg: true,
  default: 'drop',
  describe: 'fields that the schema does not know: keep, drop or reject',
} as const;
