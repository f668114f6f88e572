import { formatsOfText } from '../../observe/text-format.js';
import { counted } from '../../words.js';
import type { Node, Rest } from '../graph.js';
import { dataFormats, haveOneShape } from './map.js';

/** So many keys of one kind beside others are data. */
const fewestKeys = 2;
/** So many keys that begin alike are data when records of one shape stand under them. */
const fewestOfStem = 5;

interface Found {
  readonly holds: Rest['holds'];
  /** Whether what stands under the fields is of the shape of the data too. */
  readonly isOfOneShape: boolean;
  readonly because: string;
  readonly doubt: number;
}

/** Kinds of keys that no field is called by. */
const kinds: readonly { readonly name: string; readonly is: (key: string) => boolean }[] = [
  { name: 'a number', is: (key) => /^-?\d+(\.\d+)?$/.test(key) },
  { name: 'a period', is: (key) => /^\d{4}-(0[1-9]|1[0-2])$|^\d{4}-W\d\d$|^\d{4}-Q[1-4]$/.test(key) },
  { name: 'a date, a UUID, an address or a link', is: (key) => (formatsOfText(key) & dataFormats) !== 0 },
  { name: 'a language tag', is: (key) => /^[a-z]{2,3}[-_]([A-Z]{2}|[A-Z][a-z]{3}|\d{3})$/.test(key) },
  { name: 'a path', is: (key) => /\w[/@]\w|^\.?\/\w/.test(key) },
];

/**
 * Records some of whose keys are data beside fields: years beside a name. Data are keys of a kind that names no field,
 * and keys that begin alike over records of one shape; what stands under them must be of one shape.
 */
export function restOf(node: Node): Found | undefined {
  const keys = [...node.edges.keys()];
  const valuesOf = (some: readonly string[]) => some.map((key) => node.edges.get(key)!.node.self());
  for (const { name, is } of kinds) {
    const data = keys.filter(is);
    if (data.length < fewestKeys || data.length === keys.length || !haveOneShape(valuesOf(data))) continue;
    return {
      holds: is,
      isOfOneShape: haveOneShape(valuesOf(keys)),
      because: `every one of ${data.length} keys beside ${counted(keys.length - data.length, 'field')} is ${name}`,
      doubt: 1 / data.length,
    };
  }
  for (const stem of stemsOf(keys)) {
    const is = (key: string) => key.startsWith(stem) && key.length > stem.length;
    const data = keys.filter(is);
    const values = valuesOf(data);
    const areRecords = values.every(({ edges, facts }) => edges.size > 1 && facts.objects > 0);
    if (data.length < fewestOfStem || data.length === keys.length || !areRecords || !haveOneShape(values))
      continue;
    return {
      holds: is,
      isOfOneShape: haveOneShape(valuesOf(keys)),
      because: `records of one shape stand under ${data.length} keys that begin with ${JSON.stringify(stem)}`,
      doubt: 2 / data.length,
    };
  }
  return undefined;
}

/** What keys begin with up to a sign between words, the longest first. */
function stemsOf(keys: readonly string[]): string[] {
  const stems = new Set(
    keys.flatMap((key) => [...key.matchAll(/[-_.:$]/g)].map(({ index }) => key.slice(0, index + 1))),
  );
  return [...stems].sort((a, b) => b.length - a.length || (a < b ? -1 : 1));
}
