import { formatsIn, formatsOfText, textFormat } from '../../observe/text-format.js';
import type { Node } from '../graph.js';
import { kindsAt, type StructureRule } from './structure-rule.js';

/**
 * From this many keys on, values of one shape are a map even when every object has every key. Records or lists of
 * one shape under so many keys of one object are never fields; scalars may be.
 */
const manyKeys = 64;
const manyKeysOfObjects = 16;
/** Keys that vary from object to object: at least so many, and each in at most so large a share of the objects. */
const fewestVarying = 8;
const largestShare = 0.35;

/** Where new keys keep coming they are data, whatever is below them: so many were seen a few times only. */
const fewestObjects = 20;
const sparseShare = 0.05;
const rarely = 3;
const rareKeys = 0.25;
/** So many keys with values of one record type are a map. */
const manyKeysOfOneType = 5;

/** Formats that a key which names a field never has. */
export const dataFormats =
  textFormat['date-time'] |
  textFormat.date |
  textFormat.time |
  textFormat.uuid |
  textFormat.uri |
  textFormat.email |
  textFormat.ipv4 |
  textFormat.ipv6;

/**
 * Objects whose keys are data are maps. Keys are data when they all are dates, numbers, UUIDs, hosts, language tags,
 * countries or ids; or when there are many and the values have one shape; or when different objects have different ones.
 * Values of different kinds are only taken for those of a map when the keys could not be names.
 */
export const map: StructureRule = {
  name: 'map',
  decide(node) {
    const { edges, facts } = node;
    const first = facts.firstObject;
    if (node.values !== undefined)
      return {
        decision: 'a map',
        because: 'there are too many different keys to be fields',
        first,
        doubt: 0,
      };
    if (edges.size === 0) return undefined;
    const keys = [...edges.keys()];
    const written = kindOfKeys(
      keys,
      [...edges.values()].map((edge) => edge.node.self()),
    );
    if (written !== undefined) {
      const { kind, count } = written;
      const whose =
        keys.length === 1
          ? 'the only key is'
          : count < keys.length
            ? `${count} of ${keys.length} keys are each`
            : `every one of ${keys.length} keys is`;
      return {
        decision: `a map by ${kind}`,
        because: `${whose} ${article(kind)}`,
        first,
        doubt: 0.5 / (keys.length + 1),
      };
    }
    if (facts.objects >= fewestObjects && keys.length >= manyKeys) {
      const counts = [...edges.values()].map(({ present }) => present);
      const mean = counts.reduce((sum, count) => sum + count, 0) / (keys.length * facts.objects);
      const rare = counts.filter((count) => count <= rarely).length;
      if (mean <= sparseShare && rare >= rareKeys * keys.length) {
        return {
          decision: 'a map',
          because: `${keys.length} different keys, each in ${Math.max(1, Math.round(mean * 100))}% of ${facts.objects} objects, ${rare} of them ${rarely} times at most: new ones keep coming`,
          first,
          doubt: 0.25,
        };
      }
    }
    if (!haveOneShape([...edges.values()].map((edge) => edge.node.self()))) return undefined;
    const isOfObjects = [...edges.values()].every((edge) => edge.node.self().facts.objects > 0);
    if (keys.length >= (isOfObjects ? manyKeysOfObjects : manyKeys)) {
      return {
        decision: 'a map',
        because: `${keys.length} different keys with values of one shape`,
        first,
        doubt: 4 / keys.length,
      };
    }
    const [type, ...others] = new Set([...edges.values()].map((edge) => edge.node.self()));
    if (keys.length >= manyKeysOfOneType && isOfObjects && others.length === 0 && type!.edges.size > 0)
      return {
        decision: 'a map',
        because: `${keys.length} keys with values of one record type`,
        first,
        doubt: Math.min(1, 3 / keys.length),
      };
    const present = [...edges.values()].reduce((sum, edge) => sum + edge.present, 0);
    const share = present / (keys.length * facts.objects);
    if (facts.objects > 1 && keys.length >= fewestVarying && share <= largestShare) {
      return {
        decision: 'a map',
        because: `${keys.length} different keys with values of one shape, each in ${Math.round(share * 100)}% of ${facts.objects} objects`,
        first,
        doubt: Math.min(1, 4 / keys.length),
      };
    }
    return undefined;
  },
};

