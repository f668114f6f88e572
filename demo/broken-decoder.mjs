/**
 * A decoder for sailings as people write them in a hurry, with four mistakes. It speaks the exchange protocol:
 * one payload a line comes in, and one line goes out for each.
 */
import { createInterface } from 'node:readline';

function decode(text) {
  const sailing = JSON.parse(text); // rounds the id, which is beyond 2^53
  return {
    ...sailing,
    departsAt: sailing.departs_at,
    delayMinutes: sailing.delay_minutes ?? null, // absent becomes null
  };
}

function encode(sailing) {
  const { departsAt, delayMinutes, departs_at, delay_minutes, replacement_for, ...rest } = sailing;
  // departs_at is written under its name in the code, and replacement_for is forgotten
  return JSON.stringify({ ...rest, departsAt, delay_minutes: delayMinutes });
}

for await (const line of createInterface({ input: process.stdin })) {
  console.log(encode(decode(line)));
}
