/** The measure of inference: a plain loop that only calls JSON.parse on each line. */
import { createReadStream } from 'node:fs';

let rest = Buffer.alloc(0);
let count = 0;
for await (const chunk of createReadStream(process.argv[2], { highWaterMark: 1 << 20 })) {
  const data = rest.length > 0 ? Buffer.concat([rest, chunk]) : chunk;
  let start = 0;
  for (let end = data.indexOf(0x0a); end >= 0; end = data.indexOf(0x0a, start)) {
    JSON.parse(data.toString('utf8', start, end));
    count++;
    start = end + 1;
  }
  rest = Buffer.from(data.subarray(start));
}
console.log(count);
