import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { SkevoError } from '../../src/core/error.js';
import { parseJson } from '../../src/core/json/parse.js';
import { placeOf } from '../../src/core/json/source.js';
import { documentsIn } from '../../src/core/json/batch.js';
import type { Note } from '../../src/core/note.js';
import { formatOf, type FormatName } from '../../src/formats/format.js';

/** Files that other libraries have written, in base64. */
const written = {
  null:
    'T2JqAQQUYXZyby5jb2RlYwhudWxsFmF2cm8uc2NoZW1hqAx7InR5cGUiOiAicmVjb3JkIiwgIm5hbWUiOiAiYS5iLkFsbCIsICJmaWVsZHMiOi' +
    'BbeyJuYW1lIjogImNvbnN0cnVjdG9yIiwgInR5cGUiOiAiaW50In0sIHsibmFtZSI6ICJ3aWRlIiwgInR5cGUiOiAibG9uZyJ9LCB7Im5hbWUi' +
    'OiAic2luZ2xlIiwgInR5cGUiOiAiZmxvYXQifSwgeyJuYW1lIjogIndob2xlIiwgInR5cGUiOiAiZG91YmxlIn0sIHsibmFtZSI6ICJyYXciLC' +
    'AidHlwZSI6ICJieXRlcyJ9LCB7Im5hbWUiOiAiZm91ciIsICJ0eXBlIjogeyJ0eXBlIjogImZpeGVkIiwgIm5hbWUiOiAiRm91ciIsICJzaXpl' +
    'IjogNH19LCB7Im5hbWUiOiAiZGF5IiwgInR5cGUiOiB7InR5cGUiOiAiaW50IiwgImxvZ2ljYWxUeXBlIjogImRhdGUifX0sIHsibmFtZSI6IC' +
    'JjbG9jayIsICJ0eXBlIjogeyJ0eXBlIjogImxvbmciLCAibG9naWNhbFR5cGUiOiAidGltZS1taWNyb3MifX0sIHsibmFtZSI6ICJhdCIsICJ0' +
    'eXBlIjogeyJ0eXBlIjogImxvbmciLCAibG9naWNhbFR5cGUiOiAidGltZXN0YW1wLW1pY3JvcyJ9fSwgeyJuYW1lIjogIm93ZWQiLCAidHlwZS' +
    'I6IHsidHlwZSI6ICJieXRlcyIsICJsb2dpY2FsVHlwZSI6ICJkZWNpbWFsIiwgInByZWNpc2lvbiI6IDMwLCAic2NhbGUiOiAyfX0sIHsibmFt' +
    'ZSI6ICJlaXRoZXIiLCAidHlwZSI6IFsibnVsbCIsICJzdHJpbmciLCB7InR5cGUiOiAiYXJyYXkiLCAiaXRlbXMiOiAiaW50In0sIHsidHlwZS' +
    'I6ICJtYXAiLCAidmFsdWVzIjogImludCJ9LCAiRm91ciJdfSwgeyJuYW1lIjogIm5leHQiLCAidHlwZSI6IFsibnVsbCIsICJBbGwiXX1dfQAw' +
    'MTIzNDU2Nzg5YWJjZGVmBsQDDf///////////wHNzMw9AAAAAAAACEAEAP9hYmNkAYL3wNyDBQESvRLtxPQn38XzBgYSX19wcm90b19fAgQxMA' +
    'QCOQYAAg3///////////8BzczMPQAAAAAAAAhABAD/YWJjZAGC98DcgwUBEr0S7cT0J9/F8wAADf///////////wHNzMw9AAAAAAAACEAEAP9h' +
    'YmNkAYL3wNyDBQESvRLtxPQn38XzBAQCBAAADf///////////wHNzMw9AAAAAAAACEAEAP9hYmNkAYL3wNyDBQESvRLtxPQn38XzAgJ4ADAxMj' +
    'M0NTY3ODlhYmNkZWY=',
  deflate:
    'T2JqAQQUYXZyby5jb2RlYw5kZWZsYXRlFmF2cm8uc2NoZW1hqAx7InR5cGUiOiAicmVjb3JkIiwgIm5hbWUiOiAiYS5iLkFsbCIsICJmaWVsZH' +
    'MiOiBbeyJuYW1lIjogImNvbnN0cnVjdG9yIiwgInR5cGUiOiAiaW50In0sIHsibmFtZSI6ICJ3aWRlIiwgInR5cGUiOiAibG9uZyJ9LCB7Im5h' +
    'bWUiOiAic2luZ2xlIiwgInR5cGUiOiAiZmxvYXQifSwgeyJuYW1lIjogIndob2xlIiwgInR5cGUiOiAiZG91YmxlIn0sIHsibmFtZSI6ICJyYX' +
    'ciLCAidHlwZSI6ICJieXRlcyJ9LCB7Im5hbWUiOiAiZm91ciIsICJ0eXBlIjogeyJ0eXBlIjogImZpeGVkIiwgIm5hbWUiOiAiRm91ciIsICJz' +
    'aXplIjogNH19LCB7Im5hbWUiOiAiZGF5IiwgInR5cGUiOiB7InR5cGUiOiAiaW50IiwgImxvZ2ljYWxUeXBlIjogImRhdGUifX0sIHsibmFtZS' +
    'I6ICJjbG9jayIsICJ0eXBlIjogeyJ0eXBlIjogImxvbmciLCAibG9naWNhbFR5cGUiOiAidGltZS1taWNyb3MifX0sIHsibmFtZSI6ICJhdCIs' +
    'ICJ0eXBlIjogeyJ0eXBlIjogImxvbmciLCAibG9naWNhbFR5cGUiOiAidGltZXN0YW1wLW1pY3JvcyJ9fSwgeyJuYW1lIjogIm93ZWQiLCAidH' +
    'lwZSI6IHsidHlwZSI6ICJieXRlcyIsICJsb2dpY2FsVHlwZSI6ICJkZWNpbWFsIiwgInByZWNpc2lvbiI6IDMwLCAic2NhbGUiOiAyfX0sIHsi' +
    'bmFtZSI6ICJlaXRoZXIiLCAidHlwZSI6IFsibnVsbCIsICJzdHJpbmciLCB7InR5cGUiOiAiYXJyYXkiLCAiaXRlbXMiOiAiaW50In0sIHsidH' +
    'lwZSI6ICJtYXAiLCAidmFsdWVzIjogImludCJ9LCAiRm91ciJdfSwgeyJuYW1lIjogIm5leHQiLCAidHlwZSI6IFsibnVsbCIsICJBbGwiXX1d' +
    'fQAwMTIzNDU2Nzg5YWJjZGVmBqoB4/0PA4xnz5yxZQADDgcWhv+JSckpjE3fD9xpZmUU2iv09sgX9ftHP7OxCcXHFxTll+THxzOxGBqwMFmyMT' +
    'DxkmgKAwOpOlhYmFhI18XEVMEAAPOvZjAxMjM0NTY3ODlhYmNkZWY=',
  snappy:
    'T2JqAQQUYXZyby5jb2RlYwxzbmFwcHkWYXZyby5zY2hlbWGoDHsidHlwZSI6ICJyZWNvcmQiLCAibmFtZSI6ICJhLmIuQWxsIiwgImZpZWxkcy' +
    'I6IFt7Im5hbWUiOiAiY29uc3RydWN0b3IiLCAidHlwZSI6ICJpbnQifSwgeyJuYW1lIjogIndpZGUiLCAidHlwZSI6ICJsb25nIn0sIHsibmFt' +
    'ZSI6ICJzaW5nbGUiLCAidHlwZSI6ICJmbG9hdCJ9LCB7Im5hbWUiOiAid2hvbGUiLCAidHlwZSI6ICJkb3VibGUifSwgeyJuYW1lIjogInJhdy' +
    'IsICJ0eXBlIjogImJ5dGVzIn0sIHsibmFtZSI6ICJmb3VyIiwgInR5cGUiOiB7InR5cGUiOiAiZml4ZWQiLCAibmFtZSI6ICJGb3VyIiwgInNp' +
    'emUiOiA0fX0sIHsibmFtZSI6ICJkYXkiLCAidHlwZSI6IHsidHlwZSI6ICJpbnQiLCAibG9naWNhbFR5cGUiOiAiZGF0ZSJ9fSwgeyJuYW1lIj' +
    'ogImNsb2NrIiwgInR5cGUiOiB7InR5cGUiOiAibG9uZyIsICJsb2dpY2FsVHlwZSI6ICJ0aW1lLW1pY3JvcyJ9fSwgeyJuYW1lIjogImF0Iiwg' +
    'InR5cGUiOiB7InR5cGUiOiAibG9uZyIsICJsb2dpY2FsVHlwZSI6ICJ0aW1lc3RhbXAtbWljcm9zIn19LCB7Im5hbWUiOiAib3dlZCIsICJ0eX' +
    'BlIjogeyJ0eXBlIjogImJ5dGVzIiwgImxvZ2ljYWxUeXBlIjogImRlY2ltYWwiLCAicHJlY2lzaW9uIjogMzAsICJzY2FsZSI6IDJ9fSwgeyJu' +
    'YW1lIjogImVpdGhlciIsICJ0eXBlIjogWyJudWxsIiwgInN0cmluZyIsIHsidHlwZSI6ICJhcnJheSIsICJpdGVtcyI6ICJpbnQifSwgeyJ0eX' +
    'BlIjogIm1hcCIsICJ2YWx1ZXMiOiAiaW50In0sICJGb3VyIl19LCB7Im5hbWUiOiAibmV4dCIsICJ0eXBlIjogWyJudWxsIiwgIkFsbCJdfV19' +
    'ADAxMjM0NTY3ODlhYmNkZWYGuAHiAQQN/xEBFAHNzMw9AAUBwAhABAD/YWJjZAGC98DcgwUBEr0S7cT0J9/F8wYGEl9fcHJvdG9fXwIEMTAEAj' +
    'kGAAK+RgAEAAC+MgAMBAQCBMY2AAwCAngAhgn5pzAxMjM0NTY3ODlhYmNkZWY=',
  cbor:
    'rmdzdGF0aW9uak5vcnRoIEhlYWRmaGVpZ2h0+0AEAAAAAAAAZXdob2xl+0AIAAAAAAAAY2JpZ8JJQAAAAAAAAAAAY25lZ8NJP///////////Y2' +
    'RlY8SCIRhuY3Jhd0IA/2JhdMB0MjAzMS0wNS0wMVQwNjowMDowMFpkbm9uZfZhddglUAAAAAAAAAAAAAAAAAAAAAVpX19wcm90b19fggGgYjEw' +
    'AWE5AmVleGFjdBsAIAAAAAAAAYUBIGbDuPCfjKv7P7mZmZmZmZr1',
  cborindef: 'v2FhnwEC/2Fif2FhYWL//w==',
  msgpack:
    'i6dzdGF0aW9uqk5vcnRoIEhlYWSmaGVpZ2h0y0AEAAAAAAAApHdpZGXPgAAAAAAAAACjbmVn04AAAAAAAAAAo3Jhd8QCAP+iYXTX/zuaygBzW5' +
    'RgpG5vbmXAqV9fcHJvdG9fX5IBgKIxMAGhOQKlZXhhY3TPACAAAAAAAAGVAf+mw7jwn4yryz+5mZmZmZmaww==',
};

