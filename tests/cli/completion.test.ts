import { spawnSync } from 'node:child_process';
import { chmodSync, writeFileSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { candidates, wordsOf } from '../../src/cli/complete.js';
import { commands } from '../../src/cli/commands.js';
import { describedOptions, nameOf } from '../../src/cli/described.js';
import { hasProgram, program, skevo, workspace } from '../support.js';

const folder = workspace({
  'skevo.yaml':
    'contracts:\n  sailing: { samples: [a.json], schema: s.json }\n  tide: { samples: [a.json], schema: t.json }\n',
  'a.json': '{"results":[{"code":"A","route-code":"B"}],"next":null}',
  'broken.json': '{"results":',
  skevo: `#!/bin/sh\nexec '${process.execPath}' '${program}' "$@"\n`,
});
chmodSync(join(folder, 'skevo'), 0o755);
const env = { ...process.env, PATH: `${folder}${delimiter}${process.env['PATH']}` };
const asked = (line: string) =>
  skevo(['completion', '--for', 'bash', line], { cwd: folder }).out.split('\n').filter(Boolean);

describe('the words of a command line', () => {
  test.each([
    ['skevo ', ['skevo', '']],
    ['skevo ch', ['skevo', 'ch']],
    [String.raw`skevo "a b" 'c d' e\ f`, ['skevo', 'a b', 'c d', 'e f']],
    [String.raw`skevo "a\"b" 'c`, ['skevo', 'a"b', 'c']],
    ['skevo a\'b\'"c" ', ['skevo', 'abc', '']],
    ['skevo ""', ['skevo', '']],
  ])('%s', (line, words) => {
    expect(wordsOf(line)).toEqual(words);
  });
});

describe('what may be typed next', () => {
  const texts = async (line: string) => (await candidates(line)).map(({ text }) => text);

  test('is a command at first', async () => {
    expect(await texts('skevo ')).toEqual(commands.map(nameOf));
    expect(await texts('skevo com')).toEqual(['compare', 'completion']);
  });

  test('is an option of the command behind a dash', async () => {
    expect(await texts('skevo languages --')).toEqual([
      '--json',
      '--tool',
      '--verbose',
      '--clear-cache',
      '--help',
      '--version',
      '--debug',
      '--width',
    ]);
  });

  test('is a language, and behind a comma one more', async () => {
    expect(await texts('skevo generate s.json --language ja')).toEqual([
      'java',
      'java:record',
      'java:jackson2',
    ]);
    expect(await texts('skevo generate s.json --language go:plain,r')).toEqual([
      'go:plain,rust',
      'go:plain,rust:serde',
      'go:plain,ruby',
      'go:plain,ruby:class',
      'go:plain,r',
      'go:plain,r:record',
    ]);
    expect(await texts('skevo check s.json --language=al')).toEqual(['--language=all']);
  });

  test('is one of the words of an option', async () => {
    expect(await texts('skevo generate s.json --unknown ')).toEqual(['keep', 'drop', 'reject']);
    expect(await texts('skevo infer a.json --to ')).toEqual(['json-schema', 'openapi', 'avro']);
    expect(await texts('skevo vary s.json --to n')).toEqual(['nested-csv']);
    expect(await texts('skevo convert a.json --to n')).toEqual(['nested-csv', 'ndjson']);
    expect(await texts('skevo infer a.json --choices c')).toEqual(['closed']);
    expect(await texts('skevo infer - --input nd')).toEqual(['ndjson']);
    expect(await texts('skevo check s a --tool j')).toEqual(['javac=', 'java=']);
  });

  test('is a file where nothing else is known', async () => {
    for (const line of [
      'skevo infer ',
      'skevo infer a.json --out ',
      'skevo nowhere ',
      'skevo infer x.json --at /',
    ])
      expect(await texts(line), line).toEqual([]);
  });

  test('is a contract of the project, or a place of the payloads', () => {
    expect(asked('skevo run ')).toEqual(['sailing', 'tide']);
    expect(asked('skevo run sailing t')).toEqual(['tide']);
    expect(asked('skevo outline a.json --at /r')).toEqual([
      '/results',
      '/results/*',
      '/results/*/code',
      '/results/*/route-code',
    ]);
    expect(asked('skevo outline broken.json --at /r')).toEqual([]);
  });
});

describe('completion in shells', () => {
  test('is printed for each, and for no other', () => {
    expect(skevo(['completion', 'bash'], { cwd: folder }).out).toContain('complete -o default');
    expect(skevo(['completion', 'zsh'], { cwd: folder }).out).toMatch(/^#compdef skevo\n/);
    const other = skevo(['completion', 'csh'], { cwd: folder });
    expect([other.code, other.out]).toEqual([2, '']);
    expect(other.err).toBe(
      'skevo: there is no completion for a shell "csh"\n  There is bash, zsh and fish.\n',
    );
  });

  const bash = (line: string, words: readonly string[]) => {
    const script = `source <(skevo completion bash); COMP_LINE=$1; COMP_POINT=\${#1}; shift
COMP_WORDS=("$@"); COMP_CWORD=$(($# - 1)); _skevo; printf '%s\\n' "\${COMPREPLY[@]}"`;
    const ran = spawnSync('bash', ['-c', script, 'bash', line, ...words], {
      cwd: folder,
      env,
      encoding: 'utf8',
    });
    return ran.stdout.trim().split('\n');
  };

  test.runIf(hasProgram('bash'))(
    'bash replaces what stands behind the last sign at which it ends words',
    () => {
      expect(bash('skevo ru', ['skevo', 'ru'])).toEqual(['run']);
      expect(
        bash('skevo generate s --language java:', ['skevo', 'generate', 's', '--language', 'java', ':']),
      ).toEqual(['record', 'jackson2']);
      expect(
        bash('skevo generate s --language java:re', [
          'skevo',
          'generate',
          's',
          '--language',
          'java',
          ':',
          're',
        ]),
      ).toEqual(['record']);
      expect(bash('skevo generate s --unknown=k', ['skevo', 'generate', 's', '--unknown', '=', 'k'])).toEqual(
        ['keep'],
      );
    },
  );

  test.runIf(hasProgram('fish'))('fish shows what each is', () => {
    writeFileSync(join(folder, 'skevo.fish'), skevo(['completion', 'fish'], { cwd: folder }).out);
    const ran = spawnSync('fish', ['-c', "source skevo.fish; complete -C 'skevo generate s --unknown '"], {
      cwd: folder,
      env,
      encoding: 'utf8',
    });
    expect(ran.stdout.trim().split('\n').sort()).toEqual(['drop', 'keep', 'reject']);
    const commandsOf = spawnSync('fish', ['-c', "source skevo.fish; complete -C 'skevo loc'"], {
      cwd: folder,
      env,
      encoding: 'utf8',
    });
    expect(commandsOf.stdout).toBe('locate\twhere a key or value is, and the code that reaches it\n');
  });

  test.runIf(hasProgram('zsh'))('zsh takes its script', () => {
    writeFileSync(join(folder, '_skevo'), skevo(['completion', 'zsh'], { cwd: folder }).out);
    const ran = spawnSync('zsh', ['-n', '_skevo'], { cwd: folder, encoding: 'utf8' });
    expect([ran.status, ran.stderr]).toEqual([0, '']);
    expect(
      skevo(['completion', '--for', 'zsh', 'skevo generate s --language go:'], { cwd: folder }).out,
    ).toBe(
      'go\\:struct:structs for encoding/json, standard library only\ngo\\:plain:the same structs without checks, for those who validate elsewhere\n',
    );
  });
});

describe('the manual', () => {
  const page = skevo(['manual'], { cwd: folder }).out;

  test('has every command with every option, as its help has them', async () => {
    for (const command of commands) {
      expect(page).toContain(`.SS skevo ${command.usage.replaceAll('-', '\\-')}`);
      const help = skevo([nameOf(command), '--help'], { cwd: folder }).out;
      for (const { name } of await describedOptions(command)) expect(help).toContain(`--${name}`);
    }
    const options = [...page.matchAll(/^\\fB\\-\\-(\S+)\\fR/gm)].map(([, name]) =>
      name!.replaceAll('\\', ''),
    );
    expect(options).toContain('changed-since');
    expect(options).toContain('save-result');
  });

  test.runIf(hasProgram('groff'))('is what groff takes without a warning', () => {
    const ran = spawnSync('groff', ['-man', '-Tutf8', '-ww'], { input: page, encoding: 'utf8' });
    expect([ran.status, ran.stderr]).toEqual([0, '']);
  });
});
