import { existsSync } from 'node:fs';
import { totalmem } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import type { Resident } from '../languages/language.js';
import { writeFiles } from './folder.js';
import { cleanEnvironment, startGroup, whenAborted } from './processes.js';
import { removeTemporary, temporaryFolder } from './temporary.js';
import type { FoundTool } from './toolchain.js';

/** Bytes that a compiler may come to hold. */
const memoryOfOne = 768 << 20;

/** A build for a compiler that is kept running. */
export interface Build {
  /** Where its files are. */
  readonly folder: string;
  readonly arguments: readonly string[];
  /** Seconds that it may take. */
  readonly longest: number;
  readonly signal?: AbortSignal | undefined;
}

/**
 * Compilers that are kept running, for those whose start takes longer than a build does. They only save time: what one of
 * them refuses, or does not come to the end of, is left to the compiler as people start it, whose words are told.
 */
export class Compilers {
  private readonly all = new Set<KeptCompiler>();
  /** Programs that ended on their own: they are not kept. */
  private readonly gone = new Set<string>();

  /** @param most no more beside each other: usually those that half of the memory holds */
  constructor(private readonly most = Math.floor(memoryHere() / 2 / memoryOfOne)) {}

  /** @returns whether it was built. @throws the reason of a signal that ends it */
  async build({ file, resident }: FoundTool, build: Build): Promise<boolean> {
    build.signal?.throwIfAborted();
    if (resident === undefined || this.gone.has(file)) return false;
    const compiler = this.idle(file, resident);
    if (compiler === undefined) return false;
    const isBuilt = await compiler.build(build);
    if (compiler.hasEnded) {
      this.all.delete(compiler);
      this.gone.add(file);
    }
    build.signal?.throwIfAborted();
    return isBuilt;
  }

  /** One that has nothing to do, started where there is none; undefined where there is no room for another. */
  private idle(file: string, resident: Resident): KeptCompiler | undefined {
    for (const each of this.all) if (each.runs === file && !each.isBusy) return each;
    if (this.all.size >= this.most) return undefined;
    const compiler = new KeptCompiler(file, resident);
    this.all.add(compiler);
    return compiler;
  }

  async end(): Promise<void> {
    await Promise.all([...this.all].map((each) => each.end()));
    this.all.clear();
  }
}

/** Bytes of memory that this process and those it starts may have. */
function memoryHere(): number {
  const constrained = process.constrainedMemory();
  return constrained > 0 ? Math.min(totalmem(), constrained) : totalmem();
}

class KeptCompiler {
  isBusy = false;
  hasEnded = false;
  private readonly temporary = temporaryFolder();
  private readonly group;
  private readonly ended: Promise<void>;
  private answer: (line: string | undefined) => void = () => {};

  /** @param runs the compiler, as people start it */
  constructor(
    readonly runs: string,
    { file, arguments: given, files }: Resident,
  ) {
    writeFiles(this.temporary, files);
    this.group = startGroup(file, given, {
      cwd: this.temporary,
      env: cleanEnvironment(this.temporary),
      extendEnv: false,
      reject: false,
      buffer: false,
      stderr: 'ignore',
    });
    const { child } = this.group;
    // What is written to one that has just ended is lost, which its end tells.
    child.stdin.on('error', () => {});
    createInterface({ input: child.stdout }).on('line', (line) => this.answer(line));
    this.ended = child.then(() => {
      this.hasEnded = true;
      this.answer(undefined);
      removeTemporary(this.temporary);
    });
  }

  async build({ folder, arguments: given, longest, signal }: Build): Promise<boolean> {
    this.isBusy = true;
    const answered = new Promise<string | undefined>((resolve) => (this.answer = resolve));
    const own = given
      .filter((each) => !each.startsWith('-J'))
      .map((each, i, all) => (isPath(folder, each, all[i - 1]) ? join(folder, each) : each));
    this.group.child.stdin.write(`${own.map((each) => Buffer.from(each).toString('base64')).join(' ')}\n`);
    const forget = whenAborted(signal, () => this.group.kill('it was cancelled'));
    const clock = setTimeout(() => this.group.kill(`it takes more than ${longest} s`), longest * 1000);
    const line = await answered;
    clearTimeout(clock);
    forget();
    if (line === undefined) await this.ended;
    this.isBusy = false;
    return line?.startsWith('0 ') === true;
  }

  async end(): Promise<void> {
    this.group.child.stdin.end();
    await this.ended;
  }
}

/** Whether an argument names a file or a folder of a build: a JVM has one working folder, that of its start. */
function isPath(folder: string, given: string, before: string | undefined): boolean {
  return before === '-d' || (given !== '' && !given.startsWith('-') && existsSync(join(folder, given)));
}
