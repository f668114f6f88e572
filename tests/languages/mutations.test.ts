import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import type { TypeModel } from '../../src/core/model/types.js';
import type { FindingKind } from '../../src/core/roundtrip/finding.js';
import { packageFolder } from '../../src/workbench/toolchain.js';
import { languagesHere, skevo, workspace } from '../support.js';

const compiler = join(packageFolder('typescript-native'), 'bin', 'tsc');

/** Payloads in which every breakage below shows. */
const samples = [
  '{"id":9007199254740993,"departs_at":"2031-05-01T08:00:00+01:00","seats":12,"gate":"A","delay":3,"legs":["N","S","L"]}',
  '{"id":9007199254740995,"departs_at":"2031-05-02T08:00:00+01:00","seats":13,"delay":null,"legs":["S"]}',
  '{"id":9007199254740997,"departs_at":"2031-05-03T08:00:00+01:00","seats":14,"gate":"B","legs":["N"]}',
].join('\n');

interface Breakage {
  readonly name: string;
  readonly file: string;
  readonly change: readonly [RegExp, string];
  readonly kind: FindingKind;
  readonly pointer: string;
}

const anyModel: TypeModel = {
  name: 'Sailing',
  root: { kind: 'anything' },
  records: [],
  choices: [],
  unions: [],
};
const python = 'classes/sailing.py';
const typescript = 'classes/sailing.ts';

/** By language and style: how a careless edit of the generated source would break it. */
const breakages: Readonly<Record<string, readonly Breakage[]>> = {
  'python dataclass': [
    {
      name: 'a field is dropped',
      file: python,
      change: [/ {12}"seats": self\.seats,\n/, ''],
      kind: 'lost',
      pointer: '/seats',
    },
    {
      name: 'a rename is dropped',
      file: python,
      change: [/"departs_at": self/, '"departsAt": self'],
      kind: 'renamed',
      pointer: '/departs_at',
    },
    {
      name: 'a missing field gets a default',
      file: python,
      change: [
        /if self\.gate is not None:\n {12}value\["gate"\] = self\.gate/,
        'value["gate"] = self.gate or "A"',
      ],
      kind: 'added',
      pointer: '/gate',
    },
    {
      name: 'null becomes absent',
      file: python,
      change: [
        /if self\.delay is not Absent\.ABSENT:/,
        'if self.delay is not Absent.ABSENT and self.delay is not None:',
      ],
      kind: 'lost',
      pointer: '/delay',
    },
    {
      name: 'absent becomes null',
      file: python,
      change: [
        /if self\.delay is not Absent\.ABSENT:\n {12}value\["delay"\] = self\.delay/,
        'value["delay"] = None if self.delay is Absent.ABSENT else self.delay',
      ],
      kind: 'added',
      pointer: '/delay',
    },
    {
      name: 'an integer becomes text',
      file: python,
      change: [/"seats": self\.seats/, '"seats": str(self.seats)'],
      kind: 'retyped',
      pointer: '/seats',
    },
    {
      name: 'an element is lost',
      file: python,
      change: [/"legs": self\.legs/, '"legs": self.legs[:1] + self.legs[2:]'],
      kind: 'lost',
      pointer: '/legs/1',
    },
    {
      name: 'the last payload is swallowed',
      file: 'skevo_bench.py',
      change: [/for line in sys\.stdin\.buffer:/, 'for line in list(sys.stdin.buffer)[:-1]:'],
      kind: 'lost',
      pointer: '',
    },
  ],
  'typescript class': [
    {
      name: 'a field is dropped',
      file: typescript,
      change: [
        /@Expose\(\)\n {2}@IsInt\(\)\n {2}seats/,
        '@Expose({ toClassOnly: true })\n  @IsInt()\n  seats',
      ],
      kind: 'lost',
      pointer: '/seats',
    },
    {
      name: 'a rename is dropped',
      file: typescript,
      change: [/@Expose\(\{ name: "departs_at" \}\)/, '@Expose()'],
      kind: 'refused',
      pointer: '',
    },
    {
      name: 'a missing field gets a default',
      file: typescript,
      change: [/gate\?: string;/, 'gate?: string = "A";'],
      kind: 'added',
      pointer: '/gate',
    },
    {
      name: 'null becomes absent',
      file: typescript,
      change: [
        /delay\?: number/,
        '@Transform(({ value }) => value ?? undefined, { toPlainOnly: true })\n  delay?: number',
      ],
      kind: 'lost',
      pointer: '/delay',
    },
    {
      name: 'absent becomes null',
      file: typescript,
      change: [/delay\?: number \| null;/, 'delay?: number | null = null;'],
      kind: 'added',
      pointer: '/delay',
    },
    {
      name: 'an integer becomes text',
      file: typescript,
      change: [
        /@IsInt\(\)\n {2}seats!: number;/,
        '@Transform(({ value }) => String(value), { toPlainOnly: true })\n  @IsInt()\n  seats!: number;',
      ],
      kind: 'retyped',
      pointer: '/seats',
    },
    {
      name: 'an element is lost',
      file: typescript,
      change: [
        /@IsArray\(\)\n/,
        '@Transform(({ value }) => value.filter((_: unknown, i: number) => i !== 1), { toPlainOnly: true })\n  @IsArray()\n',
      ],
      kind: 'lost',
      pointer: '/legs/1',
    },
    {
      name: 'the last payload is swallowed',
      file: 'main.ts',
      change: [/(\n {2}let answer: string;)/, '\n  if (line.includes("2031-05-03")) break;$1'],
      kind: 'lost',
      pointer: '',
    },
  ],
  'typescript interface': [
    {
      name: 'a field is dropped',
      file: typescript,
      change: [/ {4}seats: value\.seats,\n/, ''],
      kind: 'lost',
      pointer: '/seats',
    },
    {
      name: 'a rename is dropped',
      file: typescript,
      change: [/departs_at: value\.departsAt/, 'departsAt: value.departsAt'],
      kind: 'renamed',
      pointer: '/departs_at',
    },
    {
      name: 'a missing field gets a default',
      file: typescript,
      change: [/gate: value\.gate/, 'gate: value.gate ?? "A"'],
      kind: 'added',
      pointer: '/gate',
    },
    {
      name: 'null becomes absent',
      file: typescript,
      change: [/delay: value\.delay/, 'delay: value.delay ?? undefined'],
      kind: 'lost',
      pointer: '/delay',
    },
    {
      name: 'absent becomes null',
      file: typescript,
      change: [/delay: value\.delay/, 'delay: value.delay ?? null'],
      kind: 'added',
      pointer: '/delay',
    },
    {
      name: 'an integer becomes text',
      file: typescript,
      change: [/seats: value\.seats/, 'seats: String(value.seats)'],
      kind: 'retyped',
      pointer: '/seats',
    },
    {
      name: 'an element is lost',
      file: typescript,
      change: [/legs: value\.legs/, 'legs: value.legs.filter((_, i) => i !== 1)'],
      kind: 'lost',
      pointer: '/legs/1',
    },
    {
      name: 'the last payload is swallowed',
      file: 'main.ts',
      change: [/(\n {2}let answer: string;)/, '\n  if (line.includes("2031-05-03")) break;$1'],
      kind: 'lost',
      pointer: '',
    },
  ],
};

