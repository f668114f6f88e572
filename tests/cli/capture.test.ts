import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { serveFerries, type Standin } from '../../src/standin/ferries.js';
import { skevoAsync as skevo, workspace } from '../support.js';

let ferries: Standin;
beforeAll(async () => {
  ferries = await serveFerries(resolve('demo/payloads'));
});
afterAll(() => ferries.close());

const capture = (folder: string, place: string, ...more: string[]) =>
  skevo(
    [
      'capture',
      `${ferries.url}${place}`,
      '--out',
      'got',
      ...(more.includes('--retries') ? [] : ['--retries', '0']),
      ...more,
    ],
    {
      cwd: folder,
      env: { FERRY_TOKEN: 'hush-hush' },
    },
  );
const gotten = (folder: string) =>
  existsSync(join(folder, 'got')) ? readdirSync(join(folder, 'got')).sort() : [];

describe('what goes wrong is said, and nothing is kept of it', () => {
  test.for([
    ['/html', 'answered with an HTML page: Saltmere Ferries'],
    ['/empty', 'answered with an empty body'],
    ['/half', 'cut the connection before all had come'],
    ['/short', 'cut the connection before all had come'],
    ['/loop', 'redirects round and round'],
    ['/huge', 'answers with 10737 MB or more'],
    ['/busy?times=9', 'answered 429'],
    ['/broken?times=9', 'answered 500'],
    ['/nowhere', 'answered 404'],
  ] as const)('%s', async ([place, words]) => {
    const folder = workspace();
    const ran = await capture(folder, place);
    expect(ran).toMatchObject({ code: 2, out: '' });
    expect(ran.err).toContain(words);
    expect(gotten(folder)).toEqual([]);
  });

  test('a slow answer', async () => {
    const folder = workspace();
    const ran = await capture(folder, '/slow?seconds=5', '--timeout', '0.3');
    expect(ran.err).toContain('gave no whole answer within 0.3 s');
    expect(ran.code).toBe(2);
  });

  test('a refused connection', async () => {
    const closed: Server = createServer();
    await new Promise<void>((done) => closed.listen(0, '127.0.0.1', done));
    const { port } = closed.address() as AddressInfo;
    await new Promise((done) => closed.close(done));
    const ran = await skevo(['capture', `http://127.0.0.1:${port}/`, '--out', 'got'], { cwd: workspace() });
    expect(ran).toMatchObject({ code: 2, err: expect.stringContaining('refuses the connection') });
  });

  test('a folder that is a file', async () => {
    const ran = await capture(workspace({ got: 'a file' }), '/gzip');
    expect(ran).toMatchObject({ code: 2, err: expect.stringContaining('cannot write got') });
  });

  test('what is no URL, and no folder for the samples', async () => {
    const folder = workspace();
    expect((await skevo(['capture', '127.0.0.1:80', '--out', 'got'], { cwd: folder })).err).toContain(
      'is not a URL',
    );
    expect((await skevo(['capture', ferries.url], { cwd: folder })).err).toContain('--out');
  });
});

describe('answers', () => {
  test('come after a busy or broken server was asked again', async () => {
    const folder = workspace();
    const busy = await capture(folder, '/busy?times=1&wait=0', '--retries', '2');
    expect(busy.code).toBe(0);
    expect(busy.err).toContain('answered 429; again in 0.0 s');
    expect((await capture(folder, '/broken?times=1', '--retries', '1', '--quiet')).code).toBe(0);
  });

  test('are decompressed, and otherwise kept as they came; the same one is kept once', async () => {
    const folder = workspace();
    expect((await capture(folder, '/gzip')).code).toBe(0);
    expect((await capture(folder, '/brotli')).err).toContain('already holds');
    expect(gotten(folder)).toEqual(['gzip-001.json', 'gzip-001.origin.yaml']);
    const vessels = readdirSync('demo/payloads/vessels');
    expect(readFileSync(join(folder, 'got/gzip-001.json'))).toEqual(
      readFileSync(join('demo/payloads/vessels', vessels[0]!)),
    );
  });

  test('are followed page by page, by the header or by a pointer into the body, up to a number', async () => {
    const folder = workspace();
    const ran = await capture(folder, '/v1/sailings?page=6', '--pages', '9', '--next', '/next');
    expect(ran).toMatchObject({ code: 0, err: '' });
    expect(ran.out.trim().split('\n')).toHaveLength(3);
    const some = await capture(workspace(), '/v1/sailings?page=1', '--pages', '2');
    expect(some.out.trim().split('\n')).toHaveLength(2);
    expect(some.err).toContain('there are more pages');
  });

  test('get a body, headers and query values, and no secret of them is written down', async () => {
    const folder = workspace();
    const ran = await capture(
      folder,
      '/echo?ticket=first-class&page=1',
      ...[
        '--body',
        '{"from":"North Pier"}',
        '--header',
        'x-ferry=heron',
        '--secret',
        'nothing',
        '--query',
        'b=c',
      ],
    );
    expect(ran.code).toBe(0);
    const [, origin] = gotten(folder);
    const sent = JSON.parse(readFileSync(join(folder, 'got', gotten(folder)[0]!), 'utf8'));
    expect(sent).toMatchObject({ method: 'POST', body: '{"from":"North Pier"}', query: { b: 'c' } });
    expect(sent.headers).toMatchObject({ 'x-ferry': 'heron', 'content-type': 'application/json' });
    expect(readFileSync(join(folder, 'got', origin!), 'utf8')).toContain('ticket=first-class');

    const hidden = workspace();
    await capture(hidden, '/gzip?token=abcdef&ticket=ferry-77&page=1', '--secret', 'ticket');
    const written = readFileSync(join(hidden, 'got/gzip-001.origin.yaml'), 'utf8');
    expect(written).toContain('token=***&ticket=***&page=1');
    expect(written).not.toMatch(/abcdef|ferry-77/);
  });

  test('that repeat a secret are refused', async () => {
    const folder = workspace();
    const ran = await capture(folder, '/echo', '--header-from', 'authorization=FERRY_TOKEN');
    expect(ran.code).toBe(2);
    expect(ran.err).toContain('the value of FERRY_TOKEN');
    expect(ran.err + ran.out).not.toContain('hush-hush');
    expect(gotten(folder)).toEqual([]);
    const missing = await capture(folder, '/echo', '--header-from', 'authorization=NO_SUCH');
    expect(missing.err).toContain('NO_SUCH, which is not set');
  });
});

