import { parentPort, workerData } from 'node:worker_threads';
import { SkevoError } from '../core/error.js';
import { Observer } from '../core/observe/observe.js';
import { saveObservation } from '../core/observe/save.js';
import type { Part, PartResult } from './parallel.js';
import { observeLines, wholeLines } from './read.js';

const part = workerData as Part;

async function observePart(): Promise<PartResult> {
  let noted = false;
  const observer = new Observer([], () => (noted = true));
  let line = 1;
  try {
    const { name, path, limit } = part;
    const input = { name, path, limit, layout: 'lines' as const, format: 'json' as const };
    for await (const chunk of wholeLines(input, () => {}, part))
      line = observeLines(observer, part.name, chunk, line);
  } catch (error) {
    if (error instanceof SkevoError) return { lines: 0 };
    throw error;
  }
  // What is put together depends on what was read before.
  return noted || observer.hasFolded
    ? { lines: 0 }
    : { lines: line - 1, observation: saveObservation(observer.observation) };
}

parentPort!.postMessage(await observePart());
