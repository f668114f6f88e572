import { describe, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { readSchema } from '../../src/core/schema/read.js';
import { makeAll } from '../../src/languages/make.js';
import { buildBench, programOf } from '../../src/workbench/build.js';
import { checkStyle } from '../../src/workbench/check.js';
import { Conversation } from '../../src/workbench/exchange.js';
import { findToolchain } from '../../src/workbench/toolchain.js';
import { bytes, languagesFor, payloadsOf, workspace, patient } from '../support.js';

const forms = {
  at: { type: 'string', format: 'date-time' },
  day: { type: 'string', format: 'date' },
  uid: { type: 'string', format: 'uuid' },
  photo: { type: 'string', contentEncoding: 'base64' },
};
const filled = {
  at: '2031-05-04T08:15:00.125+01:00',
  day: '2031-05-04',
  uid: '1b4e28ba-2fa1-41d2-883f-0016d3cca427',
  photo: 'aGVsbG8=',
};
const prefixed = (prefix: string, fields: object, change = (value: unknown): unknown => value) =>
  Object.fromEntries(Object.entries(fields).map(([key, value]) => [`${prefix}_${key}`, change(value)]));
const orNull = (form: unknown) => ({ ...(form as object), type: ['string', 'null'] });
const nulls = prefixed('null', filled, () => null);
const schema = {
  type: 'object',
  properties: {
    ...forms,
    ...prefixed('null', forms, orNull),
    ...prefixed('may', forms),
    ...prefixed('both', forms, orNull),
    date: forms.day,
    bytes: forms.photo,
    day_date: { type: 'string' },
  },
  required: [...Object.keys(forms), ...Object.keys(nulls)],
};
const model = buildModel(readSchema({ name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 }));
const payloads = [
  { ...filled, ...nulls },
  { ...filled, ...nulls, ...prefixed('both', filled), bytes: '' },
  { ...filled, ...prefixed('null', filled), ...prefixed('may', filled), date: '2031-05-04', day_date: 'x' },
  { ...filled, ...nulls, ...prefixed('both', filled, () => null) },
].map((each) => JSON.stringify(each));

/**
 * By language: what a bench does with a line, and what to do instead, so that it answers with the time, the number of
 * bytes, and whether there is a time where there is null. `$1` stands for what decodes.
 */
const answers: Readonly<Record<string, readonly [encoding: RegExp, instead: string]>> = {
  csharp: [
    /[\w.]+\.Encode\(([\w.]+\.Decode\(line\))\)/,
    '$1.AtTime().ToString("yyyy-MM-ddTHH:mm:ss.fffzzz") + " " + $1.PhotoBytes().Length + " " + ($1.NullAtTime() == null)',
  ],
};

for (const language of await languagesFor(1)) {
  describe.concurrent(language.name, () => {
    test.for(language.styles)('$name writes what the compiler takes', async (style, { expect }) => {
      const result = await checkStyle(language, style, model, 's.json', payloadsOf(payloads), {
        // Their libraries write fractions of a second with six digits.
        strict: style.name !== 'pydantic' && style.name !== 'msgspec',
        pedantic: true,
        limits: patient,
      });
      expect(result.reason).toBeUndefined();
      expect(result).toMatchObject({ state: 'checked', returned: 4 });
      expect(result.findings.filter(({ severity }) => severity === 'loss')).toEqual([]);
    });

    test.runIf(language.name in answers)(
      'gives the time with its offset, and the bytes',
      async ({ expect }) => {
        const [encoding, instead] = answers[language.name]!;
        const [style] = language.styles;
        const [made] = makeAll(model, [{ language, style }], { origin: 's.json' });
        const { bench, emitted } = made!;
        const changed = bench.files.map(({ path, text }) => ({
          path,
          text: text.replace(encoding, instead),
        }));
        expect(changed).not.toEqual(bench.files);
        const toolchain = await findToolchain(language);
        const workshop = {
          emitted,
          bench: { ...bench, files: changed },
          tools: (toolchain as Extract<typeof toolchain, { state: 'ready' }>).tools,
        };
        const built = await buildBench(`${language.name}-views`, workshop, {});
        expect(built).not.toHaveProperty('failed');
        const program = programOf(workshop, built as { folder: string }, workspace());
        const [answer] = await new Conversation(program, patient, true, 2).ask([bytes(payloads[0]!)]);
        const said =
          answer?.kind === 'returned' ? new TextDecoder().decode(answer.text) : JSON.stringify(answer);
        // A Date of JavaScript has no offset, and is written in UTC.
        const time = '08:15:00\\.1250*\\+01:00';
        expect(said).toMatch(new RegExp(`^2031-05-04T${time} 5 [tT]rue$`));
      },
    );
  });
}
