/**
 * Begins a language: writes the files of the walk-through in CONTRIBUTING.md under its name, and names it in the list.
 *
 *     node scripts/new-language.mjs NAME [ROOT]
 */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

const [name = '', root = '.'] = process.argv.slice(2);
if (!/^[a-z][a-z0-9]*$/.test(name)) {
  console.error('A language is called by small letters, such as: node scripts/new-language.mjs tally');
  process.exit(2);
}
const folder = join(root, 'src/languages', name);
if (existsSync(folder)) {
  console.error(`${folder} is there already.`);
  process.exit(2);
}

const renamed = (text) =>
  text
    .replaceAll('tally', name)
    .replaceAll('TALLY', name.toUpperCase())
    .replaceAll('Tally', name[0].toUpperCase() + name.slice(1));
const text = readFileSync(new URL('../CONTRIBUTING.md', import.meta.url), 'utf8');
for (const [, path, block] of text.matchAll(/^`(src\/\S+)`\n\n```\w+\n([\s\S]*?\n)```$/gm)) {
  const own = join(root, renamed(path));
  mkdirSync(dirname(own), { recursive: true });
  writeFileSync(own, renamed(block));
  console.log(`wrote ${own}`);
}

const list = join(root, 'src/languages/index.ts');
const before = readFileSync(list, 'utf8');
const after = `import { ${name} } from './${name}/index.js';\n${before.replace(/,\n\];/, `,\n  ${name},\n];`)}`;
writeFileSync(list, after);
console.log(`named it in ${list}; prettier puts the import in its place`);
