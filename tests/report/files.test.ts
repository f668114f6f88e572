import { Ajv2020 } from 'ajv/dist/2020.js';
import { chromium, type Browser, type Page } from 'playwright-core';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { create } from 'xmlbuilder2';
import { buildModel } from '../../src/core/model/build.js';
import { Coverage } from '../../src/core/roundtrip/unproven.js';
import type { Finding } from '../../src/core/roundtrip/finding.js';
import { htmlReport } from '../../src/report/page/html.js';
import type { ReportPart } from '../../src/report/files/report.js';
import { markdownReport } from '../../src/report/files/markdown.js';
import { hasProgram, infer, skevo, workspace } from '../support.js';

const hostile = '</script><script>window.broken=1</script><img src=x onerror="window.broken=1">`|@team*';
const payloads = [
  JSON.stringify({
    id: '1',
    departs_at: '2031-05-01',
    [hostile]: hostile,
    legs: [{ pier: 'N' }],
  }),
  JSON.stringify({ id: '2', departs_at: '2031-05-02', [hostile]: '', gate: null, legs: [] }),
];
const folder = workspace({
  'sailings.ndjson': `${payloads.join('\n')}\n`,
  'careless.mjs': `import { createInterface } from 'node:readline';
for await (const line of createInterface({ input: process.stdin })) {
  const { departs_at: departsAt, ...rest } = JSON.parse(line);
  console.log(JSON.stringify({ departsAt, ...rest, gate: rest.gate ?? null }));
}`,
});
const kinds = ['html', 'sarif', 'junit.xml', 'json', 'md'];
const report = (ending: string) => readFileSync(join(folder, `report.${ending}`), 'utf8');

beforeAll(() => {
  skevo(['infer', 'sailings.ndjson', '--name', 'Sailing', '--out', 's.json', '--quiet'], { cwd: folder });
  const ran = skevo(
    [
      ...['check', 's.json', 'sailings.ndjson', '--language', 'typescript:interface,swift'],
      ...['--with', 'node careless.mjs', '--quiet'],
      ...kinds.flatMap((kind) => ['--report', `report.${kind}`]),
    ],
    { cwd: folder, env: { SKEVO_SWIFTC: 'swiftc-of-nobody' } },
  );
  expect(ran.code, ran.err).toBe(1);
});

test('an ending that is not known is refused before anything is done', () => {
  const ran = skevo(['check', 's.json', 'sailings.ndjson', '--report', 'r.htm'], { cwd: folder });
  expect(ran).toMatchObject({ code: 2, out: '', err: expect.stringContaining('Did you mean .html?') });
});

test('SARIF has a rule for every kind, and a place in a file for every finding', () => {
  const log = JSON.parse(report('sarif'));
  const [run] = log.runs;
  expect(log.version).toBe('2.1.0');
  // What the published schema asks of the parts that are used.
  const result = {
    type: 'object',
    required: ['message', 'ruleId', 'ruleIndex', 'level', 'locations'],
    properties: {
      message: { type: 'object', required: ['text'], properties: { text: { type: 'string', minLength: 1 } } },
      ruleIndex: { type: 'integer', minimum: 0 },
      level: { enum: ['none', 'note', 'warning', 'error'] },
      locations: {
        type: 'array',
        minItems: 1,
        uniqueItems: true,
        items: {
          type: 'object',
          additionalProperties: false,
          properties: {
            physicalLocation: {
              type: 'object',
              required: ['artifactLocation', 'region'],
              properties: {
                artifactLocation: {
                  type: 'object',
                  properties: { uri: { type: 'string', format: 'uri-reference' } },
                },
                region: {
                  type: 'object',
                  properties: {
                    startLine: { type: 'integer', minimum: 1 },
                    startColumn: { type: 'integer', minimum: 1 },
                  },
                },
              },
            },
            logicalLocations: { type: 'array', minItems: 0, uniqueItems: true },
          },
        },
      },
    },
  };
  const ajv = new Ajv2020({ strict: false, validateFormats: false });
  for (const each of run.results) {
    expect(ajv.validate(result, each), ajv.errorsText()).toBe(true);
    expect(run.tool.driver.rules[each.ruleIndex].id).toBe(each.ruleId);
  }
  expect(run.results.map(({ ruleId }: { ruleId: string }) => ruleId)).toEqual(
    expect.arrayContaining(['renamed', 'added']),
  );
  expect(run.invocations[0].toolExecutionNotifications[0].message.text).toContain('swift codable: not-run');
});

test('JUnit is XML whatever payloads hold, with failures, passes and what was not run', () => {
  const text = report('junit.xml');
  const suites = (
    create(text).end({ format: 'object' }) as { testsuites: { testsuite: Record<string, string>[] } }
  ).testsuites.testsuite;
  expect(suites.map((suite) => [suite['@name'], suite['@failures'], suite['@skipped']])).toEqual([
    ['Sailing typescript interface', '0', '0'],
    ['Sailing swift codable', '0', '1'],
    ['Sailing program node careless.mjs', '2', '0'],
  ]);
});

test('JSON is what check prints', () => {
  const [contract] = JSON.parse(report('json')).contracts;
  expect(contract).toMatchObject({ name: 'Sailing', check: { payloads: 2 } });
});

