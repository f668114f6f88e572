import { spawnSync } from 'node:child_process';
import { chmodSync, readFileSync, rmSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { beforeEach, describe, expect, test } from 'vitest';
import { parse } from 'yaml';
import { addFiles, gitIn, program, skevo, workspace } from '../support.js';

/** The blocks of the page, by the heading above each. */
const blocks = new Map(
  [
    ...readFileSync('docs/ci.md', 'utf8').matchAll(/^## (.*)\n(?:(?!^#)[\s\S])*?^```\w+\n([\s\S]*?)^```$/gm),
  ].map(([, heading, text]) => [heading!, text!] as const),
);

interface Step {
  readonly run?: string;
  readonly uses?: string;
  readonly env?: Record<string, string>;
}
const actions = parse(blocks.get('GitHub Actions')!) as { jobs: { skevo: { steps: Step[] } } };
const gitlab = parse(blocks.get('GitLab CI')!) as {
  skevo: { script: string[]; artifacts: { reports: { junit: string } } };
};
const jenkins = blocks.get('Jenkins')!;
const ours = (lines: readonly string[]) => lines.filter((line) => line.startsWith('npx skevo '));

const scripts: readonly (readonly [where: string, lines: readonly string[], reports: readonly string[]])[] = [
  [
    'GitHub Actions',
    ours(actions.jobs.skevo.steps.flatMap(({ run = '' }) => run.split('\n'))),
    ['skevo.sarif', 'skevo.md'],
  ],
  ['GitLab CI', ours(gitlab.skevo.script), [gitlab.skevo.artifacts.reports.junit, 'skevo.html']],
  [
    'Jenkins',
    ours([...jenkins.matchAll(/\bsh '([^']*)'/g)].map(([, line]) => line!)),
    ['skevo.junit.xml', 'skevo.html'],
  ],
  ['Before a commit', [blocks.get('Before a commit')!], []],
];

describe('the steps of docs/ci.md', () => {
  const folder = workspace({
    'ferries/skevo.yaml':
      'contracts:\n  sailing:\n    samples: samples\n    schema: schemas/sailing.schema.json\n    languages: [{ language: php, out: clients/php }]\n',
    'ferries/samples/a.json': '{"code":"A","legs":[]}',
    'ferries/.gitignore': 'skevo.*\n!skevo.yaml\n.cache\n',
    'bin/npx': `#!/bin/sh\nshift\nexec '${process.execPath}' '${program}' "$@"\n`,
  });
  chmodSync(join(folder, 'bin/npx'), 0o755);
  const own = join(folder, 'ferries');
  const { git, commit } = gitIn(own);
  git('init', '-q', '-b', 'main');
  expect(skevo(['run'], { cwd: own }).code).toBe(0);
  commit();
  git('update-ref', 'refs/remotes/origin/main', 'HEAD');
  git('checkout', '-q', '-b', 'fog');
  const ran = (script: string) =>
    spawnSync('sh', ['-ec', script], {
      cwd: own,
      encoding: 'utf8',
      env: {
        ...process.env,
        SKEVO_CACHE: join(own, '.cache/skevo'),
        PATH: `${join(folder, 'bin')}${delimiter}${process.env['PATH']}`,
      },
    });

  beforeEach(() => {
    git('reset', '-q', '--hard', 'main');
    for (const ending of ['sarif', 'md', 'html', 'junit.xml'])
      rmSync(join(own, `skevo.${ending}`), { force: true });
  });

  test.each(scripts)('of %s have a line that runs Skevo', (_, lines) => {
    expect(lines).toHaveLength(1);
  });

  test.each(scripts)('of %s pass where nothing changed', (_, lines) => {
    const { status, stdout } = ran(lines.join('\n'));
    expect([status, stdout]).toEqual([0, '']);
  });

  test.each(scripts)(
    'of %s fail where the samples say more, change no file and write the reports',
    (_, lines, reports) => {
      addFiles(own, { 'samples/b.json': '{"code":"B","legs":[],"gate":"N1"}' });
      if (reports.length > 0) commit();
      const { status, stdout } = ran(lines.join('\n'));
      expect(status).toBe(1);
      expect(stdout).toContain('would write schemas/sailing.schema.json');
      expect(git('status', '--porcelain', '--untracked-files=no')).toBe('');
      for (const report of reports)
        expect(readFileSync(join(own, report), 'utf8'), report).toContain('schemas/sailing.schema.json');
    },
  );

  test('of a new version say what it means for the code that is out there', () => {
    addFiles(own, { 'samples/b.json': '{"legs":[]}' });
    const lines = ours(blocks.get('A new version of an API')!.split('\n'));
    expect(lines[0]).toBe('npx skevo capture sailing');
    const { status, stdout } = ran(lines.slice(1).join('\n'));
    expect(status).toBe(1);
    expect(stdout).toContain('wrote schemas/sailing.schema.json');
    expect(stdout).toMatch(/breaking.*\/code|\/code.*breaking/);
  });
});
