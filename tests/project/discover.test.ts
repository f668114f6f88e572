import { describe, expect, test } from 'vitest';
import { parse } from 'yaml';
import { discoverContracts, discoverLanguages, projectText, suggestion } from '../../src/project/discover.js';
import { parseProject } from '../../src/project/file.js';
import { bytes, workspace } from '../support.js';

/** What is found below a folder: the keys of contracts and where their samples are, from that folder. */
function found(files: Record<string, string>): Record<string, string> {
  const root = workspace(files);
  return Object.fromEntries(
    discoverContracts(root).map(({ key, samples }) => [key, samples.slice(root.length + 1)]),
  );
}

describe('the contracts that a folder suggests', () => {
  test.each<[string, Record<string, string>, Record<string, string>]>([
    [
      'a folder of answers is one',
      { 'sailings/1.json': '{}', 'sailings/2.json': '{}' },
      { sailing: 'sailings' },
    ],
    ['a file at the top is one', { 'tides.ndjson': '{}' }, { tide: 'tides.ndjson' }],
    [
      'JSON in files and in lines is of one kind',
      { 'tides/a.json': '{}', 'tides/b.ndjson': '{}' },
      { tide: 'tides' },
    ],
    [
      'files of two kinds are one each',
      { 'x/fares.csv': 'a', 'x/berths.json': '{}' },
      { berth: 'x/berths.json', fare: 'x/fares.csv' },
    ],
    [
      'a folder with folders of payloads gives its own files one by one',
      { 'x/berths.json': '{}', 'x/y/tides.json': '{}' },
      { y: 'x/y', berth: 'x/berths.json' },
    ],
    ['a packed file is called without its endings', { 'tides.ndjson.gz': '' }, { tide: 'tides.ndjson.gz' }],
    [
      'two of one name are counted',
      { 'a/tides.json': '{}', 'a/tides.csv': 'a', 'b/tides/x.json': '{}', 'c/tides/x.json': '{}' },
      { tide: 'a/tides.csv', 'tide-2': 'a/tides.json', 'tide-3': 'b/tides', 'tide-4': 'c/tides' },
    ],
    ['a name without a letter is a payload', { '-.json': '{}' }, { payload: '-.json' }],
    [
      'settings, schemas, notes of captures and what is built are none',
      {
        'package.json': '{}',
        'tsconfig.base.json': '{}',
        'app.manifest.json': '{}',
        'x.schema.json': '{}',
        'x/a.origin.yaml': 'url: x',
        'node_modules/x/a.json': '{}',
        'dist/a.json': '{}',
        '.hidden/a.json': '{}',
        'readme.txt': '',
      },
      {},
    ],
    [
      'settings in YAML and XML are payloads where a folder is named',
      { 'deploy.yaml': 'a: 1' },
      { deploy: 'deploy.yaml' },
    ],
    ['six folders down is looked', { 'a/b/c/d/e/f/x.json': '{}' }, { f: 'a/b/c/d/e/f' }],
    ['seven are not', { 'a/b/c/d/e/f/g/x.json': '{}' }, {}],
  ])('%s', (_, files, expected) => {
    expect(found(files)).toEqual(expected);
  });

  test.each([
    ['the only list of an envelope', '{"page":1,"results":[{"id":1}]}', '/results/*'],
    ['a list without records is none', '{"results":[1]}', ''],
    ['an empty one neither', '{"results":[]}', ''],
    ['one among other things has a record', '{"results":[1,{}]}', '/results/*'],
    ['of two lists nobody knows', '{"results":[{}],"items":[{}]}', ''],
    ['a list called after its records is a field', '{"legs":[{}]}', ''],
    ['what is under the key is no list', '{"results":{}}', ''],
    ['a list at the top', '[{"id":1}]', ''],
    ['what is no JSON', '{', ''],
  ])('where the records are: %s', (_, text, expected) => {
    const root = workspace({ 'sailing-pages/1.json': text });
    expect(suggestion('s', 'sailing-pages', `${root}/sailing-pages/1.json`)).toEqual({
      key: 'sailing-page',
      samples: 's',
      at: expected,
      name: 'SailingPage',
    });
  });
});

describe('the languages of a folder', () => {
  test.each([
    ['pyproject.toml', 'python'],
    ['requirements.txt', 'python'],
    ['setup.py', 'python'],
    ['package.json', 'typescript'],
    ['go.mod', 'go'],
    ['Cargo.toml', 'rust'],
    ['build.gradle.kts', 'kotlin'],
    ['build.gradle', 'java'],
    ['pom.xml', 'java'],
    ['Ferries.csproj', 'csharp'],
    ['Ferries.sln', 'csharp'],
    ['composer.json', 'php'],
    ['Gemfile', 'ruby'],
    ['DESCRIPTION', 'r'],
    ['ferries.Rproj', 'r'],
    ['CMakeLists.txt', 'cpp'],
    ['build.sbt', 'scala'],
    ['Package.swift', 'swift'],
    ['readme.md', 'typescript'],
    ['my-go.mod', 'typescript'],
  ])('%s is of %s', (file, language) => {
    expect(discoverLanguages(workspace({ [file]: '' }))).toEqual([language]);
  });

  test('are all that have a sign, and TypeScript where there is no folder', () => {
    expect(discoverLanguages(workspace({ 'go.mod': '', 'package.json': '' }))).toEqual(['typescript', 'go']);
    expect(discoverLanguages('/nowhere')).toEqual(['typescript']);
  });
});

describe('the first project file', () => {
  test('is a project, whatever things are called', () => {
    const text = projectText(
      [
        {
          key: 'sailing',
          samples: 'answers/sailings',
          at: '/results/*',
          name: 'Sailing',
          endpoint: 'GET /v1\n/sailings',
        },
        { key: '*', samples: '- a: b #c', at: '', name: 'Payload' },
      ],
      ['go', 'r'],
    );
    expect(text).toContain('  # GET /v1/sailings\n  sailing:\n');
    expect(parse(text)).toEqual({
      contracts: {
        sailing: {
          samples: 'answers/sailings',
          at: '/results/*',
          name: 'Sailing',
          schema: 'schemas/sailing.schema.json',
          languages: [
            { language: 'go', out: 'generated/go/sailing' },
            { language: 'r', out: 'generated/r/sailing' },
          ],
        },
        '*': {
          samples: '- a: b #c',
          name: 'Payload',
          schema: 'schemas/*.schema.json',
          languages: [
            { language: 'go', out: 'generated/go/*' },
            { language: 'r', out: 'generated/r/*' },
          ],
        },
      },
    });
    const { contracts } = parseProject({ name: 'skevo.yaml', bytes: bytes(text), firstLine: 1 });
    expect([...contracts.keys()]).toEqual(['sailing', '*']);
  });
});
