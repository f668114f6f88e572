import { execa } from 'execa';
import { readdirSync } from 'node:fs';
import { delimiter, join, resolve } from 'node:path';
import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { java } from '../../src/languages/java/index.js';
import { classPath } from '../../src/languages/kit/jvm.js';
import { unknownRules } from '../../src/languages/language.js';
import { emitJava } from '../../src/languages/java/emit.js';
import { makeAll } from '../../src/languages/make.js';
import { openSession } from '../../src/workbench/check.js';
import { addFiles, hasTool, infer, languagesHere, patient, payloadsOf, workspace } from '../support.js';
import { unlessBrief } from '../effort.js';
import { cases } from './cases.js';
import { compilerOpened } from './java-tools.js';

/** Milliseconds for a checker that reads hundreds of files beside other tests. */
const timeout = 600_000;

const tools = resolve('tests/.tools/error-prone');

const libraries = [...java.libraries!, ...java.styles.flatMap((style) => style.libraries ?? [])];

/** Every case in each style, a package each by one rule in turn, and the paths of the files. */
function written(): { readonly folder: string; readonly files: readonly string[] } {
  const folder = workspace();
  const files: Record<string, string> = {};
  for (const [i, { payloads, unformatted }] of unlessBrief(cases).entries()) {
    if (unformatted) continue;
    const model = buildModel(infer(payloads).schema);
    const unknown = unknownRules[i % unknownRules.length]!;
    for (const [k, style] of java.styles.entries()) {
      // The older library has the same text: a few of it are enough.
      if (k > 0 && i % 9 > 0) continue;
      const name = `${style.name}${i}${unknown}`;
      for (const { path, text } of style.emit(model, { origin: 's.json', unknown, package: name }).files)
        files[path] = text;
    }
  }
  addFiles(folder, files);
  return { folder, files: Object.keys(files) };
}

describe.runIf(hasTool(tools))('sources of Java', () => {
  const { folder, files } = written();
  const run = (program: string, given: readonly string[]) => {
    addFiles(folder, { files: files.join('\n') });
    return execa(program, given, { cwd: folder, all: true, reject: false, maxBuffer: 1 << 28 });
  };

  test('are as google-java-format leaves them', { timeout }, async () => {
    const layout = [...compilerOpened, '-cp', `${tools}/*`, 'com.google.googlejavaformat.java.Main'];
    const { all } = await run('java', [...layout, '--dry-run', '@files']);
    expect(all).toBe('');
  });

  test('are what Error Prone takes, with NullAway as JSpecify has it', { timeout }, async () => {
    const jars = readdirSync(tools)
      .map((jar) => join(tools, jar))
      .join(delimiter);
    const checks = [
      '-Xplugin:ErrorProne -Xep:NullAway:ERROR -XepOpt:NullAway:OnlyNullMarked=true',
      // What a payload calls a record, or a field, is its affair.
      '-XepOpt:NullAway:JSpecifyMode=true -Xep:TypeNameShadowing:OFF -Xep:UnicodeInCode:OFF -Xep:JavaLangClash:OFF',
    ];
    const { all } = await run('javac', [
      ...compilerOpened.map((each) => `-J${each}`),
      '-J-Xmx3g',
      ...['-XDcompilePolicy=simple', '--should-stop=ifError=FLOW', '-XDaddTypeAnnotationsToSymbol=true'],
      `${checks[0]!} ${checks[1]!}`,
      ...['-Xmaxwarns', '1000', '-processorpath', jars],
      ...['-cp', classPath(libraries), '-d', join(folder, 'out'), '@files'],
    ]);
    expect(all).toBe('');
  });
});

const wide = ['{"a":1,"b":"x","c":null,"d":true,"e":2}', '{"a":2,"b":"y","c":"z","d":false,"e":3,"f":1}'];

describe.runIf((await languagesHere()).some(({ name }) => name === 'java'))('builders', () => {
  const model = buildModel(infer(wide).schema);

  test.for(java.styles.map(({ name }) => name))(
    'are left out where nobody wants them, and what is written then is proven too: %s',
    async (name) => {
      const style = java.styles.find((each) => each.name === name)!;
      const [made] = makeAll(model, [{ language: java, style, builders: 'off' }], { origin: 's.json' });
      const text = made!.emitted.files.map((file) => file.text).join('');
      expect(text).not.toMatch(/Builder/);
      const session = await openSession(made!, { strict: false, limits: patient });
      const { reason, findings, returned } = await session.ask(payloadsOf(wide));
      await session.close();
      expect({ reason, findings, returned }).toEqual({ reason: undefined, findings: [], returned: 2 });
    },
  );

  test('are there for five components, not for four', () => {
    const written = (text: string) =>
      emitJava(buildModel(infer([text]).schema), { origin: 's.json' }).files[0]!.text;
    expect(written('{"a":1,"b":1,"c":1,"d":1,"e":1}')).toMatch(/public static Builder builder\(\)/);
    expect(written('{"a":1,"b":1,"c":1,"d":1}')).not.toMatch(/Builder/);
  });
});
