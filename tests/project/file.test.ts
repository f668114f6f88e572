import { describe, expect, test } from 'vitest';
import { SkevoError } from '../../src/core/error.js';
import { parseProject, readProject, type Project } from '../../src/project/file.js';
import { bytes } from '../support.js';

const read = (text: string): Project =>
  parseProject({ name: 'skevo.yaml', bytes: bytes(text), firstLine: 1 });

/** What is said of a project file that cannot be: the message, what to do, line and column. */
function refusal(text: string): [message: string, remedy: string | undefined, place: string] {
  try {
    read(text);
  } catch (error) {
    if (!(error instanceof SkevoError)) throw error;
    const { message, remedy, place } = error;
    return [message, remedy, place === undefined ? '' : `${place.file}:${place.line}:${place.column}`];
  }
  throw new Error('it was taken');
}

const contract = 'contracts:\n  berth:\n    samples: berths\n    schema: berth.json\n';
const go = (more: string) => `${contract}    languages:\n      - { language: go, out: x${more} }\n`;
const capture = (more: string) => `${contract}    capture:\n      - ${more}\n`;
const see = 'See docs/project.md for what stands where.';
const yaml = 'The file is YAML, or JSON.';

describe('a project file that cannot be', () => {
  test.each<[string, ...ReturnType<typeof refusal>]>([
    ['', 'a project file is a map', 'Begin it with contracts:', 'skevo.yaml:1:1'],
    ['- 1\n', 'a project file is a map', 'Begin it with contracts:', 'skevo.yaml:1:1'],
    [
      'contracts: {}\nsecret: []\n',
      '"secret" is no key of a project file',
      'Did you mean secrets?',
      'skevo.yaml:2:1',
    ],
    [
      'contracts: {}\nsomethingElse: []\n',
      '"somethingElse" is no key of a project file',
      'There are contracts, secrets.',
      'skevo.yaml:2:1',
    ],
    [
      'secrets: []\n',
      'contracts must be a map from names to contracts',
      'skevo init writes an example.',
      'skevo.yaml:1:1',
    ],
    [
      'contracts: []\n',
      'contracts must be a map from names to contracts',
      'skevo init writes an example.',
      'skevo.yaml:1:12',
    ],
    [
      'contracts: ~\n',
      'contracts must be a map from names to contracts',
      'skevo init writes an example.',
      'skevo.yaml:1:12',
    ],
    [
      'contracts: {}\nsecrets: ticket\n',
      'secrets must be a list of names of query values',
      'Such as secrets: [ticket].',
      'skevo.yaml:2:10',
    ],
    [
      'contracts: {}\nsecrets: [ticket, 1]\n',
      'secrets must be a list of names of query values',
      'Such as secrets: [ticket].',
      'skevo.yaml:2:10',
    ],
    [
      'contracts:\n  berth: ~\n',
      'the contract berth must be a map',
      'It has samples, schema and languages.',
      'skevo.yaml:2:10',
    ],
    [
      'contracts:\n  berth: 1\n',
      'the contract berth must be a map',
      'It has samples, schema and languages.',
      'skevo.yaml:2:10',
    ],
    [
      'contracts:\n  berth: []\n',
      'the contract berth must be a map',
      'It has samples, schema and languages.',
      'skevo.yaml:2:10',
    ],
    ['contracts:\n  berth:\n    samples: x\n', 'schema is missing', see, 'skevo.yaml:3:5'],
    [`${contract}    at: results\n`, 'at must be a place, such as /results/*', see, 'skevo.yaml:5:9'],
    [`${contract}    name: 1\n`, 'name must be a string', see, 'skevo.yaml:5:11'],
    [`${contract}    strict: maybe\n`, 'strict must be a boolean value', see, 'skevo.yaml:5:13'],
    [`${contract}    unknown: ignore\n`, 'unknown must be one of keep, drop, reject', see, 'skevo.yaml:5:14'],
    [`${contract}    dates: both\n`, 'dates must be one of text, native', see, 'skevo.yaml:5:12'],
    [
      `${contract}    choices: some\n`,
      'choices must be one of auto, open, closed, none',
      see,
      'skevo.yaml:5:14',
    ],
    [`${contract}    decisions: []\n`, 'decisions must be an object', see, 'skevo.yaml:5:16'],
    [
      'contracts:\n  berth:\n    samples: [1]\n    schema: x\n',
      'each value in samples must be a string',
      see,
      'skevo.yaml:3:14',
    ],
    [`${contract}    schema: b.json\n`, 'Map keys must be unique', yaml, 'skevo.yaml:5:5'],
    [
      `${contract}    langages: []\n`,
      '"langages" is no key of contracts.berth',
      'Did you mean languages?',
      'skevo.yaml:5:5',
    ],
    [`${contract}    languages: go\n`, 'languages must be an array', see, 'skevo.yaml:5:16'],
    [
      `${contract}    languages: [go]\n`,
      'languages must be a list of maps',
      'See docs/project.md.',
      'skevo.yaml:5:17',
    ],
    [
      `${contract}    languages: [[]]\n`,
      'languages must be a list of maps',
      'See docs/project.md.',
      'skevo.yaml:5:17',
    ],
    [`${contract}    languages: [{ language: go }]\n`, 'out is missing', see, 'skevo.yaml:5:17'],
    [
      go(', outt: y'),
      '"outt" is no key of contracts.berth.languages.0',
      'Did you mean out?',
      'skevo.yaml:6:33',
    ],
    [go(', style: map'), 'Go has no style "map"', 'There are struct, plain.', 'skevo.yaml:6:40'],
    [
      go(', package: A-B'),
      'package "A-B" is not what Go writes',
      'Write it as in sailings.',
      'skevo.yaml:6:42',
    ],
    [go(', builders: some'), 'builders must be one of on, off', see, 'skevo.yaml:6:43'],
    [capture('{ url: here }'), 'url must be a whole URL of http or https', see, 'skevo.yaml:6:16'],
    [
      capture('{ url: ftp://ferries.example/x }'),
      'url must be a whole URL of http or https',
      see,
      'skevo.yaml:6:16',
    ],
    [capture('{ method: GET }'), 'url is missing', see, 'skevo.yaml:6:9'],
    [
      capture('{ url: http://localhost/x, method: PUT }'),
      'method must be one of GET, POST',
      see,
      'skevo.yaml:6:44',
    ],
    [
      capture('{ url: http://localhost/x, pages: 0 }'),
      'pages must not be less than 1',
      see,
      'skevo.yaml:6:43',
    ],
    [
      capture('{ url: http://localhost/x, pages: 1.5 }'),
      'pages must be an integer number',
      see,
      'skevo.yaml:6:43',
    ],
    [
      capture('{ url: http://localhost/x, next: y }'),
      'next must be a place, such as /next',
      see,
      'skevo.yaml:6:42',
    ],
    [
      capture('{ url: http://localhost/x, haeders: {} }'),
      '"haeders" is no key of contracts.berth.capture.0',
      'Did you mean headers?',
      'skevo.yaml:6:36',
    ],
    [
      'contracts: *none\n',
      'the alias *none refers to nothing',
      'Write out what it stands for.',
      'skevo.yaml:1:12',
    ],
    [
      'contracts: &a\n  berth: *a\n',
      'the alias *a refers to what it is in',
      'Write out what it stands for.',
      'skevo.yaml:2:10',
    ],
  ])('%j', (text, message, remedy, place) => {
    expect(refusal(text)).toEqual([message, remedy, place]);
  });

  test('points at a character, whatever stands before it on the line', () => {
    expect(refusal('contracts: { "größe 🌫": 1 }\n')[2]).toBe('skevo.yaml:1:25');
  });

  test('names the decision that cannot be, with its line', () => {
    expect(refusal(`${contract}    decisions:\n      /state: { choice: opne }\n`)).toEqual([
      'skevo.yaml:6: choice cannot be "opne"',
      'It takes open, closed, none.',
      '',
    ]);
  });

  test('has aliases that stand for too much', () => {
    const lines = Array.from({ length: 12 }, (_, i) => {
      const each = i === 0 ? 'x' : `*a${i - 1}`;
      return `  - &a${i} [${Array(10).fill(each).join(', ')}]`;
    });
    const [message, remedy] = refusal(`contracts: {}\nsecrets:\n${lines.join('\n')}\n`);
    expect(message).toMatch(/^the aliases of the file stand for too much: /);
    expect(remedy).toBe('Write out what they stand for.');
  });

  test('is not there', () => {
    expect(() => readProject('/nowhere/skevo.yaml')).toThrow('there is no file /nowhere/skevo.yaml');
  });
});

