import { build } from 'esbuild';
import { describe, expect, test } from 'vitest';
import { textsForBuild } from '../../scripts/texts.mjs';

/** What is loaded before a command does anything: files of the source, and names of packages. */
async function loadedFirst(command: string): Promise<ReadonlySet<string>> {
  const entry = `src/cli/commands/${command}.ts`;
  const { metafile } = await build({
    entryPoints: [entry],
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    packages: 'external',
    plugins: [textsForBuild],
    outdir: 'dist',
    write: false,
    metafile: true,
  });
  const loaded = new Set<string>();
  const follow = (path: string): void => {
    const { inputs, imports } = metafile.outputs[path]!;
    Object.keys(inputs).forEach((each) => loaded.add(each));
    for (const { path: next, kind, external } of imports) {
      if (kind !== 'import-statement' || loaded.has(next)) continue;
      loaded.add(next);
      if (!external) follow(next);
    }
  };
  follow(Object.keys(metafile.outputs).find((path) => metafile.outputs[path]!.entryPoint === entry)!);
  return loaded;
}

const emitters = 'src/languages/index.ts';
const validation = 'src/core/schema/apply.ts';

describe('a start loads no more than the command needs:', () => {
  test.for([
    ['outline', [emitters, validation, 'ajv', 'execa', 'cli-progress', 'yaml', 'saxes']],
    ['infer', [emitters, validation, 'ajv', 'execa', 'cli-progress', 'yaml', 'saxes']],
    ['convert', [emitters, validation, 'ajv', 'execa', 'cli-progress', 'yaml', 'saxes', 'avsc']],
    ['locate', [emitters, validation, 'ajv', 'execa', 'cli-progress']],
    ['compare', [emitters, validation, 'ajv', 'execa', 'cli-progress']],
    ['validate', [emitters, 'execa', 'cli-progress', 'yaml', 'saxes']],
    ['vary', [emitters, 'execa', 'cli-progress']],
    ['generate', [validation, 'ajv', 'execa', 'cli-progress']],
  ] as const)('%s', async ([command, heavy]) => {
    const loaded = await loadedFirst(command);
    expect(loaded).toContain(`src/cli/commands/${command}.ts`);
    expect(loaded).toContain('class-validator');
    expect(heavy.filter((each) => loaded.has(each))).toEqual([]);
  });

  test('what writes code loads the languages', async () => {
    expect(await loadedFirst('generate')).toContain(emitters);
  });
});