for (const language of await languagesHere()) {
  for (const style of language.styles) {
    describe(`${language.name} ${style.name}, broken on purpose:`, () => {
      const folder = workspace({ 'sailings.ndjson': samples });
      const bench = join(folder, 'bench', `${language.name}-${style.name}`);
      skevo(['infer', 'sailings.ndjson', '--name', 'Sailing', '--out', 's.json'], { cwd: folder });
      const kept = skevo(
        [
          'check',
          's.json',
          'sailings.ndjson',
          '--language',
          `${language.name}:${style.name}`,
          '--keep',
          'bench',
          '--json',
        ],
        { cwd: folder },
      );
      const mutations = breakages[`${language.name} ${style.name}`] ?? [];

      test('unbroken, nothing is lost', () => expect(kept.code).toBe(0));
      test('all eight breakages are here', () =>
        expect(mutations.map(({ name }) => name)).toEqual(
          breakages['python dataclass']!.map(({ name }) => name),
        ));

      test.for(mutations)('$name', ({ file, change, kind, pointer }) => {
        const path = join(bench, file);
        const original = readFileSync(path, 'utf8');
        const broken = original.replace(...change);
        expect(broken).not.toBe(original);
        writeFileSync(path, broken);
        try {
          const steps = style.bench(anyModel, { pedantic: false });
          if (steps.build.length > 0) {
            const built = spawnSync(process.execPath, [compiler, '-p', join(bench, 'tsconfig.json')], {
              encoding: 'utf8',
            });
            expect(built.stdout).toBe('');
          }
          const program =
            language.name === 'python'
              ? 'python3 -B skevo_bench.py'
              : `node ${steps.run.arguments.join(' ')}`;
          const { code, out } = skevo(
            ['check', 's.json', 'sailings.ndjson', '--with', `cd ${bench} && ${program}`, '--json'],
            { cwd: folder },
          );
          const found = JSON.parse(out).languages[0].findings as {
            kind: string;
            pointer: string;
            severity: string;
          }[];
          expect(code).toBe(1);
          expect(found.filter(({ severity }) => severity === 'loss')).toContainEqual(
            expect.objectContaining({ kind, pointer }),
          );
        } finally {
          writeFileSync(path, original);
        }
      });
    });
  }
}