describe('answers that are not JSON', () => {
  test('are kept as they came, under the ending that their type says', async () => {
    const folder = workspace();
    for (const name of ['fares.xml', 'timetable.csv', 'berths.yaml']) {
      expect(await capture(folder, `/partners/${name}`)).toMatchObject({ code: 0 });
      const kept = `got/${name.split('.').join('-')}-001.${name.split('.')[1]}`;
      expect(readFileSync(join(folder, kept), 'utf8')).toBe(readFileSync(`demo/partners/${name}`, 'utf8'));
    }
    expect(readdirSync(join(folder, 'got'))).toHaveLength(6);
    await capture(folder, '/partners/fares.xml');
    expect(readdirSync(join(folder, 'got'))).toHaveLength(6);
    const { out } = await skevo(['outline', 'got/timetable-csv-001.csv'], { cwd: folder });
    expect(out).toMatch(/\/seats +integer/);
  });
});

describe('a recording of a browser', () => {
  const entry = (url: string, text: string, more: object = {}) => ({
    startedDateTime: '2031-05-01T08:00:00.000Z',
    request: { method: 'GET', url },
    response: { status: 200, content: { mimeType: 'application/json', text, ...more } },
  });
  const har = JSON.stringify({
    log: {
      version: '1.2',
      entries: [
        entry('https://ferries.example/v1/berths/17?token=abc', '{"id":17}'),
        entry('https://ferries.example/v1/berths/n1', '{"id":18,"closed":null}'),
        entry('https://ferries.example/v1/berths', Buffer.from('{"results":[{"id":1}]}').toString('base64'), {
          encoding: 'base64',
        }),
        entry('https://ferries.example/', '<html>'),
        {
          ...entry('https://ferries.example/v1/berths', '{}'),
          response: { status: 500, content: { text: '{}' } },
        },
      ],
    },
  });

  test('gives samples by endpoint, ids recognised', async () => {
    const folder = workspace({ 'day.har': har });
    const ran = await skevo(['capture', 'day.har', '--out', 'samples'], { cwd: folder });
    expect(ran.code).toBe(0);
    expect(ran.out).toContain('2 new of 2 from GET /v1/berths/{id}');
    expect(ran.out).toContain('1 new of 1 from GET /v1/berths');
    expect(ran.err).toContain('2 responses are no success, or of no format that payloads come in');
    expect(readFileSync(join(folder, 'samples/berths-one/berths-one-001.json'), 'utf8')).toBe('{"id":17}');
    expect(readFileSync(join(folder, 'samples/berths-one/berths-one-001.origin.yaml'), 'utf8')).toContain(
      'token=***',
    );
  });

  test('makes a project that runs', async () => {
    const folder = workspace({ 'day.har': har });
    expect((await skevo(['init', 'day.har'], { cwd: folder })).code).toBe(0);
    expect(readFileSync(join(folder, 'skevo.yaml'), 'utf8')).toContain('# GET /v1/berths/{id}');
    const ran = await skevo(['run'], { cwd: folder });
    expect(ran.code).toBe(0);
    expect(ran.out).toContain('nothing lost of 2 payloads');
  });

  test('that is none is refused', async () => {
    const folder = workspace({ 'a.har': '{"log":{}}' });
    const ran = await skevo(['capture', 'a.har', '--out', 'x'], { cwd: folder });
    expect(ran).toMatchObject({ code: 2, err: expect.stringContaining('no list /log/entries') });
  });
});
