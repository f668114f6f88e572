import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { readSchema } from '../../src/core/schema/read.js';
import { checkStyle } from '../../src/workbench/check.js';
import { bytes, languagesFor, payloadsOf, workspace, patient } from '../support.js';

const folder = workspace();
/** Whatever breaks out of where it was put makes this file. */
const canary = join(folder, 'canary');

/** Texts that end strings, comments, annotations, templates and documents in one language or another. */
const breakouts = [
  `*/ system("touch ${canary}"); /*`,
  `"""\nimport os; os.system("touch ${canary}")\n"""`,
  `#{system("touch ${canary}")}`,
  `\${require("fs").writeFileSync("${canary}", "")}`,
  `?> <?php touch("${canary}"); ?>`,
  `"; touch("${canary}"); "`,
  `'); touch('${canary}'); ('`,
  `\`touch ${canary}\``,
  `$(touch ${canary})`,
  '\\u000a*/ public static int x = 1; /*',
  '\\u0022 + 1 + \\u0022',
  'the end is a backslash \\',
  'two question marks ??/ and ??)',
  '{@link x} @deprecated <script> </summary> &amp; %s {0} %1$s',
  'line one\nline two\r\n\u2028line three\u0085\u000cline four',
  '\u202e right to left \u2066',
  '# -*- coding: utf-7 -*-',
  '/* begun and not ended',
  '"quotes" \'single\' `back`',
  '//',
];

const described = { title: breakouts[0], description: breakouts.join('\n\n'), deprecated: true };
const schema = {
  title: 'Sailing',
  description: [...breakouts].reverse().join('\n\n'),
  type: 'object',
  properties: {
    choice: { type: 'string', enum: breakouts, ...described },
    open: { anyOf: [{ type: 'string', enum: breakouts }, { type: 'string' }], ...described },
    one: { const: breakouts[1], ...described },
    notice: { oneOf: [{ $ref: '#/$defs/A' }, { $ref: '#/$defs/B' }], ...described },
    ...Object.fromEntries(
      breakouts.map((text) => [text, { type: 'integer', format: 'int32', ...described }]),
    ),
  },
  required: ['choice', 'open', 'one', 'notice'],
  $defs: {
    A: {
      type: 'object',
      ...described,
      properties: { kind: { const: breakouts[2] }, a: { type: 'string' } },
      required: ['kind', 'a'],
    },
    B: {
      type: 'object',
      ...described,
      properties: { kind: { const: breakouts[3] }, b: { type: ['string', 'null'] } },
      required: ['kind'],
    },
  },
};

const payloads = breakouts.map((text, i) =>
  JSON.stringify({
    choice: text,
    open: i % 2 ? text : `${text}!`,
    one: breakouts[1],
    notice: i % 2 ? { kind: breakouts[2], a: text } : { kind: breakouts[3], b: null },
    [text]: i,
  }),
);

describe.concurrent('texts of a schema that try to break out of generated code do not', async () => {
  const model = buildModel(
    readSchema({ name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 }),
  );
  for (const language of await languagesFor(0)) {
    for (const style of language.styles) {
      test(`${language.name} ${style.name}`, async ({ expect }) => {
        const origin = `*/ ?> """ #{touch} \${x} \\u000a \\.schema.json`;
        const result = await checkStyle(language, style, model, origin, payloadsOf(payloads), {
          strict: true,
          limits: patient,
        });
        expect(result.reason).toBeUndefined();
        expect(result.findings.map(({ kind, pointer, cause }) => `${kind} ${pointer} ${cause}`)).toEqual([]);
        expect(result.returned).toBe(payloads.length);
      });
    }
  }
});

test('and nothing of them was run', () => expect(existsSync(canary)).toBe(false));
