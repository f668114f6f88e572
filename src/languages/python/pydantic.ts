import type { RecordType, TypeModel } from '../../core/model/types.js';
import { group, indent, join, line, softline, type Doc } from '../kit/layout.js';
import { snakeCase } from '../kit/names.js';
import type { Presence } from '../kit/presence.js';
import { spell, type TypeSpelling } from '../kit/spell.js';
import type { Emitted, EmitOptions, UnknownRule } from '../language.js';
import { beforeDefault, listed, marked, PythonEmitter, type Import, type RootOfBench } from './emit.js';
import { python } from './text.js';
import { reservedFields, reservedTypes } from './spelling.js';
import modelSupport from './support/model.py';
import timesSupport from './support/times.py';

const words = (text: string) => text.split(' ');

/** What every model of pydantic has, beside what begins with `model_`. */
const modelMembers = words(
  'copy dict json schema schema_json construct validate parse_obj parse_raw parse_file from_orm update_forward_refs register mro',
);

const ownTypes = words(
  'Annotated BaseModel ConfigDict Field GetPydanticSchema MISSING Model Moment Day Identifier Strict TypeAliasType UUID Host',
);

const reserved = {
  types: [...reservedTypes, ...ownTypes],
  fields: [...reservedFields, ...modelMembers],
  // A word more, where a name is taken: an underscore before a name would hide a field.
  fieldCasing: {
    ...snakeCase,
    join: (all: readonly string[]) =>
      snakeCase.join(all[0] === 'model' && all.length > 1 ? ['the', ...all] : all),
  },
};

/** Models that pydantic 2.14 decodes and encodes, Python 3.11 and later. */
export function emitPydantic(model: TypeModel, options: EmitOptions): Emitted {
  return new Emitter(model, options, reserved).emit();
}

export function rootOfPydantic(
  model: TypeModel,
  unknown: UnknownRule | undefined,
  root: number,
): RootOfBench {
  return new Emitter(model, { origin: '', unknown }, reserved).rootOf(root);
}

class Emitter extends PythonEmitter {
  protected readonly imported: readonly (readonly Import[])[] = [
    [
      ['datetime', 'date', 'datetime'],
      ['typing', 'Annotated', 'Any', 'Literal'],
      ['uuid', 'UUID'],
    ],
    [
      ['pydantic', 'MISSING', 'BaseModel', 'ConfigDict', 'Field', 'GetPydanticSchema', 'Strict'],
      ['pydantic_core', 'CoreSchema', 'core_schema'],
      ['typing_extensions', 'TypeAliasType'],
    ],
  ];

  protected ownSpelling(): Partial<TypeSpelling> {
    return {
      string: (form) =>
        form === 'date-time' ? 'Moment' : form === 'date' ? 'Day' : form === 'uuid' ? 'Identifier' : 'str',
      tuple: (items) => `Annotated[tuple[${items.join(', ')}], Strict(False)]`,
    };
  }

  protected support(text: string): string[] {
    const used = (name: string) => new RegExp(`\\b${name}\\b`).test(text);
    const extra =
      this.unknown === 'keep' ? 'extra="allow",' : this.unknown === 'reject' ? 'extra="forbid",' : '';
    const times = timesSupport.trim().split(/\n{2,}(?=\w)/);
    const natives = times.filter((part) => used(/^(\w+) =/.exec(part)?.[1] ?? 'none of them'));
    const helper = natives.length === 0 ? [] : [times[0]!];
    return [
      ...(used('Model')
        ? [modelSupport.trim().replace(/ *__extra__\n/, extra === '' ? '' : `        ${extra}\n`)]
        : []),
      ...helper,
      ...natives,
    ];
  }

  protected opening(name: string, base: string | undefined, record: RecordType | undefined): Doc {
    const extra = record?.others !== undefined && this.unknown !== 'keep' ? ', extra="allow"' : '';
    return `class ${name}(${base ?? 'Model'}${extra}):`;
  }

  protected others({ others }: RecordType): Doc[] {
    if (others === undefined) return [];
    return [`__pydantic_extra__: dict[str, ${spell(others, this.spelling)}]  # pyright: ignore`];
  }

  protected fieldType(type: string, presence: Presence): { type: string; initial?: string } {
    return marked(type, presence, 'MISSING', 'MISSING');
  }

  protected declared(name: string, key: string, type: Doc, initial: Doc | undefined): Doc {
    const annotation: Doc =
      name === key
        ? beforeDefault(type, initial)
        : annotated(type, [group(['Field(', indent([softline, `alias=${python(key)}`]), softline, ')'])]);
    return [`${name}: `, annotation, ...(initial === undefined ? [] : [' = ', initial])];
  }

  protected taggedType(arms: readonly string[], field: string): Doc {
    return annotated(group(join([line, '| '], [...arms])), [`Field(discriminator=${python(field)})`]);
  }

  protected override recursive(name: string, type: string): Doc {
    return `${name} = TypeAliasType(${python(name)}, ${python(type)})`;
  }
}

function annotated(type: Doc, more: readonly Doc[]): Doc {
  return ['Annotated[', listed([type, ...more]), ']'];
}
