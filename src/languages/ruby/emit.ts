import {
  valueTypeOf,
  acceptsNull,
  isOpenChoice,
  armsOf,
  type ChoiceType,
  type RecordField,
  type RecordType,
  type RootType,
  type Type,
  type TypeModel,
  type UnionArm,
  type UnionType,
} from '../../core/model/types.js';
import { ModelEmitter } from '../kit/emitter.js';
import { byJsonType } from '../kit/by-json-type.js';
import { expectedOf } from '../kit/model-names.js';
import { aboutView } from '../kit/views.js';
import {
  allocate,
  identifier,
  pascalCasing,
  screamingCase,
  snakeCase,
  type Casing,
  namesOfPayloads,
} from '../kit/names.js';
import { hex, literal, proseOf, proseWithMark, lineComments } from '../kit/text.js';
import type { Emitted, EmitOptions } from '../language.js';
import { helpers } from './helpers.js';
import { spell } from '../kit/spell.js';

/** Constants must begin with a capital letter; scripts without capitals get a Latin one in front. */
function constant(casing: Casing): Casing {
  return {
    ...casing,
    join: (words) => {
      const name = casing.join(words);
      return name === '' || /^[\p{Lu}\p{Nd}]/u.test(name) ? name : `X${name}`;
    },
  };
}

const typeCase = constant(pascalCasing);
const wordCase = constant(screamingCase);

const reservedTypes = new Set(
  'ABSENT DecodeError Read Write WriteExact Object String Integer Float Array Hash Symbol Kernel Module Class BasicObject Struct Comparable Enumerable StandardError BigDecimal JSON Numeric'.split(
    ' ',
  ),
);

const reservedFields = new Set(
  'alias and begin break case class def defined do else elsif end ensure false for if in module next nil not or redo rescue retry return self super then true undef unless until when while yield initialize to_fields hash method methods object_id send public_send clone dup freeze frozen display extend inspect instance_eval instance_exec instance_of instance_variables is_a itself kind_of nil respond_to singleton_class tap taint to_enum to_s to_json untaint instance_variable_get instance_variable_set enum_for singleton_methods define_singleton_method public_method singleton_method'.split(
    ' ',
  ),
);

/** The constants that every program of Ruby has: no module may be called as a class is. */
const topLevel =
  'ARGF ARGV ArgumentError Array BasicObject Binding Class ClosedQueueError Comparable Complex ConditionVariable DATA Delegator DidYouMean Dir ENV EOFError Encoding EncodingError Enumerable Enumerator Errno ErrorHighlight Etc Exception FalseClass Fiber FiberError File FileTest Float FloatDomainError FrozenError GC Gem Hash IO IOError IndexError Integer Interrupt JSON Kernel KeyError LoadError LocalJumpError Marshal MatchData Math Method Module Monitor MonitorMixin Mutex NameError NilClass NoMatchingPatternError NoMatchingPatternKeyError NoMemoryError NoMethodError NotImplementedError Numeric Object ObjectSpace OpenSSL Pathname Proc Process Queue RUBY_VERSION Ractor Random Range RangeError Rational RbConfig Refinement Regexp RegexpError RubyVM RuntimeError STDERR STDIN STDOUT ScriptError SecurityError Set Signal SignalException SizedQueue StandardError StopIteration String StringIO Struct Symbol SyntaxError SystemCallError SystemExit SystemStackError Thread ThreadError ThreadGroup Time Timeout TracePoint TrueClass TypeError URI UnboundMethod UncaughtThrowError UnicodeNormalize Warning WeakRef ZeroDivisionError BigDecimal Date DateTime BEGIN END Fixnum Bignum TRUE FALSE NIL Data SortedSet';

export const reservedPackages = new Set(topLevel.split(' '));

export function moduleName(model: TypeModel, options: Pick<EmitOptions, 'package'> = {}): string {
  return options.package ?? `${identifier(model.name, typeCase)}Payload`;
}

/** The file of a payload: `sailing_payload.rb`. */
/** What decodes and encodes a payload; where there are several, they bear its name. */
export function functionNames({ roots }: TypeModel, { name }: RootType): { decode: string; encode: string } {
  const own = roots.length === 1 ? '' : `_${identifier(name, snakeCase)}`;
  return { decode: `decode${own}`, encode: `encode${own}` };
}

