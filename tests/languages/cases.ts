import { trickyKeys } from '../arbitraries.js';

/** Payloads that a language must carry without loss. Shared by every language. */
export interface Case {
  readonly name: string;
  readonly payloads: readonly string[];
  /** The formatters themselves give up on it. */
  readonly unformatted?: boolean;
  /** Languages whose library cannot carry it. */
  readonly beyond?: readonly string[];
}

const record = (fields: Record<string, string>): string =>
  `{${Object.entries(fields)
    .map(([key, value]) => `${JSON.stringify(key)}:${value}`)
    .join(',')}}`;
const field = (key: string, value: string): string => `{${JSON.stringify(key)}:${value}}`;

/** A field of one type in all its four states. */
const states = (name: string, a: string, b: string): Case => ({
  name: `the four states of ${name}`,
  payloads: [
    record({ always: a, nullable: a, optional: a, both: a }),
    record({ always: b, nullable: 'null', both: 'null' }),
    record({ always: b, nullable: b, optional: b }),
  ],
});

/** Those tricky keys that may stand together in one record of every language. */
const manageable = trickyKeys.filter((key) => !['__proto__', '\ud800', '', '\u0000'].includes(key));

const times = '"2031-05-01T08:00:00+01:00"';
const days = '"2031-05-01"';
const uuids = '"6f9619ff-8b86-d011-b42d-00c04fc964ff"';
const scans =
  '"cG5nLW9mLUdyZXkgSGVyb25wbmctb2YtR3JleSBIZXJvbnBuZy1vZi1HcmV5IEhlcm9ucG5nLW9mLUdyZXkgSGVyb24="';

