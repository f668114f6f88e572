import { execa, type Options, type ResultPromise } from 'execa';

/** Ends what was started, and all that it started itself. */
export type Kill = (reason: string) => void;

/** Programs that must not outlive this process. */
const running = new Set<Kill>();
process.on('exit', () => running.forEach((kill) => kill('Skevo is ending')));

/**
 * Starts a program as the head of a group of its own, so that what a shell, a launcher or a compiler starts goes when
 * it goes.
 * @returns the process, and what ends it
 */
export function startGroup<const O extends Options>(
  file: string,
  given: readonly string[],
  options: O,
): { readonly child: ResultPromise<O>; readonly kill: Kill; readonly reason: () => string | undefined } {
  const whole = { ...options, detached: process.platform !== 'win32' };
  const child = execa(file, given, whole) as unknown as ResultPromise<O>;
  let killed: string | undefined;
  const kill: Kill = (reason) => {
    killed ??= reason;
    try {
      if (process.platform !== 'win32' && child.pid !== undefined) process.kill(-child.pid, 'SIGKILL');
      else child.kill('SIGKILL');
    } catch {
      child.kill('SIGKILL');
    }
  };
  running.add(kill);
  const forget = () => running.delete(kill);
  void child.then(forget, forget);
  return { child, kill, reason: () => killed };
}

/** What a compiler or a generated program needs of the environment, and none of its secrets. */
export function cleanEnvironment(temporary: string): Record<string, string | undefined> {
  const { PATH, HOME, SystemRoot } = process.env;
  return { PATH, HOME, SystemRoot, LANG: 'C.UTF-8', TMPDIR: temporary };
}

/** Does something when a signal is given, or at once where it has been. @returns what forgets it */
export function whenAborted(signal: AbortSignal | undefined, act: () => void): () => void {
  if (signal?.aborted) act();
  signal?.addEventListener('abort', act, { once: true });
  return () => signal?.removeEventListener('abort', act);
}