export function fileName(model: TypeModel): string {
  return `${identifier(model.name, snakeCase)}_payload`;
}

/** Classes for the JSON of the standard library, Ruby 3.0 and later. */
export function emitRuby(model: TypeModel, options: EmitOptions): Emitted {
  return new Emitter(model, options).emit();
}

class Emitter extends ModelEmitter {
  /** Whether some decimals need more digits than a float has. */
  private readonly exact: boolean;

  constructor(model: TypeModel, options: EmitOptions) {
    super(
      model,
      options,
      {
        type: typeCase,
        field: snakeCase,
        reservedTypes,
        reservedFields,
      },
      helpers,
    );
    this.exact = this.needsDigits(false);
  }

  emit(): Emitted {
    const { model } = this;
    const own = [
      ...model.records.map((each) => this.record(each)),
      ...model.choices.map((each) => this.choice(each)),
      ...model.unions.map((each) => this.union(each)),
      ...model.roots.map((each) => this.functions(each)),
    ];
    const shared = this.helpers.texts();
    const prose = proseOf(model) ?? `Types for ${namesOfPayloads(model)}.`;
    const body = [...shared, ...own].map(indented).join('\n\n');
    const text = [
      '# frozen_string_literal: true',
      comment(`Generated by Skevo from ${this.options.origin}; edit that and generate again.`).join('\n'),
      [...(this.exact ? ['bigdecimal'] : []), 'json', ...this.helpers.imports]
        .sort()
        .map((each) => `require "${each}"`)
        .join('\n'),
      [...comment(prose), `module ${moduleName(model, this.options)}`, body, 'end'].join('\n'),
    ].join('\n\n');
    return { files: [{ path: `${fileName(model)}.rb`, text: `${text}\n` }], names: this.names.emitted() };
  }

  private functions(payload: RootType): string {
    const root = payload.type;
    const { decode, encode } = functionNames(this.model, payload);
    const written = `${this.helpers.use('Write')}.plain(payload)`;
    const parse = this.exact
      ? 'JSON.parse(text, max_nesting: 1000, decimal_class: BigDecimal)'
      : 'JSON.parse(text, max_nesting: 1000)';
    const generate = this.exact
      ? `${this.helpers.use('WriteExact')}.text(${written})`
      : `JSON.generate(${written}, max_nesting: 1000)`;
    return [
      '# Reads one payload from JSON text.',
      '#',
      '# @param text [String]',
      `# @return [${this.typeText(root)}]`,
      '# @raise [DecodeError, JSON::ParserError]',
      `def self.${decode}(text)`,
      `  ${this.reader(root)}.call(${parse})`,
      'end',
      '',
      '# Writes one payload as JSON text.',
      '#',
      '# @return [String]',
      `def self.${encode}(payload)`,
      `  ${generate}`,
      'end',
    ].join('\n');
  }

