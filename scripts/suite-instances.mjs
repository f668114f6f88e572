/**
 * The valid instances of the official JSON Schema test suite through the classes of some languages: prints the groups of which
 * one does not come back whole, and how many did. `node scripts/suite-instances.mjs [draft...] [--language LIST]`, after a build
 * and `scripts/install-toolchains.sh`. Takes a second or two a group.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseJson, writeJson } from '../dist/index.js';

const path = (relative) => fileURLToPath(new URL(`../${relative}`, import.meta.url));
const named = process.argv.slice(2);
const at = named.indexOf('--language');
const [, languages = 'python,typescript:interface'] = at < 0 ? [] : named.splice(at, 2);
const drafts = named.length > 0 ? named : ['draft4', 'draft6', 'draft7', 'draft2019-09', 'draft2020-12'];
const dialects = {
  draft4: 'http://json-schema.org/draft-04/schema#',
  draft6: 'http://json-schema.org/draft-06/schema#',
  draft7: 'http://json-schema.org/draft-07/schema#',
  'draft2019-09': 'https://json-schema.org/draft/2019-09/schema',
  'draft2020-12': 'https://json-schema.org/draft/2020-12/schema',
};

const folder = mkdtempSync(join(tmpdir(), 'suite-'));
for (const draft of drafts) {
  const suite = path(`tests/.suites/json-schema/${draft}`);
  let whole = 0;
  let untyped = 0;
  let remote = 0;
  const others = [];
  for (const file of readdirSync(suite)
    .filter((each) => each.endsWith('.json'))
    .sort()) {
    for (const group of parseJson({ name: file, bytes: readFileSync(join(suite, file)), firstLine: 1 }).root
      .items) {
      const schema = member(group, 'schema');
      const valid = member(group, 'tests').items.filter((test) => member(test, 'valid').value);
      if (valid.length === 0) continue;
      const description = member(group, 'description').value;
      const isNamed = schema.kind !== 'object' || member(schema, '$schema') !== undefined;
      const text = writeJson(schema);
      const dialect = `{"$schema":${JSON.stringify(dialects[draft])}${text === '{}' ? '' : ','}`;
      writeFileSync(join(folder, 's.json'), isNamed ? text : dialect + text.slice(1));
      writeFileSync(
        join(folder, 'p.ndjson'),
        valid.map((test) => `${writeJson(member(test, 'data'))}\n`).join(''),
      );
      const answer = check([
        's.json',
        'p.ndjson',
        '--language',
        languages,
        '--unknown',
        'keep',
        '--json',
        '--quiet',
      ]);
      const lost = answer.languages?.flatMap(({ language, state, reason, findings = [] }) =>
        state === 'checked'
          ? findings
              .filter(({ severity }) => severity === 'loss')
              .map(({ kind, pointer, cause }) => `${language}: ${kind} ${pointer || '(payload)'}: ${cause}`)
          : [`${language}: ${state}: ${reason}`],
      ) ?? [answer.error];
      if (lost.length === 0) whole++;
      // Classes are of what keywords speak of: of objects where there are properties.
      else if (lost.every((each) => /refused .*: expected (?:an object|a list), found/.test(each))) untyped++;
      else if (lost.every((each) => /leads to the network/.test(each))) remote++;
      else
        others.push(`${file}: ${description}\n${[...new Set(lost)].map((each) => `    ${each}`).join('\n')}`);
    }
  }
  console.log(
    `${draft}: the valid instances of ${whole} groups are whole; ${untyped} groups have some of another type than their keywords speak of, ${remote} want the network; ${others.length} others:`,
  );
  for (const each of others) console.log(`  ${each}`);
}
rmSync(folder, { recursive: true });

function check(args) {
  const options = { cwd: folder, encoding: 'utf8', stdio: 'pipe', maxBuffer: 1 << 28 };
  try {
    return JSON.parse(execFileSync('node', [path('dist/skevo.js'), 'check', ...args], options));
  } catch ({ stdout, stderr }) {
    return stdout ? JSON.parse(stdout) : { error: String(stderr).trim() };
  }
}

function member(object, name) {
  return object.members.find(({ key }) => key === name)?.value;
}
