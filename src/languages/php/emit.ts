import {
  isOpenChoice,
  needsDigits,
  type ChoiceType,
  type RecordField,
  type RecordType,
  type RootType,
  type Type,
  type TypeModel,
  type UnionArm,
  type UnionType,
} from '../../core/model/types.js';
import { byJsonType } from '../kit/by-json-type.js';
import { ModelNames } from '../kit/model-names.js';
import { allocate, camelCase, identifier, pascalCasing, screamingCase } from '../kit/names.js';
import { unionsToldByWord, type TaggedUnion, type ToldUnions } from '../kit/plan.js';
import { hasNullState } from '../kit/presence.js';
import { spell } from '../kit/spell.js';
import { Support } from '../kit/support.js';
import { fill } from '../kit/template.js';
import { proseOf, proseWithMark } from '../kit/text.js';
import type { Emitted, EmitOptions, GeneratedFile, UnknownRule } from '../language.js';
import { reservedFields, reservedTypes } from './spelling.js';
import { docblock, php, tagged } from './text.js';
import absentSupport from './support/Absent.php';
import exactSupport from './support/ExactJson.php';
import invalidSupport from './support/InvalidPayload.php';
import numberSupport from './support/Number.php';
import readerSupport from './support/JsonReader.php';
import timeSupport from './support/Rfc3339.php';

const pascal = { ...pascalCasing, caseless: true } as const;

export function namespaceName(model: TypeModel, options: Pick<EmitOptions, 'package'> = {}): string {
  if (options.package !== undefined) return options.package;
  const name = identifier(model.name, pascalCasing);
  return reservedTypes.has(name.toLowerCase()) ? `${name}Payload` : name;
}

/** Readonly classes, PHP 8.2 and later; one file a class, as autoloaders want it. */
export function emitPhp(model: TypeModel, options: EmitOptions): Emitted {
  return new Emitter(model, options).emit();
}

/** What the program of the bench needs to know of a payload. */
export interface RootOfBench {
  /** The class that reads it. */
  readonly Root: string;
  /** Whether it is an object of that class, not a list or a text. */
  readonly isOwn: boolean;
  readonly record: boolean;
  readonly digits: boolean;
  readonly keys: readonly string[];
  /** Its fields, with what says that a field is there where that is asked of another. */
  readonly fields: readonly { readonly name: string; readonly has: string | undefined }[];
  readonly extra: boolean;
}

export function rootOfPhp(
  model: TypeModel,
  options: Pick<EmitOptions, 'package' | 'unknown'>,
  root: number,
): RootOfBench {
  return new Emitter(model, { origin: '', ...options }).rootOf(root);
}

/** A field as its class has it. */
interface Field {
  readonly key: string;
  readonly name: string;
  /** What says whether it is there, where absent and null differ. */
  readonly has: string | undefined;
  readonly field: RecordField;
}

class Emitter {
  private readonly unknown: UnknownRule;
  private readonly names: ModelNames;
  private readonly tagged: ToldUnions['tagged'];
  private readonly inUnion: ToldUnions['inUnion'];
  /** Classes that read payloads which are no objects of a class of their own. */
  private readonly facades: readonly string[];
  private readonly digits: boolean;

  constructor(
    private readonly model: TypeModel,
    private readonly options: EmitOptions,
  ) {
    this.unknown = options.unknown ?? 'drop';
    this.names = new ModelNames(model, {
      type: pascal,
      field: camelCase,
      reservedTypes,
      reservedFields: new Set([...reservedFields, 'extra']),
    });
    ({ tagged: this.tagged, inUnion: this.inUnion } = unionsToldByWord(model, ({ arms }) => arms.length > 1));
    const taken = new Set([...reservedTypes, ...this.names.all()]);
    this.facades = model.roots.map(({ name, type }) => {
      if (this.isOwn(type)) return this.names.type((type as { name: string }).name);
      const own = allocate([name], { ...pascal, reservedSuffix: 'Payload' }, taken).get(name)!;
      taken.add(own);
      return own;
    });
    this.digits = needsDigits(model, true) || (this.unknown === 'keep' && model.records.length > 0);
  }

  /** Whether values of a type are objects of a class that reads and writes itself. */
  private isOwn(type: Type): boolean {
    return type.kind === 'record' || (type.kind === 'union' && this.tagged.has(type.name));
  }

