/** The bare loop of the CSV library, each row written as a line of JSON. */
import { createReadStream, createWriteStream } from 'node:fs';
import { once } from 'node:events';
import { parse } from 'csv-parse';

const out = createWriteStream('/dev/null');
const rows = createReadStream(process.argv[2]).pipe(parse({ bom: true, columns: true }));
for await (const row of rows) if (!out.write(`${JSON.stringify(row)}\n`)) await once(out, 'drain');
out.end();
