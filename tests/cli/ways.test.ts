import { describe, expect, test } from 'vitest';
import { markdownReport } from '../../src/report/files/markdown.js';
import { hasProgram, skevo, workspace } from '../support.js';

const payloads = [
  '{"id":1,"gate":"1","delay":null,"legs":[],"fare":0.12345678901234567890}',
  '{"id":2,"gate":null,"delay":3,"legs":[{"pier":"N"}]}',
  '{"id":3,"legs":[{"pier":"S"}]}',
].join('\n');
const inferred = () => {
  const folder = workspace({ 'sailings.ndjson': payloads });
  skevo(['infer', 'sailings.ndjson', '--name', 'Sailing', '--out', 's.json'], { cwd: folder });
  return folder;
};
const check = (folder: string, ...args: string[]) =>
  skevo(['check', 's.json', 'sailings.ndjson', ...args], { cwd: folder });

interface Limits {
  languages: {
    findings: unknown[];
    limits?: { way: string; says: string; count: number }[];
  }[];
}

describe.runIf(hasProgram('ruby'))('what a way in is known not to carry', () => {
  test('is printed, and does not fail the check', () => {
    const { code, out } = check(inferred(), '--language', 'ruby');
    expect(code).toBe(0);
    expect(out).toContain('nothing lost, 1 limit');
    expect(out).toContain(
      'known limits: calls that do not carry everything; all else of these came back\n  limit     ruby class, read: JSON.parse rounds decimals unless it is told otherwise, which from_json does',
    );
  });

  test('is in the document for scripts, with the first finding that it accounts for', () => {
    const { code, out } = check(inferred(), '--language', 'ruby', '--json');
    expect(code).toBe(0);
    const { languages } = JSON.parse(out) as Limits;
    expect(languages[0]!.findings).toEqual([]);
    expect(languages[0]!.limits).toContainEqual(
      expect.objectContaining({
        way: 'read',
        says: 'JSON.parse rounds decimals unless it is told otherwise, which from_json does',
        first: expect.objectContaining({ kind: 'altered', way: 'read', pointer: '/fare' }),
      }),
    );
  });
});

test.runIf(hasProgram('go', 'version'))('a style without limits says nothing of them', () => {
  const { code, out } = check(inferred(), '--language', 'go', '--json');
  expect(code).toBe(0);
  expect(JSON.parse(out).languages[0]).not.toHaveProperty('limits');
  expect(check(inferred(), '--language', 'go').out).toMatch(/nothing lost$/m);
});

test('a program of a user has one way in, and its answers are taken as they are', () => {
  const folder = inferred();
  const program = `node -e 'require("readline").createInterface({input:process.stdin}).on("line",(l)=>console.log(l+String.fromCharCode(30)+"="))'`;
  const { code, out } = check(folder, '--with', program, '--json');
  expect(code).toBe(1);
  expect(JSON.parse(out).languages[0].findings[0]).toMatchObject({ kind: 'crashed' });
  expect(JSON.parse(out).languages[0].findings[0]).not.toHaveProperty('way');
});

test('a comment on a pull request counts the limits of a language', () => {
  const text = markdownReport([
    {
      name: 'sailing',
      schema: 's.json',
      result: {
        payloads: 3,
        fields: [],
        unproven: [],
        languages: [
          {
            language: 'ruby',
            style: 'class',
            state: 'checked',
            returned: 3,
            seconds: 1,
            findings: [],
            limits: [{ way: 'read', says: 'x', count: 3, first: {} as never }],
          },
        ],
      },
      drift: [],
    } as never,
  ]);
  expect(text).toContain('| ruby | class | 3 of 3 | ✅ (known limits: 1) |');
});