  rootOf(root: number): RootOfBench {
    const { type } = this.model.roots[root]!;
    const record = type.kind === 'record' ? this.recordOf(type.name) : undefined;
    const fields = record === undefined ? [] : this.fieldsOf(record);
    return {
      Root: this.facades[root]!,
      isOwn: this.isOwn(type),
      record: record !== undefined && (fields.length > 0 || this.isOpen(record)),
      digits: this.digits,
      keys: fields.map(({ key }) => key),
      fields: fields.map(({ name, has }) => ({ name, has })),
      extra: record !== undefined && this.isOpen(record),
    };
  }

  emit(): Emitted {
    const { model } = this;
    const sealed = model.unions.filter(({ name }) => this.tagged.has(name));
    const others = model.unions.filter((union) => !sealed.includes(union));
    // Abstract classes first, for whoever loads the files in this order.
    const own: [string, string][] = [
      ...sealed.map((each): [string, string] => [this.names.type(each.name), this.sealed(each)]),
      ...model.records.map((each): [string, string] => [this.names.type(each.name), this.record(each)]),
      ...model.choices.map((each): [string, string] => [this.names.type(each.name), this.choice(each)]),
      ...others.map((each): [string, string] => [this.names.type(each.name), this.union(each)]),
      ...model.roots.flatMap((each, i): [string, string][] =>
        this.isOwn(each.type) ? [] : [[this.facades[i]!, this.facade(each, i)]],
      ),
    ];
    const code = own.map(([, text]) => text);
    return {
      files: [...own, ...this.support(code)].map(([name, text]) => this.file(name, text)),
      names: new Map(
        [...this.names.emitted()].map(([name, each]) => {
          const inside = this.inUnion.get(name);
          if (inside?.words.length !== 1) return [name, each];
          // What is said by the class itself is asked of it.
          return [
            name,
            { ...each, fields: new Map(each.fields).set(inside.tagged.key, `${this.kindName(inside)}()`) },
          ];
        }),
      ),
    };
  }

