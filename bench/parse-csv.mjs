/** The bare loop of the CSV library: every row of a file as texts, and nothing done with them. */
import { parse } from 'csv-parse';
import { createReadStream } from 'node:fs';

const parser = parse({ bom: true });
let rows = 0;
for await (const chunk of createReadStream(process.argv[2], { highWaterMark: 1 << 20 })) {
  parser.write(chunk);
  while (parser.read() !== null) rows++;
}
parser.end();
while (!parser.readableEnded) {
  await new Promise(setImmediate);
  while (parser.read() !== null) rows++;
}
console.log(rows);
