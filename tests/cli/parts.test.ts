import { spawnSync } from 'node:child_process';
import { chmodSync, existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { describe, expect, test } from 'vitest';
import { addFiles, hasProgram, program, skevo, workspace } from '../support.js';

const lines = Array.from({ length: 600 }, (_, i) =>
  JSON.stringify({
    id: i,
    code: `SF-${i}`,
    kind: ['delay', 'gale', 'fog'][i % 3],
    ...(i % 4 === 0 ? {} : { gate: `B${i % 9}` }),
    ...(i % 7 === 0 ? { note: null } : {}),
    ...(i === 500 ? { late: 1 } : {}),
    ...(i === 290 ? { early: { by: 1 } } : {}),
  }),
);
const sizes = [
  [0, 140],
  [140, 290],
  [290, 291],
  [291, 600],
] as const;
const parts = sizes.map(([from, to], i) => ({
  name: `part-${i}`,
  text: `${lines.slice(from, to).join('\n')}\n`,
}));
/** One machine reads the parts as files of their own. */
const asFiles = Object.fromEntries(parts.map(({ name, text }) => [`parts/${name}.ndjson`, text]));
const piped = (folder: string, args: readonly string[], input: string) => skevo(args, { cwd: folder, input });

describe('payloads seen in parts', () => {
  const folder = workspace(asFiles);
  const whole = skevo(['infer', 'parts', '--name', 'Notice', '--evidence', '--quiet'], { cwd: folder });
  const seen = parts.map(({ name, text }) => {
    const named = ['--input', 'ndjson', '--stdin-name', `parts/${name}.ndjson`];
    return piped(folder, ['infer', '-', ...named, '--save-observation', '-'], text);
  });

  test('are a line each, with nothing else', () => {
    for (const { code, out, err } of seen) {
      expect(code).toBe(0);
      expect(out).toMatch(/^\{"skevoObservation":.*\}\n$/);
      expect(err).toBe('');
    }
  });

  test('come to the schema that one machine infers, to the byte, in any order and in a tree', () => {
    const texts = seen.map(({ out }) => out);
    const inferred = (input: string) =>
      piped(folder, ['infer', '-', '--name', 'Notice', '--evidence', '--quiet'], input).out;
    expect(whole.code).toBe(0);
    expect(inferred(texts.join(''))).toBe(whole.out);
    expect(inferred(texts.toReversed().join('\n'))).toBe(whole.out);
    const save = (input: string) => piped(folder, ['infer', '-', '--save-observation', '-'], input).out;
    const tree = save(save(texts[3]! + texts[0]!) + save(texts[2]! + texts[1]!));
    expect(tree).toBe(save(texts.join('')));
    expect(inferred(tree)).toBe(whole.out);
  });

  test('are read from files of several lines too', () => {
    addFiles(folder, { 'all.observation': seen.map(({ out }) => out).join('') });
    const from = ['infer', 'all.observation', '--name', 'Notice', '--evidence', '--quiet'];
    expect(skevo(from, { cwd: folder }).out).toBe(whole.out);
  });

  test('of which one is empty say nothing', () => {
    const { code, out, err } = piped(
      folder,
      ['infer', '-', '--input', 'ndjson', '--save-observation', '-'],
      '',
    );
    expect([code, out]).toEqual([0, '']);
    expect(err).toContain('there was no payload, and nothing is written');
  });

  test('take no options of schemas', () => {
    for (const given of [
      ['--name', 'Notice'],
      ['--out', 's.json'],
      ['--explain'],
      ['--decide', '/kind=choice:open'],
    ]) {
      const { code, err } = piped(folder, ['infer', '-', '--save-observation', '-', ...given], lines[0]!);
      expect(code).toBe(2);
      expect(err).toContain(`${given[0]!} cannot be given with --save-observation -`);
    }
  });

  test('whose line is cut short are refused by name', () => {
    const { code, err } = piped(folder, ['infer', '-'], seen[0]!.out.slice(0, 200));
    expect(code).toBe(2);
    expect(err).toContain('stdin');
  });
});

describe('checks in parts', () => {
  const folder = workspace({
    ...asFiles,
    'broken.mjs': `import { createInterface } from 'node:readline';
for await (const line of createInterface({ input: process.stdin })) {
  const value = JSON.parse(line);
  delete value.gate;
  value.id += 9007199254740993;
  console.log(JSON.stringify(value));
}
`,
    'whole.mjs': `process.stdin.pipe(process.stdout);\n`,
  });
  skevo(['infer', 'parts', '--name', 'Notice', '--out', 's.json', '--quiet'], { cwd: folder });
  const results = (program: string) =>
    parts.map(({ name, text }) => {
      const named = ['--input', 'ndjson', '--stdin-name', `parts/${name}.ndjson`];
      return piped(
        folder,
        ['check', 's.json', '-', ...named, '--with', `node ${program}`, '--save-result', '-'],
        text,
      );
    });
  const withoutSeconds = (text: string) => text.replace(/"seconds": [\d.]+/g, '"seconds": 0');

  test('are a line each, whatever they found', () => {
    for (const { code, out } of [...results('broken.mjs'), ...results('whole.mjs')]) {
      expect(code).toBe(0);
      expect(out).toMatch(/^\{"skevoResult":.*\}\n$/);
    }
  });

  test('come to what one machine finds: the counts, the first places, what is unproven', () => {
    const texts = results('broken.mjs').map(({ out }) => out);
    addFiles(folder, { 'a.result': texts[3]! + texts[0]!, 'b.result': texts[1]!, 'c.result': texts[2]! });
    const joint = skevo(['check', 's.json', 'b.result', 'a.result', 'c.result', '--json'], { cwd: folder });
    const whole = skevo(['check', 's.json', 'parts', '--with', 'node broken.mjs', '--json'], { cwd: folder });
    expect(joint.code).toBe(1);
    expect(whole.code).toBe(1);
    expect(withoutSeconds(joint.out)).toBe(withoutSeconds(whole.out));
    const { languages } = JSON.parse(joint.out) as {
      languages: { returned: number; findings: { kind: string; like?: number; before: unknown }[] }[];
    };
    const counts: Record<string, number> = {};
    for (const { kind, like = 0 } of languages[0]!.findings) counts[kind] = (counts[kind] ?? 0) + 1 + like;
    expect(languages[0]!.returned).toBe(600);
    expect(counts).toEqual({ altered: 600, lost: 450 });
  });

  test('are put together in a tree, and reported', () => {
    const texts = results('broken.mjs').map(({ out }) => out);
    addFiles(folder, Object.fromEntries(texts.map((text, i) => [`p${i}.result`, text])));
    const join2 = (a: string, b: string, to: string) =>
      skevo(['check', 's.json', a, b, '--save-result', to, '--quiet'], { cwd: folder });
    expect(join2('p3.result', 'p0.result', 'x.result').code).toBe(1);
    join2('p1.result', 'p2.result', 'y.result');
    const report = ['--report', 'r.sarif', '--report', 'r.html', '--report', 'r.md'];
    const ran = skevo(['check', 's.json', 'x.result', 'y.result', '--json', ...report], { cwd: folder });
    const flat = skevo(['check', 's.json', 'p0.result', 'p1.result', 'p2.result', 'p3.result', '--json'], {
      cwd: folder,
    });
    expect(withoutSeconds(ran.out)).toBe(withoutSeconds(flat.out));
    expect(readFileSync(join(folder, 'r.md'), 'utf8')).toContain('1050 losses');
    const sarif = JSON.parse(readFileSync(join(folder, 'r.sarif'), 'utf8')) as {
      runs: { results: { ruleId: string; occurrenceCount?: number }[] }[];
    };
    const counted = sarif.runs[0]!.results.reduce((sum, each) => sum + (each.occurrenceCount ?? 1), 0);
    expect(counted).toBe(1050);
  });

  test('that lost nothing are clean together', () => {
    addFiles(folder, {
      'w.result': results('whole.mjs')
        .map(({ out }) => out)
        .join(''),
    });
    const ran = skevo(['check', 's.json', 'w.result'], { cwd: folder });
    expect(ran.code).toBe(0);
    expect(ran.out).toMatch(/600 of 600 .*nothing lost/);
  });

  test('of an empty part say nothing', () => {
    const empty = ['check', 's.json', '-', '--input', 'ndjson', '--with', 'node whole.mjs'];
    const { code, out } = piped(folder, [...empty, '--save-result', '-'], '');
    expect([code, out]).toEqual([0, '']);
  });

  test.each([
    ['payloads beside results', ['a.result', 'parts'], /parts and results of checks are given together/],
    [
      'how to check',
      ['a.result', '--language', 'python'],
      /--language cannot be given with results of checks/,
    ],
    ['what is cut short', ['cut.result'], /cut.result is a damaged result: it is not whole/],
    ['what speaks of other fields', ['fields.result'], /a result is damaged: it speaks of what the schema/],
    [
      'another kind of value',
      ['kinds.result'],
      /kinds.result is a damaged result: \/payloads must be integer/,
    ],
    ['another version', ['version.result'], /version.result is no result of this version/],
    ['what holds nothing', ['none.result'], /there is no result in none.result/],
    ['other languages', ['a.result', 'w.result'], /w.result and a.result are of checks of other languages/],
  ])('refuse %s', (_, given, said) => {
    const [text] = readFileSync(join(folder, 'a.result'), 'utf8').split('\n') as [string];
    addFiles(folder, {
      'cut.result': text.slice(0, 300),
      'fields.result': text.replace(/"fields":\[\[\d+/, '"fields":[[999'),
      'kinds.result': text.replace(/"payloads":\d+/, '"payloads":"x"'),
      'version.result': text.replace('"skevoResult":1', '"skevoResult":99'),
      'none.result': '\n',
    });
    const { code, out, err } = skevo(['check', 's.json', ...given], { cwd: folder });
    expect(err).toMatch(said);
    expect([code, out]).toEqual([2, '']);
  });

  test('against another schema are refused', () => {
    addFiles(folder, { 'other.json': '{"type":"object"}' });
    const { code, err } = skevo(['check', 'other.json', 'a.result'], { cwd: folder });
    expect(code).toBe(2);
    expect(err).toContain('a.result is of a check against another schema than other.json');
  });
});

describe('engines that pipe lines', () => {
  const folder = workspace({
    'all.ndjson': `${lines.join('\n')}\n`,
    skevo: `#!/bin/sh\nexec node '${program}' "$@"\n`,
  });
  chmodSync(join(folder, 'skevo'), 0o755);
  const whole = skevo(['infer', 'all.ndjson', '--name', 'Notice', '--quiet'], { cwd: folder }).out;
  const together = (seen: string) =>
    skevo(['infer', '-', '--name', 'Notice', '--quiet'], { cwd: folder, input: seen });
  const step = ['infer', '-', '--input', 'ndjson', '--save-observation', '-', '--quiet'];

  test.runIf(hasProgram('parallel'))('GNU parallel comes to what one machine infers', () => {
    const command = `./skevo ${step.join(' ')} --stdin-name $(printf part-%05d {#})`;
    const given = ['-k', '--pipe-part', '-a', 'all.ndjson', '--block', '8k', command];
    const ran = spawnSync('parallel', given, { cwd: folder, encoding: 'utf8' });
    expect(ran.status).toBe(0);
    expect(ran.stdout.trim().split('\n').length).toBeGreaterThan(3);
    expect(together(ran.stdout).out).toBe(whole);
  });

  const spark = resolve('tests/.tools/spark/bin');
  test.runIf(existsSync(join(spark, 'spark-submit')))('Spark with two workers comes to the same', () => {
    const given = [
      ...['--master', 'local-cluster[2,1,1024]', resolve('scripts/scale/partitions.py'), 'all.ndjson', '4'],
      ...[join(folder, 'skevo'), ...step],
    ];
    const ran = spawnSync(join(spark, 'spark-submit'), given, {
      cwd: folder,
      encoding: 'utf8',
      env: { ...process.env, PYSPARK_PYTHON: join(spark, 'python3') },
    });
    expect(ran.status, ran.stderr.slice(-3000)).toBe(0);
    expect(ran.stdout.trim().split('\n')).toHaveLength(4);
    expect(together(ran.stdout).out).toBe(whole);
  });
});
