import { join, resolve } from 'node:path';
import { describe, expect, test } from 'vitest';
import { SkevoError } from '../../src/core/error.js';
import { Claims } from '../../src/project/claims.js';
import { readDecisions } from '../../src/project/decisions.js';
import { parseProject, type LanguageEntry, type Project } from '../../src/project/file.js';
import { Packages } from '../../src/project/packages.js';
import { bytes, workspace } from '../support.js';

/** Contracts a, b and so on with these lists of languages, each a line of YAML. */
function projectOf(languages: readonly string[], more = ''): Project {
  const contracts = languages.map((list, i) => {
    const name = String.fromCharCode(97 + i);
    return `  ${name}: { samples: x, schema: ${name}.json, languages: ${list}${more} }\n`;
  });
  return parseProject({
    name: 'skevo.yaml',
    bytes: bytes(`contracts:\n${contracts.join('')}`),
    firstLine: 1,
  });
}

const entries = ({ contracts }: Project): LanguageEntry[] =>
  [...contracts.values()].flatMap((each) => each.languages);

describe('contracts share a package', () => {
  const go = (more: string) => `[{ language: go, out: go, package: ferries${more} }]`;
  test.each<[string, string[], string[][]]>([
    [
      'of one name in one folder',
      [go(''), go('')],
      [
        ['a', 'b'],
        ['a', 'b'],
      ],
    ],
    [
      'in a folder that is called in two ways',
      [go(''), '[{ language: go, out: ./x/../go, package: ferries }]'],
      [
        ['a', 'b'],
        ['a', 'b'],
      ],
    ],
    ['and not in another folder', [go(''), '[{ language: go, out: og, package: ferries }]'], [['a'], ['b']]],
    ['of no other name', [go(''), '[{ language: go, out: go, package: tides }]'], [['a'], ['b']]],
    ['of no other language', [go(''), '[{ language: python, out: go, package: ferries }]'], [['a'], ['b']]],
    ['of no other style', [go(''), go(', style: plain')], [['a'], ['b']]],
    ['of no other rule for unknown fields', [go(''), go(', unknown: keep')], [['a'], ['b']]],
    ['of no other dates', [go(''), go(', dates: native')], [['a'], ['b']]],
    ['of no other builders', [go(''), go(', builders: off')], [['a'], ['b']]],
    [
      'that nobody named with nobody',
      ['[{ language: go, out: go }]', '[{ language: go, out: go }]'],
      [['a'], ['b']],
    ],
    [
      'that nobody named not with one of its name',
      ['[{ language: go, out: go }]', '[{ language: go, out: go, package: a }]'],
      [['a'], ['b']],
    ],
    [
      'once, however often they name it',
      ['[{ language: go, out: go }, { language: go, out: go }]'],
      [['a'], ['a']],
    ],
    [
      'in one language and not in another',
      [
        `[{ language: go, out: go, package: f }, { language: r, out: r }]`,
        `[{ language: go, out: go, package: f }, { language: r, out: r }]`,
      ],
      [['a', 'b'], ['a'], ['a', 'b'], ['b']],
    ],
  ])('%s', (_, languages, expected) => {
    const project = projectOf(languages);
    const packages = new Packages(project);
    const names = entries(project).map((entry) => packages.sharing(entry).map(({ name }) => name));
    expect(names).toEqual(expected);
  });

  test('where the rule of the contract is the rule of its language', () => {
    const rules = ['unknown: keep, dates: native', 'unknown: keep, dates: text'];
    const all = rules.map((each) => `[{ language: go, out: go, package: f }], ${each}`);
    const own = '[{ language: go, out: go, package: f, unknown: keep, dates: native }]';
    const project = projectOf([...all, own]);
    const packages = new Packages(project);
    const names = entries(project).map((entry) => packages.sharing(entry).map(({ name }) => name));
    expect(names).toEqual([['a', 'c'], ['b'], ['a', 'c']]);
  });

  test('and so are brought up to date together, over all their packages', () => {
    const project = projectOf([
      '[{ language: go, out: go, package: f }]',
      '[{ language: go, out: go, package: f }, { language: r, out: r, package: gauges }]',
      '[{ language: r, out: r, package: gauges }]',
      '[{ language: r, out: r, package: harbour }]',
    ]);
    const packages = new Packages(project);
    const together = (name: string) => {
      const all = packages.together(project.contracts.get(name)!);
      return [...project.contracts].flatMap(([each, contract]) => (all.has(contract) ? [each] : []));
    };
    expect(['a', 'b', 'c', 'd'].map(together)).toEqual([
      ['a', 'b', 'c'],
      ['a', 'b', 'c'],
      ['a', 'b', 'c'],
      ['d'],
    ]);
    const [first, second] = entries(project);
    expect(packages.owner(second!)).toBe(first);
  });
});

