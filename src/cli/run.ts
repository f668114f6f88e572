import { IsArray, IsBoolean, IsOptional, IsString } from 'class-validator';
import { watch as watchFiles } from 'chokidar';
import { once } from 'node:events';
import { existsSync, statSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { basename, dirname, resolve } from 'node:path';
import { SkevoError } from '../core/error.js';
import type { TypeModel } from '../core/model/types.js';
import { nearest } from '../core/nearest.js';
import { Coverage } from '../core/roundtrip/unproven.js';
import { languages } from '../languages/index.js';
import { Claims } from '../project/claims.js';
import {
  findProject,
  readProject,
  type Contract,
  type LanguageEntry,
  type Project,
} from '../project/file.js';
import { Packages, type Member } from '../project/packages.js';
import { Proofs } from '../project/proofs.js';
import {
  learnContract,
  modelAsItIs,
  SharedPackage,
  writeContract,
  type Learned,
  type Outcome,
  type RunOptions,
} from '../project/run.js';
import {
  dropStamp,
  foldersBelow,
  isCurrent,
  keepStamp,
  lastRun,
  lastSeen,
  unchangedSince,
} from '../project/stamp.js';
import { pathOfSchema } from '../schemas/load.js';
import { lossesOf } from '../report/check.js';
import { renderRun } from '../report/run.js';
import { slotsHere, type CheckResult } from '../workbench/check-all.js';
import { Compilers } from '../workbench/compilers.js';
import { usualLimits } from '../workbench/exchange.js';
import { findToolchain } from '../workbench/toolchain.js';
import { exitCode, exitOnInterrupt } from './exit.js';
import { refuseInputs } from './files.js';
import { toolsOption } from './languages.js';
import { validated } from './options.js';
import { noteTaker, out, print, renderError, say, talk } from './print.js';
import { meter, meters } from './progress.js';
import { refuseReports, writeReports } from './report.js';
import { sayCacheTrouble } from './toolchains.js';
import { version } from './version.js';

class RunCommandOptions {
  @IsArray()
  @IsString({ each: true })
  contract: string[] = [];

  @IsOptional()
  @IsString({ message: '--project is given more than once' })
  project?: string;

  @IsBoolean()
  locked = false;

  @IsBoolean()
  refresh = false;

  @IsOptional()
  @IsString({ message: '--changed-since is given more than once' })
  'changed-since'?: string;

  @IsBoolean()
  watch = false;

  @IsArray()
  @IsString({ each: true })
  tool: string[] = [];

  @IsArray()
  @IsString({ each: true })
  report: string[] = [];

  @IsBoolean()
  quiet = false;
}

/** Runs the contracts of a project, once or whenever something changes. */
export async function runProject(given: object): Promise<void> {
  const chosen = validated(RunCommandOptions, given);
  const path = resolve(findProject(chosen.project));
  refuseReports(chosen.report);
  exitOnInterrupt();
  if (chosen.watch && chosen.refresh)
    throw new SkevoError('--watch and --refresh exclude each other', 'Refresh once, look at it, then watch.');
  // Every path of a project is from its folder.
  process.chdir(dirname(path));
  // Whoever watches waits for the same compilers again and again.
  const compilers = chosen.watch ? new Compilers() : undefined;
  const seen = await runOnce(basename(path), chosen, compilers);
  if (!chosen.watch) return;
  if (chosen.locked) throw new SkevoError('--watch and --locked exclude each other', 'Give one of them.');
  await watchOn(basename(path), chosen, seen, compilers);
}

/** Contracts from which on it pays to keep compilers running. */
const manyContracts = 3;

/** @param kept compilers that outlive this run */
async function runOnce(
  path: string,
  chosen: RunCommandOptions,
  kept?: Compilers,
): Promise<readonly string[]> {
  const project = readProject(path);
  const contracts = await touchedOf(chosenContracts(project, chosen.contract), path, project, chosen);
  const tools = toolsOption(chosen.tool);
  const { notes, finish } = noteTaker(chosen.quiet);
  const outcomes: Outcome[] = [];
  // A report is about all contracts; otherwise those in which nothing changed are passed over.
  const isWhole = chosen.report.length > 0 || tools.size > 0 || chosen.refresh;
  const current: string[] = [];
  const missing: string[] = [];
  const packages = new Packages(project);
  const claims = new Claims(project, packages);
  const keyOf = new Map([...project.contracts].map(([name, each]) => [each, contractKey(path, name, each)]));
  const lastSeenBy = new Map<Contract, ReadonlySet<string>>();
  const seenBefore = (contract: Contract): ReadonlySet<string> => {
    const known = lastSeenBy.get(contract) ?? new Set(lastSeen(keyOf.get(contract)!));
    lastSeenBy.set(contract, known);
    return known;
  };
  const asked = new Map(contracts);
  const left = new Set(
    [...asked.values()].filter(
      (contract) => !isWhole && isCurrent(keyOf.get(contract)!, version, !chosen.locked),
    ),
  );
  // What shares a package with a contract that is run is written anew, and proven anew.
  for (const contract of asked.values())
    if (!left.has(contract)) packages.together(contract).forEach((each) => left.delete(each));
  for (const [name, contract] of project.contracts) {
    const isAsked = asked.has(name);
    if (isAsked && !left.has(contract)) continue;
    claims.claimWritten(contract, seenBefore(contract));
    if (!isAsked) continue;
    const last = lastRun(keyOf.get(contract)!, version)!;
    current.push(...Object.keys(last.seen));
    missing.push(...last.missing);
  }
  const slots = slotsHere();
  const proofs = new Proofs(availableParallelism());
  const started = performance.now();
  const toRun = [...asked.values()].filter((contract) => !left.has(contract)).length;
  const own = kept === undefined && toRun >= manyContracts ? new Compilers() : undefined;
  // Of one contract the languages are told, of several how many are done.
  const bar = toRun > 1 ? meter('contracts', toRun, 'contracts', chosen.quiet) : undefined;
  const optionsOf = (contract: Contract): RunOptions => ({
    reading: (samples) =>
      refuseInputs(
        chosen.report.map((report) => ['--report', report]),
        [path, pathOfSchema(contract.schema), ...samples],
      ),
    claim: (file, owner) => claims.claim(file, owner),
    isOwn: (file) => [...packages.together(contract)].some((each) => seenBefore(each).has(resolve(file))),
    known: (files) => unchangedSince(keyOf.get(contract)!, version, files),
    locked: chosen.locked,
    refresh: chosen.refresh,
    limits: usualLimits,
    tools,
    notes,
    steers: project.steers,
    slots,
    compilers: kept ?? own,
    checking: (contractName, targets) =>
      meters(
        targets.map(({ language }) => `${contractName}: ${language.name}`),
        'payloads',
        chosen.quiet || toRun > 1,
      ),
  });
  const learned = new Map<Contract, Learned>();
  const shared = new Map<LanguageEntry, Promise<SharedPackage>>();
  const packageOf = (entry: LanguageEntry): Promise<SharedPackage> => {
    const owner = packages.owner(entry);
    const known = shared.get(owner) ?? sharedPackage(packages.sharing(entry), learned);
    shared.set(owner, known);
    return known;
  };
  try {
    for (const first of asked.values()) {
      if (left.has(first) || learned.has(first)) continue;
      await proofs.room();
      // Schemas that share a package are learned before any of it is written; others wait for nobody.
      const group = [...asked].filter(([, each]) => packages.together(first).has(each));
      for (const [name, contract] of group)
        learned.set(contract, await learnContract(name, contract, optionsOf(contract)));
      for (const [, contract] of group) {
        const { outcome, prove } = await writeContract(
          learned.get(contract)!,
          packageOf,
          optionsOf(contract),
        );
        const position = outcomes.push(outcome) - 1;
        proofs.add(async () => {
          const proven = prove === undefined ? outcome : await prove();
          outcomes[position] = proven;
          const own = [...contract.samples.flatMap(foldersOf), ...proven.seen].map((file) => resolve(file));
          const key = keyOf.get(contract)!;
          if (codeOf([proven], chosen.locked) === exitCode.clean && isSettled(proven))
            await keepStamp(key, version, own, await missingPrograms([proven], tools));
          else await dropStamp(key);
          bar?.advance(1);
        });
      }
    }
  } finally {
    try {
      await proofs.done();
    } finally {
      await own?.end();
    }
  }
  bar?.finish();
  finish();
  sayCacheTrouble(chosen.quiet);
  await writeReports(
    chosen.report,
    outcomes.map(({ name, contract, model, made, check, changes = [], files }) => ({
      name,
      schema: contract.schema,
      model,
      made: check === undefined ? [] : made,
      result: check ?? uncheckedOf(model),
      drift: changes,
      ...(chosen.locked && files.length > 0 ? { pending: files } : {}),
    })),
    chosen.quiet,
  );
  const text = renderRun(outcomes, chosen.locked, out);
  if (text !== '') print(text);
  if (outcomes.length > 1 && !chosen.quiet)
    say(talk.colours.faint(summaryOf(outcomes, chosen.locked, (performance.now() - started) / 1000)));
  process.exitCode = codeOf(outcomes, chosen.locked);

  const folders = contracts.flatMap(([, { samples }]) => samples.flatMap(foldersOf));
  const seen = [path, ...folders, ...current, ...outcomes.flatMap((outcome) => outcome.seen)].map((each) =>
    resolve(each),
  );
  const isAll = contracts.length === project.contracts.size;
  if (process.exitCode === exitCode.clean && isAll && outcomes.every(isSettled))
    await keepStamp(path, version, seen, [...missing, ...(await missingPrograms(outcomes, tools))]);
  else await dropStamp(path);
  return seen;
}

/** The package of some contracts, as they were learned, or as the schemas stand of those that are not run. */
async function sharedPackage(
  sharing: readonly Member[],
  learned: ReadonlyMap<Contract, Learned>,
): Promise<SharedPackage> {
  const members: Pick<Learned, 'contract' | 'model'>[] = [];
  for (const { contract } of sharing) {
    const model = learned.get(contract)?.model ?? (await modelAsItIs(contract));
    if (model !== undefined) members.push({ contract, model });
  }
  return new SharedPackage(members);
}

/** Where a run that may change no file would change some: there is nothing yet to check. */
function uncheckedOf(model: TypeModel): CheckResult {
  return { payloads: 0, languages: [], unproven: [], fields: [], coverage: new Coverage(model) };
}

/** How many contracts were run, and what came of them. */
function summaryOf(outcomes: readonly Outcome[], locked: boolean, seconds: number): string {
  const counts = { clean: 0, 'with findings': 0, 'not run': 0 };
  for (const outcome of outcomes) {
    const code = codeOf([outcome], locked);
    const isClean = code === exitCode.clean;
    counts[isClean ? 'clean' : code === exitCode.findings ? 'with findings' : 'not run']++;
  }
  const told = Object.entries(counts).flatMap(([what, count]) => (count > 0 ? [`${count} ${what}`] : []));
  return `${outcomes.length} contracts in ${seconds.toFixed(1)} s: ${told.join(', ')}`;
}

function codeOf(outcomes: readonly Outcome[], locked: boolean): number {
  const results = outcomes.flatMap(({ check }) => check?.languages ?? []);
  if (results.some((each) => lossesOf(each) > 0)) return exitCode.findings;
  if (outcomes.some(({ documents }) => documents !== undefined && documents.losses.length > 0))
    return exitCode.findings;
  if (
    locked &&
    outcomes.some((outcome) => outcome.files.length + outcome.stale.length > 0 || isContradicted(outcome))
  )
    return exitCode.findings;
  if (results.some(({ state }) => state === 'failed')) return exitCode.notRun;
  // Who works on one client need not have the compilers of all; CI must.
  if (locked && results.some(({ state }) => state === 'not-run')) return exitCode.notRun;
  return exitCode.clean;
}

/** Whether samples say what a schema does not that people gave. */
function isContradicted({ isGiven, changes = [] }: Outcome): boolean {
  return isGiven && changes.length > 0;
}

const isSettled = (outcome: Outcome) => outcome.stale.length === 0 && !isContradicted(outcome);

async function missingPrograms(
  outcomes: readonly Outcome[],
  tools: ReadonlyMap<string, string>,
): Promise<string[]> {
  const names = new Set(
    outcomes.flatMap(({ check }) =>
      (check?.languages ?? []).filter(({ state }) => state === 'not-run').map(({ language }) => language),
    ),
  );
  const programs = languages
    .filter(({ name }) => names.has(name))
    .map(async (language) => {
      const toolchain = await findToolchain(language, tools);
      return toolchain.state === 'ready' ? [] : language.tools.flatMap((tool) => tool.programs ?? []);
    });
  return (await Promise.all(programs)).flat();
}

function chosenContracts(project: Project, names: readonly string[]) {
  if (names.length === 0) return [...project.contracts];
  return names.map((name) => {
    const contract = project.contracts.get(name);
    if (contract !== undefined) return [name, contract] as const;
    const known = [...project.contracts.keys()];
    const near = nearest(name, known);
    throw new SkevoError(
      `${project.path} has no contract ${JSON.stringify(name)}`,
      near === undefined ? `There are ${known.join(', ')}.` : `Did you mean ${near}?`,
    );
  });
}

/** Those of some contracts that what changed may matter to; all where nobody asks. */
async function touchedOf(
  contracts: readonly (readonly [string, Contract])[],
  path: string,
  project: Project,
  { 'changed-since': revision, quiet }: RunCommandOptions,
): Promise<readonly (readonly [string, Contract])[]> {
  if (revision === undefined) return contracts;
  const { changedSince } = await import('../project/changed.js');
  const changed = await changedSince(revision, path, project);
  const touched = contracts.filter(([name]) => changed.has(name));
  if (!quiet) {
    const names = touched.map(([name]) => name);
    const few =
      names.length > 8 ? `${names.slice(0, 8).join(', ')} and ${names.length - 8} more` : names.join(', ');
    const what = `${touched.length} of ${contracts.length} contracts changed since ${revision}`;
    say(talk.colours.faint(touched.length === 0 ? what : `${what}: ${few}`));
  }
  return touched;
}

/** What the last run of a contract is remembered by: the contract as it is written, in its project. */
function contractKey(path: string, name: string, contract: Contract): string {
  return `${resolve(path)} ${name} ${JSON.stringify(contract)}`;
}

/** The folders in which a new file would be a sample. */
function foldersOf(sample: string): string[] {
  let folder = sample.replace(/[^/]*[*?[{(!].*$/, '') || '.';
  while (!existsSync(folder)) folder = dirname(folder);
  return statSync(folder).isDirectory() ? foldersBelow(folder) : [dirname(folder)];
}

/** Runs again when a sample, a schema or the project file changes. Ends with the process. */
async function watchOn(
  path: string,
  chosen: RunCommandOptions,
  seen: readonly string[],
  compilers: Compilers | undefined,
): Promise<never> {
  const watcher = watchFiles([...seen], { ignoreInitial: true });
  // What changes while something is run, or before the watcher is ready, is not lost.
  let isChanged = true;
  let wake = () => {};
  watcher.on('all', () => {
    isChanged = true;
    wake();
  });
  await once(watcher, 'ready');
  if (!chosen.quiet) say(talk.colours.faint('watching; Ctrl-C ends it'));
  for (;;) {
    if (!isChanged) await new Promise<void>((changed) => (wake = changed));
    // A program that writes several files is let finish.
    await new Promise((settled) => setTimeout(settled, 200));
    isChanged = false;
    try {
      watcher.add([...(await runOnce(path, chosen, compilers))]);
    } catch (error) {
      if (!(error instanceof SkevoError)) throw error;
      say(renderError(error));
    }
  }
}
