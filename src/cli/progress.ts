import type { MultiBar, SingleBar } from 'cli-progress';
import { visible } from '../report/visible.js';

/** Shows how far work has come, on a terminal and only when it takes more than a second. */
export interface Meter {
  advance(by: number): void;
  finish(): void;
}

/** Several that stand below each other. */
export interface Meters {
  /** How much there is to do in each. */
  expect(total: number): void;
  /** How much of it is done in one, by its position. */
  reach(position: number, done: number): void;
  finish(): void;
}

type Unit = 'MB' | 'payloads' | 'contracts';

export function meter(label: string, total: number, unit: Unit, quiet: boolean): Meter {
  const bars = meters([label], unit, quiet);
  bars.expect(total);
  let done = 0;
  return {
    advance: (by) => bars.reach(0, (done += by)),
    finish: bars.finish,
  };
}

export function meters(labels: readonly string[], unit: Unit, quiet: boolean): Meters {
  if (quiet || !process.stderr.isTTY) return { expect: () => {}, reach: () => {}, finish: () => {} };
  const scale = unit === 'MB' ? 1 / 1e6 : 1;
  const names = labels.map(visible);
  const width = Math.max(...names.map((label) => label.length));
  const started = performance.now();
  const done = labels.map(() => 0);
  let total = 0;
  let all: MultiBar | undefined;
  let bars: SingleBar[] = [];
  let state: 'soon' | 'begun' | 'over' = 'soon';
  const rateOf = (now: number): number => Math.round((now * scale) / ((performance.now() - started) / 1000));
  const begin = async (): Promise<void> => {
    state = 'begun';
    const { default: progress } = await import('cli-progress');
    // It may be over by now.
    if (state !== 'begun') return;
    all = new progress.MultiBar({
      format: `{label} {bar} {percentage}%  {value} of {total} ${unit}  {rate} ${unit}/s  {eta_formatted} left`,
      stream: process.stderr,
      clearOnComplete: true,
      hideCursor: true,
      barsize: 30,
    });
    bars = names.map((label, i) =>
      all!.create(Math.ceil(total * scale), Math.floor(done[i]! * scale), {
        label: label.padEnd(width),
        rate: rateOf(done[i]!),
      }),
    );
  };
  return {
    expect: (now) => {
      total = now;
      for (const bar of bars) bar.setTotal(Math.ceil(total * scale));
    },
    reach: (i, now) => {
      done[i] = now;
      const seconds = (performance.now() - started) / 1000;
      if (state === 'soon' && seconds > 1 && total > 0) void begin();
      bars[i]?.update(Math.floor(now * scale), { rate: rateOf(now) });
    },
    finish: () => {
      state = 'over';
      all?.stop();
    },
  };
}
