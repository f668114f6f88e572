import { SkevoError } from '../core/error.js';
import { parseJson } from '../core/json/parse.js';
import { json, type JsonValue } from '../core/json/value.js';
import { documentsAt, type FormatName } from '../formats/format.js';

/** What a response is, as its type says and its bytes show. */
export interface Answer {
  readonly format: FormatName;
  /** The document; of several, a list of them. */
  readonly root: JsonValue;
}

/** A response of a format that payloads come in. @throws SkevoError that says what it is instead */
export async function parseAnswer(name: string, type: string, bytes: Uint8Array): Promise<Answer> {
  const text = new TextDecoder().decode(bytes.subarray(0, 2000)).trim();
  if (text === '')
    throw new SkevoError(`${name} answered with an empty body`, 'There is nothing to learn from it.');
  if (/^<(!doctype html|html|head|body|title)/i.test(text)) {
    const title = /<title[^>]*>([^<]*)/i.exec(text)?.[1]?.trim();
    throw new SkevoError(
      `${name} answered with an HTML page${title ? `: ${title}` : ''}`,
      'Is it an API? It may want a header, or another URL.',
    );
  }
  const format = formatOfType(type);
  if (format !== 'json') return { format, root: await documentOf(name, format, bytes) };
  try {
    return { format, root: parseJson({ name, bytes, firstLine: 1 }).root };
  } catch (error) {
    if (!(error instanceof SkevoError)) throw error;
    const said = type === '' ? '' : ` (${type.split(';')[0]!})`;
    throw new SkevoError(
      `${name} answered with what is not JSON${said}: ${error.message}`,
      error.remedy,
      error.place,
    );
  }
}

/** The format that a media type names; JSON for what names none. */
function formatOfType(type: string): FormatName {
  const [essence = ''] = type.toLowerCase().split(';');
  // A picture or a page is no payload.
  if (/[/+]xml$/.test(essence.trim()) && !/svg|xhtml/.test(essence)) return 'xml';
  if (/[/+](?:x-)?yaml$/.test(essence.trim())) return 'yaml';
  if (/\/csv$/.test(essence.trim())) return 'csv';
  if (/\/tab-separated-values$/.test(essence.trim())) return 'tsv';
  if (/[/+](?:cbor|cbor-seq)$/.test(essence.trim())) return 'cbor';
  if (/[/+.](?:x-)?msgpack$/.test(essence.trim())) return 'msgpack';
  return /^(?:avro\/binary|application\/(?:vnd\.apache\.)?avro)$/.test(essence.trim()) ? 'avro' : 'json';
}

async function documentOf(
  name: string,
  format: Exclude<FormatName, 'json'>,
  bytes: Uint8Array,
): Promise<JsonValue> {
  const sources = await documentsAt(format, name, bytes);
  const documents = sources.map((source) => parseJson(source).root);
  return documents.length === 1 ? documents[0]! : json.list(documents);
}
