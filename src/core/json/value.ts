/**
 * A JSON value that has lost nothing of its text: numbers keep their digits, strings keep lone surrogates,
 * objects keep the order and the repetition of their members. `start` and `end` are byte offsets in the source.
 */
export type JsonValue = JsonNull | JsonBoolean | JsonNumber | JsonString | JsonList | JsonObject;

export interface Span {
  readonly start: number;
  readonly end: number;
}

export interface JsonNull extends Span {
  readonly kind: 'null';
}

export interface JsonBoolean extends Span {
  readonly kind: 'boolean';
  readonly value: boolean;
}

export interface JsonNumber extends Span {
  readonly kind: 'number';
  /** The number exactly as written, such as `1.0` or `12345678901234567890`. */
  readonly text: string;
}

export interface JsonString extends Span {
  readonly kind: 'string';
  readonly value: string;
}

export interface JsonList extends Span {
  readonly kind: 'list';
  readonly items: readonly JsonValue[];
}

export interface JsonObject extends Span {
  readonly kind: 'object';
  readonly members: readonly JsonMember[];
}

export interface JsonMember {
  readonly key: string;
  /** Byte offset of the opening quote of the key. */
  readonly keyStart: number;
  readonly value: JsonValue;
}

export type JsonKind = JsonValue['kind'];

const nowhere: Span = { start: 0, end: 0 };

/** Builders for values that come from no source; their spans are 0. */
export const json = {
  null: (): JsonNull => ({ kind: 'null', ...nowhere }),
  boolean: (value: boolean): JsonBoolean => ({ kind: 'boolean', value, ...nowhere }),
  /** @param text a number in JSON's own spelling */
  number: (text: string | number): JsonNumber => ({ kind: 'number', text: String(text), ...nowhere }),
  string: (value: string): JsonString => ({ kind: 'string', value, ...nowhere }),
  list: (items: readonly JsonValue[]): JsonList => ({ kind: 'list', items, ...nowhere }),
  /** Entries whose value is undefined are left out. */
  object: (entries: Iterable<readonly [string, JsonValue | undefined]>): JsonObject => ({
    kind: 'object',
    members: [...entries].flatMap(([key, value]) =>
      value === undefined ? [] : [{ key, keyStart: 0, value }],
    ),
    ...nowhere,
  }),
};

/** The value of the last member of that name, as almost every decoder reads it; undefined when there is none. */
export function member(object: JsonObject, key: string): JsonValue | undefined {
  for (let i = object.members.length - 1; i >= 0; i--) {
    const each = object.members[i]!;
    if (each.key === key) return each.value;
  }
  return undefined;
}

/** Members by key, the last of repeated ones, in the order in which the keys first came. */
export function membersByKey(object: JsonObject): Map<string, JsonMember> {
  return new Map(object.members.map((each) => [each.key, each]));
}
