import type { Argv } from 'yargs';
import { isCurrent } from '../../project/stamp.js';
import { findProjectFile } from '../../project/find.js';
import { reportOption, toolOption } from '../shared-options.js';
import { version } from '../version.js';

const text = { type: 'string' } as const;

export const options = (argv: Argv) =>
  argv
    .positional('contract', {
      type: 'string',
      array: true,
      describe: 'contracts of the project; all when not given',
    })
    .option('project', { ...text, describe: 'the project file' })
    .option('locked', {
      type: 'boolean',
      default: false,
      describe: 'change no file, and fail when one would change (for CI)',
    })
    .option('refresh', {
      type: 'boolean',
      default: false,
      describe: 'decide the schemas anew from all samples, and keep names, descriptions and bounds',
    })
    .option('changed-since', {
      ...text,
      describe: 'only contracts that what changed since this revision of git may matter to (for CI)',
    })
    .option('watch', { type: 'boolean', default: false, describe: 'do it again whenever something changes' })
    .option('tool', toolOption)
    .option('report', reportOption)
    .option('quiet', { type: 'boolean', default: false, describe: 'no notes and no progress' });

/** Brings schemas, classes and proofs up to date. When nothing changed since the last clean run, that is all it looks at. */
export async function run(given: object): Promise<void> {
  const { project, contract, locked, refresh, watch, tool, report, ...others } = given as Record<
    string,
    unknown
  >;
  const isPlain =
    watch === false &&
    refresh === false &&
    others['changed-since'] === undefined &&
    [contract, tool, report].every((each) => each === undefined || (each as unknown[]).length === 0);
  if (isPlain && (project === undefined || typeof project === 'string')) {
    const path = findProjectFile(project);
    if (path !== undefined && isCurrent(path, version, locked !== true)) return;
  }
  await (await import('../run.js')).runProject(given);
}
