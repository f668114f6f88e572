import { SkevoError } from '../../core/error.js';
import { formatPointer } from '../../core/json/pointer.js';
import { excerptOf } from '../../core/json/source.js';
import { membersByKey, type JsonObject, type JsonValue } from '../../core/json/value.js';
import { nearest } from '../../core/nearest.js';
import type { Document } from '../json/document.js';

const methods = ['get', 'put', 'post', 'delete', 'options', 'head', 'patch', 'trace', 'query'];

/** A schema of an answer of an operation. */
export interface AnswerPlace {
  /** The `operationId`, else the method and the path. */
  readonly operation: string;
  readonly method: string;
  /** Such as `/sailings/{id}`. */
  readonly path: string;
  /** Such as `200`, `2XX`, `default`. */
  readonly status: string;
  readonly pointer: string;
}

/**
 * Where the schema stands that a person asks for in an OpenAPI description.
 * @param asked what was written behind `#`: a JSON Pointer, the name of a schema, or an operation, with `:` and a status
 * @throws SkevoError with what there is, and the nearest
 */
export function pointerIn(
  document: Document,
  asked: string | undefined,
  path: string,
): { pointer: string; name: string | undefined } {
  const { root, source } = document;
  const fail = (message: string, remedy: string): never => {
    throw new SkevoError(message, remedy, excerptOf(source, root.start));
  };
  if (root.kind !== 'object' || membersByKey(root).has('swagger'))
    return fail('this is a description of OpenAPI 2, which is not read', 'Convert it to OpenAPI 3.');
  const schemas = membersByKey(objectAt(root, 'components', 'schemas'));
  const answers = answersIn(root);
  const operations = [...new Set(answers.map(({ operation }) => operation))];
  const all = [...schemas.keys(), ...operations];
  if (asked === undefined || asked === '') {
    const [first] = all;
    return fail(
      `this is an OpenAPI description: of it, one schema or one answer is asked for`,
      first === undefined
        ? 'There is nothing to make types of.'
        : `Say which, such as ${path}#${first}; there are ${all.slice(0, 8).join(', ')}${all.length > 8 ? ` and ${all.length - 8} more` : ''}.`,
    );
  }
  if (asked.startsWith('/')) return { pointer: asked, name: undefined };
  if (schemas.has(asked))
    return { pointer: formatPointer(['components', 'schemas', asked]), name: undefined };
  const [operation = '', status] = splitStatus(asked);
  const own = answers.filter(
    (each) => each.operation === operation || `${each.method} ${each.path}` === operation,
  );
  if (own.length > 0) {
    const found =
      status === undefined
        ? (own.find((each) => /^2/.test(each.status)) ?? own[0]!)
        : own.find((each) => each.status === status);
    if (found !== undefined) return { pointer: found.pointer, name: `${found.operation} answer` };
    return fail(
      `${operation} has no answer ${status} with a schema`,
      `There are ${own.map((each) => each.status).join(', ')}.`,
    );
  }
  const near = nearest(asked, all);
  return fail(
    `there is neither a schema nor an operation ${JSON.stringify(asked)} in this description`,
    near === undefined ? `There are ${all.slice(0, 8).join(', ')}.` : `Did you mean ${path}#${near}?`,
  );
}

/**
 * The place of the schema of an answer: of the operation whose path is the longest that a request's path ends with, and the
 * status, its hundred, or the default.
 */
export function answerTo(
  answers: readonly AnswerPlace[],
  { method, url, status }: { readonly method: string; readonly url: string; readonly status: number },
): AnswerPlace | undefined {
  const { pathname } = new URL(url);
  const own = answers.filter(
    (each) => each.method === method.toLowerCase() && patternOf(each.path).test(pathname),
  );
  const parts = (path: string) => path.split('/').length;
  const fixed = (path: string) => path.replace(/\{[^}]*\}/g, '').length;
  const [longest] = own.toSorted((a, b) => parts(b.path) - parts(a.path) || fixed(b.path) - fixed(a.path));
  const ofPath = own.filter(({ path }) => path === longest?.path);
  const asked = [String(status), `${String(status)[0]!}XX`, 'default'];
  return asked.flatMap((each) => ofPath.find((answer) => answer.status === each) ?? [])[0];
}

function patternOf(path: string): RegExp {
  const escaped = path.replace(/[.*+?^$()|[\]\\]/g, '\\$&').replace(/\{[^}]*\}/g, '[^/]+');
  return new RegExp(`${escaped}/?$`);
}

function splitStatus(asked: string): [string, string?] {
  const match = /^(.*):(\d{3}|\dXX|default)$/.exec(asked);
  return match === null ? [asked] : [match[1]!, match[2]!];
}

/** Every answer of every operation that has a schema of JSON. */
export function answersIn(root: JsonObject): AnswerPlace[] {
  const answers: AnswerPlace[] = [];
  for (const { key: path, value: item } of objectAt(root, 'paths').members) {
    if (item.kind !== 'object') continue;
    for (const method of methods) {
      const operation = membersByKey(item).get(method)?.value;
      if (operation?.kind !== 'object') continue;
      const id = membersByKey(operation).get('operationId')?.value;
      const name = id?.kind === 'string' ? id.value : `${method} ${path}`;
      for (const { key: status, value: response } of objectAt(operation, 'responses').members) {
        const own = ['paths', path, method, 'responses', status];
        const [target, tokens] = followed(root, response, own);
        const content = objectAt(target, 'content');
        const media = content.members.find(({ key }) => /[/+]json\b/i.test(key));
        if (media?.value.kind !== 'object' || !membersByKey(media.value).has('schema')) continue;
        answers.push({
          operation: name,
          method,
          path,
          status,
          pointer: formatPointer([...tokens, 'content', media.key, 'schema']),
        });
      }
    }
  }
  return answers;
}

/** A response, or the component that it refers to. */
function followed(
  root: JsonObject,
  response: JsonValue,
  tokens: readonly string[],
): [JsonValue, readonly string[]] {
  const reference = response.kind === 'object' ? membersByKey(response).get('$ref')?.value : undefined;
  const name =
    reference?.kind === 'string' ? /^#\/components\/responses\/(.+)$/.exec(reference.value)?.[1] : undefined;
  if (name === undefined) return [response, tokens];
  const found = membersByKey(objectAt(root, 'components', 'responses')).get(name)?.value;
  return found === undefined ? [response, tokens] : [found, ['components', 'responses', name]];
}

/** The object below keys; an empty one where there is none. */
function objectAt(value: JsonValue, ...keys: readonly string[]): JsonObject {
  let here: JsonValue | undefined = value;
  for (const key of keys) here = here?.kind === 'object' ? membersByKey(here).get(key)?.value : undefined;
  return here?.kind === 'object'
    ? here
    : { kind: 'object', members: [], start: value.start, end: value.start };
}
