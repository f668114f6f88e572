/**
 * Writes what the data of the languages says into docs/languages.md, between marks: the table of styles, the ways in
 * with their limits, and the same record of the demo in every language. With `--check`, fails instead when the page is
 * not current. Needs a build.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import prettier from 'prettier';
import { buildModel, languages, readSchema } from '../dist/index.js';

const page = 'docs/languages.md';
const marks = ['<!-- prettier-ignore-start -->', '<!-- prettier-ignore-end -->'];
const leg = {
  title: 'Leg',
  description: 'One crossing of a sailing.',
  type: 'object',
  properties: {
    seq: { type: 'integer', format: 'int32' },
    departs_at: { type: 'string', format: 'date-time' },
    remarks: { type: ['string', 'null'] },
    pier: { type: 'string' },
    gate: { type: ['string', 'null'] },
    class: { enum: ['foot', 'vehicle'] },
  },
  required: ['seq', 'departs_at', 'remarks', 'class'],
};
const bytes = new TextEncoder().encode(JSON.stringify(leg));
const model = buildModel(readSchema({ name: 'leg.schema.json', bytes, firstLine: 1 }));

/** The declaration of the record: from the line that names it to the line that closes it, with what belongs to it. */
function declaration(text, isIndented) {
  const lines = text.split('\n');
  const isHead = (line) =>
    /^\s*(\w+ )*(class|struct|record|interface) Leg\b(?![\w;])/.test(line) && !/^\s*(\/\/|#|\*)/.test(line);
  const isGo = (line) => /^type Leg struct/.test(line);
  const at = lines.findIndex((line) => isHead(line) || isGo(line));
  const indent = /^\s*/.exec(lines[at])[0];
  let from = at;
  while (from > 0 && /^\s*(\/\/|\/\*\*|\*|\*\/|@|#\[|\[|# )/.test(lines[from - 1])) from--;
  const closes = (line, i) =>
    i > at &&
    line.startsWith(indent) &&
    !line.startsWith(`${indent} `) &&
    /^\s*(\}|end|\))/.test(line) &&
    !line.trimEnd().endsWith('{');
  const to = isIndented
    ? lines.findIndex((line, i) => i > at && /^\S/.test(line)) - 1
    : lines.findIndex(closes);
  const own = lines.slice(from, to + 1);
  return own
    .map((line) => line.slice(indent.length))
    .join('\n')
    .trim();
}

const fences = { csharp: 'csharp', cpp: 'cpp' };
const parts = languages.flatMap((language) =>
  language.styles.map((style) => {
    const { files } = style.emit(model, { origin: 'leg.schema.json' });
    const file =
      files.find(({ path, text }) => /\bLeg\b/.test(path) && text.includes(' Leg')) ??
      files.find(({ text }) => /\bLeg\b/.test(text));
    return `### ${language.title}, ${style.name}\n\n\`\`\`${fences[language.name] ?? language.name}\n${declaration(file.text, language.name === 'python')}\n\`\`\``;
  }),
);
/** Rows as a table of Markdown. */
const table = (head, rows) =>
  [head, head.map(() => '---'), ...rows]
    .map((row) => `| ${row.map((cell) => cell.replaceAll('|', '\\|')).join(' | ')} |`)
    .join('\n');

const styles = languages.flatMap((language) =>
  language.styles.map((style) => {
    const tools = [...language.tools, ...(style.tools ?? [])];
    return [
      language.name,
      style.name,
      style.summary,
      tools.map(({ name, minimum }) => `${name} ${minimum}`).join(', '),
      [...new Set(tools.map(({ variable }) => `\`${variable}\``))].join(', '),
    ];
  }),
);
const ways = languages.flatMap((language) =>
  language.styles.flatMap((style) =>
    (style.ways ?? []).map(({ name, summary, limits = [] }, i) => [
      i === 0 ? `${language.name} ${style.name}` : '',
      `\`${name}\``,
      summary,
      limits.map(({ says }) => says).join('; '),
    ]),
  ),
);
const sections = {
  styles: table(['language', 'style', 'what is written', 'minimum', 'a program of your choice'], styles),
  ways: table(['language and style', 'way in', 'what it is', 'known limit'], ways),
};

const text = readFileSync(page, 'utf8');
const [head, rest] = text.split(marks[0]);
const tail = rest.split(marks[1])[1];
let made = `${head}${marks[0]}\n\n${parts.join('\n\n')}\n\n${marks[1]}${tail}`;
for (const [name, section] of Object.entries(sections)) {
  const [start, end] = [`<!-- ${name} -->`, `<!-- end of ${name} -->`];
  const [before, after] = [made.split(start)[0], made.split(end)[1]];
  if (after === undefined) throw new Error(`${page} has no marks for ${name}`);
  made = `${before}${start}\n\n${section}\n\n${end}${after}`;
}
made = await prettier.format(made, { ...(await prettier.resolveConfig(page)), parser: 'markdown' });
if (process.argv.includes('--check')) {
  if (made !== text) {
    console.error(`${page} is not current: run node scripts/language-records.mjs`);
    process.exit(1);
  }
} else writeFileSync(page, made);
