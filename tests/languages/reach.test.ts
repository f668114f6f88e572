import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { reach } from '../../src/core/model/reach.js';
import { languages } from '../../src/languages/index.js';
import { makeAll } from '../../src/languages/make.js';
import { infer, payloadsOf } from '../support.js';

/** The lines that reach a place of the first payload in a language. */
function lines(name: string, texts: readonly string[], tokens: readonly (string | number)[]): string {
  const language = languages.find((each) => each.name === name)!;
  const [style] = language.styles;
  const model = buildModel(infer(texts, 'Notice').schema);
  const [made] = makeAll(model, [{ language, style }], { origin: '' });
  const [payload] = payloadsOf(texts);
  return style.reach('notice', reach(model, payload!.root, tokens), made!.emitted.names);
}

const told = Array.from({ length: 12 }, (_, i) =>
  JSON.stringify(
    i % 2
      ? { kind: 'delay', id: i, minutes: i }
      : { kind: 'closure', id: i, berth: { no: i, ...(i % 4 ? {} : { gate: i % 8 ? null : 'A' }) } },
  ),
);
const apart = Array.from({ length: 12 }, (_, i) =>
  JSON.stringify(i % 2 ? { kind: 'delay', minutes: i } : { kind: 'closure', berth: `N${i}` }),
);
const oneOrMany = ['{"audience":["crew"]}', '{"audience":"crew"}', '{"audience":["agents","crew"]}'];

describe('the way to a place', () => {
  test.each<[string, string, readonly string[], readonly (string | number)[], string]>([
    ['go', 'a field that alternatives share', told, ['id'], 'notice.ID'],
    ['rust', 'a field that alternatives share', told, ['id'], 'notice.id;'],
    ['cpp', 'a field that alternatives share', told, ['id'], 'notice.id;'],
    [
      'rust',
      'a field of one alternative, and what may be absent or null',
      told,
      ['berth', 'gate'],
      'if let NoticeDetail::Closure { berth, .. } = &notice.detail {\n    berth.gate;\n}',
    ],
    [
      'cpp',
      'a field of one alternative, and what may be absent or null',
      told,
      ['berth', 'gate'],
      'if (const auto* closure_notice = std::get_if<ClosureNotice>(&notice.kind)) {\n    (*closure_notice).berth.gate;\n}',
    ],
    [
      'r',
      'a field of one alternative, and what may be absent or null',
      told,
      ['berth', 'gate'],
      'if (inherits(notice, "closure_notice")) {\n  notice$berth$gate\n}',
    ],
    [
      'r',
      'an element',
      ['{"legs":[{"2nd gate":"A"},{"2nd gate":"B"}]}'],
      ['legs', 1, '2nd gate'],
      'for (leg in notice$legs) {\n  leg$`2nd gate`\n}',
    ],
    [
      'rust',
      'a field of one of several alternatives that share nothing',
      apart,
      ['berth'],
      'if let Notice::Closure { berth, .. } = &notice {\n    berth;\n}',
    ],
    [
      'cpp',
      'a field of one of several alternatives that share nothing',
      apart,
      ['berth'],
      'if (const auto* closure_notice = std::get_if<ClosureNotice>(&notice)) {\n    (*closure_notice).berth;\n}',
    ],
    [
      'rust',
      'elements of one or many',
      oneOrMany,
      ['audience', 0],
      'if let TextListOrText::List(value) = &notice.audience {\n    for audience in value {\n        audience;\n    }\n}',
    ],
    [
      'cpp',
      'elements of one or many',
      oneOrMany,
      ['audience', 0],
      'if (const auto* value = std::get_if<std::vector<std::string>>(&notice.audience)) {\n    for (const auto& audience : (*value)) {\n        audience;\n    }\n}',
    ],
  ])('in %s: %s', (name, _, texts, tokens, expected) => {
    expect(lines(name, texts, tokens)).toBe(expected);
  });
});
