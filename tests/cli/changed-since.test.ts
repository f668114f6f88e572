import { appendFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { Proofs } from '../../src/project/proofs.js';
import { addFiles, gitIn, skevo, workspace } from '../support.js';

const contract = (name: string, samples: string) => `  ${name}:
    samples: [${samples}]
    schema: schemas/${name}.json
`;
const project = `contracts:
${contract('sailing', 'samples/sailings')}${contract('tide', "'samples/tides/*.ndjson'")}${contract('notice', 'samples/notice.json')}`;

describe('run --changed-since', () => {
  const folder = workspace({
    'ferries/skevo.yaml': project,
    'ferries/samples/sailings/a.json': '{"code":"A"}',
    'ferries/samples/tides/a.ndjson': '{"height":1}\n',
    'ferries/samples/notice.json': '{"title":"Fog"}',
    'readme.md': 'Saltmere Ferries',
  });
  const own = join(folder, 'ferries');
  const { git, commit } = gitIn(folder);
  git('init', '-q', '-b', 'main');
  expect(skevo(['run'], { cwd: own }).code).toBe(0);
  commit();
  const told = (...more: readonly string[]) => {
    const ran = skevo(['run', '--changed-since', 'main', ...more], { cwd: own });
    expect(ran.code).toBe(0);
    return ran.err.split('\n')[0];
  };

  test.each([
    ['nothing', () => {}, '0 of 3 contracts changed since main'],
    ['what is no contract’s', () => appendFileSync(join(folder, 'readme.md'), '.'), '0 of 3 contracts'],
    [
      'a new file in a folder of samples',
      () => addFiles(own, { 'samples/sailings/b.json': '{"code":"B"}' }),
      '1 of 3 contracts changed since main: sailing',
    ],
    [
      'a file that a pattern takes, and is gone',
      () => {
        addFiles(own, { 'samples/tides/b.ndjson': '{"height":2}\n' });
        rmSync(join(own, 'samples/tides/a.ndjson'));
      },
      '1 of 3 contracts changed since main: tide',
    ],
    [
      'a schema',
      () => appendFileSync(join(own, 'schemas/notice.json'), '\n'),
      '1 of 3 contracts changed since main: notice',
    ],
    [
      'what the project file says of one',
      () =>
        addFiles(own, {
          'skevo.yaml': project.replace('schemas/tide.json', 'schemas/tide.json\n    strict: true'),
        }),
      '1 of 3 contracts changed since main: tide',
    ],
    [
      'a comment of the project file alone',
      () => addFiles(own, { 'skevo.yaml': `# Ferries\n${project}` }),
      '0 of 3 contracts changed since main',
    ],
    [
      'two of them',
      () => {
        appendFileSync(join(own, 'samples/notice.json'), '\n');
        appendFileSync(join(own, 'samples/sailings/a.json'), '\n');
      },
      '2 of 3 contracts changed since main: sailing, notice',
    ],
  ])('knows whom it matters to: %s', (_, change, expected) => {
    git('checkout', '-q', '-f', 'main');
    git('clean', '-qfd');
    change();
    expect(told()).toContain(expected);
  });

  test('counts what a branch changed since it left, committed or not, and not what the other did', () => {
    git('checkout', '-q', '-f', 'main');
    git('clean', '-qfd');
    git('checkout', '-q', '-b', 'fog');
    appendFileSync(join(own, 'samples/notice.json'), '\n');
    commit();
    git('checkout', '-q', 'main');
    appendFileSync(join(own, 'samples/sailings/a.json'), '\n');
    commit();
    git('checkout', '-q', 'fog');
    expect(told()).toContain('1 of 3 contracts changed since main: notice');
    expect(told('sailing')).toContain('0 of 1 contracts changed since main');
  });

  test('refuses what git does not know', () => {
    const ran = skevo(['run', '--changed-since', 'nowhere'], { cwd: own });
    expect(ran.code).toBe(2);
    expect(ran.err).toContain('git knows no revision "nowhere" here');
  });

  test('refuses where there is no git', () => {
    const ran = skevo(['run', '--changed-since', 'main'], { cwd: own, env: { PATH: '/nowhere' } });
    expect(ran.code).toBe(2);
    expect(ran.err).toContain('git does not start');
  });
});

describe('proofs beside each other', () => {
  const after = (ms: number, then: () => void) => () =>
    new Promise<void>((resolve) => setTimeout(resolve, ms)).then(then);

  test('are no more than so many', async () => {
    const proofs = new Proofs(2);
    let now = 0;
    let most = 0;
    for (let i = 0; i < 6; i++) {
      await proofs.room();
      most = Math.max(most, ++now);
      proofs.add(after(5, () => now--));
    }
    await proofs.done();
    expect([now, most]).toEqual([0, 2]);
  });

  test('all end before the first that failed is told of, by the order in which they began', async () => {
    const proofs = new Proofs(4);
    let ended = 0;
    const failing = (name: string) => () => {
      ended++;
      throw new Error(name);
    };
    proofs.add(after(20, failing('first')));
    proofs.add(after(1, failing('second')));
    proofs.add(after(30, () => ended++));
    await new Promise((resolve) => setTimeout(resolve, 10));
    await expect(proofs.room()).rejects.toThrow('first');
    expect(ended).toBe(3);
  });
});
