import { spawn, spawnSync } from 'node:child_process';
import { closeSync, existsSync, mkdtempSync, openSync, readSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { isBrief } from '../effort.js';

export interface Ran {
  readonly code: number | null;
  readonly out: string;
  readonly err: string;
}

const bundle = resolve('node_modules/.cache/skevo-steps/main.cjs');

/** What has to be a process of its own: the files by which a process calls its own streams. */
const ownProcess = /^\/dev\//;

/** After so many steps another process is started: the memory of those before is not given back at once. */
const mostSteps = 200;

interface Server {
  readonly requests: number;
  readonly answers: number;
  steps: number;
}
let server: Server | undefined;

/** @returns undefined where there are no pipes with names */
function start(): Server | undefined {
  const folder = mkdtempSync(join(tmpdir(), 'skevo-steps-'));
  const [requests, answers] = ['requests', 'answers'].map((name) => join(folder, name)) as [string, string];
  try {
    if (spawnSync('mkfifo', [requests, answers]).status !== 0) return undefined;
    const script = resolve('tests/steps/server.mjs');
    spawn(process.execPath, [script, bundle, requests, answers], {
      stdio: ['ignore', 'inherit', 'inherit'],
    }).unref();
    // Each waits for the other end.
    return { requests: openSync(requests, 'w'), answers: openSync(answers, 'r'), steps: 0 };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

function answerOf(pipe: number): Ran & { readonly isSpent: boolean } {
  const parts: Buffer[] = [];
  for (;;) {
    const part = Buffer.alloc(1 << 16);
    const length = readSync(pipe, part);
    if (length === 0) throw new Error('the process of the steps ended');
    parts.push(part.subarray(0, length));
    if (part[length - 1] === 0x0a) return JSON.parse(Buffer.concat(parts).toString());
  }
}

/**
 * Runs a command line in a process that ran others before, where somebody waits for the tests: most of what a short run
 * takes is its start.
 * @returns undefined for what has to be, or can only be, a process of its own
 */
export function runStep(
  args: readonly string[],
  options: { cwd: string; input?: string | Buffer; env?: Record<string, string> },
): Ran | undefined {
  // The standard input of a process is read by its number, too.
  if (
    !isBrief ||
    (options.input ?? '').length > 0 ||
    args.some((arg) => ownProcess.test(arg)) ||
    !existsSync(bundle)
  )
    return undefined;
  server ??= start();
  if (server === undefined) return undefined;
  const request = {
    args,
    cwd: options.cwd,
    env: { ...process.env, ...options.env },
  };
  const text = Buffer.from(`${JSON.stringify(request)}\n`);
  for (let from = 0; from < text.length;) from += writeSync(server.requests, text, from);
  const { isSpent, ...ran } = answerOf(server.answers);
  if (isSpent || ++server.steps >= mostSteps) {
    closeSync(server.requests);
    closeSync(server.answers);
    server = undefined;
  }
  return ran;
}
