/**
 * How often inference decides as a careful engineer did. For each folder of `tests/audit` there are payloads, and in
 * `judged.yaml` what somebody judged of places: prints how many decisions of each kind are others, which payloads the
 * schema inferred from all refuses (there must be none), and how many the schema of the others refuses when each is
 * held out in turn (not with `--quick`). `node scripts/audit-inference.mjs [--quick] [folder...]`, after a build.
 *
 * A judgement is a place and what is there, any of: `record`, `map`, `union`; `choice` or `const` or `text`; a format;
 * a width; `nullable` or `never null`; `named X`; `anything`.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Ajv2020 } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import { parse } from 'yaml';
import { inferSchema, Observer, parsePlace, schemaToJson, writeJson } from '../dist/index.js';

const root = fileURLToPath(new URL('../tests/audit', import.meta.url));

/** Each kind of judgement: the words that it is made in. */
const kinds = {
  map: ['record', 'map'],
  union: ['union', 'one record'],
  choice: ['choice', 'const', 'text'],
  width: ['int32', 'double-int', 'int64'],
  format: ['date', 'date-time', 'uri', 'uri-template', 'email', 'ipv4', 'base64', 'no format'],
  null: ['nullable', 'never null', 'anything'],
};

function schemaOf(lines) {
  const observer = new Observer([], () => {});
  lines.forEach((text, i) =>
    observer.document({ name: `${i + 1}.json`, bytes: new TextEncoder().encode(text), firstLine: 1 }),
  );
  return JSON.parse(writeJson(schemaToJson(inferSchema(observer.observation, { name: 'Payload' }).schema)));
}

const arms = (schema) => schema.anyOf ?? schema.oneOf ?? [schema];

/** The schemas at a place, through references and alternatives, and the name of the type there. */
function at(whole, place) {
  const open = (schema) => {
    if (schema.$ref === undefined)
      return arms(schema).flatMap((arm) => (arm === schema ? [{ schema }] : open(arm)));
    const name = schema.$ref.split('/').at(-1);
    const target = schema.$ref === '#' ? whole : whole.$defs[name];
    return open(target).map((each) => ({ schema: each.schema, name, isArm: target.oneOf !== undefined }));
  };
  let here = open(whole);
  for (const step of parsePlace(place)) {
    here = here.flatMap(({ schema }) => {
      const next =
        step === 'every'
          ? [schema.items, schema.additionalProperties]
          : [schema.properties?.[step.key], schema.additionalProperties];
      const found = next.find((each) => typeof each === 'object');
      return found === undefined ? [] : open(found);
    });
  }
  return here;
}

/** What inference made of a place, in the words of judgements. */
function decidedAt(whole, place) {
  const here = at(whole, place);
  if (here.length === 0) return undefined;
  const all = here.map(({ schema }) => schema);
  const types = all.flatMap(({ type = [] }) => type);
  const records = all.filter(({ properties }) => properties !== undefined);
  const constants = new Set(all.map((each) => each.const).filter((value) => value !== undefined));
  const words = new Set();
  if (records.length > 0) words.add('record').add(new Set(records).size > 1 ? 'union' : 'one record');
  if (all.some(({ additionalProperties: values }) => typeof values === 'object')) words.add('map');
  // The words of a tag stand in the arms of its union.
  if (constants.size > 1 || all.some((each) => each.enum !== undefined)) words.add('choice');
  if (constants.size > 0) words.add('const');
  if (!words.has('choice') && !words.has('const') && types.includes('string')) words.add('text');
  for (const { format, contentEncoding, type } of all)
    if (format !== undefined || contentEncoding !== undefined || [type].flat().includes('string'))
      words.add(contentEncoding ?? format ?? 'no format');
  if (all.every((each) => Object.keys(each).length === 0)) words.add('anything');
  else words.add(types.includes('null') ? 'nullable' : 'never null');
  for (const { name } of here) if (name !== undefined) words.add(`named ${name}`);
  return words;
}

const kindOf = (word) =>
  word.startsWith('named ') ? 'name' : Object.keys(kinds).find((kind) => kinds[kind].includes(word));

/** What is judged of each place, and whether inference decided so. */
function audit(folder) {
  const lines = readFileSync(join(root, folder, 'payloads.ndjson'), 'utf8')
    .trim()
    .split('\n');
  const judged = parse(readFileSync(join(root, folder, 'judged.yaml'), 'utf8'));
  const schema = schemaOf(lines);
  const decisions = Object.entries(judged).flatMap(([place, said]) => {
    const found = decidedAt(schema, place);
    return said.split(', ').map((word) => {
      const kind = kindOf(word);
      if (kind === undefined)
        throw new Error(`${folder}: nobody judges ${place} to be ${JSON.stringify(word)}`);
      return {
        folder,
        place,
        kind,
        word,
        isRight: found?.has(word) === true,
        found: [...(found ?? [])].join(', '),
      };
    });
  });
  return { lines, schema, decisions };
}

function validator(schema) {
  const ajv = new Ajv2020({ strict: false, logger: false });
  addFormats.default(ajv);
  return ajv.compile(schema);
}

const folders = () => readdirSync(root).sort();

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const isQuick = process.argv[2] === '--quick';
  const asked = process.argv.slice(isQuick ? 3 : 2);
  const all = [];
  const refusals = [];
  for (const folder of asked.length > 0 ? asked : folders()) {
    const { lines, schema, decisions } = audit(folder);
    all.push(...decisions);
    const isMet = validator(schema);
    const unsound = lines.filter((line) => !isMet(JSON.parse(line))).length;
    const without = (i) => validator(schemaOf(lines.filter((_, k) => k !== i)));
    const held = isQuick ? '' : lines.filter((line, i) => !without(i)(JSON.parse(line))).length;
    refusals.push([folder, lines.length, unsound, held]);
  }
  for (const { folder, place, word, isRight, found } of all)
    if (!isRight) console.log(`${folder} ${place}: judged ${word}, decided ${found || 'nothing'}`);
  console.log('\n| decision | judged | other | share |\n| --- | --- | --- | --- |');
  for (const kind of [...Object.keys(kinds), 'name', 'all']) {
    const own = all.filter((each) => kind === 'all' || each.kind === kind);
    const wrong = own.filter(({ isRight }) => !isRight).length;
    console.log(
      `| ${kind} | ${own.length} | ${wrong} | ${((100 * wrong) / (own.length || 1)).toFixed(1)}% |`,
    );
  }
  console.log(
    '\n| payloads | all | refused by the schema of all | refused when held out |\n| --- | --- | --- | --- |',
  );
  for (const row of refusals) console.log(`| ${row.join(' | ')} |`);
}
