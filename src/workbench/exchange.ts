import { once } from 'node:events';
import pidtree from 'pidtree';
import pidusage from 'pidusage';
import type { Answer, Answers } from '../core/roundtrip/judge.js';
import { startGroup, whenAborted } from './processes.js';
import { extend } from '../core/extend.js';

/** How to start a program that speaks the exchange protocol. */
export interface Program {
  readonly file: string;
  readonly arguments: readonly string[];
  readonly folder: string;
  readonly environment: Readonly<Record<string, string | undefined>>;
  /** Whether `file` is a line for the shell. */
  readonly shell?: boolean;
}

export interface Limits {
  /** Seconds a program may take for one payload, and `startFactor` times as many for the first after its start. */
  readonly seconds: number;
  /** Bytes of memory. */
  readonly memory: number;
}

export const usualLimits: Limits = { seconds: 10, memory: 1 << 30 };

/** A runtime that loads its libraries for the first payload may have to share the processors with other compilers. */
const startFactor = 3;
/** Bytes that one answer may have beyond 16 times its payload. */
const outputAllowance = 16 << 20;
/** After so many crashes the rest of the payloads are not tried. */
const crashLimit = 20;

/**
 * The exchange protocol: every payload goes in on one line of the standard input, and for each the program
 * answers one line: the payload encoded again, or `!` and a message when it was refused. A program that ends or
 * hangs is started again for the payloads that are left, so that one bad payload does not hide the others.
 */
export class Conversation {
  private running: Running | undefined;
  private crashes = 0;

  /**
   * @param waitsForEnd whether the program may want the end of its input before it answers; then it is started
   *   anew for each batch, and otherwise once for all
   * @param ways how many answers a line may have
   * @param signal ends the program, and what is asked then throws its reason
   */
  constructor(
    private readonly program: Program,
    private readonly limits: Limits,
    private readonly waitsForEnd: boolean,
    private readonly ways = 1,
    private readonly signal?: AbortSignal,
  ) {}

  /**
   * @param lines payloads, each without a line break
   * @param answered told of how many of them have been answered
   * @returns answers in the order of payloads; fewer than payloads when the program ended well without them, and
   *   more when it said more
   */
  async ask(lines: readonly Uint8Array[], answered: (count: number) => void = () => {}): Promise<Answers[]> {
    const answers: Answers[] = [];
    while (answers.length < lines.length) {
      this.signal?.throwIfAborted();
      if (this.crashes >= crashLimit) {
        answers.push({ kind: 'crashed', message: `not tried: the program ended ${crashLimit} times before` });
        continue;
      }
      const left = lines.slice(answers.length);
      const before = answers.length;
      this.running ??= this.start();
      const batch = await this.running.ask(left, this.waitsForEnd, (count) => answered(before + count));
      if (this.waitsForEnd || batch.hasEnded) this.running = undefined;
      this.signal?.throwIfAborted();
      extend(answers, batch.answers);
      if (batch.crash === undefined) return answers;

      // An answer may still have been on its way when the program ended: ask for the next payload alone.
      const [next] = lines.slice(answers.length, answers.length + 1);
      if (next === undefined) return answers;
      const alone = left.length === 1 ? batch : await this.start().ask([next], true, () => {});
      answers.push(alone.answers[0] ?? { kind: 'crashed', message: alone.crash ?? batch.crash });
      this.crashes++;
    }
    return answers;
  }

  private start(): Running {
    return new Running(this.program, this.limits, this.ways, this.signal);
  }

  /** Ends the program, when it is running. @returns how many answers more it gave than it was asked for */
  async end(): Promise<number> {
    const last = this.running;
    this.running = undefined;
    return last === undefined ? 0 : (await last.ask([], true, () => {})).answers.length;
  }
}

/** Bytes of memory of a process and all below it. */
async function memoryOf(pid: number): Promise<number> {
  const usages = await pidusage(await pidtree(pid, { root: true }));
  return Object.values(usages).reduce((sum, usage) => sum + (usage?.memory ?? 0), 0);
}

interface Batch {
  readonly answers: Answers[];
  readonly hasEnded: boolean;
  /** Why it ended before its time. */
  readonly crash?: string;
}

/** A program that is running, and what it has answered. */
class Running {
  private answers: Answers[] = [];
  private asked: readonly Uint8Array[] = [];
  private pending: Buffer[] = [];
  private pendingBytes = 0;
  private words = '';
  private clock: NodeJS.Timeout | undefined;
  /** How often the time for an answer began anew. */
  private turns = 0;
  private hasAnswered = false;
  private wake: () => void = () => {};
  private hasEnded = false;
  private readonly group: ReturnType<typeof startProgram>;
  private readonly ended: Promise<void>;
  private crash: string | undefined;

  constructor(
    program: Program,
    private readonly limits: Limits,
    private readonly ways: number,
    signal: AbortSignal | undefined,
  ) {
    this.group = startProgram(program);
    const forget = whenAborted(signal, () => this.group.kill('it was cancelled'));
    const { child } = this.group;
    const scales = setInterval(() => this.weigh(), 500);
    child.stdout.on('data', (chunk: Buffer) => this.take(chunk));
    child.stderr.on('data', (chunk: Buffer) => {
      this.words = (this.words + chunk.toString('utf8')).slice(-4000);
    });
    child.stdin.on('error', () => {}); // It ended without reading all; the answers tell.
    this.ended = child.then((result) => {
      clearInterval(scales);
      forget();
      this.rest();
      const killed = this.group.reason();
      if (this.pendingBytes > 0 && killed === undefined)
        this.answers.push(answersOf(Buffer.concat(this.pending), this.ways));
      this.crash = killed ?? this.howItEnded(result);
      this.hasEnded = true;
      this.wake();
    });
  }