  private support(code: readonly string[]): [string, string][] {
    const between = /\n\n(?= {4}(?:\/\*\*|public|private))/;
    const whole = fill(readerSupport, { ...magic(readerSupport), digits: this.digits });
    const [head, ...methods] = whole.replace(/\n\}\s*$/, '').split(between);
    const used = new Support(methods.join('\n\n'), {
      between,
      declares: /function (\w+)\(/g,
      notCode: /\/\*\*[\s\S]*?\*\/|'(?:[^'\\]|\\.)*'|"(?:[^"\\{]|\\.|\{(?!\$))*"/g,
      // Types and words of the language are called as some methods are.
      notNames: /(?<!->|::)\b\w+/g,
    }).usedBy(code);
    const reader = [head!, ...used].join('\n\n');
    const all = [...code, reader].join('\n');
    const uses = (name: string) => new RegExp(`\\b${name}\\b`).test(all);
    return [
      ['JsonReader', `${reader}\n}`],
      ['InvalidPayload', invalidSupport.trim()],
      ...(uses('Absent') ? [['Absent', absentSupport.trim()] as [string, string]] : []),
      ...(uses('Rfc3339') ? [['Rfc3339', timeSupport.trim()] as [string, string]] : []),
      ...(this.digits
        ? ([
            ['Number', numberSupport.trim()],
            ['ExactJson', exactSupport.trim()],
          ] as [string, string][])
        : []),
    ];
  }

  private file(name: string, text: string): GeneratedFile {
    const code = text.replace(/'(?:[^'\\\n]|\\.)*'|"(?:[^"\\\n]|\\.)*"/g, "''");
    const imports = [
      'BackedEnum',
      'DateTimeImmutable',
      'DateTimeInterface',
      'JsonException',
      'JsonSerializable',
      'stdClass',
      'Stringable',
    ];
    const used = imports.filter((each) => new RegExp(`(?<![\\\\\\w$])${each}\\b`).test(code));
    const head = [
      '<?php',
      '',
      ...docblock(`Generated by Skevo from ${this.options.origin}; edit that and generate again.`, ''),
      '',
      'declare(strict_types=1);',
      '',
      `namespace ${namespaceName(this.model, this.options)};`,
      ...(used.length === 0 ? [] : ['', ...used.map((each) => `use ${each};`)]),
    ];
    return { path: `${name}.php`, text: `${head.join('\n')}\n\n${text}\n` };
  }

  private record(record: RecordType): string {
    const type = this.names.type(record.name);
    const inside = this.inUnion.get(record.name);
    const shared = new Set(inside?.tagged.shared.map(({ key }) => key));
    const words = inside?.words ?? [];
    const constant = words.length === 1 ? inside!.tagged.key : undefined;
    const all = this.fieldsOf(record);
    const own = all.filter(({ key }) => !shared.has(key));
    const extends_ = inside === undefined ? '' : ` extends ${this.names.type(inside.union.name)}`;
    const isRoot = this.model.roots.some(
      ({ type: root }) => root.kind === 'record' && root.name === record.name,
    );
    const open = this.isOpen(record);
    const reads = all.map((each) => `            ${each.name}: ${this.readField(each)},`);
    if (open) {
      const known = record.fields.map(({ key }) => `, ${php(key)}`).join('');
      const others = record.others ?? { kind: 'anything' };
      reads.push(`            extra: $json->others(${this.callback(others, '$json')}${known}),`);
    }
    const refusal =
      this.unknown === 'reject' && !open
        ? [`        $json->only(${record.fields.map(({ key }) => php(key)).join(', ')});`]
        : [];
    const check =
      constant === undefined ? [] : [`        $json->oneOf(${php(constant)}, ${php(words[0]!)});`];
    const before = [...check, ...refusal];
    const hasArguments = reads.length > 0;
    return [
      ...docblock(proseWithMark(record, '@deprecated no longer to be used'), ''),
      `final readonly class ${type}${extends_}${inside === undefined ? ' implements JsonSerializable' : ''}`,
      '{',
      ...[
        this.constructorOf(
          own,
          all.filter(({ key }) => shared.has(key)),
          open ? record : undefined,
        ),
        ...(isRoot ? [this.fromJson('self', 'self::read(', "->object(''))")] : []),
        [
          `    public static function read(JsonReader $json): self`,
          '    {',
          ...before,
          ...(before.length > 0 ? [''] : []),
          ...(hasArguments
            ? ['        return new self(', ...reads, '        );']
            : ['        return new self();']),
          '    }',
        ],
        ...(constant === undefined
          ? []
          : [
              [
                `    public function ${this.kindName(inside!)}(): string`,
                '    {',
                `        return ${php(words[0]!)};`,
                '    }',
              ],
            ]),
        ...(hasArguments ? [this.with(all)] : []),
        ...(isRoot && this.digits ? [this.toJson('$this')] : []),
        this.serialize(all, constant === undefined ? [] : [`${php(constant)} => ${php(words[0]!)},`], record),
      ]
        .filter((part) => part.length > 0)
        .flatMap((part, i) => (i === 0 ? part : ['', ...part])),
      '}',
    ].join('\n');
  }

  /** The fields of a class, those that must be given first, without the word that the class says itself. */
  private fieldsOf(record: RecordType): Field[] {
    const inside = this.inUnion.get(record.name);
    const fields = record.fields.filter(({ key }) => inside?.words.length !== 1 || key !== inside.tagged.key);
    const taken = new Set(fields.map(({ key }) => this.names.field(record.name, key)));
    const all = fields.map((field): Field => {
      const name = this.names.field(record.name, field.key);
      if (field.required || !canBeNull(field)) return { key: field.key, name, has: undefined, field };
      const has = allocate([`has ${name}`], camelCase, taken).get(`has ${name}`)!;
      taken.add(has);
      return { key: field.key, name, has, field };
    });
    return [...all.filter(({ field }) => field.required), ...all.filter(({ field }) => !field.required)];
  }

  private constructorOf(
    own: readonly Field[],
    shared: readonly Field[],
    open: RecordType | undefined,
  ): string[] {
    if (own.length + shared.length === 0 && open === undefined) return [];
    const given = [...shared, ...own];
    const inOrder = [
      ...given.filter(({ field }) => field.required),
      ...given.filter(({ field }) => !field.required),
    ];
    const parameter = (each: Field): string => {
      const { name, has, field } = each;
      const isOwn = own.includes(each);
      if (has !== undefined) return `        ${this.union3(field)} $${name} = Absent::Value,`;
      const type = this.fieldText(field);
      return `        ${isOwn ? 'public ' : ''}${type} $${name}${field.required ? '' : ' = null'},`;
    };
    const threefold = own.filter(({ has }) => has !== undefined);
    const docs = [
      ...inOrder.flatMap((each) => this.parameterDoc(each)),
      ...(open === undefined
        ? []
        : [
            `@param array<${open.others === undefined ? 'mixed' : this.documented(open.others)}> $extra the fields that the schema does not name`,
          ]),
    ];
    const parameters = [
      ...inOrder.map(parameter),
      ...(open === undefined ? [] : ['        public array $extra = [],']),
    ];
    const body = [
      ...(shared.length === 0
        ? []
        : [`        parent::__construct(${shared.map(({ name }) => `$${name}`).join(', ')});`]),
      ...threefold.flatMap(({ name, has }) => [
        `        $this->${name} = $${name} instanceof Absent ? null : $${name};`,
        `        $this->${has!} = !$${name} instanceof Absent;`,
      ]),
    ];
    return [
      ...threefold.flatMap(({ name, has, field }) => [
        `    public ${this.nullableText(field)} $${name};`,
        `    public bool $${has!};`,
      ]),
      ...(threefold.length > 0 ? [''] : []),
      ...(docs.length === 0 ? [] : tagged('', docs, '    ')),
      '    public function __construct(',
      ...parameters,
      '    ) {',
      ...body,
      '    }',
    ];
  }

  private parameterDoc({ name, has, field }: Field): string[] {
    const parts = [proseOf(field), field.deprecated ? 'Deprecated.' : undefined].filter(Boolean);
    const base = this.documented(field.type);
    const type = [
      base,
      ...(hasNullState(field) || (!field.required && has === undefined && base !== 'mixed') ? ['null'] : []),
      ...(has === undefined ? [] : ['Absent']),
    ].join('|');
    const choice = openIn(this.model, field.type);
    if (choice !== undefined) parts.push(`see ${this.names.type(choice)}`);
    if (parts.length === 0 && !/[<{]/.test(type)) return [];
    return [`@param ${type} $${name}${parts.map((part) => ` ${part!.replace(/\s+/g, ' ')}`).join('')}`];
  }

  private fromJson(result: string, before: string, after: string): string[] {
    const decoded = this.digits
      ? 'ExactJson::decode($json)'
      : 'json_decode($json, flags: JSON_THROW_ON_ERROR)';
    return [
      '    /** @throws JsonException where $json is not JSON, or not of this shape */',
      `    public static function fromJson(string $json): ${result}`,
      '    {',
      `        return ${before}JsonReader::of(${decoded})${after};`,
      '    }',
    ];
  }

  private toJson(value: string): string[] {
    return [
      '    /** Writes every digit, where json_encode() throws at a Number. */',
      '    public function toJson(): string',
      '    {',
      `        return ExactJson::encode(${value});`,
      '    }',
    ];
  }

  private with(fields: readonly Field[]): string[] {
    const threefold = fields.filter(({ has }) => has !== undefined);
    const head = [
      '    /** A copy with the named fields changed. */',
      '    public function with(mixed ...$changes): self',
      '    {',
    ];
    if (threefold.length === 0)
      return [...head, '        return new self(...$changes + get_object_vars($this));', '    }'];
    return [
      ...head,
      '        $fields = get_object_vars($this);',
      ...threefold.map(
        ({ name, has }) => `        $fields[${php(name)}] = $this->${has!} ? $this->${name} : Absent::Value;`,
      ),
      `        unset(${threefold.map(({ has }) => `$fields[${php(has!)}]`).join(', ')});`,
      '',
      '        return new self(...$changes + $fields);',
      '    }',
    ];
  }

  private serialize(fields: readonly Field[], first: readonly string[], record: RecordType): string[] {
    const entry = ({ key, name, field }: Field) =>
      `${php(key)} => ${this.written(hasNullState(field) ? { kind: 'nullable', of: field.type } : field.type, `$this->${name}`)},`;
    const always = fields.filter(({ field }) => field.required);
    const optional = fields.filter(({ field }) => !field.required);
    const entries = [...first, ...always.map(entry)].map((line) => `            ${line}`);
    const literal = entries.length === 0 ? '[]' : `[\n${entries.join('\n')}\n        ]`;
    const others =
      record.others === undefined
        ? '$this->extra'
        : this.written({ kind: 'map', values: record.others }, '$this->extra', true);
    const whole = (value: string) => (this.isOpen(record) ? `(${value} + ${others})` : value);
    const head = ['    public function jsonSerialize(): object', '    {'];
    if (optional.length === 0) return [...head, `        return (object) ${whole(literal)};`, '    }'];
    return [
      ...head,
      `        $fields = ${literal};`,
      ...optional.flatMap((each) => {
        const { key, name, has, field } = each;
        const type: Type = hasNullState(field) ? { kind: 'nullable', of: field.type } : field.type;
        return [
          `        if (${has === undefined ? `$this->${name} !== null` : `$this->${has}`}) {`,
          `            $fields[${php(key)}] = ${this.written(type, `$this->${name}`)};`,
          '        }',
        ];
      }),
      '',
      `        return (object) ${whole('$fields')};`,
      '    }',
    ];
  }

  /** A union of records told apart by a word: an abstract class of what all have. */
  private sealed(union: UnionType): string {
    const { key, shared, arms } = this.tagged.get(union.name)!;
    const record = arms[0]!.record;
    const keys = new Set(shared.map((field) => field.key));
    const fields = this.fieldsOf(record).filter((each) => keys.has(each.key));
    const types = arms.map(({ record: arm }) => this.names.type(arm.name)).join('|');
    const isRoot = this.model.roots.some(({ type }) => type.kind === 'union' && type.name === union.name);
    const hasKinds = arms.every(({ words }) => words.length === 1);
    const all = arms.flatMap(({ words }) => words);
    return [
      ...tagged(
        proseWithMark(union, '@deprecated no longer to be used') || `Told apart by its ${key}.`,
        [`@phpstan-sealed ${types}`, `@psalm-inheritors ${types}`],
        '',
      ),
      `abstract readonly class ${this.names.type(union.name)} implements JsonSerializable`,
      '{',
      ...[
        this.constructorOf(fields, [], undefined),
        ...(isRoot ? [this.fromJson('self', 'static::read(', "->object(''))")] : []),
        [
          '    public static function read(JsonReader $json): self',
          '    {',
          `        return match ($json->string(${php(key)})) {`,
          ...arms.map(
            ({ record: arm, words }) =>
              `            ${words.map(php).join(', ')} => ${this.names.type(arm.name)}::read($json),`,
          ),
          `            default => throw $json->isNot(${php(all.join(', '))}, ${php(key)}),`,
          '        };',
          '    }',
        ],
        ...(hasKinds
          ? [
              [
                `    abstract public function ${this.kindName({ tagged: this.tagged.get(union.name)! })}(): string;`,
              ],
            ]
          : []),
        [
          '    /** A copy with the named fields changed. */',
          '    abstract public function with(mixed ...$changes): self;',
        ],
        ...(isRoot && this.digits ? [this.toJson('$this')] : []),
      ]
        .filter((part) => part.length > 0)
        .flatMap((part, i) => (i === 0 ? part : ['', ...part])),
      '}',
    ].join('\n');
  }

  /** What gives the word that a class is told by. */
  private kindName({ tagged }: { readonly tagged: TaggedUnion }): string {
    const taken = new Set(['read', 'with', 'toJson', 'fromJson', 'jsonSerialize']);
    return allocate([tagged.key], camelCase, taken).get(tagged.key)!;
  }

  /** What reads, and where it must writes, a value that is one of several types of PHP. */
  private union(union: UnionType): string {
    const own: Type = { kind: 'union', name: union.name };
    const objects = union.arms.filter(({ test }) => test.kind !== 'json');
    const kinds = union.arms
      .filter(({ test }) => test.kind === 'json')
      .map(({ type }) => {
        const kind = byJsonType(type, {
          boolean: 'boolean',
          string: 'string',
          number: 'number',
          list: 'list',
          object: 'object',
        });
        return `            '${kind}' => ${this.readArm(union, type)},`;
      });
    const whole = objects.length === union.arms.length;
    const expected = [
      ...(objects.length > 0 ? ['an object'] : []),
      ...kinds
        .map((line) => /'(\w+)'/.exec(line)![1]!)
        .map((kind) => (/^[aeiou]/.test(kind) ? `an ${kind}` : `a ${kind}`)),
    ];
    const told = objects.length === 0 ? [] : this.toldApart(objects, whole);
    const writes = this.written(own, '$value') === '$value' ? [] : this.writer(union);
    return [
      ...docblock([proseOf(union) ?? 'One of several types.', '@internal'].join('\n\n'), ''),
      `final class ${this.names.type(union.name)}`,
      '{',
      ...[
        ...(whole
          ? []
          : [
              [
                ...this.returns(own),
                `    public static function read(JsonReader $json, int|string $key): ${this.typeText(own)}`,
                '    {',
                '        return match ($json->kind($key)) {',
                ...kinds,
                ...(objects.length > 0 ? ["            'object' => self::record($json, $key),"] : []),
                `            default => throw $json->isNot(${php(expected.join(' or '))}, $key),`,
                '        };',
                '    }',
              ],
            ]),
        ...(told.length === 0 ? [] : [told]),
        ...(writes.length === 0 ? [] : [writes]),
      ].flatMap((part, i) => (i === 0 ? part : ['', ...part])),
      '}',
    ].join('\n');
  }

  private returns(type: Type): string[] {
    const text = this.documented(type);
    return /[<{]/.test(text) ? docblock(`@return ${text}`, '    ') : [];
  }

  /** What reads one of several records. */
  private toldApart(arms: readonly UnionArm[], whole: boolean): string[] {
    const type = this.joined(arms.flatMap(({ type: each }) => this.parts(each)));
    const [first] = arms;
    const key = first!.test.kind === 'tag' ? first!.test.key : undefined;
    const read = ({ type: each }: UnionArm) =>
      `${this.names.type((each as { name: string }).name)}::read($record)`;
    const words = (arm: UnionArm) => (arm.test.kind === 'tag' ? arm.test.values : []);
    const cases =
      key === undefined
        ? arms.map(
            (arm) => `            $record->has(${php((arm.test as { key: string }).key)}) => ${read(arm)},`,
          )
        : arms.map((arm) => `            ${words(arm).map(php).join(', ')} => ${read(arm)},`);
    const otherwise =
      key === undefined
        ? `$json->isNot(${php(`an object with ${arms.map((arm) => (arm.test as { key: string }).key).join(' or ')}`)}, $key)`
        : `$record->isNot(${php(arms.flatMap(words).join(', '))}, ${php(key)})`;
    return [
      `    ${whole ? 'public' : 'private'} static function ${whole ? 'read' : 'record'}(JsonReader $json, int|string $key): ${type}`,
      '    {',
      '        $record = $json->object($key);',
      '',
      `        return match (${key === undefined ? 'true' : `$record->string(${php(key)})`}) {`,
      ...cases,
      `            default => throw ${otherwise},`,
      '        };',
      '    }',
    ];
  }

  /** How an alternative is read: a map is an object where lists are alternatives too, since both are arrays. */
  private readArm(union: UnionType, type: Type): string {
    const read = this.read(type, '$json', '$key');
    return type.kind === 'map' && hasList(union) ? `(object) ${read}` : read;
  }

  private writer(union: UnionType): string[] {
    const type = this.joined(union.arms.flatMap(({ type: each }) => this.armParts(union, each)));
    const cases = union.arms.flatMap(({ type: each }) => {
      if (each.kind === 'map' && hasList(union))
        return [`            $value instanceof stdClass => ${this.written(each, '(array) $value')},`];
      const written = this.written(each, '$value');
      if (written === '$value') return [];
      return [`            is_array($value) => ${written},`];
    });
    return [
      `    public static function write(${type} $value): mixed`,
      '    {',
      '        return match (true) {',
      ...cases,
      '            default => $value,',
      '        };',
      '    }',
    ];
  }

  /** A payload that is no object of a class: what reads and writes it. */
  private facade(root: RootType, i: number): string {
    const { type } = root;
    const text = this.typeText(type);
    const encoded = this.digits
      ? `ExactJson::encode(${this.written(type, '$payload')})`
      : `json_encode(${this.written(type, '$payload')}, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION)`;
    const detailed = this.documented(type);
    const read = this.read(type, '$root', "''");
    const decoded = this.digits
      ? 'ExactJson::decode($json)'
      : 'json_decode($json, flags: JSON_THROW_ON_ERROR)';
    return [
      ...docblock(proseOf(root) ?? 'Reads and writes the payload.', ''),
      `final class ${this.facades[i]!}`,
      '{',
      ...tagged(
        '',
        [
          ...(/[<{]/.test(detailed) ? [`@return ${detailed}`] : []),
          '@throws JsonException where $json is not JSON, or not of this shape',
        ],
        '    ',
      ),
      `    public static function fromJson(string $json): ${text}`,
      '    {',
      `        $root = JsonReader::of(${decoded});`,
      '',
      `        return ${read};`,
      '    }',
      '',
      ...(/[<{]/.test(detailed) ? docblock(`@param ${detailed} $payload`, '    ') : []),
      `    public static function toJson(${text} $payload): string`,
      '    {',
      `        return ${encoded};`,
      '    }',
      '}',
    ].join('\n');
  }

  private choice(choice: ChoiceType): string {
    const type = this.names.type(choice.name);
    const prose = proseWithMark(choice, '@deprecated no longer to be used');
    if (!choice.open) {
      const names = allocate(choice.values, pascal, new Set(['class', 'cases', 'from', 'tryFrom']));
      return [
        ...docblock(prose, ''),
        `enum ${type}: string`,
        '{',
        ...choice.values.map((value) => `    case ${names.get(value)!} = ${php(value)};`),
        '}',
      ].join('\n');
    }
    const names = allocate(choice.values, { ...screamingCase, caseless: true }, new Set(['class']));
    return [
      ...docblock(prose || 'The words that are known; others are values too.', ''),
      `final class ${type}`,
      '{',
      ...choice.values.map((value) => `    public const ${names.get(value)!} = ${php(value)};`),
      '}',
    ].join('\n');
  }

  private readField({ key, has, field }: Field): string {
    const quoted = php(key);
    const read = this.read(field.type, '$json', quoted);
    if (field.required) return hasNullState(field) ? `$json->isNull(${quoted}) ? null : ${read}` : read;
    if (has === undefined) return `$json->has(${quoted}) ? ${read} : null`;
    if (!hasNullState(field)) return `$json->has(${quoted}) ? ${read} : Absent::Value`;
    return [
      'match (true) {',
      `                !$json->has(${quoted}) => Absent::Value,`,
      `                $json->isNull(${quoted}) => null,`,
      `                default => ${read},`,
      '            }',
    ].join('\n');
  }

  /** An expression that reads a type from a reader under a key. */
  private read(type: Type, json: string, key: string): string {
    const of = (method: string, ...given: string[]) => `${json}->${method}(${[key, ...given].join(', ')})`;
    switch (type.kind) {
      case 'anything':
        return of('value');
      case 'null':
        return of('null');
      case 'boolean':
        return of('bool');
      case 'string':
        return of(type.form === 'date-time' ? 'dateTime' : 'string');
      case 'literal':
        return of('oneOf', php(type.value));
      case 'integer':
        return of(type.width === 'unbounded' ? 'wideInt' : 'int');
      case 'number':
        return of(type.exact ? 'number' : 'float');
      case 'choice': {
        return isOpenChoice(this.model, type.name)
          ? of('string')
          : of('word', `${this.names.type(type.name)}::class`);
      }
      case 'record':
        return `${this.names.type(type.name)}::read(${of('object')})`;
      case 'union':
        return this.tagged.has(type.name)
          ? `${this.names.type(type.name)}::read(${of('object')})`
          : `${this.names.type(type.name)}::read(${json}, ${key})`;
      case 'list':
        return this.isOwn(type.items)
          ? of('objects', `${this.names.type((type.items as { name: string }).name)}::read(...)`)
          : of('list', this.callback(type.items, '$items', 'int $i'));
      case 'map':
        return of('map', this.callback(type.values, '$values'));
      case 'tuple': {
        const items = type.items.map((item, i) => this.read(item, '$items', String(i)));
        return of(
          'tuple',
          String(type.items.length),
          `static fn (JsonReader $items): array => [${items.join(', ')}]`,
        );
      }
      case 'nullable':
        if (type.of.kind === 'anything') return of('value');
        return `(${of('isNull')} ? null : ${this.read(type.of, json, key)})`;
    }
  }

  private callback(type: Type, json: string, parameter = 'int|string $key'): string {
    const key = `$${parameter.split('$')[1]!}`;
    return `static fn (JsonReader ${json}, ${parameter}): ${this.typeText(type)} => ${this.read(type, json, key)}`;
  }

  /** What json_encode() takes of a value of a type. @param isArray whether a map may stay an array */
  private written(type: Type, value: string, isArray = false): string {
    const plain = (part: Type) => this.written(part, '$item') === '$item';
    const each = (part: Type) =>
      `array_map(static fn (${this.typeText(part)} $item): mixed => ${this.written(part, '$item')}, ${value})`;
    switch (type.kind) {
      case 'string':
        return type.form === 'date-time' ? `Rfc3339::format(${value})` : value;
      case 'list':
        return plain(type.items) ? value : each(type.items);
      case 'map': {
        const array = plain(type.values) ? value : each(type.values);
        return isArray ? array : `(object) ${array}`;
      }
      case 'tuple': {
        if (type.items.every(plain)) return value;
        return `[${type.items.map((item, i) => this.written(item, `${value}[${i}]`)).join(', ')}]`;
      }
      case 'nullable': {
        const written = this.written(type.of, value);
        return written === value ? value : `${value} === null ? null : ${written}`;
      }
      case 'union': {
        if (this.tagged.has(type.name)) return value;
        const union = this.model.unions.find(({ name }) => name === type.name)!;
        const changes = union.arms.some(
          ({ type: arm }) => arm.kind !== 'union' && this.written(arm, value) !== value,
        );
        return changes ? `${this.names.type(type.name)}::write(${value})` : value;
      }
      default:
        return value;
    }
  }

  private isOpen({ others }: RecordType): boolean {
    return this.unknown === 'keep' || others !== undefined;
  }

  private recordOf(name: string): RecordType {
    return this.model.records.find((record) => record.name === name)!;
  }

  private fieldText(field: RecordField): string {
    const orNull = hasNullState(field) || !field.required;
    return this.joined([...this.parts(field.type), ...(orNull ? ['null'] : [])]);
  }

  private nullableText(field: RecordField): string {
    return this.joined([...this.parts(field.type), 'null']);
  }

  private union3(field: RecordField): string {
    return this.joined([...this.parts(field.type), 'Absent', ...(hasNullState(field) ? ['null'] : [])]);
  }

  private typeText(type: Type): string {
    return this.joined(this.parts(type));
  }

  /** Alternatives as a declaration; `mixed` stands alone. */
  private joined(parts: readonly string[]): string {
    const distinct = [...new Set(parts)];
    if (distinct.includes('mixed')) return 'mixed';
    if (distinct.length === 2 && distinct[1] === 'null') return `?${distinct[0]!}`;
    return distinct.join('|');
  }

  private armParts(union: UnionType, type: Type): string[] {
    return type.kind === 'map' && hasList(union) ? ['stdClass'] : this.parts(type);
  }

  /** The alternatives of a type as PHP declares them. */
  private parts(type: Type): string[] {
    return spell<string[]>(type, {
      anything: () => ['mixed'],
      null: () => ['null'],
      boolean: () => ['bool'],
      string: (form) => [form === 'date-time' ? 'DateTimeImmutable' : 'string'],
      integer: (width) => (width === 'unbounded' ? ['int', 'Number'] : ['int']),
      number: (exact) => (exact ? ['int', 'float', 'Number'] : ['float']),
      list: () => ['array'],
      map: () => ['array'],
      tuple: () => ['array'],
      named: (name, kind) => {
        if (kind === 'choice') return isOpenChoice(this.model, name) ? ['string'] : [this.names.type(name)];
        if (kind === 'record' || this.tagged.has(name)) return [this.names.type(name)];
        const union = this.model.unions.find((each) => each.name === name)!;
        return union.arms.flatMap((arm) => this.armParts(union, arm.type));
      },
      nullable: (of) => [...of, 'null'],
    });
  }

  /** The type in full, as documentation comments write it. */
  private documented(type: Type): string {
    switch (type.kind) {
      case 'list':
        return `list<${this.documented(type.items)}>`;
      case 'tuple':
        return `array{${type.items.map((item) => this.documented(item)).join(', ')}}`;
      case 'map':
        return `array<${this.documented(type.values)}>`;
      case 'union': {
        if (this.tagged.has(type.name)) return this.names.type(type.name);
        const union = this.model.unions.find(({ name }) => name === type.name)!;
        return [
          ...new Set(
            union.arms.map((arm) =>
              arm.type.kind === 'map' && hasList(union) ? 'stdClass' : this.documentedArm(arm.type, union),
            ),
          ),
        ].join('|');
      }
      case 'nullable':
        return type.of.kind === 'anything' ? 'mixed' : `${this.documented(type.of)}|null`;
      default:
        return this.typeText(type);
    }
  }

  /** A union inside itself is an array there, to end somewhere. */
  private documentedArm(type: Type, around: UnionType): string {
    const names = JSON.stringify(type);
    return names.includes(`"kind":"union","name":${JSON.stringify(around.name)}`) ||
      /"kind":"union"/.test(names)
      ? this.typeText(type)
      : this.documented(type);
  }
}

/** Whether null is a value that a field may have. */
function canBeNull(field: RecordField): boolean {
  return hasNullState(field) || field.type.kind === 'anything' || field.type.kind === 'null';
}

function hasList({ arms }: UnionType): boolean {
  return arms.some(({ type }) => type.kind === 'list' || type.kind === 'tuple');
}

/** The open choice that a field's texts are of. */
function openIn({ choices }: TypeModel, type: Type): string | undefined {
  if (type.kind === 'choice') return choices.find(({ name, open }) => open && name === type.name)?.name;
  return type.kind === 'list' ? openIn({ choices } as TypeModel, type.items) : undefined;
}

/** Words between underscores that are PHP's, and no holes of a template. */
function magic(template: string): Record<string, string> {
  return Object.fromEntries([...template.matchAll(/__(\w+?)__/g)].map(([all, name]) => [name!, all]));
}