describe('a project file', () => {
  test('says what it does not say', () => {
    const { contracts, secrets, steers } = read(contract);
    const berth = contracts.get('berth')!;
    expect(berth).toEqual({
      samples: ['berths'],
      schema: 'berth.json',
      languages: [],
      unknown: 'drop',
      choices: 'auto',
      strict: false,
      capture: [],
    });
    expect([secrets, steers.get(berth)]).toEqual([[], []]);
  });

  test('has all that it may have, and where each stands', () => {
    const project = read(`secrets: [ticket]
contracts:
  berth:
    samples: [berths, more/*.ndjson]
    at: /results/*
    name: Berth
    schema: berth.json
    unknown: keep
    dates: native
    choices: closed
    decisions:
      /seats: { width: int64, nullable: true }
    strict: true
    capture:
      - url: http://localhost:8080/v1/berths
        method: POST
        body: '{}'
        headers: { Accept: application/json }
        headers-from: { Authorization: FERRY_TOKEN }
        next: /next
        pages: 1
    languages:
      - { language: java, style: record, out: java, package: saltmere.berths, unknown: reject, dates: text, builders: off }
      - { language: go, out: go }
`);
    expect(project.secrets).toEqual(['ticket']);
    const berth = project.contracts.get('berth')!;
    const [java, go] = berth.languages;
    expect(berth).toMatchObject({
      samples: ['berths', 'more/*.ndjson'],
      at: '/results/*',
      name: 'Berth',
      unknown: 'keep',
      dates: 'native',
      choices: 'closed',
      strict: true,
    });
    expect(berth.capture).toEqual([
      {
        url: 'http://localhost:8080/v1/berths',
        method: 'POST',
        body: '{}',
        headers: { Accept: 'application/json' },
        'headers-from': { Authorization: 'FERRY_TOKEN' },
        next: '/next',
        pages: 1,
      },
    ]);
    expect(java).toEqual({
      language: 'java',
      style: 'record',
      out: 'java',
      package: 'saltmere.berths',
      unknown: 'reject',
      dates: 'text',
      builders: 'off',
    });
    expect(go).toEqual({ language: 'go', out: 'go' });
    expect(project.steers.get(berth)).toEqual([
      { pattern: '/seats', what: 'width', value: 'int64', source: 'skevo.yaml:12' },
      { pattern: '/seats', what: 'nullable', value: 'true', source: 'skevo.yaml:12' },
    ]);
    const placed = [berth, java!, go!].map((each) => {
      const { line, column } = project.places.get(each)!;
      return [line, column];
    });
    expect(placed).toEqual([
      [4, 5],
      [23, 9],
      [24, 9],
    ]);
  });

  test('may say a thing once and refer to it', () => {
    const { contracts } = read(
      `contracts:\n  a: { samples: a, schema: a.json, languages: &all [{ language: go, out: go }] }\n  b: { samples: b, schema: b.json, languages: *all }\n`,
    );
    expect([...contracts.values()].map(({ languages }) => languages.map(({ out }) => out))).toEqual([
      ['go'],
      ['go'],
    ]);
  });
});
