import { describe, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { changedWay } from '../../src/languages/language.js';
import { makeAll } from '../../src/languages/make.js';
import { buildBench, programOf } from '../../src/workbench/build.js';
import { Conversation } from '../../src/workbench/exchange.js';
import { findToolchain } from '../../src/workbench/toolchain.js';
import { bytes, infer, languagesFor, workspace, patient } from '../support.js';

/** Payloads with a union, a map, a tuple, a choice, all widths of numbers and a type inside itself. */
const sailing = (i: number) => ({
  id: i,
  wide: 9007199254740993n * BigInt(i + 1),
  load: 0.5,
  kind: ['ferry', 'launch'][i % 2],
  at: ['N', i],
  berth: i % 3 === 0 ? 'N1' : i % 3 === 1 ? { no: i } : ['a', 'b'],
  tides: { '2031-05-01': { height: i }, '2031-05-02': { height: 1 } },
  legs: [{ pier: 'N\u00e9', gate: null, next: { pier: 'S', gate: '1' } }],
});
const write = (value: unknown) =>
  JSON.stringify(value, (_, each: unknown) => (typeof each === 'bigint' ? `#${each}#` : each)).replace(
    /"#(\d+)#"/g,
    '$1',
  );
const payloads = Array.from({ length: 12 }, (_, i) => write(sailing(i)));

/** What is no JSON, and what is more than one. */
const odd = [
  '',
  'null',
  '{',
  '[',
  '{}}',
  'nul',
  '{"id":01}',
  '{"id":+1}',
  "{'id':1}",
  '{"id":1,}',
  '{"id":NaN}',
  '{"wide":undefined}',
  '{"load":None}',
];
/** What keeps the answers of ways in apart, in texts that are refused and so in what decoders say. */
const misplaced = ['{"id":"\\u001e=\\u001e="}', '{"id":1,"wide":"\\u001e!\\u001e{}"}'];
const deep = ['['.repeat(50_000), '{"a":'.repeat(50_000), `${'['.repeat(50_000)}${']'.repeat(50_000)}`];

describe.concurrent('text that is cut off, or no JSON, is refused in bounded time', async () => {
  const model = buildModel(infer(payloads).schema);
  for (const language of await languagesFor(0)) {
    for (const style of language.styles) {
      test(`by ${language.name} ${style.name}`, async ({ expect }) => {
        const [made] = makeAll(model, [{ language, style }], { origin: 's.json' });
        const toolchain = await findToolchain(language, undefined, style);
        if (toolchain.state !== 'ready') throw new Error(toolchain.reason);
        const workshop = { ...made!, tools: toolchain.tools };
        const built = await buildBench(`${language.name}-${style.name}`, workshop, {});
        if (!('folder' in built)) throw new Error(JSON.stringify(built));
        const program = programOf(workshop, built, workspace());
        const ways = style.ways!.filter((way) => way.name !== changedWay).length;
        const conversation = new Conversation(program, patient, false, ways);
        const ask = async (texts: readonly string[]) => {
          const answers = await conversation.ask(texts.map(bytes));
          return texts.flatMap((text, i) => {
            const answer = answers[i]!;
            // Nothing, and null, are values of many a library; the first way must know better,
            // but for Jackson's, which reads null as null whatever is asked for.
            if (language.name === 'java' && text === 'null' && answer.kind === 'returned') return [];
            const others = text === '' || text === 'null' ? [] : (answer.others ?? []);
            const kinds = [answer, ...others].map((each) => (each === 'same' ? answer.kind : each.kind));
            const isWhole = kinds.length === 1 || kinds.length === ways;
            return isWhole && kinds.every((kind) => kind === 'refused')
              ? []
              : [`${text.slice(0, 40)} of ${text.length}: ${kinds.join(' ')}`];
          });
        };
        const prefixes = payloads.slice(0, 3).flatMap((payload) => {
          const characters = [...payload];
          return characters.map((_, i) => characters.slice(0, i).join(''));
        });
        const wrong = [
          ...(await ask(prefixes)),
          ...(await ask(odd)),
          ...(await ask(misplaced)),
          ...(await ask(deep)),
        ];
        const whole = await conversation.ask([bytes(payloads[0]!)]);
        await conversation.end();
        expect(whole[0]!.kind).toBe('returned');
        expect(wrong).toEqual([]);
      });
    }
  }
});