/** What keys are, when that is something no field is called, and how many of them. */
function kindOfKeys(
  keys: readonly string[],
  values: readonly Node[],
): { readonly kind: string; readonly count: number } | undefined {
  const kind = kindOfAll(keys, values);
  if (kind !== undefined) return { kind, count: keys.length };
  const paths = keys.filter((key) => /\w[/@]\w|^\.?\/\w/.test(key)).length;
  const count = paths + keys.filter((key) => /^\d/.test(key)).length;
  // One field may begin with a digit; none is called as a path.
  if (count * 2 > keys.length && (keys.length >= 2 || paths > 0))
    return { kind: 'path, time or amount', count };
  return areScopes(keys, values) ? { kind: 'scope', count: keys.length } : undefined;
}

const titles: Readonly<Partial<Record<string, string>>> = {
  uuid: 'UUID',
  uri: 'link',
  email: 'e-mail address',
  ipv4: 'IPv4 address',
  ipv6: 'IPv6 address',
};

function kindOfAll(keys: readonly string[], values: readonly Node[]): string | undefined {
  const formats = formatsIn(keys.reduce((mask, key) => mask & formatsOfText(key), dataFormats));
  if (formats.length > 0) return titles[formats[0]!] ?? formats[0];
  if (keys.every((key) => /^-?\d+(\.\d+)?$/.test(key))) return 'number';
  if (keys.every((key) => /^\d{4}-(0[1-9]|1[0-2])$|^\d{4}-W\d\d$|^\d{4}-Q[1-4]$/.test(key))) return 'period';
  if (keys.length >= 2 && keys.every((key) => /^[a-z]{2,3}[-_]([A-Z]{2}|[A-Z][a-z]{3}|\d{3})$/.test(key)))
    return 'language tag';
  // Two are enough where what they stand for is the same.
  const fewest = values.length >= 2 && areRecordsOfSameKeys(values) ? 2 : 3;
  if (keys.length >= fewest && keys.every((key) => languages.has(key) || /^[a-z]{2}-[A-Z]{2}$/.test(key)))
    return 'language';
  if (keys.length >= fewest && keys.every((key) => countries.has(key))) return 'country';
  if (keys.length >= 2 && keys.every((key) => /^(?=.*\d)(?=.*[a-f])[0-9a-f]{8,}$/i.test(key))) return 'id';
  if (keys.length >= 3 && keys.every((key) => /^[A-Za-z]{1,6}[-_]?\d{1,}$/.test(key)) && sameStem(keys))
    return 'id';
  if (keys.length >= 2 && keys.every((key) => /^(?:[a-z0-9](?:[a-z0-9-]*[a-z0-9])?\.)+[a-z]{2,}$/.test(key)))
    return 'host';
  return undefined;
}

function areScopes(keys: readonly string[], values: readonly Node[]): boolean {
  return (
    keys.length >= 2 &&
    keys.every((key) => /^[a-z]+:[a-z*.]+$/.test(key)) &&
    new Set(values.map(kindsAt)).size === 1 &&
    !isOneVocabulary(keys)
  );
}

/** Names of one vocabulary all have its prefix: `dc:title`, `dc:date`. */
function isOneVocabulary(keys: readonly string[]): boolean {
  return new Set(keys.map((key) => key.split(':')[0])).size === 1;
}

function areRecordsOfSameKeys(values: readonly Node[]): boolean {
  const signatures = values.map(({ edges }) => [...edges.keys()].sort().join('\n'));
  return signatures[0] !== '' && new Set(signatures).size === 1;
}

/** Ids count past ten or skip numbers; `line1`, `line2` and `line3` are fields. */
function sameStem(keys: readonly string[]): boolean {
  const numbers = keys.map((key) => Number(/\d+$/.exec(key)![0])).sort((a, b) => a - b);
  return (
    new Set(keys.map((key) => key.replace(/\d+$/, ''))).size === 1 &&
    numbers[numbers.length - 1]! > Math.max(10, keys.length + 1)
  );
}

