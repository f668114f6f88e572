import { json } from '../../core/json/value.js';
import { writeJson } from '../../core/json/write.js';
import { SkevoError } from '../../core/error.js';
import { nearest } from '../../core/nearest.js';
import { checkToJson } from '../check-json.js';
import { htmlReport } from '../page/html.js';
import { junitReport } from './junit.js';
import { markdownReport } from './markdown.js';
import type { ReportPart } from './report.js';
import { sarifReport } from './sarif.js';

type Writer = (parts: readonly ReportPart[], version: string) => string;

/** By the ending of a file, the longest first. */
const writers: Readonly<Record<string, Writer>> = {
  '.junit.xml': junitReport,
  '.sarif': sarifReport,
  '.html': htmlReport,
  '.json': jsonReport,
  '.md': markdownReport,
};

/** @throws SkevoError when an ending is not known */
export function writerOf(path: string): Writer {
  const ending = Object.keys(writers).find((each) => path.toLowerCase().endsWith(each));
  if (ending !== undefined) return writers[ending]!;
  const own = /\.[^./\\]*$/.exec(path)?.[0] ?? '';
  const near = nearest(own, Object.keys(writers));
  throw new SkevoError(
    `no report ends in ${own === '' ? 'nothing' : own}: ${path}`,
    `${near === undefined ? '' : `Did you mean ${near}? `}There are ${Object.keys(writers).join(', ')}.`,
  );
}

function jsonReport(parts: readonly ReportPart[]): string {
  const documents = parts.map(({ name, result, drift, pending }) =>
    json.object([
      ['name', json.string(name)],
      ['pending', pending === undefined ? undefined : json.list(pending.map((path) => json.string(path)))],
      ['check', checkToJson(result, drift)],
    ]),
  );
  return `${writeJson(json.object([['contracts', json.list(documents)]]), 2)}\n`;
}
