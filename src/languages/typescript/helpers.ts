/** What generated TypeScript may need beside its types. Each is written only where something uses it. */
export interface Helper {
  readonly needs: readonly string[];
  readonly text: string;
}

/** In the order in which they are written, after everything else but `DecodeError` and `Decimal`. */
export const helpers: Readonly<Record<string, Helper>> = {
  DecodeError: {
    needs: ['describe'],
    text: `/** A payload does not have the declared shape. \`path\` is a JSON Pointer. */
export class DecodeError extends Error {
  override readonly name = "DecodeError";
  path = "";

  constructor(
    readonly expected: string,
    readonly found: unknown,
  ) {
    super(\`at the top: expected \${expected}, found \${describe(found)}\`);
  }

  /** The same error, seen from the object or list around it. */
  within(step: string | number): this {
    const token = String(step).replace(/~/g, "~0").replace(/\\//g, "~1");
    this.path = \`/\${token}\${this.path}\`;
    this.message = \`at \${this.path}: expected \${this.expected}, found \${describe(this.found)}\`;
    return this;
  }
}
`,
  },
  unknownFields: {
    needs: [],
    text: `/** Stands for a record's other fields in what class-transformer sees. */
const unknownFields = "unknown fields";
`,
  },
  Decimal: {
    needs: [],
    text: `/** A number with every digit it was written with. */
export class Decimal {
  constructor(readonly text: string) {}

  toNumber(): number {
    return Number(this.text);
  }

  toString(): string {
    return this.text;
  }
}
`,
  },
  describe: {
    needs: [],
    text: `function describe(value: unknown): string {
  if (value === undefined) return "nothing";
  if (Array.isArray(value)) return "a list";
  if (typeof value === "object" && value !== null) return "an object";
  const text =
    typeof value === "string" ? JSON.stringify(value) : String(value);
  return text.length <= 40 ? text : \`\${text.slice(0, 39)}…\`;
}
`,
  },
  asAnything: {
    needs: [],
    text: `function asAnything(value: unknown): unknown {
  return value;
}
`,
  },
  asNull: {
    needs: ['DecodeError'],
    text: `function asNull(value: unknown): null {
  if (value !== null) throw new DecodeError("null", value);
  return value;
}
`,
  },
  asBoolean: {
    needs: ['DecodeError'],
    text: `function asBoolean(value: unknown): boolean {
  if (typeof value !== "boolean") throw new DecodeError("true or false", value);
  return value;
}
`,
  },
  asString: {
    needs: ['DecodeError'],
    text: `function asString(value: unknown): string {
  if (typeof value !== "string") throw new DecodeError("a string", value);
  return value;
}
`,
  },
  asInteger: {
    needs: ['DecodeError'],
    text: `function asInteger(value: unknown): number {
  if (!Number.isInteger(value)) throw new DecodeError("an integer", value);
  return value as number;
}
`,
  },
  asBigInt: {
    needs: ['DecodeError'],
    text: `function asBigInt(value: unknown): bigint {
  if (typeof value === "bigint") return value;
  if (!Number.isInteger(value)) throw new DecodeError("an integer", value);
  return BigInt(value as number);
}
`,
  },
  asNumber: {
    needs: ['DecodeError'],
    text: `function asNumber(value: unknown): number {
  if (typeof value !== "number") throw new DecodeError("a number", value);
  return value;
}
`,
  },
  asDecimal: {
    needs: ['DecodeError', 'Decimal'],
    text: `function asDecimal(value: unknown): Decimal {
  if (value instanceof Decimal) return value;
  if (typeof value !== "number" && typeof value !== "bigint") {
    throw new DecodeError("a number", value);
  }
  return new Decimal(String(value));
}
`,
  },
  oneOf: {
    needs: ['DecodeError'],
    text: `function oneOf<T extends string>(choices: readonly T[]) {
  return (value: unknown): T => {
    const found = choices.find((choice) => choice === value);
    if (found !== undefined) return found;
    throw new DecodeError(\`one of \${JSON.stringify(choices)}\`, value);
  };
}
`,
  },
  orNull: {
    needs: [],
    text: `function orNull<T>(read: (value: unknown) => T) {
  return (value: unknown): T | null => (value === null ? null : read(value));
}
`,
  },
  listOf: {
    needs: ['at', 'DecodeError'],
    text: `function listOf<T>(read: (value: unknown) => T) {
  return (value: unknown): T[] => {
    if (!Array.isArray(value)) throw new DecodeError("a list", value);
    return value.map((item, index) => at(index, () => read(item)));
  };
}
`,
  },
  tupleOf: {
    needs: ['at', 'DecodeError'],
    text: `function tupleOf<T extends unknown[]>(
  ...readers: { [I in keyof T]: (value: unknown) => T[I] }
) {
  return (value: unknown): T => {
    if (!Array.isArray(value) || value.length !== readers.length) {
      throw new DecodeError(\`a list of \${readers.length}\`, value);
    }
    return readers.map((read, index) =>
      at(index, () => read(value[index])),
    ) as T;
  };
}
`,
  },
  hasTag: {
    needs: [],
    text: `function hasTag(value: unknown, key: string, tags: readonly string[]) {
  if (typeof value !== "object" || value === null) return false;
  if (!Object.hasOwn(value, key)) return false;
  const tag: unknown = Reflect.get(value, key);
  return typeof tag === "string" && tags.includes(tag);
}
`,
  },
  hasKey: {
    needs: [],
    text: `function hasKey(value: unknown, key: string): boolean {
  return (
    typeof value === "object" && value !== null && Object.hasOwn(value, key)
  );
}
`,
  },
  mapOf: {
    needs: ['at', 'asObject'],
    text: `function mapOf<T>(read: (value: unknown) => T) {
  return (value: unknown): Record<string, T> =>
    Object.fromEntries(
      Object.entries(asObject(value)).map(([key, item]) => [
        key,
        at(key, () => read(item)),
      ]),
    );
}
`,
  },
  mapValues: {
    needs: [],
    text: `function mapValues<T>(
  map: Record<string, T>,
  write: (value: T) => unknown,
): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(map).map(([key, item]) => [key, write(item)]),
  );
}
`,
  },
  bytesOf: {
    needs: [],
    text: `function bytesOf(base64: string): Uint8Array {
  const digits =
    "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
  const bytes: number[] = [];
  let held = 0;
  let bits = 0;
  for (const digit of base64.replace(/=+$/, "")) {
    held = ((held << 6) | digits.indexOf(digit)) & 0xffff;
    bits += 6;
    if (bits >= 8) bytes.push((held >> (bits -= 8)) & 0xff);
  }
  return Uint8Array.from(bytes);
}
`,
  },
  asObject: {
    needs: ['DecodeError'],
    text: `function asObject(value: unknown): Record<string, unknown> {
  if (typeof value !== "object" || value === null || Array.isArray(value)) {
    throw new DecodeError("an object", value);
  }
  return value as Record<string, unknown>;
}
`,
  },
  othersOf: {
    needs: [],
    text: `function othersOf(
  fields: Record<string, unknown>,
  ...known: readonly string[]
): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(fields).filter(([key]) => !known.includes(key)),
  );
}
`,
  },
  only: {
    needs: ['at', 'DecodeError'],
    text: `function only(
  fields: Record<string, unknown>,
  ...known: readonly string[]
): Record<string, unknown> {
  for (const [key, value] of Object.entries(fields)) {
    if (known.includes(key)) continue;
    at(key, () => {
      throw new DecodeError("no such field", value);
    });
  }
  return fields;
}
`,
  },
  onlyPlain: {
    needs: ['at', 'DecodeError', 'unguardKey'],
    text: `function onlyPlain(
  fields: Record<string, unknown>,
  ...known: readonly string[]
): Record<string, unknown> {
  for (const [key, value] of Object.entries(fields)) {
    if (known.includes(key)) continue;
    at(unguardKey(key), () => {
      throw new DecodeError("no such field", value);
    });
  }
  return fields;
}
`,
  },
  required: {
    needs: ['at', 'DecodeError'],
    text: `function required<T>(
  fields: Record<string, unknown>,
  key: string,
  read: (value: unknown) => T,
): T {
  return at(key, () => {
    if (Object.hasOwn(fields, key)) return read(fields[key]);
    throw new DecodeError("a value", undefined);
  });
}
`,
  },
  optional: {
    needs: ['at'],
    text: `function optional<T>(
  fields: Record<string, unknown>,
  key: string,
  read: (value: unknown) => T,
): T | undefined {
  return Object.hasOwn(fields, key)
    ? at(key, () => read(fields[key]))
    : undefined;
}
`,
  },
  at: {
    needs: ['DecodeError'],
    text: `function at<T>(step: string | number, read: () => T): T {
  try {
    return read();
  } catch (error) {
    throw error instanceof DecodeError ? error.within(step) : error;
  }
}
`,
  },
  markNumbers: {
    needs: [],
    text: `/** JSON text in which numbers that a double does not carry are strings that begin with U+0001. */
function markNumbers(text: string): string {
  const tokens =
    /("[^"\\\\]*(?:\\\\.[^"\\\\]*)*")(\\s*:)?|-?\\d+(?:\\.\\d+)?(?:[eE][+-]?\\d+)?/g;
  return text.replace(tokens, (token, string?: string, colon?: string) => {
    if (string !== undefined) {
      return colon === undefined && string.startsWith('"\\\\u0001')
        ? \`"\\\\u0001\${string.slice(1)}\`
        : token;
    }
    const double = Number(token);
    const carried = /^-?\\d+$/.test(token)
      ? Number.isSafeInteger(double)
      : String(double) === token || /^[-.\\d]{1,15}$/.test(token);
    return carried ? token : \`"\\\\u0001\${token}"\`;
  });
}
`,
  },
  parseExact: {
    needs: ['Decimal', 'markNumbers'],
    text: `/** JSON.parse, but integers and decimals that a double does not carry keep their digits. */
function parseExact(text: string): unknown {
  return JSON.parse(markNumbers(text), (_key, value: unknown) => {
    if (typeof value !== "string" || !value.startsWith("\\u0001")) return value;
    const rest = value.slice(1);
    if (rest.startsWith("\\u0001")) return rest;
    return /^-?\\d+$/.test(rest) ? BigInt(rest) : new Decimal(rest);
  });
}
`,
  },
  writeExact: {
    needs: ['Decimal'],
    text: `/** JSON.stringify, but with every digit of bigints and decimals. */
function writeExact(value: unknown): string {
  if (typeof value === "bigint") return String(value);
  if (value instanceof Decimal) return value.text;
  if (Array.isArray(value)) return \`[\${value.map(writeExact).join(",")}]\`;
  if (typeof value !== "object" || value === null) return JSON.stringify(value);
  const members = Object.entries(value).filter(
    ([, item]) => item !== undefined,
  );
  return \`{\${members
    .map(([key, item]) => \`\${JSON.stringify(key)}:\${writeExact(item)}\`)
    .join(",")}}\`;
}
`,
  },
  // For the class style, where class-transformer must neither see objects that it would rebuild nor keys that
  // it skips or finds on every object.
  parsePlain: {
    needs: ['guardKey', 'markNumbers'],
    text: `/**
 * JSON.parse into what class-transformer leaves alone: numbers that a double does not
 * carry become bigints and symbols, keys that every object inherits are guarded.
 */
function parsePlain(text: string): unknown {
  return JSON.parse(markNumbers(text), (_key, value: unknown) => {
    if (typeof value === "string" && value.startsWith("\\u0001")) {
      const rest = value.slice(1);
      if (rest.startsWith("\\u0001")) return rest;
      return /^-?\\d+$/.test(rest) ? BigInt(rest) : Symbol(rest);
    }
    if (typeof value !== "object" || value === null || Array.isArray(value)) {
      return value;
    }
    return Object.fromEntries(
      Object.entries(value).map(([key, item]) => [guardKey(key), item]),
    );
  });
}
`,
  },
  writePlain: {
    needs: ['unguardKey'],
    text: `/** The opposite of parsePlain. */
function writePlain(value: unknown): string {
  if (typeof value === "bigint") return String(value);
  if (typeof value === "symbol") return value.description ?? "null";
  if (Array.isArray(value)) return \`[\${value.map(writePlain).join(",")}]\`;
  if (typeof value !== "object" || value === null) return JSON.stringify(value);
  const members = Object.entries(value).filter(
    ([, item]) => item !== undefined,
  );
  return \`{\${members
    .map(
      ([key, item]) => \`\${JSON.stringify(unguardKey(key))}:\${writePlain(item)}\`,
    )
    .join(",")}}\`;
}
`,
  },
  writePlainWithOthers: {
    needs: ['unguardKey', 'unknownFields'],
    text: `/** The opposite of parsePlain. */
function writePlain(value: unknown): string {
  if (typeof value === "bigint") return String(value);
  if (typeof value === "symbol") return value.description ?? "null";
  if (Array.isArray(value)) return \`[\${value.map(writePlain).join(",")}]\`;
  if (typeof value !== "object" || value === null) return JSON.stringify(value);
  const { [unknownFields]: others, ...known } = value as Record<string, object>;
  const members = [...Object.entries(known), ...Object.entries(others ?? {})];
  return \`{\${members
    .filter(([, item]) => item !== undefined)
    .map(
      ([key, item]) => \`\${JSON.stringify(unguardKey(key))}:\${writePlain(item)}\`,
    )
    .join(",")}}\`;
}
`,
  },
  toPlain: {
    needs: ['Decimal', 'guardKey'],
    text: `/** A value as class-transformer leaves it alone. */
function toPlain(value: unknown): unknown {
  if (value instanceof Decimal) return Symbol(value.text);
  if (Array.isArray(value)) return value.map(toPlain);
  if (typeof value !== "object" || value === null) return value;
  if (Object.getPrototypeOf(value) !== Object.prototype) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, item]) => [guardKey(key), toPlain(item)]),
  );
}
`,
  },
  fromPlain: {
    needs: ['Decimal', 'unguardKey'],
    text: `/** The opposite of toPlain. */
function fromPlain(value: unknown): unknown {
  if (typeof value === "symbol") return new Decimal(value.description ?? "");
  if (Array.isArray(value)) return value.map(fromPlain);
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, item]) => [
      unguardKey(key),
      fromPlain(item),
    ]),
  );
}
`,
  },
  guardKey: {
    needs: ['isFragile'],
    text: `function guardKey(key: string): string {
  return isFragile(key) ? \`\\0\${key}\` : key;
}
`,
  },
  unguardKey: {
    needs: ['isFragile'],
    text: `function unguardKey(key: string): string {
  return key.startsWith("\\0") && isFragile(key) ? key.slice(1) : key;
}
`,
  },
  isFragile: {
    needs: [],
    text: `/** Whether class-transformer would pass over a key, or find it on every object. */
function isFragile(key: string): boolean {
  const bare = key.replace(/^\\0+/, "");
  return bare === "" || bare in Object.prototype;
}
`,
  },
  isFragileWithOthers: {
    needs: ['unknownFields'],
    text: `/** Whether class-transformer would pass over a key, or find it on every object. */
function isFragile(key: string): boolean {
  const bare = key.replace(/^\\0+/, "");
  return bare === "" || bare === unknownFields || bare in Object.prototype;
}
`,
  },
  asPlainNumber: {
    needs: ['DecodeError'],
    text: `function asPlainNumber(value: unknown): number {
  if (typeof value === "number") return value;
  if (typeof value === "bigint") return Number(value);
  if (typeof value === "symbol") return Number(value.description);
  throw new DecodeError("a number", value);
}
`,
  },
  asWideNumber: {
    needs: ['DecodeError', 'Decimal'],
    text: `function asWideNumber(value: unknown): number {
  if (typeof value === "number") return value;
  if (typeof value === "bigint") return Number(value);
  if (value instanceof Decimal) return value.toNumber();
  throw new DecodeError("a number", value);
}
`,
  },
  asPlainDecimal: {
    needs: ['DecodeError', 'Decimal'],
    text: `function asPlainDecimal(value: unknown): Decimal {
  if (typeof value === "symbol") return new Decimal(value.description ?? "");
  if (typeof value !== "number" && typeof value !== "bigint") {
    throw new DecodeError("a number", value);
  }
  return new Decimal(String(value));
}
`,
  },
  plainMapOf: {
    needs: ['at', 'asObject', 'unguardKey'],
    text: `function plainMapOf<T>(read: (value: unknown) => T) {
  return (value: unknown): Record<string, T> =>
    Object.fromEntries(
      Object.entries(asObject(value)).map(([key, item]) => [
        unguardKey(key),
        at(unguardKey(key), () => read(item)),
      ]),
    );
}
`,
  },
  toInstance: {
    needs: ['asObject', 'firstError'],
    text: `function toInstance<T extends object>(
  type: ClassConstructor<T>,
  value: unknown,
): T {
  const instance = plainToInstance(type, asObject(value), {
    excludeExtraneousValues: true,
    exposeUnsetFields: false,
  });
  const error = firstError(
    validateSync(instance, { forbidUnknownValues: false }),
  );
  if (error !== undefined) throw error;
  return instance;
}
`,
  },
  firstError: {
    needs: ['DecodeError'],
    text: `/** The first failed validation, with its place in the JSON. */
function firstError(
  errors: readonly ValidationError[],
): DecodeError | undefined {
  const [error] = errors;
  if (error === undefined) return undefined;
  const { keys } = error.target?.constructor as {
    keys?: Record<string, string>;
  };
  const key = keys?.[error.property] ?? error.property;
  const inner = firstError(error.children ?? []);
  if (inner !== undefined) return inner.within(key);
  if (error.value instanceof DecodeError) return error.value.within(key);
  const failed = Object.values(error.constraints ?? {}).join(" and ");
  const expected = failed.replace(/\\S+ must be /g, "");
  return new DecodeError(expected, error.value).within(key);
}
`,
  },
  ReadBy: {
    needs: ['DecodeError'],
    text: `/** Reads what class-transformer does not convert; a failure is kept for validation. */
function ReadBy(key: string, read: (value: unknown) => unknown) {
  const convert = (fields: Record<string, unknown>): unknown => {
    if (!Object.hasOwn(fields, key)) return undefined;
    try {
      return read(fields[key]);
    } catch (error) {
      if (error instanceof DecodeError) return error;
      throw error;
    }
  };
  return Transform(({ obj }) => convert(obj), { toClassOnly: true });
}
`,
  },
  WrittenPlain: {
    needs: ['toPlain'],
    text: `function WrittenPlain() {
  return Transform(({ value }) => toPlain(value), { toPlainOnly: true });
}
`,
  },
  IsConverted: {
    needs: ['DecodeError'],
    text: `function IsConverted(): PropertyDecorator {
  return ValidateBy({
    name: "isConverted",
    validator: {
      validate: (value: unknown) =>
        value !== undefined && !(value instanceof DecodeError),
      defaultMessage: () => "a value",
    },
  });
}
`,
  },
  Others: {
    needs: ['unguardKey', 'fromPlain', 'toPlain'],
    text: `/** Holds what a record has beside the fields that are known. */
function Others(...known: readonly string[]): PropertyDecorator {
  const read = (fields: object) =>
    Object.fromEntries(
      Object.entries(fields)
        .filter(([key]) => !known.includes(key))
        .map(([key, item]) => [unguardKey(key), fromPlain(item)]),
    );
  return (target, property) => {
    Transform(({ obj }) => read(obj), { toClassOnly: true })(target, property);
    Transform(({ value }) => toPlain(value), { toPlainOnly: true })(
      target,
      property,
    );
  };
}
`,
  },
};
