/** Exit codes, the same for every command. */
export const exitCode = {
  clean: 0,
  /** Findings, or payloads that do not meet the schema. */
  findings: 1,
  /** Unusable command line, file or input. */
  unusable: 2,
  /** A requested language could not be built or run here. */
  notRun: 3,
  interrupted: 130,
} as const;

let installed = false;

/**
 * Ends this process on Ctrl-C by `process.exit`, so that what must not outlive it is ended and removed. Only where
 * there is such a thing: a handler cannot run while a long computation does, and the default action can.
 */
export function exitOnInterrupt(): void {
  if (installed) return;
  installed = true;
  process.on('SIGINT', () => process.exit(exitCode.interrupted));
  process.on('SIGTERM', () => process.exit(143));
  process.on('SIGHUP', () => process.exit(129));
}
