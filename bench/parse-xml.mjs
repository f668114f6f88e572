/** The bare loop of the XML library: every element and text of a file, and nothing done with them. */
import { readFileSync } from 'node:fs';
import { SaxesParser } from 'saxes';

const parser = new SaxesParser({ position: true });
let parts = 0;
for (const event of ['opentag', 'text', 'closetag']) parser.on(event, () => parts++);
parser.write(readFileSync(process.argv[2], 'utf8')).close();
console.log(parts);
