import { existsSync, rmSync } from 'node:fs';
import { resolve } from 'node:path';
import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { readSchema } from '../../src/core/schema/read.js';
import { checkStyle } from '../../src/workbench/check.js';
import { bytes, languagesHere, payloadsOf, patient } from '../support.js';
import { unlessBrief } from '../effort.js';
import { randomOf, seed } from './random.js';

/** Whatever breaks out of where it was put makes this file: at the same place in each run, so that builds are kept. */
const canary = resolve('node_modules/.cache/skevo-canary');
rmSync(canary, { force: true });

/** Characters, and words of a few of them, that end or begin something in some language's comments or literals. */
const marks = [
  '\\',
  '*',
  '/',
  '"',
  "'",
  '`',
  '$',
  '#',
  '{',
  '}',
  '(',
  ')',
  '<',
  '>',
  '?',
  '@',
  '%',
  '-',
  '=',
  '!',
];
const words = [
  '\\u',
  'u002a',
  'u000a',
  'u0022',
  '\n',
  '\r',
  '\u2028',
  '\u0085',
  '\u200b',
  '\0',
  ' ',
  'n',
  '/*',
  '*/',
];
const alphabet = [...marks, ...words];

/** Every sequence of `length` letters stands in it: a sequence of de Bruijn, by Duval's generation of Lyndon words. */
function everyRun(letters: readonly string[], length: number): string {
  const out: string[] = [];
  const word = [-1];
  while (word.length > 0) {
    word[word.length - 1]!++;
    if (length % word.length === 0) out.push(...word.map((i) => letters[i]!));
    const period = word.length;
    while (word.length < length) word.push(word[word.length - period]!);
    while (word.length > 0 && word.at(-1) === letters.length - 1) word.pop();
  }
  return out.join('') + out.slice(0, length - 1).join('');
}

function shuffled<T>(items: readonly T[], random: (below: number) => number): T[] {
  const all = [...items];
  for (let i = all.length - 1; i > 0; i--) {
    const j = random(i + 1);
    [all[i], all[j]] = [all[j]!, all[i]!];
  }
  return all;
}

/** What would make the canary, in the languages that run what they read. */
const calls = [
  `*/ system("touch ${canary}"); /*`,
  `"""; __import__("os").system("touch ${canary}"); """`,
  `#{system("touch ${canary}")}`,
  `*\\ { scala.sys.process.Process("touch ${canary}").! } /*`,
  `\`\`\`\nstd::process::Command::new("touch").arg("${canary}").spawn();\n\`\`\``,
  `>>> __import__("os").system("touch ${canary}")`,
];

const random = randomOf(seed);
/** All pairs as a line each, with what may go before and after them; all triples; and calls between them. */
const pairs = alphabet.flatMap((a) => alphabet.map((b) => a + b));
const texts = [
  everyRun(shuffled(alphabet, random), 2),
  everyRun(shuffled(marks, random), 3),
  shuffled(pairs, random).join('\n\n'),
  shuffled(pairs, random).join(' '),
  ...calls.flatMap((call) => [call, `\\${call}`, `*\\${call}`, `/${call}`, `?${call}\\`]),
  ...Array.from({ length: 12 }, () =>
    Array.from({ length: 40 }, () =>
      random(8) === 0 ? calls[random(calls.length)]! : alphabet[random(alphabet.length)]!,
    ).join(''),
  ),
];

/** Parts of the texts that may be words and keys: of a length that no compiler minds. */
const pieces = [
  ...new Set(
    unlessBrief(texts).flatMap((text) =>
      Array.from({ length: Math.ceil(text.length / 400) }, (_, i) =>
        // No key of PHP begins with a null character: docs/languages.md.
        text.slice(i * 400, i * 400 + 400).replace(/^\0+/, ''),
      ),
    ),
  ),
];

/** The long texts stand once at each kind of place, the others wherever there is a comment. */
const [long, short] = [texts.slice(0, 4), texts.slice(4)];
const described = (i: number) => ({
  title: short[i % short.length],
  description: short[(i * 7 + 1) % short.length],
});
const told = (g: number) => (g < long.length ? { description: long[g] } : described(g));
/** No more than stand in one type. */
const groups = Array.from({ length: Math.ceil(pieces.length / 60) }, (_, i) =>
  pieces.slice(i * 60, i * 60 + 60),
);

const schema = {
  title: 'Sailing',
  description: texts.join('\n\n'),
  type: 'object',
  properties: Object.fromEntries(
    groups.flatMap((group, g) => [
      [`word${g}`, { type: 'array', items: { type: 'string', enum: group, ...told(g) } }],
      [
        `keys${g}`,
        {
          ...told(g),
          type: 'object',
          properties: Object.fromEntries(
            group.map((piece, i) => [piece, { type: 'integer', format: 'int32', ...described(g + i) }]),
          ),
        },
      ],
      [
        `kind${g}`,
        {
          oneOf: group.slice(0, 4).map((piece, i) => ({
            ...(i === 0 ? told(g) : described(g + i)),
            type: 'object',
            properties: { kind: { const: piece, ...described(i) }, [`own${i}`]: { type: 'string' } },
            required: ['kind'],
          })),
        },
      ],
    ]),
  ),
};

const payloads = [
  JSON.stringify(
    Object.fromEntries(
      groups.flatMap((group, g) => [
        [`word${g}`, group],
        [`keys${g}`, Object.fromEntries(group.map((piece, i) => [piece, i]))],
        [`kind${g}`, { kind: group[0], own0: group[1] ?? '' }],
      ]),
    ),
  ),
  ...[1, 2, 3].map((i) => JSON.stringify({ kind0: { kind: groups[0]![i], [`own${i}`]: '' } })),
];

describe.concurrent(
  `texts of every pair and triple of marks stay where they are put (seed ${seed})`,
  async () => {
    for (const language of await languagesHere()) {
      // Strings of R end at NUL.
      const held = (text: string) => (language.hasNul === false ? text.replaceAll('\\u0000', '') : text);
      const model = buildModel(
        readSchema({ name: 's.json', bytes: bytes(held(JSON.stringify(schema))), firstLine: 1 }),
      );
      const own = payloads.map(held);
      for (const style of language.styles) {
        test(`${language.name} ${style.name}`, async ({ expect }) => {
          const unbound = style.unboundKeys ?? language.unboundKeys;
          const bound = pieces.filter(
            (piece) => unbound?.test(language.hasNul === false ? piece.replaceAll('\0', '') : piece) === true,
          );
          expect(bound).toEqual([]);
          const result = await checkStyle(language, style, model, `${texts[5]!}.json`, payloadsOf(own), {
            strict: true,
            limits: patient,
          });
          expect(result.reason).toBeUndefined();
          expect(result.findings.map(({ kind, pointer, cause }) => `${kind} ${pointer} ${cause}`)).toEqual(
            [],
          );
          expect(result.returned).toBe(payloads.length);
        });
      }
    }
  },
);

test('and nothing of them was run', () => expect(existsSync(canary)).toBe(false));
