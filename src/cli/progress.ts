import { SingleBar } from 'cli-progress';

/** Shows how far work has come, on a terminal and only when it takes more than a second. */
export interface Meter {
  advance(by: number): void;
  finish(): void;
}

export function meter(label: string, total: number, unit: 'MB' | 'payloads', quiet: boolean): Meter {
  if (quiet || !process.stderr.isTTY || total === 0) return { advance: () => {}, finish: () => {} };
  const scale = unit === 'MB' ? 1 / 1e6 : 1;
  const started = performance.now();
  let bar: SingleBar | undefined;
  let done = 0;
  return {
    advance: (by) => {
      done += by;
      if (bar === undefined && performance.now() - started > 1000) {
        bar = new SingleBar({
          format: `${label} {bar} {percentage}%  {value} of {total} ${unit}  {rate} ${unit}/s  {eta_formatted} left`,
          stream: process.stderr,
          clearOnComplete: true,
          hideCursor: true,
          barsize: 30,
        });
        bar.start(Math.ceil(total * scale), 0, { rate: 0 });
      }
      const seconds = (performance.now() - started) / 1000;
      bar?.update(Math.floor(done * scale), { rate: Math.round((done * scale) / seconds) });
    },
    finish: () => bar?.stop(),
  };
}
