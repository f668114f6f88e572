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