function article(kind: string): string {
  return `${/^[aeio]/i.test(kind) ? 'an' : 'a'} ${kind}`;
}

/** A key of a value is common when so large a share of the values has it; most of what they hold must be. */
const commonShare = 0.04;
const mostlyCommon = 0.9;

/**
 * Whether values are of one kind and, when they are objects, of one shape: the mean object has at least half of all
 * keys or, where there are many, nearly everything in them stands under keys that many of them have. Linear in what
 * the values hold: pairs are not compared.
 */
export function haveOneShape(nodes: readonly Node[]): boolean {
  const kinds = new Set(nodes.map(kindsAt).filter((kind) => kind !== ''));
  if (kinds.size !== 1) return false;
  if (!kinds.has('object')) return true;
  const counts = new Map<string, number>();
  let total = 0;
  for (const node of nodes) {
    for (const key of node.edges.keys()) {
      counts.set(key, (counts.get(key) ?? 0) + 1);
      total++;
    }
  }
  if (counts.size === 0 || total / (counts.size * nodes.length) >= 0.5) return true;
  if (nodes.length < manyKeysOfObjects) return false;
  const least = Math.max(2, nodes.length * commonShare);
  const common = [...counts.values()]
    .filter((count) => count >= least)
    .reduce((sum, count) => sum + count, 0);
  return common / total >= mostlyCommon;
}

/** ISO 639-1, and of ISO 639-2 the codes of much-written languages that are no English words. */
const languages = new Set(
  'ara bre bul cat ces cym dan deu ell eng est eus fas fin fra gle glg heb hin hrv hun isl ita jpn kor lav lit mkd nld nor per pol por ron rus slk slv spa sqi srp swe tha tur ukr urd vie zho aa ab ae af ak am an ar as av ay az ba be bg bh bi bm bn bo br bs ca ce ch co cr cs cu cv cy da de dv dz ee el en eo es et eu fa ff fi fj fo fr fy ga gd gl gn gu gv ha he hi ho hr ht hu hy hz ia id ie ig ii ik io is it iu ja jv ka kg ki kj kk kl km kn ko kr ks ku kv kw ky la lb lg li ln lo lt lu lv mg mh mi mk ml mn mr ms mt my na nb nd ne ng nl nn no nr nv ny oc oj om or os pa pi pl ps pt qu rm rn ro ru rw sa sc sd se sg si sk sl sm sn so sq sr ss st su sv sw ta te tg th ti tk tl tn to tr ts tt tw ty ug uk ur uz ve vi vo wa wo xh yi yo za zh zu'.split(
    ' ',
  ),
);

/** ISO 3166-1, with the codes that the European Union and Kosovo use for themselves. */
const countries = new Set(
  'AD AE AF AG AI AL AM AO AQ AR AS AT AU AW AX AZ BA BB BD BE BF BG BH BI BJ BL BM BN BO BQ BR BS BT BV BW BY BZ CA CC CD CF CG CH CI CK CL CM CN CO CR CU CV CW CX CY CZ DE DJ DK DM DO DZ EC EE EG EH ER ES ET EU FI FJ FK FM FO FR GA GB GD GE GF GG GH GI GL GM GN GP GQ GR GS GT GU GW GY HK HM HN HR HT HU ID IE IL IM IN IO IQ IR IS IT JE JM JO JP KE KG KH KI KM KN KP KR KW KY KZ LA LB LC LI LK LR LS LT LU LV LY MA MC MD ME MF MG MH MK ML MM MN MO MP MQ MR MS MT MU MV MW MX MY MZ NA NC NE NF NG NI NL NO NP NR NU NZ OM PA PE PF PG PH PK PL PM PN PR PS PT PW PY QA RE RO RS RU RW SA SB SC SD SE SG SH SI SJ SK SL SM SN SO SR SS ST SV SX SY SZ TC TD TF TG TH TJ TK TL TM TN TO TR TT TV TW TZ UA UG UM US UY UZ VA VC VE VG VI VN VU WF WS XK YE YT ZA ZM ZW'.split(
    ' ',
  ),
);
