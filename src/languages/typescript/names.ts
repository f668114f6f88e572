import type { RecordType, RootType, Type, TypeModel } from '../../core/model/types.js';
import { typesIn } from '../../core/model/types.js';
import { allocate, camelCase, identifier, kebabCase, pascalCasing } from '../kit/names.js';

const keywords =
  'break case catch class const continue debugger default delete do else enum export extends false finally for function if import in instanceof new null return super switch this throw true try typeof var void while with as implements interface let package private protected public static yield any boolean constructor declare get module require number set string symbol type from of async await never object unknown bigint undefined';

const reservedTypes = new Set([
  ...keywords.split(' '),
  ...'Exact Plain PlainWithOthers Reflect Array BigInt Boolean Date Error Function JSON Map Math Number Object Promise Record RegExp Set String Symbol Readonly Partial Required Pick Omit Exclude Extract Buffer'.split(
    ' ',
  ),
  ...'DecodeError Decimal ClassConstructor Expose Transform Type ValidationError ValidateBy ValidateIf ValidateNested IsConverted ReadBy WrittenPlain'.split(
    ' ',
  ),
  ...'IsString IsBoolean IsInt IsNumber IsArray IsIn IsObject IsOptional'.split(' '),
]);

/** Every object has these already. */
export const inherited = Object.getOwnPropertyNames(Object.prototype);

export const reservedFields = new Set([...inherited, 'then']);

/** The identifiers of one generated file. */
export class Names {
  readonly types: ReadonlyMap<string, string>;
  readonly fields: ReadonlyMap<string, ReadonlyMap<string, string>>;

  constructor(private readonly model: TypeModel) {
    this.types = allocate(
      [...model.records, ...model.choices, ...model.unions].map(({ name }) => name),
      pascalCasing,
      reservedTypes,
    );
    this.fields = fieldNamesOf(model);
  }

  type(name: string): string {
    return this.types.get(name)!;
  }

  field(record: RecordType, key: string): string {
    return this.fields.get(record.name)!.get(key)!;
  }

  /** The list of a choice's values: `berthKinds`. */
  choices(name: string): string {
    return `${identifier(this.type(name), camelCase)}Values`;
  }

  get file(): string {
    return fileOf(this.model);
  }

  decode({ name }: Pick<RootType, 'name'>): string {
    return `decode${identifier(name, pascalCasing)}`;
  }

  encode({ name }: Pick<RootType, 'name'>): string {
    return `encode${identifier(name, pascalCasing)}`;
  }
}

/** The file of the types: `sailing-page.ts`. */
export function fileOf({ name }: Pick<TypeModel, 'name'>): string {
  return `${identifier(name, kebabCase)}.ts`;
}

/** What holds the fields of a record that the schema does not know. */
export function unknownField(taken: Iterable<string>): string {
  return allocate(['unknown'], camelCase, new Set([...reservedFields, ...taken])).get('unknown')!;
}

/**
 * The names of all fields. A field that tells an arm of a union from the others has a name that none of theirs has,
 * as its key has among the keys.
 */
function fieldNamesOf(model: TypeModel): Map<string, Map<string, string>> {
  const reserved = new Map(model.records.map(({ name }) => [name, new Set(reservedFields)]));
  const names = () =>
    new Map(model.records.map((record) => [record.name, fieldNames(record, reserved.get(record.name)!)]));
  // One at a time: two arms that take the same name must not make way for each other for ever.
  for (let found = names(); ; found = names()) {
    const clash = firstClash(model, found);
    if (clash === undefined) return found;
    reserved.get(clash.record)!.add(clash.name);
  }
}

/** A record with a field called like the one that tells another arm of its union. */
function firstClash(
  model: TypeModel,
  names: ReadonlyMap<string, ReadonlyMap<string, string>>,
): { record: string; name: string } | undefined {
  for (const { arms } of model.unions) {
    for (const { type, test } of arms) {
      if (type.kind !== 'record' || test.kind !== 'key') continue;
      const name = names.get(type.name)!.get(test.key)!;
      for (const { type: other } of arms) {
        if (other.kind !== 'record' || other.name === type.name) continue;
        if ([...names.get(other.name)!.values()].includes(name)) return { record: other.name, name };
      }
    }
  }
  return undefined;
}

function fieldNames(record: RecordType, reserved: ReadonlySet<string>): Map<string, string> {
  return allocate(
    record.fields.map(({ key }) => key),
    camelCase,
    reserved,
  );
}

/** Whether a double carries every value of the type. */
export function fitsDouble(type: Type): boolean {
  switch (type.kind) {
    case 'anything':
      return false;
    case 'number':
      return !type.exact;
    case 'integer':
      return type.width === 'int32' || type.width === 'double-int' || type.isUnstated === true;
    default:
      return true;
  }
}

/** Whether JSON.parse and JSON.stringify would lose digits that the model keeps. */
export function needsExact(model: TypeModel): boolean {
  return [...typesIn(model)].some((type) => !fitsDouble(type));
}
