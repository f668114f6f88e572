import type { Schema } from '../schema/schema.js';
import { bound } from './vary.js';

/** Texts of each format; what a schema of the format takes. */
const samples: ReadonlyMap<string, readonly string[]> = new Map(
  Object.entries({
    'date-time': ['2031-05-01T10:07:00+01:00', '2031-12-31T23:59:59Z', '2032-02-29T00:00:00.123-05:30'],
    date: ['2031-05-01', '2032-02-29'],
    time: ['10:07:00+01:00', '23:59:59Z'],
    duration: ['PT1H36M', 'P1DT12H'],
    uuid: ['1b4e28ba-2fa1-41d2-883f-0016d3cca427', '00000000-0000-4000-8000-000000000000'],
    uri: ['https://ferries.example/sailings/1', 'https://ferries.example/?q=%C3%98sthavn#top'],
    'uri-reference': ['/v1/sailings?page=2', '../berths/n1'],
    email: ['harbour@ferries.example', 'crew+night@ferries.example'],
    hostname: ['ferries.example'],
    ipv4: ['192.0.2.7'],
    ipv6: ['2001:db8::7'],
    regex: ['^SF-\\d+$'],
    'json-pointer': ['/legs/0/gate'],
  }),
);

const plain = [
  'North Pier',
  '',
  'Østhavn 渡し船 ⛴️ "مرسى"',
  'line one\nline two\t\\ / end',
  'A long word, '.repeat(40).trim(),
];

/** Texts that a schema takes. A pattern is not followed: where one stands, only examples can be. */
export function textsOf(schema: Schema): string[] {
  const encoding = schema.other?.get('contentEncoding');
  const known =
    encoding?.kind === 'string' && encoding.value === 'base64'
      ? ['aGVsbG8gZmVycmllcw==', 'AAECAwQFBgcICQ==', '']
      : samples.get(schema.format ?? '');
  const least = bound(schema, 'minLength') ?? 0;
  const most = bound(schema, 'maxLength') ?? Infinity;
  if (known !== undefined) {
    const fitting = known.filter((text) => text.length >= least && text.length <= most);
    return fitting.length > 0 ? fitting : [...known];
  }
  const fitted = plain.map((text) => {
    const characters = [...text.padEnd(least, 'x')];
    return characters.length > most ? characters.slice(0, most).join('') : characters.join('');
  });
  return [...new Set(fitted)];
}
