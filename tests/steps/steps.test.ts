import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { isBrief } from '../effort.js';
import { hasProgram, program, workspace } from '../support.js';
import { runStep, type Ran } from './client.js';

describe.runIf(isBrief && hasProgram('mkfifo'))('a command line beside others of its process', () => {
  /** Each after those above it. */
  const lines: readonly {
    readonly args: readonly string[];
    readonly env?: Record<string, string>;
  }[] = [
    { args: ['outline', 'piers.json', '--width', '40'] },
    { args: ['outline', 'piers.json'] },
    { args: ['outline', 'bad.json'] },
    { args: ['outline', '-'] },
    { args: ['validate', 'pier.schema.json', 'piers.json'] },
    { args: ['check', 'pier.schema.json', 'piers.json', '--with', 'cat', '--json'] },
    { args: ['check', 'pier.schema.json', 'piers.json', '--with', 'exit 7'] },
    {
      args: ['check', 'pier.schema.json', 'piers.json', '--with', 'echo "$PIER" >&2; exit 7'],
      env: { PIER: 'north' },
    },
    { args: ['check', 'pier.schema.json', 'piers.json', '--with', 'echo "$PIER" >&2; exit 7'] },
    { args: ['infer', 'piers.json', '--no-such'] },
    { args: ['infer', '--help'] },
    { args: [] },
    { args: ['--version'] },
    { args: ['infer', 'piers.json', '--out', 'made.schema.json'] },
    { args: ['infer', 'piers.json', '--out', 'piers.json/made.schema.json'] },
  ];
  const files = {
    'piers.json': '{"berth": 7, "crew": null}',
    'bad.json': '{"berth": 7,\n "crew" null}',
    'pier.schema.json': '{"type": "object", "properties": {"berth": {"type": "string"}}}',
  };
  /** What differs from one run to another. */
  const timeless = ({ code, out, err }: Ran) => ({
    code,
    out: out.replace(/"seconds": ?[\d.]+/g, '"seconds":0').replace(/\d+\.\d /g, '0.0 '),
    err,
  });

  test('does what it does in a process of its own', () => {
    const here = workspace(files);
    const there = workspace(files);
    for (const { args, env = {} } of lines) {
      const step = runStep(args, { cwd: here, env });
      if (step === undefined) throw new Error('it was given a process of its own');
      const own = spawnSync(process.execPath, [program, ...args], {
        cwd: there,
        input: '',
        env: { ...process.env, ...env },
        encoding: 'utf8',
      });
      const alone = timeless({ code: own.status, out: own.stdout, err: own.stderr });
      expect(timeless(step), args.join(' ')).toEqual(alone);
    }
    const made = (folder: string) => readFileSync(join(folder, 'made.schema.json'), 'utf8');
    expect(made(here)).toBe(made(there));
  });
});
