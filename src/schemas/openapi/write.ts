import { json, type JsonObject, type JsonValue } from '../../core/json/value.js';
import { schemaToJson, type Schema } from '../../core/schema/schema.js';

/** A schema, with all that it refers to, as the components of an OpenAPI 3.1 description without operations. */
export function describedAsOpenApi(schema: Schema): JsonObject {
  const name = componentName(schema.title ?? 'Payload');
  const names = new Map([['#', name]]);
  const taken = new Set([name]);
  for (const key of schema.$defs?.keys() ?? []) {
    const base = componentName(key);
    let own = base;
    for (let i = 2; taken.has(own); i++) own = `${base}${i}`;
    taken.add(own);
    names.set(`#/$defs/${key.replace(/~/g, '~0').replace(/\//g, '~1')}`, own);
  }
  const moved = (each: Schema): JsonValue => withReferences(schemaToJson(each), names);
  const root = { ...schema, $schema: undefined, $defs: undefined } as unknown as Schema;
  return json.object([
    ['openapi', json.string('3.1.0')],
    [
      'info',
      json.object([
        ['title', json.string(name)],
        ['version', json.string('1')],
      ]),
    ],
    ['paths', json.object([])],
    [
      'components',
      json.object([
        [
          'schemas',
          json.object([
            [name, moved(root)],
            ...[...(schema.$defs ?? [])].map(([key, each]): [string, JsonValue] => [
              names.get(`#/$defs/${key.replace(/~/g, '~0').replace(/\//g, '~1')}`)!,
              moved(each),
            ]),
          ]),
        ],
      ]),
    ],
  ]);
}

/** OpenAPI 3.1, section 4.8.7: names of components have these signs alone. */
function componentName(name: string): string {
  return name.replace(/[^A-Za-z0-9._-]+/g, '_') || 'Payload';
}

function withReferences(value: JsonValue, names: ReadonlyMap<string, string>): JsonValue {
  if (value.kind === 'list')
    return { ...value, items: value.items.map((each) => withReferences(each, names)) };
  if (value.kind !== 'object') return value;
  return {
    ...value,
    members: value.members.map((each) => {
      const { key, value: inner } = each;
      const name = key === '$ref' && inner.kind === 'string' ? names.get(inner.value) : undefined;
      return {
        ...each,
        value:
          name === undefined ? withReferences(inner, names) : json.string(`#/components/schemas/${name}`),
      };
    }),
  };
}
