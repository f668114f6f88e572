import { existsSync, readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import type { ReportPart } from '../report/files/report.js';
import { writerOf } from '../report/files/write.js';
import { writeWhole } from '../formats/write.js';
import { say, talk } from './print.js';
import { version } from './version.js';

/** Files that are read again for their lines, at most so many bytes each. */
const largest = 32 << 20;

/** @throws SkevoError for a report of a kind that is not known, before anything is done */
export function refuseReports(paths: readonly string[]): void {
  paths.forEach(writerOf);
}

/** Writes every report that was asked for. */
export async function writeReports(
  paths: readonly string[],
  parts: readonly Omit<ReportPart, 'linesOf'>[],
  quiet: boolean,
): Promise<void> {
  const known = new Map<string, readonly string[] | undefined>();
  const linesOf = (file: string) => {
    if (!known.has(file)) known.set(file, readLines(file));
    return known.get(file);
  };
  for (const path of paths) {
    await writeWhole(
      path,
      writerOf(path)(
        parts.map((part) => ({ ...part, linesOf })),
        version,
      ),
    );
    if (!quiet) say(`wrote ${talk.colours.name(path)}`);
  }
}

function readLines(file: string): readonly string[] | undefined {
  if (!existsSync(file)) return undefined;
  const bytes = readFileSync(file);
  if (bytes.length > largest) return undefined;
  return (file.endsWith('.gz') ? gunzipSync(bytes) : bytes).toString('utf8').split('\n');
}