describe('a file is written for one contract or language', () => {
  const claimsOf = (project: Project) => new Claims(project, new Packages(project));
  const refusal = (run: () => void) => {
    try {
      run();
    } catch (error) {
      if (error instanceof SkevoError)
        return `${error.message} (${error.place?.line}:${error.place?.column})`;
      throw error;
    }
    return undefined;
  };

  test('which may write it again, also under another path', () => {
    const project = projectOf(['[{ language: go, out: go }]']);
    const [entry] = entries(project);
    const claims = claimsOf(project);
    claims.claim('go/a.go', entry!);
    expect(refusal(() => claims.claim('./x/../go/a.go', entry!))).toBeUndefined();
  });

  test('and not for another: both places are told', () => {
    const project = projectOf(['[{ language: go, out: go }]', '[{ language: go, out: go }]']);
    const [a, b] = entries(project);
    const claims = claimsOf(project);
    claims.claim('go/a.go', a!);
    expect(refusal(() => claims.claim(resolve('go/a.go'), b!))).toBe(
      `${resolve('go/a.go')} would be written twice: for skevo.yaml:2:48, and for what stands here (3:48)`,
    );
    const contract = project.contracts.get('b')!;
    expect(refusal(() => claims.claim('go/a.go', contract))).toMatch(/ and for what stands here \(3:6\)$/);
    expect(refusal(() => claims.claim('b.json', contract))).toBeUndefined();
  });

  test('or for several that share a package', () => {
    const shared = '[{ language: go, out: go, package: f }]';
    const project = projectOf([shared, shared]);
    const [a, b] = entries(project);
    const claims = claimsOf(project);
    claims.claim('go/f.go', b!);
    expect(refusal(() => claims.claim('go/f.go', a!))).toBeUndefined();
  });

  test('and is that of whoever wrote it when it was run last', () => {
    const folder = workspace({ 'go/a.go': '', 'go/sub/b.go': '', 'other/c.go': '', 'a.json': '{}' });
    const at = (path: string) => join(folder, path);
    const project = projectOf([
      `[{ language: go, out: ${at('go')} }]`,
      `[{ language: go, out: ${at('go')} }]`,
    ]);
    const [a, b] = entries(project);
    const contract = project.contracts.get('a')!;
    contract.schema = at('a.json');
    const claims = claimsOf(project);
    claims.claim(at('go/sub/b.go'), b!);
    claims.claimWritten(
      contract,
      ['go', 'go/a.go', 'go/sub/b.go', 'go/gone.go', 'other/c.go', 'a.json'].map(at),
    );
    const isTaken = (path: string) => refusal(() => claims.claim(at(path), b!)) !== undefined;
    expect(['go', 'go/a.go', 'go/sub/b.go', 'go/gone.go', 'other/c.go', 'a.json'].map(isTaken)).toEqual([
      false,
      true,
      false,
      false,
      false,
      true,
    ]);
    expect(refusal(() => claims.claim(at('go/a.go'), a!))).toBeUndefined();
  });

  test('but a schema that it did not write is not its own', () => {
    const project = projectOf(['[{ language: go, out: go }]', '[]']);
    const claims = claimsOf(project);
    const { schema } = project.contracts.get('a')!;
    claims.claimWritten(project.contracts.get('a')!, []);
    expect(refusal(() => claims.claim(schema, project.contracts.get('b')!))).toBeUndefined();
  });
});

describe('a file of decisions', () => {
  test('is of YAML or JSON, and each tells its line', () => {
    const text = '/seats: { width: int64 }\n/state:\n  choice: open\n  optional: true\n';
    expect(readDecisions(text, 'd.yaml')).toEqual([
      { pattern: '/seats', what: 'width', value: 'int64', source: 'd.yaml:1' },
      { pattern: '/state', what: 'choice', value: 'open', source: 'd.yaml:3' },
      { pattern: '/state', what: 'optional', value: 'true', source: 'd.yaml:3' },
    ]);
    expect(readDecisions('{"/a/*": {"map": true}}', 'd.json')).toEqual([
      { pattern: '/a/*', what: 'map', value: 'true', source: 'd.json:1' },
    ]);
    expect(readDecisions('{}', 'd.json')).toEqual([]);
  });

  test.each([
    ['', 'd.yaml has no decisions'],
    ['- open\n', 'd.yaml has no decisions'],
    ['open\n', 'd.yaml has no decisions'],
    ['/a: {}\n/b: {\n', 'd.yaml:3: Flow map in block collection must be sufficiently indented'],
    ['/a: {}\n/a: {}\n', 'd.yaml:2: Map keys must be unique'],
    ['/a: {}\n/b: open\n', 'd.yaml:2: what is decided about /b must be a map'],
    ['/a: {}\n\nb: { map: true }\n', 'd.yaml:3: "b" is no place'],
    ['/a: { mpa: true }\n', 'd.yaml:1: "mpa" is nothing that can be decided'],
  ])('%j is refused', (text, message) => {
    expect(() => readDecisions(text, 'd.yaml')).toThrow(message);
  });
});
