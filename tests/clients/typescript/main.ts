// An application over the payloads of the ferries, which calls the libraries as it does for its own classes.
import 'reflect-metadata';
import { readFileSync } from 'node:fs';
import { isDeepStrictEqual } from 'node:util';
import { instanceToPlain, plainToInstance } from 'class-transformer';
import { IsInt, validateSync } from 'class-validator';
import {
  As,
  ClosureNotice,
  Comment,
  DelayNotice,
  type Notice,
  parseNotice,
  parseSailingPage,
  readNotice,
  SailingPageItem,
  stringify,
} from './sailings.js';

const demo = process.argv[2] ?? '';
const said = (value: unknown) => JSON.stringify(value);

function late({ delayMinutes: delay }: SailingPageItem): string {
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
  const changed = new SailingPageItem({ ...first, delayMinutes: 3, remarks: null });
  const plain = instanceToPlain(changed);
  console.log(plain['delay_minutes'], said(plain['remarks']));
  delete changed.delayMinutes;
  console.log('delay_minutes' in JSON.parse(stringify(changed)));
  console.log(isDeepStrictEqual(again, page));
  const vessels = new Set(page.results.map(({ vessel }) => vessel.id));
  console.log(`${vessels.size.toString()} vessels`);
}

function about(notice: Notice): string {
  if (notice instanceof ClosureNotice)
    return `${notice.berth} is closed${notice.until === null ? '' : ` until ${notice.until}`}`;
  if (notice instanceof DelayNotice) return `${notice.sailing} is ${notice.minutes.toString()} late`;
  return `wind ${notice.wind.from} of ${notice.wind.force.toString()}`;
}

/** A class of the application's own. */
class Board {
  @IsInt()
  number!: number;

  @As(() => readNotice)
  notice!: Notice;
}

function notices(): void {
  for (const number of [1, 2, 3, 4]) {
    const text = readFileSync(`${demo}/notices/notice-${number.toString()}.json`, 'utf8');
    const board = plainToInstance(Board, { number, notice: JSON.parse(text) as unknown });
    if (validateSync(board).length > 0) throw new Error('the board is wrong');
    const { notice } = board;
    console.log(`${notice.title}: ${about(notice)}, ${notice.comments.length.toString()} comments`);
  }
}

function built(): void {
  const seen = new Comment({ by: 'clerk a', at: '2031-05-01T08:00:00+01:00', text: 'Seen.', replies: [] });
  const notice = new ClosureNotice({
    id: 1,
    issued: '2031-05-01T07:30:00+01:00',
    title: 'Berth N2',
    berth: 'N2',
    until: null,
    comments: [seen],
    audience: 'crew',
  });
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
