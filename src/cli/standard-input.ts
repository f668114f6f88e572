/** What `-` is called among the arguments, since the parser of the command line drops a lone `-`. No argument can hold it. */
const standardInput = '\0stdin';
/** Begins what stands behind `--`, which the parser must not take for options. */
const notAnOption = '\0';

/** Arguments as the parser of the command line takes them whole. */
export function forParser(args: readonly string[]): string[] {
  const end = args.indexOf('--');
  const before = end < 0 ? args : args.slice(0, end);
  const behind = end < 0 ? [] : args.slice(end + 1);
  return [...before, ...behind.map((arg) => (arg === '-' ? arg : `${notAnOption}${arg}`))].map((arg) =>
    arg === '-' ? standardInput : arg,
  );
}

/** An option as it was given. */
export function asGiven(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(asGiven);
  if (typeof value !== 'string' || !value.startsWith(notAnOption)) return value;
  return value === standardInput ? '-' : value.slice(notAnOption.length);
}