  private record(record: RecordType): string {
    this.helpers.use('Read');
    const type = this.names.type(record.name);
    const name = (field: RecordField) => this.names.field(record.name, field.key);
    const absent = (field: RecordField) => (acceptsNull(field) ? this.helpers.use('ABSENT') : 'nil');
    const readers = record.fields.flatMap((field) => [
      ...comment(proseWithMark(field, '@deprecated no longer to be used')),
      `# @return [${this.fieldText(field)}]`,
      `attr_reader :${name(field)}`,
      '',
    ]);
    const parameters = record.fields.map((field) =>
      field.required ? `${name(field)}:` : `${name(field)}: ${absent(field)}`,
    );
    const values = record.fields.map((field) => {
      const reader = this.reader(valueTypeOf(field));
      const call = field.required
        ? `Read.required(fields, ${ruby(field.key)}, ${reader})`
        : `Read.optional(fields, ${ruby(field.key)}, ${reader}${acceptsNull(field) ? ', ABSENT' : ''})`;
      return `${name(field)}: ${call}`;
    });
    const names = record.fields.map(name);
    const keys = record.fields.map(({ key }) => ruby(key));
    const unknown = this.names.unknown(record.name);
    if (this.unknown === 'keep') {
      readers.push(
        '# @return [Hash{String => Object}] the fields that the schema does not know',
        `attr_reader :${unknown}`,
        '',
      );
      parameters.push(`${unknown}: {}`);
      values.push(`${unknown}: fields${keys.length === 0 ? '' : `.except(${keys.join(', ')})`}`);
      names.push(unknown);
    }
    const refusal =
      this.unknown === 'reject'
        ? [`  Read.${this.helpers.use('only')}(${['fields', ...keys].join(', ')})`]
        : [];
    const others = this.unknown === 'keep' ? `.merge(@${unknown})` : '';
    const required = record.fields.filter((field) => field.required);
    const optional = record.fields.filter((field) => !field.required);
    const pairs = required.map((field) => `    ${ruby(field.key)} => @${name(field)},`);
    pairs.push(...[pairs.pop()?.replace(/,$/, '')].filter((each) => each !== undefined));
    const body = [
      ...readers,
      ...(parameters.length === 0
        ? []
        : [
            'def initialize(',
            ...parameters.map((each, i) => `  ${each}${i < parameters.length - 1 ? ',' : ''}`),
            ')',
            ...names.map((each) => `  @${each} = ${each}`),
            'end',
            '',
          ]),
      'def self.read(value)',
      ...(parameters.length === 0
        ? [`  ${refusal.length === 0 ? '' : 'fields = '}Read.object(value)`, ...refusal, '  new']
        : [
            '  fields = Read.object(value)',
            ...refusal,
            '  new(',
            ...values.map((each, i) => `    ${each}${i < values.length - 1 ? ',' : ''}`),
            '  )',
          ]),
      'end',
      '',
      ...this.views(record),
      '# @return [Hash] the fields under their keys',
      'def to_fields',
      ...(optional.length === 0
        ? required.length === 0
          ? [others === '' ? '  {}' : `  @${unknown}`]
          : ['  {', ...pairs, `  }${others}`]
        : [
            ...(required.length === 0 ? ['  fields = {}'] : ['  fields = {', ...pairs, '  }']),
            ...optional.map(
              (field) =>
                `  fields[${ruby(field.key)}] = @${name(field)} unless @${name(field)}${acceptsNull(field) ? ' == ABSENT' : '.nil?'}`,
            ),
            `  fields${others}`,
          ]),
      'end',
    ];
    return [
      ...comment(proseWithMark(record, '@deprecated no longer to be used')),
      `class ${type}`,
      indented(body.join('\n')),
      'end',
    ].join('\n');
  }

  /** Methods that give texts as values of Ruby. */
  private views(record: RecordType): string[] {
    return this.names.views(record, ['date-time', 'date', 'base64']).flatMap((view) => {
      const { field, form, name, mayLack } = view;
      const own = `@${this.names.field(record.name, field.key)}`;
      if (form !== 'base64') this.helpers.imports.add(form === 'date' ? 'date' : 'time');
      const [native, value] = {
        'date-time': ['Time', `::Time.iso8601(${own})`],
        date: ['Date', `::Date.iso8601(${own})`],
        base64: ['String', `${own}.unpack1("m0")`],
        uuid: ['', ''],
      }[form] as [string, string];
      return [
        `# @return [${native}${mayLack ? ', nil' : ''}] ${aboutView(view, own.slice(1), 'nil').replace(/^T/, 't').replace(/\.$/, '')}`,
        `def ${name}`,
        `  ${value}${mayLack ? ` if ${own}.is_a?(String)` : ''}`,
        'end',
        '',
      ];
    });
  }

  private choice(choice: ChoiceType): string {
    const type = this.names.type(choice.name);
    const names = allocate(choice.values, wordCase, new Set(['ALL', 'BEGIN', 'END']));
    const open = choice.open ? 'Fields hold other words too.' : undefined;
    const about = [proseOf(choice), 'The words of a choice.', open].filter(Boolean).join('\n\n');
    return [
      ...comment(about),
      `module ${type}`,
      ...choice.values.map((value) => `  ${names.get(value)!} = ${ruby(value)}`),
      `  ALL = [${choice.values.map((value) => names.get(value)!).join(', ')}].freeze`,
      'end',
    ].join('\n');
  }

