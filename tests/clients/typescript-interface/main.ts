// An application over the payloads of the ferries: JSON.stringify writes what is read.
import { readFileSync } from 'node:fs';
import { isDeepStrictEqual } from 'node:util';
import {
  type ClosureNotice,
  type Comment,
  type Notice,
  parseNotice,
  parseSailingPage,
  readNotice,
  type SailingPageItem,
  stringify,
} from './sailings.ts';

const demo = process.argv[2] ?? '';
const said = (value: unknown) => JSON.stringify(value);

function late({ delay_minutes: delay }: SailingPageItem): string {
  if (delay === undefined) return 'on time';
  return delay === null ? 'some time' : `${delay.toString()} minutes late`;
}

function sailings(): void {
  const text = readFileSync(`${demo}/sailings/page-1.json`, 'utf8');
  const page = parseSailingPage(text);
  console.log(`page ${page.page.toString()} of ${page.pages.toString()}`);
  for (const sailing of page.results) {
    const gates = sailing.legs.flatMap(({ gate }) => (gate ? [gate] : []));
    console.log(`${sailing.code} ${late(sailing)}, gates ${gates.join(' ')}`);
  }
  const again = parseSailingPage(stringify(page));
  const [first] = page.results;
  if (first === undefined) throw new Error('no sailings');
  const changed: SailingPageItem = { ...first, delay_minutes: 3, remarks: null };
  console.log(changed.delay_minutes, said(changed.remarks));
  delete changed.delay_minutes;
  console.log('delay_minutes' in changed);
  console.log(isDeepStrictEqual(again, page));
  const vessels = new Set(page.results.map(({ vessel }) => vessel.id));
  console.log(`${vessels.size.toString()} vessels`);
}

function about(notice: Notice): string {
  switch (notice.kind) {
    case 'closure':
      return `${notice.berth} is closed${notice.until === null ? '' : ` until ${notice.until}`}`;
    case 'delay':
      return `${notice.sailing} is ${notice.minutes.toString()} late`;
    case 'weather':
      return `wind ${notice.wind.from} of ${notice.wind.force.toString()}`;
  }
}

function notices(): void {
  for (const number of ['1', '2', '3', '4']) {
    const text = readFileSync(`${demo}/notices/notice-${number}.json`, 'utf8');
    // As a response of fetch gives it.
    const notice = readNotice(JSON.parse(text));
    console.log(`${notice.title}: ${about(notice)}, ${notice.comments.length.toString()} comments`);
  }
}

function built(): void {
  const seen: Comment = { by: 'clerk a', at: '2031-05-01T08:00:00+01:00', text: 'Seen.', replies: [] };
  const notice: ClosureNotice = {
    kind: 'closure',
    id: 1,
    issued: '2031-05-01T07:30:00+01:00',
    title: 'Berth N2',
    berth: 'N2',
    until: null,
    comments: [seen],
    audience: 'crew',
  };
  const written = JSON.stringify(notice);
  const value = JSON.parse(written) as Record<string, unknown>;
  console.log([value['kind'], value['until'], value['audience']].map(said).join(' '));
  const again = parseNotice(written);
  console.log(isDeepStrictEqual(again, notice), new Set([notice.title, again.title]).size);
}

function refused(what: string, text: string): void {
  try {
    parseSailingPage(text);
    console.log(`${what}: decoded`);
  } catch (error) {
    console.log(`${what}: ${error instanceof Error && error.message !== '' ? 'refused' : 'silent'}`);
  }
}

sailings();
notices();
built();
refused('seq', '{"page":1,"pages":1,"next":null,"results":[{"id":1}]}');
refused('pages', '{"page":1,"pages":"one","next":null,"results":[]}');
refused('next', '{"page":1,"pages":1,"results":[]}');
refused('page', '{"page":1,"pages":1,"next":null,');