type Binary = 'avro' | 'cbor' | 'msgpack';

async function read(format: Exclude<FormatName, 'json'>, bytes: Uint8Array, notes: Note[] = []) {
  const input = { name: `a.${format}`, layout: 'document' as const, format, limit: 1 << 28 };
  async function* chunks() {
    for (let i = 0; i < bytes.length; i += 100) yield bytes.slice(i, i + 100);
  }
  const reader = await formatOf(format);
  const found: string[] = [];
  for await (const batch of reader.read(input, chunks, (note) => notes.push(note)))
    for (const source of documentsIn(batch)) {
      const { root } = parseJson(source);
      const { line } = placeOf(source, root.start);
      expect(line).toBe(found.length + 1);
      found.push(new TextDecoder().decode(source.bytes));
    }
  return found;
}

const bytesOf = (name: keyof typeof written) => Buffer.from(written[name], 'base64');

describe('files of other libraries', () => {
  test.each(['null', 'deflate', 'snappy'] as const)(
    'in Avro, with every kind of type, packed by %s',
    async (codec) => {
      const own = (either: string, next: string) =>
        `{"constructor":-7,"wide":-9223372036854775808,"single":0.1,"whole":3.0,"raw":"AP8=","four":"YWJjZA==","day":"1969-12-31","clock":"23:59:59.000001","at":"1969-12-31T23:59:59.999999Z","owed":-12345678901234567890.05,"either":${either},"next":${next}}`;
      expect(await read('avro', bytesOf(codec))).toEqual([
        own('{"__proto__":1,"10":2,"9":3}', own('null', 'null')),
        own('[1,2]', 'null'),
        own('"x"', 'null'),
      ]);
    },
  );

  test('in CBOR, with wide and decimal numbers, bytes and times', async () => {
    expect(await read('cbor', bytesOf('cbor'))).toEqual([
      '{"station":"North Head","height":2.5,"whole":3.0,"big":1180591620717411303424,"neg":-1180591620717411303424,"dec":1.10,"raw":"AP8=","at":"2031-05-01T06:00:00Z","none":null,"u":"00000000-0000-0000-0000-000000000005","__proto__":[1,{}],"10":1,"9":2,"exact":9007199254740993}',
      '[1,-1,"ø🌫",0.1,true]',
    ]);
  });

  test('in CBOR of lengths that are not known before', async () => {
    const bytes = Buffer.from('bf61619f0102ff6162a0ff', 'hex');
    expect(await read('cbor', bytes)).toEqual(['{"a":[1,2],"b":{}}']);
  });

  test('in MessagePack', async () => {
    expect(await read('msgpack', bytesOf('msgpack'))).toEqual([
      '{"station":"North Head","height":2.5,"wide":9223372036854775808,"neg":-9223372036854775808,"raw":"AP8=","at":"2031-05-01T06:00:00.250Z","none":null,"__proto__":[1,{}],"10":1,"9":2,"exact":9007199254740993}',
      '[1,-1,"ø🌫",0.1,true]',
    ]);
  });
});