export const cases: readonly Case[] = [
  states('text', '"N"', '""'),
  states('an integer', '1', '-2147483648'),
  states('a long integer', '9007199254740993', '-9007199254740995'),
  {
    name: 'the least integer of 64 bits',
    payloads: ['{"a":-9223372036854775808}', '{"a":9223372036854775807}'],
  },
  {
    ...states('an unbounded integer', '18446744073709551616', '-123456789012345678901234567890'),
    beyond: ['cpp'],
  },
  states('a number', '0.5', '-12.25'),
  states('an exact decimal', '3.14159265358979323846', '12345678901234567890.5'),
  states('true and false', 'true', 'false'),
  states('a list of text', '["a","b"]', '[]'),
  states('a list of records', '[{"pier":"N"},{"pier":"S"}]', '[]'),
  states('a list of lists', '[["a"],[]]', '[]'),
  states('a record', '{"pier":"N","no":1}', '{"pier":"S","no":2}'),
  states('an object of anything', '{}', '{}'),
  states('a list of anything', '[]', '[]'),
  states('text or an integer', '"N"', '1'),
  states('a record or text', '{"pier":"N"}', '"S"'),
  states('a record, a list or a flag', '{"pier":"N"}', '[1]'),
  { name: 'a field that is always null', payloads: ['{"a":null}', '{"a":null,"b":null}'] },
  {
    name: 'integers of every width',
    payloads: ['{"a":1,"b":2147483648,"c":9007199254740993,"d":9223372036854775808}'],
    beyond: ['cpp'],
  },
  {
    name: 'long integers that are small at times',
    payloads: ['{"a":9007199254740993}', '{"a":1}', '{"a":-1}'],
  },
  { name: 'numbers whole at times', payloads: ['{"a":1.5}', '{"a":2}', '{"a":-0.001}'] },
  {
    name: 'decimals whole at times',
    payloads: ['{"a":3.14159265358979323846}', '{"a":2}', '{"a":9007199254740993}'],
  },
  { name: 'numbers beside decimals', payloads: ['{"a":3.14159265358979323846,"b":1.5,"c":[0.5]}'] },
  { name: 'large and small exponents', payloads: ['{"a":1e300,"b":1e-300}'] },
  // The libraries of C++ and Swift refuse to read it, and so does pydantic.
  {
    name: 'a number larger than every double',
    payloads: ['{"a":1e400}'],
    beyond: ['cpp', 'swift', 'python pydantic'],
  },
  {
    name: 'an integer, a decimal and text',
    payloads: ['{"a":1}', '{"a":2.5}', '{"a":"three"}', '{"a":9007199254740993}'],
  },
  {
    name: 'every kind at one place',
    payloads: ['{"a":1}', '{"a":"b"}', '{"a":true}', '{"a":null}', '{"a":[1]}', '{"a":{"b":1}}', '{}'],
  },
  { name: 'elements of several kinds', payloads: ['{"a":[1,"b",null,true,{"c":1},[2]]}'] },
  { name: 'nulls in lists', payloads: ['{"a":[null,1],"b":["x",null],"c":[{"d":1},null],"e":[null]}'] },
  { name: 'lists in lists in lists', payloads: ['{"a":[[[1,2],[]],[]],"b":[[{"c":1}],[null]]}'] },
  { name: 'nulls in lists in lists', payloads: ['{"a":[[1,null],null],"b":[[{"c":1},null],null]}'] },
  { name: 'a list at the top', payloads: ['[{"id":1},{"id":2,"note":null}]', '[]'] },
  { name: 'a list of scalars at the top', payloads: ['[1,2]', '["a"]', '[null]'] },
  { name: 'a string at the top', payloads: ['"a"', '""'] },
  { name: 'a long integer at the top', payloads: ['9007199254740993', '1'] },
  { name: 'null at the top', payloads: ['null', 'null'] },
  { name: 'a record or null at the top', payloads: ['{"a":1}', 'null'] },
  { name: 'a record, a list or text at the top', payloads: ['{"a":1}', '["b"]', '"c"', 'null'] },
  { name: 'an object without keys at the top', payloads: ['{}', '{}'] },
  {
    name: 'a type inside itself',
    payloads: [
      '{"id":1,"name":"a","parts":[{"id":2,"name":"b","parts":[]},{"id":3,"name":"c","parts":[{"id":4,"name":"d","parts":[]}]}]}',
    ],
  },
  {
    name: 'a type inside itself, at times',
    payloads: [
      '{"berth":{"no":1,"long":2,"next":{"no":2,"long":3,"next":{"no":3,"long":1,"next":null}}}}',
      '{"berth":{"no":1,"long":2,"next":null}}',
    ],
  },
  {
    name: 'records that share a type',
    payloads: ['{"from":{"pier":"N","gate":1,"lit":true},"to":{"pier":"S","gate":2,"lit":false}}'],
  },
  { name: 'records of the same name', payloads: ['{"out":{"gate":{"a":1}},"back":{"gate":{"b":"x"}}}'] },
  {
    name: 'records called as the languages call their own',
    payloads: [
      '{"string":{"a":1},"object":{"b":1},"any":{"c":1},"decimal":{"d":1},"error":{"e":1},"decode_error":{"f":1},"list":{"g":1},"union":{"h":1},"type":{"i":1},"absent":{"j":1},"map":{"k":1}}',
    ],
  },
  {
    name: 'a closed choice',
    payloads: [
      `[${Array.from({ length: 40 }, (_, i) => `{"state":"${['boarding', 'sailing', 'moored'][i % 3]}","was":${i % 2 ? 'null' : '"moored"'}}`).join(',')}]`,
    ],
  },
  {
    name: 'an open choice',
    payloads: [
      `[${Array.from({ length: 9 }, (_, i) => `{"state":"${['boarding', 'sailing', 'moored'][i % 3]}"${i % 2 ? '' : ',"next":"moored"'}}`).join(',')},{"state":"adrift"}]`,
    ],
  },
  {
    name: 'choices in lists and maps',
    payloads: [
      `{"a":[${Array.from({ length: 12 }, (_, i) => `"${['crew', 'agents'][i % 2]}"`).join(',')}],"b":{"2031-05-01":"open","2031-05-02":"shut","2031-05-03":"open","2031-05-04":"shut","2031-05-05":"open","2031-05-06":"open"}}`,
    ],
  },
  {
    name: 'a union told apart by a tag',
    payloads: [
      `[${Array.from({ length: 12 }, (_, i) => `{"kind":"${['delay', 'closure', 'weather'][i % 3]}","at":${i},${['"sailing":"SF","minutes":5', '"berth":"N1","until":null', '"wind":{"force":7}'][i % 3]}}`).join(',')}]`,
      '[]',
    ],
  },
  {
    name: 'a union told apart by a tag under a tricky key, or null, or text',
    payloads: [
      `{"a":[${Array.from({ length: 12 }, (_, i) => `{"@type":"${['delay', 'closure'][i % 2]}",${['"s t":"SF","m-n":5', '"berth":"N1","until":9007199254740993'][i % 2]}}`).join(',')},null,"none"]}`,
    ],
  },
  {
    name: 'a union told apart by its keys',
    payloads: [
      `{"a":[${Array.from({ length: 8 }, (_, i) => (i % 2 ? '{"lat":54.1,"lon":-0.4}' : `{"pier":"N","gate":"A"${i % 4 ? ',"steps":3' : ''}}`)).join(',')}]}`,
    ],
  },
  {
    name: 'a union at the top that contains itself',
    payloads: Array.from(
      { length: 6 },
      () =>
        '{"kind":"group","label":"a","parts":[{"kind":"leaf","no":1},{"kind":"group","label":"b","parts":[{"kind":"leaf","no":2},{"kind":"leaf","no":3}]}]}',
    ),
  },
  {
    name: 'one or many',
    payloads: [
      '{"leg":{"pier":"N","no":1}}',
      '{"leg":[{"pier":"S","no":2},{"pier":"L","no":3}]}',
      '{"leg":[]}',
    ],
  },
  {
    name: 'a map by date',
    payloads: [
      '{"readings":{"2031-05-01":{"height":1.5},"2031-05-02":{"height":2}}}',
      '{"readings":{"2031-05-03":{"height":3,"note":null}}}',
      '{"readings":{}}',
    ],
  },
  {
    name: 'a map of numbers, one of nulls, one of lists',
    payloads: [
      '{"a":{"1":1,"2":9007199254740993},"b":{"10":null,"20":{"x":1}},"c":{"100":[{"y":1}],"200":[]}}',
    ],
  },
  { name: 'a map at the top', payloads: ['{"2031-05-01":[1,2],"2031-05-02":[]}', '{"2031-05-03":[3]}'] },
  {
    // class-transformer takes what is called so for the class of the object.
    name: 'a map of many keys, tricky ones too',
    beyond: ['typescript class'],
    payloads: [
      `{"a":{${[...Array.from({ length: 70 }, (_, i) => `key ${i}`), 'constructor', 'toString', '', '"', '\u202e'].map((each) => `${JSON.stringify(each)}:{"n":1}`).join(',')},"__proto__":{"n":2}}}`,
    ],
  },
  {
    name: 'a tuple',
    payloads: [
      '{"a":[["N",1,true],["S",2,false]],"b":["x",9007199254740993]}',
      '{"a":[["L",3,true]],"b":["y",1]}',
      '{"a":[],"b":["z",2]}',
    ],
  },
  {
    name: 'a tuple with records and nulls',
    payloads: ['{"a":["N",{"no":1},null]}', '{"a":["S",{"no":2},1.5]}', '{"a":["L",{"no":3},2]}'],
  },
  {
    name: 'a union told apart by keys that are one name in the code',
    payloads: [
      '{"a":[{"":null,"#{x}":null},{"id":null," ":null}]}',
      '{"a":[{"":1,"#{x}":2},{"id":3," ":4}]}',
    ],
  },
  { name: 'coordinates', payloads: ['{"a":[54.1,-0.4]}', '{"a":[54,0]}', '{"a":[1.5,2]}'] },
  {
    name: 'formats',
    payloads: [
      '{"a":"2031-05-01T08:00:00+01:00","b":"2031-05-01","c":"6f9619ff-8b86-d011-b42d-00c04fc964ff","d":"https://saltmere.example/a?b=c","e":"cG5nLW9mLUdyZXkgSGVyb25wbmctb2YtR3JleSBIZXJvbg==","f":"P1DT2H","g":"192.0.2.1","h":"12"}',
      '{"a":"2031-05-01T08:00:00.120Z","b":"2031-02-28","c":"6F9619FF-8B86-D011-B42D-00C04FC964FF","d":"urn:a:b","e":"AAECAwQFBgcICQoLDA0ODxAREhMUFRYXGBkaGxwdHh8=","f":"PT1M","g":"192.0.2.255","h":"13"}',
    ],
  },
  { name: 'no space and much space', payloads: ['{"a":[1,2]}', ' {\n\t"a" :\r\n [ 1 ,\n 2 ] } '] },
  {
    name: 'text of every kind',
    payloads: [
      '{"a":"\\u0000\\u001f\\u007f"}',
      '{"a":"\u2028\u2029\u202e"}',
      '{"a":"🌫 Østhavn ключ"}',
      '{"a":"\\u000112"}',
      '{"a":"\\"\\\\\\/\\b\\f\\n\\r\\t"}',
      '{"a":"</script>${x}#{y}*/"}',
    ],
  },
  { name: 'halves of surrogate pairs', payloads: ['{"a":"\\ud800"}', '{"a":"\\udc00\\ud800x"}'] },
  { name: 'long text', payloads: [field('a', JSON.stringify('fog '.repeat(20_000)))] },
  { name: 'a long list', payloads: [field('a', `[${Array.from({ length: 5000 }, (_, i) => i).join(',')}]`)] },
  {
    name: 'deep nesting',
    payloads: ['{"a":'.repeat(60) + '1' + '}'.repeat(60), '['.repeat(20) + ']'.repeat(20)],
  },
  {
    name: 'the deepest nesting',
    payloads: ['{"a":'.repeat(200) + '1' + '}'.repeat(200), '['.repeat(200) + ']'.repeat(200)],
    unformatted: true,
  },
  {
    name: 'many fields',
    payloads: [record(Object.fromEntries(Array.from({ length: 300 }, (_, i) => [`field_${i}`, String(i)])))],
  },
  {
    name: 'keys that are one name once re-cased',
    payloads: [
      '{"user_id":1,"userId":"a","UserID":true,"user-id":null,"user id":[1],"user_id2":2,"userId2":3,"user_id_2":4}',
    ],
  },
  {
    name: 'keys that are names of other things',
    payloads: [
      record(
        Object.fromEntries(
          'class from self cls None True def import lambda pass async await yield decode encode str int float bool list dict object json default function new delete typeof this null undefined any unknown never string number boolean symbol bigint keys value fields item key path error'
            .split(' ')
            .map((each, i) => [each, String(i)]),
        ),
      ),
    ],
  },
  {
    name: 'keys that every object has',
    payloads: [
      '{"constructor":1,"toString":"a","valueOf":null,"hasOwnProperty":[1],"__proto__":{"constructor":{"a":1}},"then":1,"isPrototypeOf":{"x":1}}',
      '{"constructor":2,"hasOwnProperty":[]}',
    ],
  },
  {
    name: 'keys that every object has, absent',
    payloads: ['{"toString":"a","constructor":1,"__proto__":1," ":1}', '{}'],
  },
  { name: 'objects of anything with keys that every object has', payloads: ['{"a":[]}', '{"a":[]}'] },
  ...trickyKeys.map((key): Case => ({
    name: `the key ${JSON.stringify(key)}`,
    payloads: [field(key, '1'), field(key, 'null'), '{}', field(key, '2')],
  })),
  {
    name: 'tricky keys all together',
    payloads: [record(Object.fromEntries(manageable.map((key, i) => [key, String(i)])))],
  },
  {
    name: 'tricky keys of records',
    payloads: [
      record(
        Object.fromEntries(
          manageable.map((key, i) => [key, `{"${'abcdefghijklmnopqrstuvwxyz'[i % 26]}${i}":${i}}`]),
        ),
      ),
    ],
  },
  {
    name: 'long keys',
    payloads: [
      field(
        'the_number_of_vehicles_that_may_still_board_when_the_tide_is_lower_than_expected_at_the_pier',
        '1',
      ),
    ],
  },
  {
    name: 'fields beside years',
    payloads: [
      '[{"name":"Saltmere","1962":1,"1963":2,"1964":3},{"name":"Ostwick","1964":4.5,"1965":6}]',
      '[]',
    ],
  },
  {
    name: 'a tree below a marker',
    payloads: [
      `{${Array.from({ length: 4 }, (_, i) => `"pier${i}x":{"__depth":${i},"n${i}a":{"__depth":2},"n${i}b":{"__depth":3,"m${i}":{"__depth":1.5}}}`).join(',')}}`,
    ],
  },
  {
    name: 'a tag that decides what stands beside it',
    payloads: [
      `[${Array.from({ length: 12 }, (_, i) => `{"event":"${['sailing.delayed', 'berth.closed'][i % 2]}","no":${i},"data":${[`{"sailing":"SF-${i}","minutes":5}`, '{"berth":"N1","until":null}'][i % 2]}}`).join(',')}]`,
      '[]',
    ],
  },
  {
    name: 'a tag that decides kinds and depths',
    payloads: [
      `{"a":[${Array.from({ length: 16 }, (_, i) => `{"type":"${['Point', 'Line', 'Text', 'Depth'][i % 4]}","at":${['[0.5,54.5]', '[[0.5,54.5],[1,2],[1.5,3]]', '"off the pier"', '4'][i % 4]}}`).join(',')}]}`,
    ],
  },
  {
    name: 'more digits than 64 bits where anything may be',
    payloads: ['{"a":[[[[[[[[12345678901234567890123]]]]]]]],"b":1}'],
  },
  {
    name: 'dates, UUIDs and bytes in every state',
    payloads: [
      `{"at":${times},"day":${days},"id":${uuids},"scan":${scans},"all":[${times},"2031-05-01T08:00:00.5-03:30"],"by":{"a 1":${days},"b 2":"2032-02-29"}}`,
      `{"at":${times},"at_or_null":null,"day":${days},"day_or_null":null,"id":${uuids},"id_or_null":null,"scan":${scans},"scan_or_null":null,"all":[],"by":{},"maybe":{"at":null,"day":null,"id":null,"scan":null}}`,
      `{"at":${times},"at_or_null":${times},"at_too":${times},"day":${days},"day_or_null":${days},"day_too":${days},"id":${uuids},"id_or_null":${uuids},"id_too":${uuids},"scan":${scans},"scan_or_null":${scans},"scan_too":${scans},"all":[${times}],"by":{"c 3":${days}},"maybe":{"at":${times},"day":${days},"id":${uuids},"scan":${scans}}}`,
      `{"at":"0001-01-01T00:00:00Z","day":"9999-12-31","id":${uuids},"scan":${scans},"all":[],"by":{},"maybe":{}}`,
    ],
  },
  {
    name: 'dates, UUIDs and bytes that native types would change',
    payloads: [
      '{"a":"2031-05-01T23:59:60Z","b":"2031-05-01t08:00:00z","c":"2031-05-01 08:00:00Z","d":"2031-05-01T08:00:00.123456789123Z","e":"6F9619FF-8B86-D011-B42D-00C04FC964FF","f":"2031-05-01T08:00:00-23:59","g":"0000-01-01"}',
      '{"a":"2031-05-01T08:00:00Z","b":"2031-05-01T08:00:00Z","c":"2031-05-01T08:00:00Z","d":"2031-05-01T08:00:00Z","e":"6f9619ff-8b86-d011-b42d-00c04fc964ff","f":"2031-05-01T08:00:00Z","g":"2031-05-01"}',
    ],
  },
  {
    name: 'more digits than a double has, deep where anything may be',
    payloads: ['{"a":[[[[[[[[3.14159265358979323846]]]]]]]],"b":1}'],
  },
  {
    name: 'a type inside itself, or absent, or null',
    payloads: [
      '{"berth":{"no":1,"next":{"no":2,"next":{"no":3}},"last":{"no":4,"last":null}}}',
      '{"berth":{"no":1,"last":{"no":2,"last":{"no":3,"next":{"no":4}}}}}',
    ],
  },
  {
    name: 'a union told apart by a tag, absent or null at times',
    payloads: [
      '{"last":{"kind":"closure","id":1,"berth":"N1"},"next":{"kind":"delay","id":2,"minutes":5},"all":[{"kind":"delay","id":3,"minutes":6}]}',
      '{"next":null,"all":[{"kind":"closure","id":4,"berth":"N2"}]}',
      '{"last":{"kind":"delay","id":5,"minutes":7},"all":[]}',
      '{"last":{"kind":"closure","id":6,"berth":"N3"},"next":{"kind":"closure","id":7,"berth":"S1"},"all":[]}',
    ],
  },
  {
    name: 'a union told apart by a tag in lists of lists, among nulls, and beside a text',
    payloads: [
      '{"all":[[{"kind":"closure","id":1,"berth":"N1"}],[]],"pair":["x",{"kind":"delay","id":2,"minutes":4}],"some":[{"kind":"closure","id":3,"berth":"N2"},null]}',
      '{"all":[[{"kind":"delay","id":4,"minutes":2},{"kind":"closure","id":5,"berth":"S1"}]],"pair":["y",{"kind":"closure","id":6,"berth":"S2"}],"some":[null]}',
      '{"all":[],"pair":["x",{"kind":"delay","id":7,"minutes":9}],"some":[{"kind":"delay","id":8,"minutes":1}]}',
    ],
  },
  {
    name: 'an integer that a double has and writes with other digits, beside a fraction',
    payloads: ['{"a":-9223372036854775808}', '{"a":1.5}', '{"a":9007199254740992}'],
  },
];

/** Cases as one: each payload has one of each, under a key that is called after the case. */
export function asOne(some: readonly Case[]): Case {
  const count = Math.max(...some.map(({ payloads }) => payloads.length));
  const payloads = Array.from({ length: count }, (_, i) => {
    const there = some.filter((each) => each.payloads[i] !== undefined);
    return `{${there.map(({ name, payloads: own }) => `${JSON.stringify(name)}:${own[i]!}`).join(',')}}`;
  });
  return { name: `${some[0]!.name}, to ${some.at(-1)!.name}`, payloads };
}

/** Whether a case is too deep or too wide to stand beside others. */
export function isLarge({ payloads }: Case): boolean {
  return payloads.some((text) => text.length > 4000 || text.split(/[[{]/).length > 100);
}
