/** Payloads of about the size or number asked for, always the same. */
import { closeSync, openSync, writeSync } from 'node:fs';

const piers = ['North Pier', 'Lantern Quay', 'Gull Steps', 'Østhavn', 'Old Kelp Wharf'];
const vessels = ['Grey Heron', 'Måneskin', 'Petrel', 'Queen of Kelp', 'Sandpiper'];

/**
 * @param path a file of lines, or of one page when it ends in .json: then the sailings are under `results`
 */
export function writeSailings(path, megabytes) {
  const isPage = path.endsWith('.json');
  let seed = 20311;
  const next = (below) => {
    seed = (seed * 1103515245 + 12345) % 2147483648;
    return seed % below;
  };
  const file = openSync(path, 'w');
  let written = isPage ? writeSync(file, '{"page":1,"results":[') : 0;
  for (let n = 1; written < megabytes * 1e6;) {
    const lines = [];
    for (let i = 0; i < 2000; i++, n++) {
      const sailing = {
        id: 1000000 + n * 7919,
        code: `SF-${1000 + n}`,
        departs_at: `2031-05-${String(1 + next(28)).padStart(2, '0')}T${String(next(24)).padStart(2, '0')}:${String(next(60)).padStart(2, '0')}:00+01:00`,
        vessel: { id: `V0${next(5)}`, name: vessels[next(5)] },
        seats_free: next(240),
        load: next(100) / 100,
        cancelled: next(9) === 0,
        legs: Array.from({ length: 1 + next(3) }, (_, k) => ({
          seq: k + 1,
          from: piers[next(5)],
          to: piers[next(5)],
          minutes: 8 + next(50),
          ...(next(3) === 0 ? { gate: next(2) === 0 ? null : 'B' } : {}),
        })),
        tags: next(2) === 0 ? [] : ['night', 'quiet'].slice(next(2)),
        remarks: next(3) === 0 ? null : 'Boarding closes 5 minutes before departure; dogs on leads, please.',
        ...(next(3) === 0 ? { delay_minutes: next(40) } : {}),
      };
      lines.push(JSON.stringify(sailing));
    }
    if (isPage) written += writeSync(file, `${n > 2001 ? ',\n' : ''}${lines.join(',\n')}`);
    else written += writeSync(file, `${lines.join('\n')}\n`);
  }
  if (isPage) writeSync(file, '],"next":null}\n');
  closeSync(file);
}

/** One payload for each of the shapes in which cost might grow faster than what it holds. */
export const growing = {
  'different fields': (count) =>
    `{${Array.from({ length: count }, (_, i) => `"field ${words(i)}":${i}`).join(',')}}\n`.repeat(20),
  'keys of a map': (count) =>
    `{"readings":{${Array.from({ length: count }, (_, i) => `"SF-${1000 + i}":{"height":${i},"at":"2031-05-01"}`).join(',')}}}\n`,
  'shapes of a union': (count) =>
    Array.from(
      { length: count },
      (_, i) => `{"kind":"${words(i % 12)}","${words(i)}":1,"${words(i + 1)}":"x","id":${i}}\n`,
    )
      .join('')
      .repeat(10),
};

/** Different words for different numbers. */
function words(i) {
  let word = '';
  for (let rest = i + 26; rest > 0; rest = Math.floor(rest / 26))
    word += String.fromCharCode(97 + (rest % 26));
  return word;
}