test.each<[Binary, keyof typeof written]>([
  ['avro', 'null'],
  ['avro', 'deflate'],
  ['cbor', 'cbor'],
  ['msgpack', 'msgpack'],
])('a file of %s that is cut off is refused, wherever it is cut (%s)', async (format, name) => {
  const bytes = bytesOf(name);
  const ends: number[] = [];
  for (let length = 1; length < bytes.length; length++) {
    try {
      await read(format, bytes.subarray(0, length));
      ends.push(length);
    } catch (error) {
      expect(error).toBeInstanceOf(SkevoError);
      const { message, place } = error as SkevoError;
      expect(message).toMatch(/cut off|this is not/);
      expect(place!.file).toBe(`a.${format}`);
    }
  }
  // Where one payload ends, or the head of the file, nothing is missing.
  expect(ends).toHaveLength(1);
});

describe('what JSON has not is refused with its place', () => {
  test.each<[string, Binary, string, string, string]>([
    ['no number', 'cbor', '82' + '01' + 'f97e00', 'NaN is a number that JSON has not', '1:3'],
    ['an endless number', 'cbor', '01' + 'f97c00', 'Infinity is a number that JSON has not', '2:1'],
    ['a key that is a list', 'cbor', 'a18001', 'a key here is no text', '1:2'],
    ['a break that ends nothing', 'cbor', '82ff', 'this is not CBOR: a break stands alone', '1:2'],
    ['a wide number of text', 'cbor', 'c26161', 'a wide number is bytes', '1:1'],
    ['no number', 'msgpack', '91cb7ff8000000000000', 'NaN is a number that JSON has not', '1:1'],
    ['a key that is a list', 'msgpack', '819001', 'a key here is no text', '1:1'],
    ['an extension', 'msgpack', '01d60512345678', 'this is not MessagePack: Unknown extension type 5', '2:1'],
  ])('%s in %s', async (_, format, hex, message, at) => {
    const failed = await read(format, Buffer.from(hex, 'hex')).catch((error: unknown) => error);
    expect(failed).toBeInstanceOf(SkevoError);
    const { message: told, place } = failed as SkevoError;
    expect([told, `${place!.line}:${place!.column}`]).toEqual([message, at]);
  });

  test.each(['cbor', 'msgpack'] as const)('what is nested without end in %s', async (format) => {
    const bytes = new Uint8Array(100_000).fill(format === 'cbor' ? 0x81 : 0x91);
    await expect(read(format, bytes)).rejects.toThrow(/nested more than 1000 deep|cut off|not MessagePack/);
  });

  test('what is no file of Avro, or of an unknown codec', async () => {
    await expect(read('avro', Buffer.from('{"id":1}'))).rejects.toThrow('this is not an Avro file');
    const other = Buffer.from(bytesOf('snappy').toString('latin1').replace('snappy', 'bzip22'), 'latin1');
    await expect(read('avro', other)).rejects.toMatchObject({ message: 'its codec: bzip22 is not known' });
  });
});

