import { closeSync, openSync, readSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import { mergeObservation, Observation } from '../core/observe/observation.js';
import { loadObservation } from '../core/observe/save.js';
import { placeLimits } from '../core/observe/scan.js';
import { placesBelow } from '../core/observe/widest.js';
import { sizeOf, type Input } from './inputs.js';

/** Smaller files are read faster by one thread. */
const worthSplitting = 24 << 20;

/** One part of a file of lines, for one worker. */
export interface Part {
  readonly name: string;
  readonly path: string;
  readonly start: number;
  readonly end: number;
  readonly limit: number;
}

/** What a worker found in a part; nothing when the part must be read again by one thread, to say why. */
export interface PartResult {
  readonly lines: number;
  readonly observation?: string;
}

export function maySplit(input: Input, workers: number): boolean {
  const isHeld = input.held !== undefined;
  return (
    workers > 1 &&
    !isHeld &&
    input.layout === 'lines' &&
    input.packing === undefined &&
    sizeOf(input) >= worthSplitting
  );
}

export function defaultWorkers(): number {
  return Math.min(8, availableParallelism());
}

/**
 * Observes a file of lines in parts, each in a thread of its own, and merges them in order.
 * @returns undefined when some part holds what only one thread can report with its place: then read it that way
 */
export async function observeInParts(
  input: Input,
  workers: number,
  progress: (bytes: number) => void,
): Promise<Observation | undefined> {
  const parts = partsOf(input, workers);
  const results = await Promise.all(
    parts.map(async (part) => {
      const result = await runWorker(part);
      progress(part.end - part.start);
      return result;
    }),
  );
  const whole = new Observation();
  let lines = 0;
  for (const { observation, lines: own } of results) {
    if (observation === undefined) return undefined;
    mergeObservation(whole, loadObservation(observation, input.name, lines));
    lines += own;
  }
  return placesBelow(whole.root) > placeLimits.many ? undefined : whole;
}

/** Parts of about the same size, each beginning at a line. */
function partsOf(input: Input, count: number): Part[] {
  const path = input.path!;
  const size = sizeOf(input);
  const file = openSync(path, 'r');
  try {
    const starts = [0];
    for (let i = 1; i < count; i++) starts.push(nextLine(file, Math.floor((size * i) / count), size));
    return starts
      .map((start, i) => ({ name: input.name, path, start, end: starts[i + 1] ?? size, limit: input.limit }))
      .filter(({ start, end }) => start < end);
  } finally {
    closeSync(file);
  }
}

function nextLine(file: number, from: number, size: number): number {
  const buffer = Buffer.alloc(1 << 16);
  for (let at = from; at < size; at += buffer.length) {
    const read = readSync(file, buffer, 0, buffer.length, at);
    const found = buffer.subarray(0, read).indexOf(0x0a);
    if (found >= 0) return at + found + 1;
  }
  return size;
}

function runWorker(part: Part): Promise<PartResult> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./observe-worker.js', import.meta.url), { workerData: part });
    worker.once('message', resolve);
    worker.once('error', reject);
  });
}
