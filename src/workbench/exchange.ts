import { once } from 'node:events';
import pidtree from 'pidtree';
import pidusage from 'pidusage';
import type { Answer } from '../core/roundtrip/judge.js';
import { startGroup } from './processes.js';
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
  /** Seconds a program may take for one payload, start included. */
  readonly seconds: number;
  /** Bytes of memory. */
  readonly memory: number;
}

export const usualLimits: Limits = { seconds: 10, memory: 1 << 30 };

/** Bytes that one answer may have beyond 16 times its payload. */
const outputAllowance = 16 << 20;
/** After so many crashes the rest of the payloads are not tried. */
const crashLimit = 20;

/**
 * The exchange protocol: every payload goes in on one line of the standard input, and for each the program
 * answers one line: the payload encoded again, or `!` and a message when it was refused. A program that ends or
 * hangs is started again for the payloads that are left, so that one bad payload does not hide the others.
 *
 * @param lines payloads, each without a line break
 * @returns answers in the order of payloads; fewer than payloads when the program ended well without them, and
 *   more when it said more
 */
export async function exchange(
  program: Program,
  lines: readonly Uint8Array[],
  limits: Limits,
  answered: (count: number) => void = () => {},
): Promise<Answer[]> {
  const answers: Answer[] = [];
  for (let crashes = 0; answers.length < lines.length;) {
    const left = lines.slice(answers.length);
    const batch = await converse(program, left, limits, (count) => answered(answers.length + count));
    extend(answers, batch.answers);
    if (batch.crash === undefined) return answers;

    // An answer may still have been on its way when the program ended: ask for the next payload alone.
    const [next] = lines.slice(answers.length, answers.length + 1);
    if (next === undefined) return answers;
    const alone = left.length === 1 ? batch : await converse(program, [next], limits, () => {});
    answers.push(alone.answers[0] ?? { kind: 'crashed', message: alone.crash ?? batch.crash });
    if (++crashes === crashLimit) {
      while (answers.length < lines.length) {
        answers.push({ kind: 'crashed', message: `not tried: the program ended ${crashLimit} times before` });
      }
    }
  }
  return answers;
}

/** Bytes of memory of a process and all below it. */
async function memoryOf(pid: number): Promise<number> {
  const usages = await pidusage(await pidtree(pid, { root: true }));
  return Object.values(usages).reduce((sum, usage) => sum + (usage?.memory ?? 0), 0);
}

interface Batch {
  readonly answers: Answer[];
  /** Why it ended before its time. */
  readonly crash?: string;
}

async function converse(
  program: Program,
  lines: readonly Uint8Array[],
  limits: Limits,
  answered: (count: number) => void,
): Promise<Batch> {
  const { child, kill, reason } = startGroup(program.file, program.arguments, {
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
  const answers: Answer[] = [];

  const hurry = () => setTimeout(() => kill(`no answer within ${limits.seconds} s`), limits.seconds * 1000);
  let clock = hurry();
  const scales = setInterval(() => {
    if (child.pid === undefined) return;
    memoryOf(child.pid).then(
      (memory) =>
        memory > limits.memory && kill(`more than ${Math.round(limits.memory / (1 << 20))} MB of memory`),
      () => {}, // It has ended already.
    );
  }, 500);

  let pending: Buffer[] = [];
  let pendingBytes = 0;
  child.stdout.on('data', (chunk: Buffer) => {
    let rest = chunk;
    for (let end = rest.indexOf(0x0a); end >= 0; end = rest.indexOf(0x0a)) {
      answers.push(answerOf(Buffer.concat([...pending, rest.subarray(0, end)])));
      pending = [];
      pendingBytes = 0;
      rest = rest.subarray(end + 1);
      clearTimeout(clock);
      clock = hurry();
    }
    pending.push(rest);
    pendingBytes += rest.length;
    const asked = lines[answers.length]?.length ?? 0;
    if (pendingBytes > outputAllowance + 16 * asked || answers.length > lines.length + 1000)
      kill('it floods its output');
    answered(Math.min(answers.length, lines.length));
  });
  let words = '';
  child.stderr.on('data', (chunk: Buffer) => {
    words = (words + chunk.toString('utf8')).slice(-4000);
  });
  child.stdin.on('error', () => {}); // It ended without reading all; the answers tell.

  const ended = child.then((result) => result);
  void feed(child.stdin, lines, ended);
  const result = await ended;
  clearTimeout(clock);
  clearInterval(scales);
  const killed = reason();
  if (pendingBytes > 0 && killed === undefined) answers.push(answerOf(Buffer.concat(pending)));
  if (killed !== undefined) return { answers, crash: killed };
  if (result.exitCode === 0) return { answers };
  const last = words.trim().split('\n').slice(-1)[0]?.trim();
  const how =
    result.signal === undefined
      ? result.exitCode === undefined
        ? (result.shortMessage ?? 'it did not start')
        : `it ended with exit code ${result.exitCode}`
      : `it ended by ${result.signal}`;
  return { answers, crash: last ? `${how}: ${last}` : how };
}

async function feed(
  stdin: NodeJS.WritableStream,
  lines: readonly Uint8Array[],
  ended: Promise<unknown>,
): Promise<void> {
  let over = false;
  void ended.then(() => (over = true));
  for (const line of lines) {
    if (over) return;
    stdin.write(line);
    if (!stdin.write('\n')) await Promise.race([once(stdin as never, 'drain').catch(() => {}), ended]);
  }
  if (!over) stdin.end();
}

function answerOf(line: Buffer): Answer {
  const end = line[line.length - 1] === 0x0d ? line.length - 1 : line.length;
  if (line[0] !== 0x21) return { kind: 'returned', text: line.subarray(0, end) };
  return {
    kind: 'refused',
    message: line.toString('utf8', 1, Math.min(end, 2000)).trim() || 'refused without a word',
  };
}
