import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { headOf } from '../../src/languages/kit/head.js';
import { languages } from '../../src/languages/index.js';
import { allMade, makeTogether } from '../../src/languages/make.js';
import { infer } from '../support.js';

/** Payloads of the demo, one document each. */
function demo(folder: string): string[] {
  const path = join('demo/payloads', folder);
  return readdirSync(path)
    .sort()
    .map((file) => readFileSync(join(path, file), 'utf8'));
}

const models = [
  buildModel(infer(demo('sailings'), 'SailingPage').schema),
  buildModel(infer(demo('notices'), 'Notice').schema),
] as const;

/** A change of what is written shows in review: these are the files as who works in the language would see them. */
describe('the demo in every style is as it was reviewed', () => {
  for (const language of languages) {
    for (const style of language.styles) {
      const target = { language, style, package: language.package!.example };
      const [made] = allMade(
        makeTogether(models, [target], { origin: 'sailing-page.schema.json and notice.schema.json' })[0]!,
      );
      const folder = `../golden/${language.name}-${style.name}`;

      test.for(made!.emitted.files)(`${language.name} ${style.name}: $path`, async ({ path, text }) => {
        await expect(text).toMatchFileSnapshot(`${folder}/${path}`);
      });

      test(`${language.name} ${style.name} has no other files`, () => {
        const own = readdirSync(join('tests/golden', `${language.name}-${style.name}`), {
          recursive: true,
          withFileTypes: true,
        }).filter((each) => each.isFile());
        expect(own).toHaveLength(made!.emitted.files.length);
      });
    }
  }
});

test('every file says what it was generated from, however much there is to say of the payload', () => {
  const description = Array.from({ length: 150 }, (_, i) => `word ${i}`).join(' ');
  const roots = models[1].roots.map((root) => ({ ...root, description }));
  const model = { ...models[1], description, roots } as unknown as (typeof models)[1];
  const silent = languages.flatMap((language) =>
    language.styles.flatMap((style) =>
      style
        .emit(model, { origin: 'notice.schema.json' })
        .files.filter(({ text }) => !headOf(text)?.includes('notice.schema.json'))
        .map(({ path }) => `${language.name} ${style.name}: ${path}`),
    ),
  );
  expect(silent).toEqual([]);
});
