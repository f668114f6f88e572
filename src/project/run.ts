import { existsSync, readFileSync, readdirSync, statSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import { SkevoError } from '../core/error.js';
import { extend } from '../core/extend.js';
import { inferSchema } from '../core/infer/infer.js';
import type { Steer } from '../core/infer/said.js';
import { parseSelector, type Selector } from '../core/json/pointer.js';
import type { Source } from '../core/json/source.js';
import { writeJson } from '../core/json/write.js';
import { buildModel } from '../core/model/build.js';
import type { TypeModel } from '../core/model/types.js';
import type { Notes } from '../core/note.js';
import type { ProvenDocuments } from '../core/roundtrip/document.js';
import { schemaToJson, type Schema } from '../core/schema/schema.js';
import { readSchema } from '../core/schema/read.js';
import { Learner } from '../core/update/learn.js';
import { refreshSchema } from '../core/update/refresh.js';
import { updateSchema, type SchemaChange } from '../core/update/update.js';
import { inWords, pascalCase, singular, wordsOf } from '../core/words.js';
import { resolveInputs, type Input } from '../formats/inputs.js';
import { defaultWorkers } from '../formats/parallel.js';
import { holdInputs, observeInputs, readPayloads } from '../formats/read.js';
import { makeFolder, makeFolderBelow, writeWhole } from '../formats/write.js';
import { languages } from '../languages/index.js';
import { headOf, refuseForeign } from '../languages/kit/head.js';
import type { Emitted } from '../languages/language.js';
import { allMade, makeAll, makeTogether, type Made, type Target } from '../languages/make.js';
import { checkAll, type CheckResult, type Slots } from '../workbench/check-all.js';
import type { Compilers } from '../workbench/compilers.js';
import type { Limits } from '../workbench/exchange.js';
import type { Payload } from '../core/roundtrip/payload.js';
import { findSchema, versionIn } from '../schemas/find.js';
import { loadSchema, pathOfSchema, type Loaded } from '../schemas/load.js';
import { Drift } from '../workbench/drift.js';
import { payloadsFrom, variantsOf } from '../workbench/vary.js';
import type { Contract, LanguageEntry } from './file.js';
import { boundedPatterns } from '../workbench/pattern.js';

export interface RunOptions {
  /** Samples that taught the schema nothing as both are now: they need not be learned from again. */
  readonly known: (files: readonly string[]) => readonly string[];
  /** Told of the samples before they are read. @throws SkevoError when one of them would be written over */
  readonly reading: (paths: readonly string[]) => void;
  /** Told of each file before it is written, and of whose it is. @throws SkevoError when it is somebody else's too */
  readonly claim: (path: string, owner: Contract | LanguageEntry) => void;
  /** Whether an earlier run wrote a file, whatever became of it. */
  readonly isOwn: (path: string) => boolean;
  /** Change no file: say what would change. */
  readonly locked: boolean;
  /** Decide schemas anew from all samples. */
  readonly refresh: boolean;
  readonly limits: Limits;
  readonly tools: ReadonlyMap<string, string>;
  readonly notes: Notes;
  /** What a person decided about the payloads of a contract. */
  readonly steers: ReadonlyMap<Contract, readonly Steer[]>;
  /** What the languages of all contracts wait for. */
  readonly slots: Slots;
  /** Compilers that are kept running, where there are many contracts. */
  readonly compilers?: Compilers | undefined;
  /** Told of the languages that are about to be checked; gives what is told of their progress. */
  readonly checking?: (name: string, targets: readonly Target[]) => Progress;
}

export interface Progress {
  expect(payloads: number): void;
  reach(position: number, payloads: number): void;
  finish(): void;
}

/** What a run made of one contract. */
export interface Outcome {
  readonly name: string;
  readonly contract: Contract;
  /** How the schema changed, or would if it were Skevo's to change; undefined when there was none. */
  readonly changes: readonly SchemaChange[] | undefined;
  /** Whether the schema is as people gave it, and nothing is learned into it. */
  readonly isGiven: boolean;
  /** Files that were written, or would be. */
  readonly files: readonly string[];
  /** Generated files that are made no more. */
  readonly stale: readonly string[];
  readonly model: TypeModel;
  readonly made: readonly Made[];
  /** Missing when a run that may change no file would change some: there is nothing yet to check. */
  readonly check?: CheckResult;
  /** Whether samples that are not JSON came back as they were; missing when there are none. */
  readonly documents?: ProvenDocuments;
  /** Everything that the outcome depends on, and what was written. */
  readonly seen: readonly string[];
}

/** A contract whose schema is up to date with its samples; the classes are not made yet. */
export interface Learned {
  readonly name: string;
  readonly contract: Contract;
  readonly inputs: readonly Input[];
  readonly changes: readonly SchemaChange[] | undefined;
  readonly loaded: Pick<Loaded, 'schema' | 'source' | 'validation' | 'seen'>;
  /** Whether the schema is as people gave it, and nothing is learned into it. */
  readonly isGiven: boolean;
  readonly model: TypeModel;
  /** Files that were written, or would be. */
  readonly files: readonly string[];
}

/**
 * Brings the schema of a contract up to date with its samples. Paths are from the current folder, which is the
 * project's.
 * @throws SkevoError for what a person must put right
 */
export async function learnContract(name: string, contract: Contract, options: RunOptions): Promise<Learned> {
  // Read once: what is learned from is what is proven.
  const inputs = contract.samples.length === 0 ? [] : await holdInputs(await resolveInputs(contract.samples));
  options.reading(inputs.flatMap(({ path }) => (path === undefined ? [] : [path])));
  const own = inputs.find(({ path }) => path === resolve(contract.schema));
  if (own !== undefined)
    throw new SkevoError(
      `the schema ${contract.schema} of ${name} lies among its samples, and would be learned from`,
      'Move it out of the folder of the samples.',
    );
  const known = await schemaAsItIs(contract);
  if (inputs.length === 0 && known === undefined)
    throw new SkevoError(
      `${name} has no samples to learn from, and there is no schema ${contract.schema} yet`,
      'Give it samples, or the schema that there is.',
    );
  if (known?.isMade || (known !== undefined && inputs.length === 0)) {
    for (const note of known.notes) options.notes(note);
    const changes = inputs.length === 0 ? [] : await differences(known, inputs, placeOf(contract));
    return {
      name,
      contract,
      inputs,
      changes,
      loaded: known,
      model: modelOf(known),
      files: [],
      isGiven: true,
    };
  }
  const { text, changes } = await schemaOf(name, contract, inputs, known, options);
  options.claim(contract.schema, contract);
  const files = (await writeChanged(contract.schema, text, options.locked)) ? [contract.schema] : [];
  const source: Source = { name: contract.schema, bytes: new TextEncoder().encode(text), firstLine: 1 };
  const loaded = { schema: readSchema(source), source, validation: { source }, seen: [contract.schema] };
  return { name, contract, inputs, changes, loaded, model: modelOf(loaded), files, isGiven: false };
}

/** The model of a contract as its schema stands; undefined when there is none yet. */
export async function modelAsItIs(contract: Contract): Promise<TypeModel | undefined> {
  const known = await schemaAsItIs(contract);
  return known === undefined ? undefined : modelOf(known);
}

/** The schema of a contract, of any kind; undefined when samples are still to give one. */
async function schemaAsItIs({ schema, samples }: Contract): Promise<Loaded | undefined> {
  const isPlain = !schema.includes('#') && versionIn(schema) === undefined;
  const isToCome = samples.length > 0 && isPlain && !existsSync(schema);
  return isToCome ? undefined : loadSchema(await findSchema(schema));
}

const modelOf = ({ schema, source }: Pick<Loaded, 'schema' | 'source'>) => buildModel(schema, source);

/** What samples say that a schema does not which is not Skevo's to change. */
async function differences(
  { schema, source }: Loaded,
  inputs: readonly Input[],
  at: Selector,
): Promise<readonly SchemaChange[]> {
  const drift = new Drift(schema, source);
  for await (const payload of readUnder(schema, inputs, at)) drift.add(payload);
  return drift.changes();
}

function readUnder(schema: Schema, inputs: readonly Input[], at: Selector): AsyncIterable<Payload> {
  return readPayloads(inputs, at, () => {}, { schema: () => schema });
}

/** Where nobody has samples, payloads made from the schema show that its types lose nothing. */
async function* madeFrom(loaded: Learned['loaded'], take: Notes): AsyncGenerator<Payload> {
  const { variants, notes } = variantsOf(loaded, 0);
  for (const message of notes) take({ message });
  yield* payloadsFrom(variants);
}

/** Writes a file that is not so already. @returns whether it was, or would be */
async function writeChanged(path: string, text: string, locked: boolean): Promise<boolean> {
  if (existsSync(path) && readFileSync(path, 'utf8') === text) return false;
  if (locked) return true;
  makeFolder(dirname(path));
  await writeWhole(path, text);
  return true;
}

/** The package of a language: made once and written once, for whichever of the contracts that share it comes first. */
export class SharedPackage {
  private parts: readonly Made[] | undefined;
  private written: Promise<WrittenPackage> | undefined;

  /** @param members the contracts that share it, with their models */
  constructor(private readonly members: readonly Pick<Learned, 'contract' | 'model'>[]) {}

  get schemas(): readonly string[] {
    return this.members.map(({ contract }) => contract.schema);
  }

  /** What was made for a contract. @throws SkevoError when the types cannot be written */
  made(contract: Contract, target: Target): Made {
    const origin = inWords(this.schemas.map((path) => basename(path)));
    const [first, ...others] = this.members.map(({ model }) => model);
    this.parts ??=
      others.length === 0
        ? makeAll(first!, [target], { origin })
        : allMade(makeTogether([first!, ...others], [target], { origin }).map(([each]) => each!));
    return this.parts[this.members.findIndex((each) => each.contract === contract)]!;
  }

  /** @returns what was written; what was so by now to those that come later */
  async write({ emitted }: Made, entry: LanguageEntry, options: RunOptions): Promise<WrittenPackage> {
    const isFirst = this.written === undefined;
    this.written ??= writePackage(emitted, entry, options);
    const written = await this.written;
    return isFirst || options.locked ? written : { ...written, files: [] };
  }
}

interface WrittenPackage {
  /** All its files. */
  readonly paths: readonly string[];
  /** Those of them that were not so already. */
  readonly files: readonly string[];
  /** Generated files beside them that are made no more. */
  readonly stale: readonly string[];
}

async function writePackage(
  emitted: Emitted,
  entry: LanguageEntry,
  options: RunOptions,
): Promise<WrittenPackage> {
  const paths = emitted.files.map(({ path }) => join(entry.out, path));
  // Nothing is written when one of them cannot be.
  for (const path of paths) {
    options.claim(path, entry);
    if (!options.locked) makeFolderBelow(entry.out, path);
    if (existsSync(path) && !options.isOwn(path)) refuseForeign(path, readFileSync(path, 'utf8'));
  }
  const files: string[] = [];
  for (const [k, file] of emitted.files.entries())
    if (await writeChanged(paths[k]!, file.text, options.locked)) files.push(paths[k]!);
  const [sample] = emitted.files;
  return {
    paths,
    files,
    stale: sample === undefined ? [] : left(entry.out, new Set(paths), headOf(sample.text)),
  };
}

/** A contract whose classes are written, and what proves them; undefined where there is nothing to prove yet. */
export interface Written {
  readonly outcome: Outcome;
  readonly prove: (() => Promise<Outcome>) | undefined;
}

/**
 * Brings the classes of a contract up to date with its schema.
 * @param packageOf tells the package of one of its languages
 * @throws SkevoError for what a person must put right
 */
export async function writeContract(
  { name, contract, inputs, changes, loaded, isGiven, model, files: before }: Learned,
  packageOf: (entry: LanguageEntry) => Promise<SharedPackage>,
  options: RunOptions,
): Promise<Written> {
  const { locked } = options;
  const files: string[] = [...before];
  const written: string[] = [];
  const stale: string[] = [];
  const schemas = new Set(loaded.seen);
  // What is written below is what is proven after it: nothing is made twice.
  const making: { readonly each: Made; readonly shared: SharedPackage }[] = [];
  for (const entry of contract.languages) {
    const shared = await packageOf(entry);
    shared.schemas.forEach((each) => schemas.add(pathOfSchema(each)));
    making.push({ each: shared.made(contract, targetOf(contract, entry)), shared });
  }
  for (const [i, entry] of contract.languages.entries()) {
    const { each, shared } = making[i]!;
    const own = await shared.write(each, entry, options);
    extend(files, own.files);
    extend(written, own.paths);
    extend(stale, own.stale);
  }
  const made = making.map(({ each }) => each);
  const seen = [
    ...schemas,
    ...written,
    // A file that is made no more may come to lie beside them.
    ...written.map((path) => dirname(path)),
    ...inputs.flatMap(({ path }) => (path === undefined ? [] : [path])),
  ];
  const outcome = { name, contract, changes, isGiven, files, stale, seen, model, made };
  if (locked && files.length > 0) return { outcome, prove: undefined };
  return { outcome, prove: () => provenOf(outcome, { loaded, inputs }, options) };
}

async function provenOf(
  outcome: Outcome,
  { loaded, inputs }: Pick<Learned, 'loaded' | 'inputs'>,
  options: RunOptions,
): Promise<Outcome> {
  const { name, contract, made, model } = outcome;
  const { schema } = loaded;
  const bars = options.checking?.(
    name,
    made.map(({ target }) => target),
  );
  const check = await checkAll(
    made,
    model,
    inputs.length > 0 ? readUnder(schema, inputs, placeOf(contract)) : madeFrom(loaded, options.notes),
    {
      strict: contract.strict,
      limits: options.limits,
      tools: options.tools,
      slots: options.slots,
      compilers: options.compilers,
      expect: bars?.expect,
      answered: bars?.reach,
    },
  );
  bars?.finish();
  const others = inputs.filter(({ format }) => format !== 'json');
  if (others.length === 0) return { ...outcome, check };
  const { proveDocuments } = await import('../formats/prove.js');
  return {
    ...outcome,
    check,
    documents: await proveDocuments(others, contract.at === undefined ? schema : undefined),
  };
}

function targetOf(contract: Contract, entry: LanguageEntry): Target {
  const language = languages.find((each) => each.name === entry.language)!;
  const style = language.styles.find((each) => each.name === entry.style) ?? language.styles[0];
  return {
    language,
    style,
    package: entry.package,
    unknown: entry.unknown ?? contract.unknown,
    dates: entry.dates ?? contract.dates,
    builders: entry.builders,
  };
}

const placeOf = (contract: Contract) => parseSelector(contract.at ?? '') ?? [];

/** The text of the schema after all samples, and how it changed. */
async function schemaOf(
  name: string,
  contract: Contract,
  inputs: readonly Input[],
  before: Loaded | undefined,
  options: RunOptions,
): Promise<{ text: string; changes: readonly SchemaChange[] | undefined }> {
  const at = placeOf(contract);
  const decisions = options.steers.get(contract) ?? [];
  if (before === undefined) {
    const observation = await observeInputs(inputs, at, options.notes, { workers: defaultWorkers() });
    const { schema, unmet } = inferSchema(observation, {
      name: contract.name ?? pascalCase(singular(wordsOf(name))),
      nameIsGiven: true,
      choices: contract.choices,
      decisions,
    });
    for (const message of unmet) options.notes({ message });
    return { text: `${writeJson(schemaToJson(schema), 2)}\n`, changes: undefined };
  }
  const { schema: known, source } = before;
  if (options.refresh) {
    const observation = await observeInputs(inputs, at, options.notes, { workers: defaultWorkers() });
    const refreshed = await refreshSchema(
      observation,
      { schema: known, source },
      { choices: contract.choices, decisions },
      (fresh) => readPayloads(inputs, at, () => {}, { schema: () => fresh }),
      boundedPatterns,
    );
    for (const message of refreshed.unmet) options.notes({ message });
    const isSame = refreshed.changes.length === 0;
    return {
      text: isSame ? new TextDecoder().decode(source.bytes) : refreshed.text,
      changes: refreshed.changes,
    };
  }
  const learner = new Learner(known, source, boundedPatterns);
  const paths = inputs.flatMap(({ path }) => (path === undefined ? [] : [path]));
  const current = options.known([contract.schema, ...paths]);
  const fresh = current.includes(contract.schema)
    ? inputs.filter(({ path }) => path === undefined || !current.includes(path))
    : inputs;
  if (fresh.length > 0)
    for await (const payload of readPayloads(fresh, at, options.notes, { schema: () => known }))
      learner.learn(payload);
  if (fresh.length > 0 && !learner.isFamiliar)
    throw new SkevoError(
      `no sample of ${name} has any of the keys that ${contract.schema} knows`,
      contract.at === undefined
        ? 'If the records are inside each document, say where with at:.'
        : 'Check at: and the schema.',
    );
  const { schema, changes } = updateSchema(learner, contract.choices, decisions);
  return {
    // A schema that nothing contradicts stays as it is written, to the byte.
    text:
      changes.length === 0
        ? new TextDecoder().decode(source.bytes)
        : `${writeJson(schemaToJson(schema), 2)}\n`,
    changes,
  };
}

/** Files of a folder that were generated from the same schema and are made no more. */
function left(folder: string, made: ReadonlySet<string>, head: string | undefined): string[] {
  if (head === undefined || !existsSync(folder)) return [];
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return entry.name === 'node_modules' ? [] : left(path, made, head);
    if (!entry.isFile() || made.has(path) || statSync(path).size > 1 << 22) return [];
    return headOf(readFileSync(path, 'utf8')) === head ? [path] : [];
  });
}