test('what is read otherwise than it was sent is told', async () => {
  const notes: Note[] = [];
  // {1: undefined, "a": 999(2)}
  expect(await read('cbor', Buffer.from('a201f76161d903e702', 'hex'), notes)).toEqual(['{"1":null,"a":2}']);
  expect(notes.map(({ message }) => message)).toEqual([
    'keys that are whole numbers are read as text',
    'undefined is read as null',
    'the tag 999 is not kept, only what it is on',
  ]);
});

test.each<[Binary, keyof typeof written]>([
  ['avro', 'null'],
  ['avro', 'snappy'],
  ['cbor', 'cbor'],
  ['msgpack', 'msgpack'],
])('a file of %s with any bytes changed is read, or refused in words (%s)', async (format, name) => {
  const bytes = bytesOf(name);
  let refused = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.tuple(fc.nat(bytes.length - 1), fc.nat(255)), { minLength: 1, maxLength: 3 }),
      async (changes) => {
        const changed = Buffer.from(bytes);
        for (const [at, byte] of changes) changed[at] = byte;
        try {
          await read(format, changed);
        } catch (error) {
          expect(error).toBeInstanceOf(SkevoError);
          refused++;
        }
      },
    ),
    { numRuns: 400 },
  );
  expect(refused).toBeGreaterThan(0);
});