  private union(union: UnionType): string {
    this.helpers.use('Read');
    const cases = union.arms.flatMap((arm) => [
      `    return ${this.reader(arm.type)}.call(value) if ${this.test(arm)}`,
    ]);
    const text = this.typeText({ kind: 'union', name: union.name });
    return [
      ...comment([proseOf(union), `One of ${text}.`].filter(Boolean).join('\n\n')),
      `module ${this.names.type(union.name)}`,
      '  def self.read(value)',
      ...cases,
      '',
      `    Read.refuse(${ruby(expectedOf(union))}, value)`,
      '  end',
      'end',
    ].join('\n');
  }

  private test({ type, test }: UnionArm): string {
    if (test.kind === 'tag') {
      const tag = `value[${ruby(test.key)}]`;
      const words = test.values.map(ruby);
      return `value.is_a?(Hash) && ${words.length === 1 ? `${tag} == ${words[0]}` : `[${words.join(', ')}].include?(${tag})`}`;
    }
    if (test.kind === 'key') return `value.is_a?(Hash) && value.key?(${ruby(test.key)})`;
    return byJsonType(type, {
      boolean: '[true, false].include?(value)',
      string: 'value.is_a?(String)',
      number: 'value.is_a?(Numeric)',
      list: 'value.is_a?(Array)',
      object: 'value.is_a?(Hash)',
    });
  }

  private fieldText(field: RecordField): string {
    const text = this.typeText(valueTypeOf(field));
    if (field.required) return text;
    return `${text}, ${acceptsNull(field) ? 'ABSENT' : 'nil'}`;
  }

  /** The type as YARD writes it. */
  private typeText(type: Type): string {
    return spell(type, {
      anything: () => 'Object',
      null: () => 'nil',
      boolean: () => 'Boolean',
      string: () => 'String',
      integer: () => 'Integer',
      number: (exact) => (exact ? 'Integer, BigDecimal' : 'Float'),
      list: (items) => `Array<${items}>`,
      map: (values) => `Hash{String => ${values}}`,
      tuple: (items) => `Array(${items.join(', ')})`,
      named: (name, kind) => {
        if (kind === 'record') return this.names.type(name);
        if (kind === 'choice') return 'String';
        return [...new Set(armsOf(this.model, name).map((arm) => this.typeText(arm.type)))].join(', ');
      },
      nullable: (of) => `${of}, nil`,
    });
  }

  /** An expression for what reads a type: it answers to \`call\`. */
  private reader(type: Type): string {
    const read = (text: string) => `${this.helpers.use('Read')}${text}`;
    switch (type.kind) {
      case 'anything':
        return read('::ANYTHING');
      case 'null':
        return read('::NULL');
      case 'boolean':
        return read('::BOOLEAN');
      case 'string':
        return read('::STRING');
      case 'literal':
        return read(`.literal(${ruby(type.value)})`);
      case 'integer':
        return read('::INTEGER');
      case 'number':
        return read(type.exact ? '::NUMBER' : '::FLOAT');
      case 'list':
        return read(`.list(${this.reader(type.items)})`);
      case 'tuple':
        return read(`.tuple(${type.items.map((item) => this.reader(item)).join(', ')})`);
      case 'map':
        return read(`.map(${this.reader(type.values)})`);
      case 'choice': {
        return isOpenChoice(this.model, type.name)
          ? read('::STRING')
          : read(`.word(${this.names.type(type.name)}::ALL)`);
      }
      case 'record':
      case 'union':
        return `${this.names.type(type.name)}.method(:read)`;
      case 'nullable':
        return type.of.kind === 'anything'
          ? this.reader(type.of)
          : read(`.nullable(${this.reader(type.of)})`);
    }
  }
}

/** A line that begins as a magic comment does would be taken for one. */
function comment(text: string): string[] {
  return lineComments('#', text, 92, (line) =>
    line.replace(/^-\*-/, '- * -').replace(/coding\s*[:=]/gi, 'coding '),
  );
}

function indented(text: string): string {
  return text.replace(/^(?=.)/gm, '  ');
}

/** A string literal. Half a surrogate pair becomes the replacement character: UTF-8 has none. */
export function ruby(text: string): string {
  return literal(text.replace(/\p{Surrogate}/gu, '\ufffd'), {
    quote: '"',
    short: { '\n': '\\n', '\r': '\\r', '\t': '\\t', '#': '\\#' },
    unit: (code) => `\\u${hex(code, 4)}`,
    astral: (code) => `\\u{${hex(code, 1)}}`,
  });
}
