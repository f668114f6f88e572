import stringWidth from 'string-width';
import { describe, expect, test } from 'vitest';
import { table, type Column } from '../../src/report/table.js';
import { folded, hanging, shorten } from '../../src/report/text.js';
import { widened, type Terminal } from '../../src/report/terminal.js';
import { skevo, workspace } from '../support.js';

const plain = (text: string) => text;
const columns: Column[] = [
  { title: 'place', least: 8 },
  { title: 'present', align: 'right' },
  { title: 'because', least: 12, spare: 1 },
];

describe('tables', () => {
  test('stand in columns, numbers to the right', () => {
    expect(
      table(
        columns,
        [
          ['/a', '9', 'x'],
          ['/bb', '10', 'y'],
        ],
        80,
        plain,
      ).split('\n'),
    ).toEqual(['place  present  because', '/a           9  x', '/bb         10  y']);
  });

  test('fold what is too long, each cell in its own column', () => {
    const rows = [
      ['/legs/*/gate', '9', 'absent in 20 of 56 objects'],
      ['/id', '28', 'always there'],
    ];
    expect(table(columns, rows, 38, plain).split('\n')).toEqual([
      'place         present  because',
      '/legs/*/gate        9  absent in 20 of',
      '                       56 objects',
      '/id                28  always there',
    ]);
  });

  test('leave out what is spare before anything is narrower than it may be', () => {
    const rows = [['/legs/*/gate', '9', 'absent in 20 of 56']];
    // 8 + 2 + 7 + 2 + 12: one column more or less.
    expect(table(columns, rows, 31, plain)).toContain('because');
    expect(table(columns, rows, 30, plain)).not.toContain('because');
  });

  test('cut the values of columns whose beginning says enough', () => {
    const cut: Column[] = [{ title: 'place' }, { title: 'example', least: 6, isCut: true }];
    expect(table(cut, [['/text', 'The quay is closed']], 17, plain).split('\n')[1]).toBe('/text  The quay …');
  });

  test.each([
    ['wide', '東京港', '/港'],
    ['right to left', 'מעבורת', '/שם'],
    ['joined', 'é👩‍✈️', '/e\u0301'],
    ['coloured', '\u001b[31mred\u001b[39m', '/\u001b[1ma\u001b[22m'],
  ])('keep their columns beside text that is %s', (_, value, place) => {
    const two: Column[] = [{ title: 'place' }, { title: 'value' }, { title: 'end' }];
    const lines = table(
      two,
      [
        [place, value, '|'],
        ['/plain', 'plain text', '|'],
      ],
      80,
      plain,
    ).split('\n');
    const ends = lines.slice(1).map((line) => stringWidth(line.slice(0, line.indexOf('|'))));
    expect(new Set(ends).size).toBe(1);
  });
});

describe('texts', () => {
  test.each([
    ['a quay', 6, 'a quay'],
    ['a quays', 6, 'a\nquays'],
    ['/legs/*/gates', 6, '/legs/\n*/gate\ns'],
    ['東京港', 4, '東京\n港'],
  ])('%j in %d columns', (text, width, expected) => expect(folded(text, width)).toBe(expected));

  test('of many lines end in the sixth', () => {
    expect(folded('a b c d e f', 1)).toBe('a\nb\nc\nd\ne\nf');
    expect(folded('aa bb cc dd ee ff gg', 2)).toBe('aa\nbb\ncc\ndd\nee\nf…');
  });

  test('behind a head are set in as far as it goes', () => {
    expect(hanging('  limit  ', 'what the library does not carry', 30)).toBe(
      '  limit  what the library does\n         not carry',
    );
    expect(hanging('a head of many columns ', 'twenty columns remain', 10)).toBe(
      `a head of many columns twenty columns\n${' '.repeat(23)}remain`,
    );
  });

  test('are cut to a width, colours and all', () => {
    expect(shorten('quay', 4)).toBe('quay');
    expect(shorten('quays', 4)).toBe('qua…');
    expect(shorten('東京港', 5)).toBe('東京…');
  });
});

describe('--width', () => {
  const folder = workspace({
    'a.ndjson': Array.from({ length: 12 }, (_, i) =>
      JSON.stringify({
        ...(i % 3 === 0 ? {} : { gate: null }),
        id: i,
        שם: 'מעבורת',
        港: '東京',
        text: 'The quay is closed until the tide turns.',
      }),
    ).join('\n'),
  });

  test('is a terminal of as many columns', () => {
    const wide: Terminal = { width: 200, isNarrow: false, isColoured: false, colours: {} as never };
    expect(widened(wide, 80)).toMatchObject({ width: 80, isNarrow: true });
  });

  test.each([['outline', 'a.ndjson'], ['infer', 'a.ndjson', '--explain', '--out', 's.json'], ['languages']])(
    '%s keeps within it',
    (...args) => {
      for (const width of [60, 80]) {
        const { out, err, code } = skevo([...args, '--width', String(width)], { cwd: folder });
        expect(code, err).toBe(0);
        expect(out.length).toBeGreaterThan(100);
        for (const line of out.split('\n')) expect(stringWidth(line), line).toBeLessThanOrEqual(width);
      }
    },
  );

  test.each(['29', '60.5', 'wide', '-80'])('%s is none', (width) => {
    const { out, err, code } = skevo(['outline', 'a.ndjson', `--width=${width}`], { cwd: folder });
    expect({ out, code }).toEqual({ out: '', code: 2 });
    expect(err).toContain('--width takes columns, 30 or more');
  });
});
