import { needsDigits, typesIn, type RecordType, type TypeModel } from '../../core/model/types.js';
import { listedIntegers } from '../kit/listed.js';
import { group, indent, lines, softline, type Doc } from '../kit/layout.js';
import { snakeCase } from '../kit/names.js';
import type { Presence } from '../kit/presence.js';
import { spell, type TypeSpelling } from '../kit/spell.js';
import { fill } from '../kit/template.js';
import type { Emitted, EmitOptions, UnknownRule } from '../language.js';
import {
  beforeDefault,
  call,
  either,
  functionNames,
  marked,
  PythonEmitter,
  type Import,
  type RootOfBench,
} from './emit.js';
import { python } from './text.js';
import { reservedFields, reservedTypes } from './spelling.js';
import payloadSupport from './support/payload.py';

const words = (text: string) => text.split(' ');

const ownTypes = words(
  'ABSENT Enum Final ForwardRef Host MISSING Mapping NamedTuple NoneType OpenPayload Payload PayloadError Self TypeAlias TypeError RecursionError KeyError Exception UUID UnionType',
);

/** Words between underscores that are Python's, and no holes. */
const ownWords = Object.fromEntries(
  [...payloadSupport.matchAll(/__([a-z_]+?)__/g)].map(([all, name]) => [name!, all]),
);

const reserved = {
  types: [...reservedTypes, ...ownTypes],
  fields: [...reservedFields, ...words('bytes dt extra field from_json to_json tuple')],
  fieldCasing: snakeCase,
};

/** Frozen dataclasses for Python 3.11 and later, read by their annotations, with the standard library alone. */
export function emitDataclasses(model: TypeModel, options: EmitOptions): Emitted {
  return new Emitter(model, options, reserved).emit();
}

export function rootOfDataclass(
  model: TypeModel,
  unknown: UnknownRule | undefined,
  root: number,
): RootOfBench {
  return new Emitter(model, { origin: '', unknown }, reserved).rootOf(root);
}

class Emitter extends PythonEmitter {
  protected readonly imported: readonly (readonly Import[])[] = [
    [
      ['base64'],
      ['datetime as dt'],
      ['json'],
      ['re'],
      ['collections.abc', 'Callable', 'Mapping'],
      ['dataclasses', 'MISSING', 'dataclass', 'field', 'fields'],
      ['decimal', 'Decimal'],
      ['enum', 'Enum'],
      ['functools', 'cache', 'partial'],
      ['itertools', 'chain'],
      ['math', 'isfinite'],
      ['operator', 'attrgetter'],
      ['secrets', 'token_hex'],
      ['types', 'NoneType', 'UnionType'],
      [
        'typing',
        ...words(
          'Any Final ForwardRef Literal NamedTuple Self TypeAlias Union get_args get_origin get_type_hints',
        ),
      ],
      ['uuid', 'UUID'],
    ],
  ];

  protected ownSpelling(): Partial<TypeSpelling> {
    return {
      string: (form) => (form === undefined ? 'str' : natives[form]),
      number: (exact) => (exact ? 'Decimal' : 'float'),
      list: (items) => `tuple[${items}, ...]`,
      map: (values) => `Mapping[str, ${values}]`,
    };
  }

  protected support(text: string): readonly string[] {
    return [this.parts(text)[0]];
  }

  protected override behind(text: string): readonly string[] {
    return [this.parts(text)[1]];
  }

  /** What stands before the types and behind them. */
  private parts(text: string): [string, string] {
    const { model, unknown } = this;
    const types = [...typesIn(model)];
    const has = (...kinds: readonly string[]) => types.some(({ kind }) => kinds.includes(kind));
    const forms = new Set(types.flatMap((type) => (type.kind === 'string' ? [type.form] : [])));
    const decimals = types.some((type) => type.kind === 'number' && type.exact);
    const tests = model.unions.flatMap(({ arms }) => arms.map(({ test }) => test.kind));
    const typed = model.records.some(({ others }) => others !== undefined);
    const records = model.records.length > 0;
    const open = typed || (records && unknown === 'keep');
    const alike = tests.some((kind) => kind !== 'json');
    const reject = records && unknown === 'reject';
    const support = fill(
      payloadSupport,
      {
        ...ownWords,
        absent: /\bABSENT\b/.test(text),
        alike,
        bytes: forms.has('base64'),
        days: forms.has('date'),
        decimals,
        digits: needsDigits(model, false) || (records && unknown === 'keep'),
        keyed: tests.includes('key'),
        keys: open || reject || alike,
        listed: types.some((type) => listedIntegers(type) !== undefined),
        open,
        records,
        recursive: text.includes(': TypeAlias ='),
        reject,
        tagged: tests.includes('tag'),
        times: forms.has('date-time'),
        tuples: has('tuple'),
        typed,
        uuids: forms.has('uuid'),
        words: has('choice', 'literal') || tests.includes('tag'),
      },
      '#',
    );
    const [before, after] = support.split('#-\n');
    return [before!.trim(), after!.trim()];
  }

  protected opening(name: string, base: string | undefined, record: RecordType | undefined): Doc {
    const own = this.unknown === 'keep' || record?.others !== undefined ? 'OpenPayload' : 'Payload';
    return lines('@dataclass(frozen=True, kw_only=True, slots=True)', `class ${name}(${base ?? own}):`);
  }

  protected others({ others }: RecordType): Doc[] {
    if (others === undefined) return [];
    const type = spell(others, this.spelling);
    // What runs with the class may name what comes later only as text.
    const isLate = /\b(?!Any\b|Decimal\b|UUID\b|None\b)[^\W\d_a-z]/.test(type);
    return [
      [
        `extra: Mapping[str, ${type}] = `,
        call('field', [`default_factory=dict[str, ${isLate ? python(type) : type}]`]),
      ],
    ];
  }

  protected fieldType(type: string, presence: Presence): { type: string; initial?: string } {
    switch (presence) {
      case 'optional':
        if (type === 'Any') return { type, initial: 'ABSENT' };
        return type === 'None'
          ? { type: 'None | Absent', initial: 'ABSENT' }
          : { type: `${type} | None`, initial: 'None' };
      default:
        return marked(type, presence, 'Absent', 'ABSENT');
    }
  }

  protected declared(name: string, key: string, type: Doc, initial: Doc | undefined): Doc {
    const value =
      name === key
        ? initial
        : call('field', [
            ...(initial === undefined ? [] : [['default=', initial]]),
            group(['metadata={', indent([softline, `"key": ${python(key)}`]), softline, '}']),
          ]);
    const annotation = name === key ? beforeDefault(type, initial) : type;
    return [`${name}: `, annotation, ...(value === undefined ? [] : [' = ', value])];
  }

  protected taggedType(arms: readonly string[]): Doc {
    return either(arms);
  }

  protected override functions(root: number): Doc[] {
    const payload = this.model.roots[root]!;
    if (payload.type.kind === 'record') return [];
    const Root = this.rootNames[root]!;
    const { from_json, to_json } = functionNames(payload);
    const reads = signature(from_json, 'text: str | bytes', Root);
    const writes = signature(to_json, `payload: ${Root}`, 'str');
    return [
      lines(reads, `    payload: ${Root} = read(${Root}, text)`, '    return payload'),
      lines(writes, '    return write(payload)'),
    ];
  }
}

/** The type of a form of text. */
const natives = { 'date-time': 'dt.datetime', date: 'dt.date', uuid: 'UUID', base64: 'bytes' } as const;

function signature(name: string, parameter: string, result: string): Doc {
  return [`def ${name}`, group(['(', indent([softline, parameter]), softline, `) -> ${result}:`])];
}
