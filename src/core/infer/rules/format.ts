import type { DatesRule } from '../../model/dates.js';
import { formatsIn, nativeBit, type TextFormat } from '../../observe/text-format.js';
import { isName } from '../naming-keys.js';
import type { Rule } from '../rule.js';
import type { Said } from '../said.js';

/** Formats that text may have by chance need several texts, and long ones. */
const fewestByChance = 3;
const shortestBase64 = 24;

/**
 * A format that every string at a place has. One string without it is enough to remove it. What short words may be
 * by chance (base64, an IPv6 address) needs several strings or long ones; what points at something is never base64. Numbers in strings stay strings.
 */
export const format: Rule = {
  name: 'format',
  decide({ facts, key, said }) {
    const { strings, formats } = facts;
    if (strings === 0 || formats === 0 || said.has('format')) return undefined;
    const found = formatsIn(formats).find((each) =>
      isSure(each, strings, facts.shortest, facts.longest, key),
    );
    if (found === undefined) return undefined;
    const because = `${strings === 1 ? 'the only text is' : `all ${strings} texts are`} written as ${found === 'number' ? 'numbers' : names[found]}`;
    if (found === 'number')
      return {
        shape: {},
        decision: 'numbers in strings',
        because: `${because}; they stay strings`,
        first: facts.firstString,
      };
    const dates = datesOf(found, formats, said);
    return {
      shape: { format: found, ...(dates === undefined ? {} : { dates }) },
      decision: `${names[found].replace(/^an? /, '')}${dates === undefined ? '' : `, as ${dates}`}`,
      because: dates === undefined ? because : `${because}; ${whyDates(said)}`,
      first: facts.firstString,
      doubt: 0.5 / (strings + 1),
      otherwise: dates === 'text' && !said.has('dates') ? 'dates:native' : 'format:none',
    };
  },
};

/** What is to be said of a text for which languages have types, where it is not to be of them as it stands. */
function datesOf(found: TextFormat, formats: number, said: Said): DatesRule | undefined {
  if (!['date-time', 'date', 'uuid', 'base64'].includes(found)) return undefined;
  const decided = said.get('dates');
  if (decided !== undefined) return decided.value as DatesRule;
  return (formats & nativeBit) === 0 ? 'text' : undefined;
}

function whyDates(said: Said): string {
  return said.get('dates')?.source ?? 'one would come back changed from native types';
}

const names: Readonly<Record<Exclude<TextFormat, 'number'>, string>> = {
  'date-time': 'a date-time (RFC 3339)',
  date: 'a date (RFC 3339)',
  time: 'a time (RFC 3339)',
  duration: 'a duration (RFC 3339)',
  uuid: 'a UUID (RFC 9562)',
  uri: 'a URI (RFC 3986)',
  email: 'an e-mail address (RFC 5321)',
  ipv4: 'an IPv4 address',
  ipv6: 'an IPv6 address (RFC 4291)',
  base64: 'base64 (RFC 4648)',
  'uri-template': 'a URI template (RFC 6570)',
};

function isSure(
  found: TextFormat,
  strings: number,
  shortest: number,
  longest: number,
  key: readonly string[] | undefined,
): boolean {
  switch (found) {
    case 'base64':
      // Words of one case and of a multiple of four letters are no base64.
      if (isName(key?.at(-1) ?? '')) return false;
      return shortest >= 16 && longest >= shortestBase64 && (strings >= fewestByChance || shortest >= 64);
    case 'duration':
    case 'number':
      return strings >= fewestByChance;
    case 'ipv6':
      return strings >= fewestByChance || longest > 12;
    default:
      return true;
  }
}
