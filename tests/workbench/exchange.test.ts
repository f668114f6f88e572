import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { Conversation, usualLimits } from '../../src/workbench/exchange.js';
import { workspace } from '../support.js';

const all = ['1', '2', '3'];

/** A program that takes so many seconds for its first line and for each other, asked for some lines. */
async function ask(
  waits: readonly [number, number],
  seconds: number,
  lines: readonly string[],
  answered?: (count: number) => void,
): Promise<{ answers: readonly string[]; starts: number }> {
  const folder = workspace();
  const [first, others] = waits;
  const file = `echo >> starts; wait=${first}; while read -r line; do sleep $wait; echo "$line"; wait=${others}; done`;
  const program = { file, arguments: [], folder, environment: process.env, shell: true };
  const conversation = new Conversation(program, { ...usualLimits, seconds }, false);
  const answers = await conversation.ask(
    lines.map((line) => Buffer.from(line)),
    answered,
  );
  await conversation.end();
  return {
    answers: answers.map((each) =>
      each.kind === 'returned' ? String(each.text) : 'message' in each ? each.message : each.kind,
    ),
    starts: readFileSync(join(folder, 'starts'), 'utf8').length,
  };
}

test.concurrent('a program has three times as long for its first payload as for others', async () => {
  expect(await ask([2, 0], 1, all)).toEqual({ answers: all, starts: 1 });
  expect(await ask([5, 0], 1, ['1'])).toEqual({ answers: ['no answer within 3 s of its start'], starts: 1 });
});

test.concurrent('a payload that took longer is tried again by a program that starts', async () => {
  const { answers, starts } = await ask([0, 2], 1, all);
  expect(answers).toEqual(all);
  // The first, one for the second payload alone, and one for what was left.
  expect(starts).toBe(3);
});

test('the time for an answer does not run out while Skevo itself is busy', async () => {
  const ran = await ask([0, 2.5], 2, all, (count) => {
    for (const since = Date.now(); count === 1 && Date.now() - since < 4000;);
  });
  expect(ran).toEqual({ answers: all, starts: 1 });
});
