import { execa, execaSync } from 'execa';
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { afterAll } from 'vitest';
import type { Source } from '../src/core/json/source.js';
import type { JsonValue } from '../src/core/json/value.js';
import { languages } from '../src/languages/index.js';
import { unknownRules, type Language, type Style, type UnknownRule } from '../src/languages/language.js';
import type { FoundSchema } from '../src/schemas/find.js';
import { usualLimits } from '../src/workbench/exchange.js';
import { findToolchain } from '../src/workbench/toolchain.js';
import { isBrief, shareOf } from './effort.js';
import { parse } from './payloads.js';
import { runStep, type Ran } from './steps/client.js';

export * from './payloads.js';
export type { Ran } from './steps/client.js';

export const program = resolve('dist/skevo.js');

/** Limits of programs in tests, with time for a machine on which much else runs. */
export const patient = { ...usualLimits, seconds: 60 };

/** Runs the program as a user would; where somebody waits for the tests, many steps share a process. */
export function skevo(
  args: readonly string[],
  options: { cwd: string; input?: string | Buffer; env?: Record<string, string> },
): Ran {
  const step = runStep(args, options);
  if (step !== undefined) return step;
  const run = spawnSync(process.execPath, [program, ...args], {
    cwd: options.cwd,
    input: options.input ?? '',
    env: { ...process.env, ...options.env },
    encoding: 'utf8',
    maxBuffer: 1 << 28,
  });
  return { code: run.status, out: run.stdout, err: run.stderr };
}

/** The same while this process goes on, such as to answer its requests. */
export async function skevoAsync(
  args: readonly string[],
  options: { cwd: string; env?: Record<string, string> },
): Promise<Ran> {
  const run = await execa(process.execPath, [program, ...args], {
    cwd: options.cwd,
    env: options.env ?? {},
    reject: false,
    stripFinalNewline: false,
  });
  return { code: run.exitCode ?? null, out: run.stdout, err: run.stderr };
}

/** A temporary folder with files, gone after the tests of the file. */
export function workspace(files: Readonly<Record<string, string | Buffer>> = {}): string {
  const folder = mkdtempSync(join(tmpdir(), 'skevo-test-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  addFiles(folder, files);
  return folder;
}

export function addFiles(folder: string, files: Readonly<Record<string, string | Buffer>>): void {
  for (const [path, text] of Object.entries(files)) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), text);
  }
}

/** Whether tests may pass over a language whose toolchain is not here. */
const mayMiss = process.env['SKEVO_ALL_LANGUAGES'] === undefined;

/** The languages that can run here; the others are listed, and fail the run where none may be missing. */
export async function languagesHere(): Promise<Language[]> {
  const here: Language[] = [];
  for (const language of languages) {
    const toolchain = await findToolchain(language);
    if (toolchain.state === 'ready') here.push({ ...language, styles: await stylesHere(language) });
    else if (mayMiss) process.stderr.write(`not run: ${language.name} (${toolchain.reason})\n`);
    else throw new Error(`${language.name} must run here: ${toolchain.reason}`);
  }
  return here;
}

/**
 * The languages for a table of tests that all of them go through: a third of them where somebody waits, others for the next
 * table.
 * @param at the position of the table
 */
export async function languagesFor(at: number): Promise<Language[]> {
  return shareOf(await languagesHere(), at, isBrief ? 3 : 1);
}

/** A style whose library is missing is listed. */
async function stylesHere(language: Language): Promise<Language['styles']> {
  const [first, ...others] = language.styles;
  const styles: [Style, ...Style[]] = [first];
  // What another style writes is proven by that; tests/languages/variants.test.ts proves what is left.
  for (const style of others.filter(({ variantOf }) => variantOf === undefined)) {
    const toolchain = await findToolchain(language, undefined, style);
    if (toolchain.state === 'ready') styles.push(style);
    else if (mayMiss) process.stderr.write(`not run: ${language.name} ${style.name} (${toolchain.reason})\n`);
    else throw new Error(`${language.name} ${style.name} must run here: ${toolchain.reason}`);
  }
  return styles;
}

/**
 * Whether a payload is beyond what a language's strings, its library's keys or its depth can carry.
 * @param bound the keys that become fields; all keys of the payload when not given
 */
export function isBeyond(language: Language, style: Style, text: string, bound?: readonly string[]): boolean {
  const keys: string[] = [];
  let depth = 0;
  const walk = (value: JsonValue, level: number): void => {
    depth = Math.max(depth, level);
    if (value.kind === 'list') value.items.forEach((item) => walk(item, level + 1));
    if (value.kind !== 'object') return;
    for (const member of value.members) {
      keys.push(member.key);
      walk(member.value, level + 1);
    }
  };
  walk(parse(text), 0);
  return (
    ((style.text ?? language.text) === 'utf-8' && /\\ud[89a-f]/i.test(text)) ||
    (language.hasNul === false && /\\u0000/.test(text)) ||
    (bound ?? keys).some((key) => (style.unboundKeys ?? language.unboundKeys)?.test(key)) ||
    depth > (style.deepest ?? language.deepest ?? Infinity)
  );
}

/** Whether a payload has numbers that a language's library or runtime may not carry. */
export function mayRound(language: Language, style: Style, text: string): boolean {
  const lossyNumbers = style.lossyNumbers ?? language.lossyNumbers;
  return (
    lossyNumbers !== undefined &&
    (text.match(/-?\d[\d.eE+-]*/g) ?? []).some((number) => lossyNumbers.test(number))
  );
}

/** Whether a file or folder is here that scripts/install-toolchains.sh gets for the tests. */
export function hasTool(path: string): boolean {
  const found = existsSync(path);
  if (!found && !mayMiss) throw new Error(`${path} must be here: scripts/install-toolchains.sh gets it`);
  if (!found) process.stderr.write(`not run: ${path} is not there\n`);
  return found;
}

/** Whether a program that only tests need is here. */
export function hasProgram(name: string, version = '--version'): boolean {
  const found = spawnSync(name, [version]).error === undefined;
  if (!found && !mayMiss) throw new Error(`${name} must run here`);
  if (!found) process.stderr.write(`not run: ${name} is not installed\n`);
  return found;
}

/** A schema as `findSchema` finds it, whose text a test made. */
export function foundSchema(given: string, source: Source): FoundSchema {
  return {
    given,
    source,
    read: (path) => Promise.resolve(existsSync(path) ? readFileSync(path) : undefined),
    seen: [],
  };
}

/** A list in parts of a size, the last as long as what is left. */
export function chunks<T>(all: readonly T[], size: number): T[][] {
  return Array.from({ length: Math.ceil(all.length / size) }, (_, i) => all.slice(i * size, i * size + size));
}

/** What a style can do with what a schema does not know. */
export function rulesOf(style: Style): readonly UnknownRule[] {
  return style.unknown ?? unknownRules;
}

/** Git in a folder, as somebody who may commit there. */
export function gitIn(cwd: string): {
  readonly git: (...args: readonly string[]) => string;
  readonly commit: () => void;
} {
  const who = ['-c', 'user.name=clerk', '-c', 'user.email=clerk@sf.example'];
  const git = (...args: readonly string[]) => execaSync('git', [...who, ...args], { cwd }).stdout;
  return {
    git,
    commit: () => {
      git('add', '-A');
      git('commit', '-qm', 'x');
    },
  };
}