test('Markdown names losses by place, and payloads cannot mark anything up or mention anybody', () => {
  const text = report('md');
  expect(text).toContain('### Sailing: ❌');
  expect(text).toContain('`/departs_at`');
  const part = { ...large(1, 1), name: hostile };
  const heading = markdownReport([part]).split('\n')[0]!;
  expect(heading).not.toContain('<img');
  expect(heading).not.toContain('@team');
});

/** A report with so many fields and findings, their texts hostile. */
function large(fields: number, findings: number): ReportPart {
  const model = buildModel(infer(['{"a":1}']).schema);
  const finding = (i: number): Finding => ({
    kind: 'lost',
    severity: 'loss',
    pointer: `/f${i % fields}`,
    place: `/f${i % fields}`,
    payload: `p${i}.json`,
    line: 1,
    column: 1,
    record: 'R',
    key: `f${i % fields}`,
    cause: `${hostile} ${i}`,
  });
  return {
    name: hostile,
    schema: 's.json',
    model,
    made: [],
    drift: [],
    linesOf: () => [hostile, hostile],
    result: {
      payloads: findings,
      coverage: new Coverage(model),
      unproven: [{ pointer: '/f0', state: hostile }],
      fields: Array.from({ length: fields }, (_, i) => ({
        record: 'R',
        place: `/f${i}`,
        present: findings,
        absent: 1,
        nulls: 0,
        field: { key: `f${i}`, type: { kind: 'string' }, required: false, nullable: true },
      })),
      languages: [
        {
          language: 'go',
          style: 'struct',
          state: 'checked',
          returned: findings,
          seconds: 1,
          findings: Array.from({ length: findings }, (_, i) => finding(i)),
          limits: [],
        },
        {
          language: 'rust',
          style: 'serde',
          state: 'not-run',
          reason: hostile,
          returned: 0,
          seconds: 0,
          findings: [],
          limits: [],
        },
      ],
    },
  };
}

describe.runIf(hasProgram('chromium'))('the page, in a browser', () => {
  let browser: Browser;
  beforeAll(async () => {
    browser = await chromium.launch({
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
      ],
    });
  });
  afterAll(() => browser?.close());

  const opened = async (path: string): Promise<{ page: Page; troubles: string[] }> => {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const troubles: string[] = [];
    page.on('pageerror', (error) => troubles.push(error.message));
    page.on('console', (message) => message.type() === 'error' && troubles.push(message.text()));
    page.on('request', (request) => {
      if (!request.url().startsWith('file:')) troubles.push(`asked for ${request.url()}`);
    });
    await page.goto(`file://${path}`);
    return { page, troubles };
  };

  test('shows fields by languages, and a finding with the payload and both values', async () => {
    const { page, troubles } = await opened(join(folder, 'report.html'));
    expect(await page.locator('#verdict').textContent()).toContain('2 payloads through 2 languages: ');
    expect(await page.locator('#rows tr').count()).toBe(6);
    expect(await page.locator('tr', { hasText: '/departs_at' }).locator('td.cell').allTextContents()).toEqual(
      ['✓', '–', '✗ 2'],
    );
    await page.locator('tr', { hasText: '/departs_at' }).locator('.loss').click();
    const panel = page.locator('#panel');
    expect(await panel.locator('h3').first().textContent()).toContain('renamed');
    expect(await panel.locator('pre').first().textContent()).toContain('departs_at');
    await page.keyboard.press('Escape');
    expect(await panel.isHidden()).toBe(true);
    expect(await page.evaluate('document.activeElement.textContent')).toBe('✗ 2');
    await page.keyboard.press('ArrowLeft');
    expect(await page.evaluate('document.activeElement.textContent')).toBe('–');
    expect(await page.evaluate('window.broken')).toBeUndefined();
    expect(troubles).toEqual([]);
  });

  test('filters by place, kind, language and result', async () => {
    const { page } = await opened(join(folder, 'report.html'));
    const rows = () => page.locator('#rows tr').count();
    await page.fill('#place', 'LEGS');
    expect(await rows()).toBe(2);
    await page.fill('#place', '');
    await page.selectOption('#kind', 'renamed');
    expect(await rows()).toBe(1);
    await page.selectOption('#kind', '');
    await page.selectOption('#status', 'loss');
    expect(await rows()).toBe(2);
    await page.selectOption('#language', '0');
    expect(await rows()).toBe(0);
  });

  test('has a dark look and a light one, and everything when it is printed', async () => {
    const { page } = await opened(join(folder, 'report.html'));
    const ground = () => page.evaluate('getComputedStyle(document.body).backgroundColor');
    const light = await ground();
    await page.locator('#theme').click();
    expect(await ground()).not.toBe(light);
    await page.emulateMedia({ media: 'print' });
    expect(await page.locator('.filters').isHidden()).toBe(true);
  });

  test('bears 5,000 fields and 10,000 findings, and texts that would break out', async () => {
    const path = join(folder, 'large.html');
    writeFileSync(path, htmlReport([large(5000, 10_000)]));
    const { page, troubles } = await opened(path);
    expect(await page.locator('#rows tr').count()).toBeLessThan(1000);
    expect(await page.locator('#more').textContent()).toContain('more below');
    await page.fill('#place', '/f4999');
    expect(await page.locator('#rows tr').count()).toBe(1);
    await page.locator('.loss').click();
    expect(await page.locator('#panel article').count()).toBe(2);
    expect(await page.locator('#panel').textContent()).toContain(hostile);
    expect(await page.evaluate('window.broken')).toBeUndefined();
    expect(troubles).toEqual([]);
  });
});
