import { plainToInstance } from 'class-transformer';
import {
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  IsUrl,
  Matches,
  Min,
  validateSync,
  type ValidationError,
} from 'class-validator';
import { readFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { isMap, isScalar, LineCounter, parseDocument, visit, type Document, type Node } from 'yaml';
import { SkevoError, type FilePlace } from '../core/error.js';
import type { ChoicePolicy } from '../core/infer/rule.js';
import { datesRules, type DatesRule } from '../core/model/dates.js';
import { excerptOf, type Source } from '../core/json/source.js';
import { nearest } from '../core/nearest.js';
import { languages } from '../languages/index.js';
import { buildersRules, unknownRules, type BuildersRule, type UnknownRule } from '../languages/language.js';
import type { Steer } from '../core/infer/said.js';
import { steersOf } from '../core/infer/steering.js';
import { packageTrouble } from '../languages/kit/packages.js';
import { findProjectFile } from './find.js';

const pointer = /^(\/[^/]*)*$/;

/** A language of a contract. */
export class LanguageEntry {
  @IsIn(languages.map(({ name }) => name))
  language!: string;

  @IsOptional()
  @IsString()
  style?: string;

  /** The folder of the generated files. */
  @IsString()
  out!: string;

  @IsOptional()
  @IsString()
  package?: string;

  @IsOptional()
  @IsIn(unknownRules)
  unknown?: UnknownRule;

  @IsOptional()
  @IsIn(datesRules)
  dates?: DatesRule;

  @IsOptional()
  @IsIn(buildersRules)
  builders?: BuildersRule;
}

/** A request whose answers are samples. */
export class CaptureEntry {
  @IsUrl(
    { require_tld: false, require_protocol: true, protocols: ['http', 'https'] },
    { message: 'url must be a whole URL of http or https' },
  )
  url!: string;

  @IsOptional()
  @IsIn(['GET', 'POST'])
  method?: 'GET' | 'POST';

  @IsOptional()
  @IsString()
  body?: string;

  @IsOptional()
  @IsObject()
  headers?: Record<string, string>;

  /** Headers whose values are in environment variables: by the header, the variable. */
  @IsOptional()
  @IsObject()
  'headers-from'?: Record<string, string>;

  @IsOptional()
  @Matches(pointer, { message: 'next must be a place, such as /next' })
  next?: string;

  @IsOptional()
  @IsInt()
  @Min(1)
  pages?: number;
}

/** Samples, the schema learned from them, and the languages generated from it. */
export class Contract {
  /** None where the schema is given: payloads made from it prove the classes then. */
  @IsArray()
  @IsString({ each: true })
  samples: string[] = [];

  @IsOptional()
  @Matches(pointer, { message: 'at must be a place, such as /results/*' })
  at?: string;

  @IsOptional()
  @IsString()
  name?: string;

  @IsString()
  schema!: string;

  @IsArray()
  languages: LanguageEntry[] = [];

  @IsIn(unknownRules)
  unknown: UnknownRule = 'drop';

  /** As the schema says of each text when not given. */
  @IsOptional()
  @IsIn(datesRules)
  dates?: DatesRule;

  @IsIn(['auto', 'open', 'closed', 'none'])
  choices: ChoicePolicy = 'auto';

  /** What a person knows of places, as `steersOf` reads it. */
  @IsOptional()
  @IsObject()
  decisions?: Record<string, object>;

  @IsBoolean()
  strict = false;

  @IsArray()
  capture: CaptureEntry[] = [];
}

export interface Project {
  /** The path of the file, as a person gave it. */
  readonly path: string;
  /** The folder of the file: all paths in it are from there. */
  readonly folder: string;
  readonly contracts: ReadonlyMap<string, Contract>;
  /** Names of query values that are secret. */
  readonly secrets: readonly string[];
  /** Where a contract, or one of its languages, stands in the file. */
  readonly places: ReadonlyMap<Contract | LanguageEntry, FilePlace>;
  /** What was decided about the payloads of each contract. */
  readonly steers: ReadonlyMap<Contract, readonly Steer[]>;
}

/** The project file that is named, or that of this folder or of one above it. @throws SkevoError when there is none */
export function findProject(given: string | undefined): string {
  const found = findProjectFile(given);
  if (found !== undefined) return found;
  throw new SkevoError(
    'there is no skevo.yaml here or above',
    'skevo init writes one; --project names one elsewhere.',
  );
}

/** @throws SkevoError with the place in the file, and the nearest known key for one that is not known */
export function readProject(path: string): Project {
  let bytes: Uint8Array;
  try {
    bytes = readFileSync(path);
  } catch {
    throw new SkevoError(`there is no file ${path}`, 'skevo init writes one.');
  }
  return parseProject({ name: path, bytes, firstLine: 1 });
}

/** A project from its text, at hand. @throws SkevoError as `readProject` does */
export function parseProject(source: Source): Project {
  return new Reader(source).project();
}

class Reader {
  private readonly text: string;
  private readonly document: Document;
  private readonly places = new Map<Contract | LanguageEntry, FilePlace>();
  private readonly steers = new Map<Contract, readonly Steer[]>();

  constructor(private readonly source: Source) {
    this.text = new TextDecoder().decode(source.bytes);
    const lines = new LineCounter();
    this.document = parseDocument(this.text, { lineCounter: lines, uniqueKeys: true });
    const [error] = this.document.errors;
    if (error !== undefined)
      this.fail(error.message.split(/ at line |\n/)[0]!, 'The file is YAML, or JSON.', error.pos[0]);
  }

  project(): Project {
    const { contents } = this.document;
    if (!isMap(contents)) this.fail('a project file is a map', 'Begin it with contracts:', 0);
    this.onlyKeys([], ['contracts', 'secrets']);
    const value = this.plain() as { contracts?: unknown; secrets?: unknown };
    const { contracts, secrets = [] } = value;
    if (typeof contracts !== 'object' || contracts === null || Array.isArray(contracts))
      this.failAt(
        ['contracts'],
        'contracts must be a map from names to contracts',
        'skevo init writes an example.',
      );
    if (!Array.isArray(secrets) || secrets.some((each) => typeof each !== 'string'))
      this.failAt(
        ['secrets'],
        'secrets must be a list of names of query values',
        'Such as secrets: [ticket].',
      );
    const read = Object.entries(contracts as object).map(([name, raw]): [string, Contract] => [
      name,
      this.contract(name, raw),
    ]);
    return {
      path: this.source.name,
      folder: dirname(resolve(this.source.name)),
      contracts: new Map(read),
      secrets: secrets as string[],
      places: this.places,
      steers: this.steers,
    };
  }

  /** The document without aliases. @throws SkevoError for aliases that refer to what they are in, or to too much */
  private plain(): unknown {
    visit(this.document, {
      Alias: (_, alias, around) => {
        const target = alias.resolve(this.document);
        if (target === undefined || around.includes(target))
          this.fail(
            `the alias *${alias.source} refers to ${target === undefined ? 'nothing' : 'what it is in'}`,
            'Write out what it stands for.',
            alias.range?.[0] ?? 0,
          );
      },
    });
    try {
      return this.document.toJS();
    } catch (error) {
      return this.fail(
        `the aliases of the file stand for too much: ${(error as Error).message}`,
        'Write out what they stand for.',
        0,
      );
    }
  }

  private contract(name: string, raw: unknown): Contract {
    const path = ['contracts', name];
    if (typeof raw !== 'object' || raw === null || Array.isArray(raw))
      this.failAt(path, `the contract ${name} must be a map`, 'It has samples, schema and languages.');
    const given = raw as Record<string, unknown>;
    if (typeof given['samples'] === 'string') given['samples'] = [given['samples']];
    const contract = this.checked(Contract, given, path);
    contract.languages = contract.languages.map((each, i) => {
      const here = [...path, 'languages', i];
      const entry = this.checked(LanguageEntry, each, here);
      const language = languages.find((one) => one.name === entry.language)!;
      const { styles, title } = language;
      if (entry.style !== undefined && !styles.some((style) => style.name === entry.style))
        this.failAt(
          [...here, 'style'],
          `${title} has no style ${JSON.stringify(entry.style)}`,
          `There are ${styles.map((style) => style.name).join(', ')}.`,
        );
      const trouble = entry.package === undefined ? undefined : packageTrouble(language, entry.package);
      if (trouble !== undefined) this.failAt([...here, 'package'], trouble.message, trouble.remedy);
      this.places.set(entry, this.placeAt(here));
      return entry;
    });
    contract.capture = contract.capture.map((each, i) =>
      this.checked(CaptureEntry, each, [...path, 'capture', i]),
    );
    const lineOf = (place: string) => {
      const { file, line } = this.placeAt([...path, 'decisions', place]);
      return `${file}:${line}`;
    };
    this.steers.set(contract, steersOf(contract.decisions ?? {}, lineOf));
    this.places.set(contract, this.placeAt(path));
    return contract;
  }

  private checked<T extends object>(type: new () => T, raw: unknown, path: readonly (string | number)[]): T {
    if (typeof raw !== 'object' || raw === null || Array.isArray(raw))
      this.failAt(path, `${path.at(-2) ?? ''} must be a list of maps`, 'See docs/project.md.');
    this.onlyKeys(path, knownKeys.get(type)!);
    const value = plainToInstance(type, raw, { exposeDefaultValues: true });
    const [error] = validateSync(value, { forbidUnknownValues: false });
    if (error !== undefined) this.refuse(error, path);
    return value;
  }

  private refuse(error: ValidationError, path: readonly (string | number)[]): never {
    const { property, value, constraints = {} } = error as ValidationError & { value?: unknown };
    const [message = `${property} is not as it should be`] = Object.values(constraints);
    const isMissing = value === undefined;
    this.failAt(
      isMissing ? path : [...path, property],
      isMissing ? `${property} is missing` : message.replace('the following values: ', ''),
      'See docs/project.md for what stands where.',
    );
  }

  /** @throws SkevoError for a key that is not known, with the nearest that is */
  private onlyKeys(path: readonly (string | number)[], known: readonly string[]): void {
    const node = path.length === 0 ? this.document.contents : (this.document.getIn(path, true) as Node);
    if (!isMap(node)) return;
    for (const { key } of node.items) {
      const name = isScalar(key) ? String(key.value) : String(key);
      if (known.includes(name)) continue;
      const near = nearest(name, known);
      this.fail(
        `${JSON.stringify(name)} is no key of ${path.length === 0 ? 'a project file' : `${path.join('.')}`}`,
        near === undefined ? `There are ${known.join(', ')}.` : `Did you mean ${near}?`,
        (key as Node).range?.[0] ?? 0,
      );
    }
  }

  private failAt(path: readonly (string | number)[], message: string, remedy: string): never {
    throw new SkevoError(message, remedy, this.placeAt(path));
  }

  private fail(message: string, remedy: string, offset: number): never {
    throw new SkevoError(message, remedy, this.place(offset));
  }

  private placeAt(path: readonly (string | number)[]): FilePlace {
    const node = this.document.getIn(path, true) as Node | undefined;
    const parent = this.document.getIn(path.slice(0, -1), true) as Node | undefined;
    return this.place(node?.range?.[0] ?? parent?.range?.[0] ?? 0);
  }

  private place(offset: number): FilePlace {
    return excerptOf(this.source, new TextEncoder().encode(this.text.slice(0, offset)).length);
  }
}

const knownKeys = new Map<new () => object, readonly string[]>([
  [
    Contract,
    [
      'samples',
      'at',
      'name',
      'schema',
      'languages',
      'unknown',
      'dates',
      'choices',
      'decisions',
      'strict',
      'capture',
    ],
  ],
  [LanguageEntry, ['language', 'style', 'out', 'package', 'unknown', 'dates', 'builders']],
  [CaptureEntry, ['url', 'method', 'body', 'headers', 'headers-from', 'next', 'pages']],
]);