  /**
   * @param isLast whether nothing more will be asked, which the program is told by the end of its input
   * @param answered told of how many of the lines have been answered
   */
  async ask(
    lines: readonly Uint8Array[],
    isLast: boolean,
    answered: (count: number) => void,
  ): Promise<Batch> {
    this.asked = lines;
    this.hurry();
    const isDone = () => this.hasEnded || (!isLast && this.answers.length >= lines.length);
    const told = () => answered(Math.min(this.answers.length, lines.length));
    void this.feed(lines, isLast);
    while (!isDone()) {
      await new Promise<void>((wake) => (this.wake = wake));
      told();
    }
    this.rest();
    const { answers, hasEnded, crash } = this;
    this.answers = [];
    return { answers, hasEnded, ...(hasEnded && crash !== undefined ? { crash } : {}) };
  }

  private async feed(lines: readonly Uint8Array[], isLast: boolean): Promise<void> {
    const { stdin } = this.group.child;
    for (const line of lines) {
      if (this.hasEnded) return;
      stdin.write(line);
      if (!stdin.write('\n')) await Promise.race([once(stdin, 'drain').catch(() => {}), this.ended]);
    }
    if (isLast && !this.hasEnded) stdin.end();
  }

  private take(chunk: Buffer): void {
    let rest = chunk;
    for (let end = rest.indexOf(0x0a); end >= 0; end = rest.indexOf(0x0a)) {
      this.answers.push(answersOf(Buffer.concat([...this.pending, rest.subarray(0, end)]), this.ways));
      this.pending = [];
      this.pendingBytes = 0;
      rest = rest.subarray(end + 1);
      this.hasAnswered = true;
      this.hurry();
    }
    this.pending.push(rest);
    this.pendingBytes += rest.length;
    const asked = this.asked[this.answers.length]?.length ?? 0;
    if (
      this.pendingBytes > outputAllowance + 16 * asked * this.ways ||
      this.answers.length > this.asked.length + 1000
    )
      this.group.kill('it floods its output');
    this.wake();
  }

  /** Begins the time for the next answer. */
  private hurry(): void {
    this.rest();
    const turn = this.turns;
    const seconds = this.limits.seconds * (this.hasAnswered ? 1 : startFactor);
    const late = `no answer within ${seconds} s${this.hasAnswered ? '' : ' of its start'}`;
    // An answer that came while this process was busy itself is read before the program is said to be late.
    const look = (): void => void setImmediate(() => turn === this.turns && this.group.kill(late));
    this.clock = setTimeout(look, seconds * 1000);
  }

  private rest(): void {
    clearTimeout(this.clock);
    this.turns++;
  }

  private weigh(): void {
    const { pid } = this.group.child;
    if (pid === undefined) return;
    const most = this.limits.memory;
    memoryOf(pid).then(
      (memory) => memory > most && this.group.kill(`more than ${Math.round(most / (1 << 20))} MB of memory`),
      () => {}, // It has ended already.
    );
  }

  /** Why it ended otherwise than well; undefined when it ended well. */
  private howItEnded(result: {
    exitCode?: number;
    signal?: string;
    shortMessage?: string;
  }): string | undefined {
    if (result.exitCode === 0) return undefined;
    const last = this.words.trim().split('\n').slice(-1)[0]?.trim();
    const how =
      result.signal === undefined
        ? result.exitCode === undefined
          ? (result.shortMessage ?? 'it did not start')
          : `it ended with exit code ${result.exitCode}`
        : `it ended by ${result.signal}`;
    return last ? `${how}: ${last}` : how;
  }
}

function startProgram(program: Program) {
  return startGroup(program.file, program.arguments, {
    cwd: program.folder,
    env: program.environment,
    extendEnv: false,
    shell: program.shell ?? false,
    stdin: 'pipe',
    stdout: 'pipe',
    stderr: 'pipe',
    buffer: false,
    reject: false,
  });
}

/** What stands between the answers of several ways in. No JSON holds it. */
export const separator = 0x1e;

/** @param ways how many answers the line may have; one where it is asked for a change */
function answersOf(line: Buffer, ways: number): Answers {
  if (ways === 1 || !line.includes(separator)) return answerOf(line);
  const parts: Buffer[] = [];
  for (let from = 0; from <= line.length;) {
    const at = line.indexOf(separator, from);
    const end = at < 0 ? line.length : at;
    parts.push(line.subarray(from, end));
    from = end + 1;
  }
  const [first, ...others] = parts;
  const rest = others.map((part) => (part.length === 1 && part[0] === 0x3d ? 'same' : answerOf(part)));
  return { ...answerOf(first!), others: rest };
}

function answerOf(line: Buffer): Answer {
  const end = line[line.length - 1] === 0x0d ? line.length - 1 : line.length;
  if (line[0] !== 0x21) return { kind: 'returned', text: line.subarray(0, end) };
  return {
    kind: 'refused',
    message: line.toString('utf8', 1, Math.min(end, 2000)).trim() || 'refused without a word',
  };
}
