import type { ProvenDocuments } from '../core/roundtrip/document.js';
import { documentsToJson } from './documents.js';
import { json, type JsonValue } from '../core/json/value.js';
import { changeToJson } from './changes-json.js';
import type { Finding } from '../core/roundtrip/finding.js';
import type { SchemaChange } from '../core/update/update.js';
import type { CheckResult } from '../workbench/check-all.js';

/** The outcome of a check as one JSON document. */
export function checkToJson(
  result: CheckResult,
  drift: readonly SchemaChange[] = [],
  proven?: ProvenDocuments,
): JsonValue {
  const text = (value: string | undefined) => (value === undefined ? undefined : json.string(value));
  const finding = (each: Finding) =>
    json.object([
      ['kind', json.string(each.kind)],
      ['severity', json.string(each.severity)],
      ['pointer', json.string(each.pointer)],
      ['payload', json.string(each.payload)],
      ['line', json.number(each.line)],
      ['column', json.number(each.column)],
      ['before', each.before],
      ['after', each.after],
      ['type', text(each.type)],
      ['field', text(each.field)],
      ['way', text(each.way)],
      ['cause', json.string(each.cause)],
      ['like', each.like === undefined ? undefined : json.number(each.like)],
    ]);
  return json.object([
    ['payloads', json.number(result.payloads)],
    [
      'languages',
      json.list(
        result.languages.map((each) =>
          json.object([
            ['language', json.string(each.language)],
            ['style', json.string(each.style)],
            ['state', json.string(each.state)],
            ['reason', text(each.reason)],
            ['returned', json.number(each.returned)],
            ['seconds', json.number(each.seconds.toFixed(3))],
            ['findings', json.list(each.findings.map(finding))],
            [
              'limits',
              each.limits.length === 0
                ? undefined
                : json.list(
                    each.limits.map(({ way, says, count, first }) =>
                      json.object([
                        ['way', json.string(way)],
                        ['says', json.string(says)],
                        ['count', json.number(count)],
                        ['first', finding(first)],
                      ]),
                    ),
                  ),
            ],
          ]),
        ),
      ),
    ],
    [
      'unproven',
      json.list(
        result.unproven.map(({ pointer, state }) =>
          json.object([
            ['pointer', json.string(pointer)],
            ['state', json.string(state)],
          ]),
        ),
      ),
    ],
    ['drift', drift.length === 0 ? undefined : json.list(drift.map(changeToJson))],
    ['documents', proven === undefined ? undefined : documentsToJson(proven)],
  ]);
}
