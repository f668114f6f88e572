import {
  valueTypeOf,
  acceptsNull,
  isOpenChoice,
  armsOf,
  needsDigits,
  type ChoiceType,
  type Documented,
  type RecordField,
  type RecordType,
  type RootType,
  type Type,
  type TypeModel,
  type UnionArm,
  type UnionType,
} from '../../core/model/types.js';
import type { Emitted, EmitOptions, UnknownRule } from '../language.js';
import {
  blocks,
  group,
  ifBreak,
  indent,
  layOut,
  line,
  lines,
  join,
  softline,
  verbatim,
  type Doc,
} from '../kit/layout.js';
import {
  allocate,
  identifier,
  pascalCasing,
  screamingCase,
  snakeCase,
  namesOfPayloads,
} from '../kit/names.js';
import { expectedOf } from '../kit/model-names.js';
import { aboutView, viewsOf } from '../kit/views.js';
import { hex, literal, proseLines, proseOf } from '../kit/text.js';
import { after, before, variables, type Helper } from './helpers.js';
import { spell } from '../kit/spell.js';

const width = 88;

const keywords =
  'False None True and as assert async await break class continue def del elif else except finally for from global if import in is lambda nonlocal not or pass raise return try while with yield';

/** Names that a type of the module may not take. */
const reservedTypes = new Set([
  ...keywords.split(' '),
  ...'Any Callable Decimal Enum Literal TypeVar Union DecodeError Absent ValueError Type'.split(' '),
]);

/** Names that a field may not take: keywords, methods, and the types that annotations in the class body name. */
const reservedFields = new Set([
  ...keywords.split(' '),
  ...'self cls decode encode str int float bool list dict object dataclasses'.split(' '),
]);

/** What every model of pydantic has. */
const modelMembers =
  'copy dict json schema schema_json construct validate parse_obj parse_raw parse_file from_orm update_forward_refs fields config model_config model_fields model_computed_fields model_extra model_fields_set model_construct model_copy model_dump model_dump_json model_json_schema model_parametrized_name model_post_init model_rebuild model_validate model_validate_json model_validate_strings'.split(
    ' ',
  );

/** Modules of the standard library, and of pydantic's: a file of such a name beside a program hides one of them. */
const modules =
  'abc aifc antigravity argparse array ast asynchat asyncio asyncore atexit audioop base64 bdb binascii bisect builtins bz2 cProfile calendar cgi cgitb chunk cmath cmd code codecs codeop collections colorsys compileall concurrent configparser contextlib contextvars copy copyreg crypt csv ctypes curses dataclasses datetime dbm decimal difflib dis distutils doctest email encodings ensurepip enum errno faulthandler fcntl filecmp fileinput fnmatch fractions ftplib functools gc genericpath getopt getpass gettext glob graphlib grp gzip hashlib heapq hmac html http idlelib imaplib imghdr imp importlib inspect io ipaddress itertools json keyword lib2to3 linecache locale logging lzma mailbox mailcap marshal math mimetypes mmap modulefinder msilib msvcrt multiprocessing netrc nis nntplib nt ntpath nturl2path numbers opcode operator optparse os ossaudiodev pathlib pdb pickle pickletools pipes pkgutil platform plistlib poplib posix posixpath pprint profile pstats pty pwd py_compile pyclbr pydoc pydoc_data pyexpat queue quopri random re readline reprlib resource rlcompleter runpy sched secrets select selectors shelve shlex shutil signal site smtpd smtplib sndhdr socket socketserver spwd sqlite3 sre_compile sre_constants sre_parse ssl stat statistics string stringprep struct subprocess sunau symtable sys sysconfig syslog tabnanny tarfile telnetlib tempfile termios textwrap this threading time timeit tkinter token tokenize tomllib trace traceback tracemalloc tty turtle turtledemo types typing unicodedata unittest urllib uu uuid venv warnings wave weakref webbrowser winreg winsound wsgiref xdrlib xml xmlrpc zipapp zipfile zipimport zlib zoneinfo pydantic annotated_types typing_extensions';

/** What no file of types may be called. */
export const reservedModules = new Set([...modules.split(' '), ...keywords.split(' ')]);

/** The file of a payload: `sailing_page.py`. */
export function moduleName(model: TypeModel): string {
  const name = identifier(model.name, snakeCase);
  if (modules.split(' ').includes(name)) return `${name}_payload`;
  return keywords.split(' ').includes(name) ? `${name}_` : name;
}

export function functionNames(model: Pick<RootType, 'name'>): { decode: string; encode: string } {
  const name = identifier(model.name, snakeCase);
  return { decode: `decode_${name}`, encode: `encode_${name}` };
}

/** Dataclasses that decode and encode themselves with the standard library alone, Python 3.9 and later. */
export function emitDataclasses(model: TypeModel, options: EmitOptions): Emitted {
  return new Emitter(model, options, 'dataclass').emit();
}

/** Models of pydantic 2, Python 3.10 and later. Unions are told apart as in dataclasses; pydantic checks every value. */
export function emitPydantic(model: TypeModel, options: EmitOptions): Emitted {
  return new Emitter(model, options, 'pydantic').emit();
}

class Emitter {
  private readonly types: Map<string, string>;
  /** What the functions of each union end in. */
  private readonly unionWords: Map<string, string>;
  private readonly fields = new Map<string, Map<string, string>>();
  private readonly used = new Set<string>();
  private readonly imports = new Set<string>();
  /** Whether numbers with a fraction are read as Decimal. */
  private readonly exact: boolean;
  private readonly unknown: UnknownRule;
  /** Names that a field may not take. */
  private readonly reserved: ReadonlySet<string>;

  constructor(
    private readonly model: TypeModel,
    private readonly options: EmitOptions,
    private readonly style: 'dataclass' | 'pydantic',
  ) {
    const named = [...model.records, ...model.choices, ...model.unions].map(({ name }) => name);
    this.types = allocate(
      named,
      pascalCasing,
      style === 'pydantic' ? new Set([...reservedTypes, 'BaseModel', 'ConfigDict', 'Field']) : reservedTypes,
    );
    // The types that annotations name are looked for among the fields first.
    this.reserved =
      style === 'pydantic'
        ? new Set([...reservedFields, ...modelMembers, ...this.types.values()])
        : reservedFields;
    this.unionWords = allocate(
      model.unions.map(({ name }) => name),
      snakeCase,
      new Set(),
    );
    for (const record of model.records) {
      this.fields.set(
        record.name,
        allocate(
          record.fields.map(({ key }) => key),
          snakeCase,
          this.reserved,
        ),
      );
    }
    this.unknown = options.unknown ?? 'drop';
    this.exact = needsDigits(model, false) || (this.unknown === 'keep' && model.records.length > 0);
  }

  emit(): Emitted {
    const { model } = this;
    const body: Doc[] = [
      ...model.choices.map((choice) => this.choice(choice)),
      ...model.records.map((record) => this.record(record)),
      ...model.unions.flatMap((union) => this.union(union)),
      ...model.roots.flatMap((each) => this.functions(each)),
    ];
    if (this.style === 'pydantic' && model.records.length > 0) {
      const all = model.records.map(({ name }) => this.types.get(name)!);
      // Types may name what is defined after them; what others hold is made ready before them.
      body.push(lines(...all.reverse().map((type) => `${type}.model_rebuild()`)));
    }
    const top = Object.keys(before).filter((name) => this.used.has(name));
    const bottom = Object.keys(after).filter((name) => this.used.has(name));
    const constants = Object.keys(variables).filter((name) => this.used.has(name));
    const helper = (name: string): Doc => verbatim((before[name] ?? after[name])!.text);
    const head = [this.header(), 'from __future__ import annotations', this.importLines()];
    if (constants.length > 0) head.push(lines(...constants.map((name) => variables[name]!.text)));
    const doc = blocks([blocks(head), ...top.map(helper), ...body, ...bottom.map(helper)], 2);
    return {
      files: [{ path: `${moduleName(model)}.py`, text: layOut(doc, width, 4) }],
      names: new Map(
        [...model.records, ...model.choices, ...model.unions].map(
          ({ name }) =>
            [name, { type: this.types.get(name)!, fields: this.fields.get(name) ?? new Map() }] as const,
        ),
      ),
    };
  }

  private header(): Doc {
    const prose = proseOf(this.model) ?? `Typed classes for ${namesOfPayloads(this.model)}.`;
    return docstring(
      `${prose}\n\nGenerated by Skevo from ${this.options.origin}; edit that and generate again.`,
      0,
    );
  }

  private importLines(): Doc {
    const from = new Map<string, string[]>();
    const plain: string[] = [];
    for (const each of [...this.imports].sort()) {
      const [module, name] = each.split(':') as [string, string?];
      if (name === undefined) plain.push(`import ${module}`);
      else from.set(module, [...(from.get(module) ?? []), name]);
    }
    return lines(
      ...plain,
      ...[...from].map(([module, names]) => `from ${module} import ${names.join(', ')}`),
    );
  }

  private choice(choice: ChoiceType): Doc {
    this.imports.add('enum:Enum');
    const names = allocate(choice.values, screamingCase, new Set(['MRO', 'NAME', 'VALUE_']));
    const members = choice.values.map((value) => `${names.get(value)!} = ${python(value)}`);
    return block(`class ${this.types.get(choice.name)!}(Enum):`, [
      ...this.documentation(choice),
      lines(...members),
    ]);
  }

  private record(record: RecordType): Doc {
    this.imports.add('typing:Any');
    if (this.style === 'pydantic') return this.pydanticModel(record);
    this.imports.add('dataclasses:dataclass');
    const type = this.types.get(record.name)!;
    const names = this.fields.get(record.name)!;
    const ordered = [
      ...record.fields.filter((field) => field.required),
      ...record.fields.filter((field) => !field.required),
    ];
    const declared = ordered.map((field) =>
      lines(...comment(field), [names.get(field.key)!, ': ', this.annotation(field)]),
    );
    if (this.unknown === 'keep') {
      this.imports.add('dataclasses');
      declared.push(
        lines(
          '# The fields that the schema does not know.',
          `${this.unknownField(record)}: dict[str, Any] = dataclasses.field(default_factory=dict)`,
        ),
      );
    }
    const body: Doc[] = [...this.documentation(record)];
    if (declared.length > 0) body.push(lines(...declared));
    body.push(...this.views(record, names));
    body.push(this.decodeMethod(record, type, names), this.encodeMethod(record, names));
    return lines('@dataclass', block(`class ${type}:`, body));
  }

  private pydanticModel(record: RecordType): Doc {
    this.imports.add('pydantic:BaseModel');
    const type = this.types.get(record.name)!;
    const names = this.fields.get(record.name)!;
    const isRenamed = record.fields.some(({ key }) => names.get(key) !== key);
    const body: Doc[] = [...this.documentation(record)];
    if (isRenamed) {
      this.imports.add('pydantic:ConfigDict');
      body.push('model_config = ConfigDict(populate_by_name=True)');
    }
    const declared = record.fields.map((field) => {
      const name = names.get(field.key)!;
      const text = this.typeText(valueTypeOf(field));
      const annotated = field.required || text === 'Any' || text.endsWith('None') ? text : `${text} | None`;
      if (name === field.key)
        return lines(...comment(field), `${name}: ${annotated}${field.required ? '' : ' = None'}`);
      this.imports.add('pydantic:Field');
      const alias = `alias=${python(field.key)}`;
      return lines(...comment(field), [
        `${name}: ${annotated} = `,
        call('Field', field.required ? [alias] : ['default=None', alias]),
      ]);
    });
    if (this.unknown === 'keep') {
      this.imports.add('pydantic:Field');
      declared.push(
        lines(
          '# The fields that the schema does not know.',
          `${this.unknownField(record)}: dict[str, Any] = Field(default_factory=dict)`,
        ),
      );
    }
    if (declared.length > 0) body.push(lines(...declared));
    body.push(...this.views(record, names));
    body.push(this.validateMethod(record, type), this.encodeMethod(record, names));
    return block(`class ${type}(BaseModel):`, body);
  }

  /** Only what is there is given to pydantic, by its key, so that it knows what was set. */
  private validateMethod(record: RecordType, type: string): Doc {
    this.use('_object');
    const keys = record.fields.map(({ key }) => python(key));
    const object =
      this.unknown === 'reject' ? call(this.use('_only'), ['_object(value)', ...keys]) : '_object(value)';
    const head = ['@classmethod', `def decode(cls, value: Any) -> ${type}:`];
    if (record.fields.length === 0 && this.unknown !== 'keep')
      return lines(...head, indent4(lines(object, 'return cls()')));
    const value = (field: RecordField): Doc =>
      call(this.use('_required'), ['fields', python(field.key), this.decoder(valueTypeOf(field))]);
    const required = record.fields.filter((field) => field.required);
    const body: Doc[] = [
      ['fields = ', object],
      required.length === 0
        ? 'values: dict[str, Any] = {}'
        : [
            'values: dict[str, Any] = {',
            indentDoc(lines(...required.map((field) => [python(field.key), ': ', value(field), ',']))),
            lineBreak,
            '}',
          ],
      ...record.fields
        .filter((field) => !field.required)
        .map((field): Doc => [
          `if ${python(field.key)} in fields:`,
          indentDoc(['values[', python(field.key), '] = ', value(field)]),
        ]),
    ];
    if (this.unknown === 'keep')
      body.push(
        'result = cls(**values)',
        [`result.${this.unknownField(record)} = `, call(this.use('_others'), ['fields', ...keys])],
        'return result',
      );
    else body.push('return cls(**values)');
    return lines(...head, indent4(lines(...body)));
  }

  /** Properties that give texts as values of Python. */
  private views(record: RecordType, names: ReadonlyMap<string, string>): Doc[] {
    const taken = new Set([...this.reserved, this.unknownField(record), ...names.values()]);
    const forms = ['date-time', 'date', 'uuid', 'base64'] as const;
    return viewsOf(record, forms, snakeCase, taken).map((view) => {
      const { field, form, name, mayLack } = view;
      const own = `self.${names.get(field.key)!}`;
      const [native, module, helper] = pythonViews[form];
      if (module !== undefined) this.imports.add(module);
      const value = form === 'date-time' || form === 'base64' ? this.use(helper) : helper;
      return lines(
        '@property',
        `def ${name}(self) -> ${native}${mayLack ? ' | None' : ''}:`,
        indent4(
          lines(
            `"""${aboutView(view, own.slice(5), 'None')}"""`,
            ...(mayLack ? [lines(`if not isinstance(${own}, str):`, '    return None')] : []),
            ['return ', call(value, [own])],
          ),
        ),
      );
    });
  }

  /** What holds the fields that the schema does not know. */
  private unknownField(record: RecordType): string {
    const taken = new Set([...this.reserved, ...this.fields.get(record.name)!.values()]);
    return allocate(['unknown'], snakeCase, taken).get('unknown')!;
  }

  private decodeMethod(record: RecordType, type: string, names: ReadonlyMap<string, string>): Doc {
    this.use('_object');
    const head = ['@classmethod', `def decode(cls, value: Any) -> ${type}:`];
    const keys = record.fields.map(({ key }) => python(key));
    const object =
      this.unknown === 'reject' ? call(this.use('_only'), ['_object(value)', ...keys]) : '_object(value)';
    if (record.fields.length === 0 && this.unknown !== 'keep')
      return lines(...head, indent4(lines(object, 'return cls()')));
    const entries = record.fields.map((field) => [
      names.get(field.key)!,
      '=',
      call(this.use(presenceHelper(field)), ['fields', python(field.key), this.decoder(valueTypeOf(field))]),
      ',',
    ]);
    if (this.unknown === 'keep')
      entries.push([this.unknownField(record), '=', call(this.use('_others'), ['fields', ...keys]), ',']);
    return lines(
      ...head,
      indent4(lines(['fields = ', object], ['return cls(', indentDoc(lines(...entries)), lineBreak, ')'])),
    );
  }

  private encodeMethod(record: RecordType, names: ReadonlyMap<string, string>): Doc {
    const head = 'def encode(self) -> dict[str, Any]:';
    const required = record.fields.filter((field) => field.required);
    const optional = record.fields.filter((field) => !field.required);
    const entry = (field: RecordField, prefix: string) =>
      this.encoded(valueTypeOf(field), `self.${names.get(field.key)!}`, width - 12 - prefix.length - 1);
    const literalDoc: Doc =
      required.length === 0
        ? this.unknown === 'keep'
          ? `{**self.${this.unknownField(record)}}`
          : '{}'
        : [
            '{',
            indentDoc(
              lines(
                ...required.map((field) => [
                  python(field.key),
                  ': ',
                  entry(field, `${python(field.key)}: `),
                  ',',
                ]),
                ...(this.unknown === 'keep' ? [`**self.${this.unknownField(record)},`] : []),
              ),
            ),
            lineBreak,
            '}',
          ];
    if (optional.length === 0) return lines(head, indent4(['return ', literalDoc]));
    const body: Doc[] = [['value: dict[str, Any] = ', literalDoc]];
    for (const field of optional) {
      const name = names.get(field.key)!;
      const isThere = !acceptsNull(field)
        ? `self.${name} is not None`
        : this.style === 'pydantic'
          ? `"${name}" in self.model_fields_set`
          : `self.${name} is not ${this.use('Absent')}.ABSENT`;
      body.push([
        `if ${isThere}:`,
        indentDoc(['value[', python(field.key), '] = ', entry(field, `value[${python(field.key)}] = `)]),
      ]);
    }
    body.push('return value');
    return lines(head, indent4(lines(...body)));
  }

  private union(union: UnionType): Doc[] {
    this.imports.add('typing:Any').add('typing:Union');
    const type = this.types.get(union.name)!;
    const name = this.unionWords.get(union.name)!;
    const expected = expectedOf(union);
    this.use('DecodeError');
    const decode = union.arms.map((arm): Doc => [
      condition(this.tests(arm, 'value')),
      indentDoc(['return ', call(this.decoder(arm.type), ['value'])]),
    ]);
    const docs: Doc[] = [
      lines(
        signature(`_decode_${name}`, 'value: Any', type),
        indent4(lines(...decode, call('raise DecodeError', [python(expected), 'value']))),
      ),
    ];
    const changing = union.arms.map(({ type: each }) => each).filter((each) => !this.isPlain(each));
    if (changing.length > 0) {
      const encode = changing.map((arm): Doc => [
        `if ${this.instance(arm, 'value')}:`,
        indentDoc(['return ', this.encoded(arm, 'value')]),
      ]);
      docs.push(
        lines(
          signature(`_encode_${name}`, `value: ${type}`, 'Any'),
          indent4(lines(...encode, 'return value')),
        ),
      );
    }
    const alias: Doc = [
      type,
      ' = Union[',
      group([
        indent([
          softline,
          group([
            join(
              [',', line],
              union.arms.map((arm) => this.aliasText(arm.type)),
            ),
            ifBreak(',', ''),
          ]),
        ]),
        softline,
      ]),
      ']',
    ];
    return [alias, ...docs];
  }

  private functions(payload: RootType): Doc[] {
    const root = payload.type;
    this.imports.add('json');
    const names = functionNames(payload);
    const type = this.typeText(root);
    const load = this.exact ? 'json.loads(text, parse_float=Decimal)' : 'json.loads(text)';
    if (this.exact) this.imports.add('decimal:Decimal');
    const value = this.encoded(root, 'payload');
    return [
      lines(
        signature(names.decode, 'text: str | bytes', type),
        indent4(
          lines(
            docstring(
              'Decode one payload from JSON text.\n\nRaises DecodeError, or json.JSONDecodeError when the text is not JSON.',
              4,
            ),
            [
              'return ',
              root.kind === 'record' ? `${type}.decode(${load})` : call(this.decoder(root), [load]),
            ],
          ),
        ),
      ),
      lines(
        signature(names.encode, `payload: ${type}`, 'str'),
        indent4(
          lines('"""Encode one payload as JSON text."""', [
            'return ',
            this.exact ? call(this.use('_write'), [value]) : call('json.dumps', [value, 'allow_nan=False']),
          ]),
        ),
      ),
    ];
  }

  private annotation(field: RecordField): Doc {
    const text = this.typeText(valueTypeOf(field));
    if (field.required) return text;
    if (!acceptsNull(field)) return `${text} | None = None`;
    this.use('Absent');
    return text === 'Any' ? 'Any = Absent.ABSENT' : `${text} | Absent = Absent.ABSENT`;
  }

  private typeText(type: Type): string {
    const imported = (module: string, name: string) => {
      this.imports.add(`${module}:${name}`);
      return name;
    };
    return spell(type, {
      anything: () => imported('typing', 'Any'),
      null: () => 'None',
      boolean: () => 'bool',
      string: () => 'str',
      integer: () => 'int',
      number: (exact) => (exact ? imported('decimal', 'Decimal') : 'float'),
      literal: (value) => `${imported('typing', 'Literal')}[${python(value)}]`,
      list: (items) => `list[${items}]`,
      map: (values) => `dict[str, ${values}]`,
      tuple: (items) => `tuple[${items.join(', ')}]`,
      named: (name, kind) => {
        const own = this.types.get(name)!;
        return kind === 'choice' && isOpenChoice(this.model, name) ? `${own} | str` : own;
      },
      nullable: (of) => `${of} | None`,
    });
  }

  /** The type as an expression that runs, which on 3.9 may not use `|`, and may name what is defined later. */
  private aliasText(type: Type): string {
    const text = this.typeText(type);
    return /[|]/.test(text) || /\b[A-Z]/.test(text.replace(/\b(Any|Decimal|None)\b/g, ''))
      ? python(text)
      : text;
  }

  private decoder(type: Type): string {
    switch (type.kind) {
      case 'anything':
        return this.use('_anything');
      case 'null':
        return this.use('_null');
      case 'boolean':
        return this.use('_boolean');
      case 'string':
        return this.use('_string');
      case 'integer':
        return this.use('_integer');
      case 'number':
        if (type.exact) return this.use('_decimal');
        this.use(this.exact ? '_numberOfDecimal' : '_number');
        return '_number';
      case 'literal':
        return `${this.use('_literal')}(${python(type.value)})`;
      case 'tuple':
        return `${this.use('_tuple')}(${type.items.map((item) => this.decoder(item)).join(', ')})`;
      case 'list':
        return `${this.use('_list')}(${this.decoder(type.items)})`;
      case 'map':
        return `${this.use('_map')}(${this.decoder(type.values)})`;
      case 'record':
        return `${this.types.get(type.name)!}.decode`;
      case 'choice':
        return `${this.use(isOpenChoice(this.model, type.name) ? '_open_choice' : '_choice')}(${this.types.get(type.name)!})`;
      case 'union':
        return `_decode_${this.unionWords.get(type.name)!}`;
      case 'nullable':
        return type.of.kind === 'anything'
          ? this.use('_anything')
          : `${this.use('_nullable')}(${this.decoder(type.of)})`;
    }
  }

  /** Whether a value of the type is written as it is. */
  private isPlain(type: Type): boolean {
    switch (type.kind) {
      case 'list':
        return this.isPlain(type.items);
      case 'tuple':
        return type.items.every((item) => this.isPlain(item));
      case 'map':
        return this.isPlain(type.values);
      case 'nullable':
        return this.isPlain(type.of);
      case 'union':
        return armsOf(this.model, type.name).every((arm) => this.isPlain(arm.type));
      case 'record':
      case 'choice':
        return false;
      default:
        return true;
    }
  }

  /**
   * An expression for the JSON of a value: in line where that reads well and fits, else by an encoder.
   * @param room columns that a conditional expression may take; no two versions of the formatter agree on how
   *   to break one
   */
  private encoded(type: Type, value: string, room = width - 16): Doc {
    if (this.isPlain(type)) return value;
    const single = this.encodedSingle(type, value);
    if (single !== undefined && type.kind !== 'union') return single;
    const conditional = this.encodedNullable(type, value);
    if (conditional !== undefined && conditional.length <= room) return conditional;
    if (type.kind === 'list') {
      const item = this.encodedSingle(type.items, 'item') ?? this.encodedNullable(type.items, 'item');
      if (item !== undefined && item.length <= width - 20)
        return bracketed('[', [item, `for item in ${value}`], ']');
    }
    if (type.kind === 'map') {
      const item = this.encodedSingle(type.values, 'item');
      if (item !== undefined)
        return bracketed('{', [`key: ${item}`, `for key, item in ${value}.items()`], '}');
    }
    return call(this.encoder(type), [value]);
  }

  private encodedNullable(type: Type, value: string): string | undefined {
    const inner = type.kind === 'nullable' ? this.encodedSingle(type.of, value) : undefined;
    return inner === undefined ? undefined : `None if ${value} is None else ${inner}`;
  }

  private encodedSingle(type: Type, value: string): string | undefined {
    switch (type.kind) {
      case 'record':
        return `${value}.encode()`;
      case 'choice':
        return isOpenChoice(this.model, type.name) ? `${this.use('_value_of')}(${value})` : `${value}.value`;
      case 'union':
        return this.isPlain(type) ? undefined : `${this.encoder(type)}(${value})`;
      default:
        return undefined;
    }
  }

  /** An expression for the function that encodes a type. */
  private encoder(type: Type): string {
    if (this.isPlain(type)) return this.use('_anything');
    switch (type.kind) {
      case 'record':
        return `${this.types.get(type.name)!}.encode`;
      case 'choice':
        return this.use('_value_of');
      case 'union':
        return `_encode_${this.unionWords.get(type.name)!}`;
      case 'nullable':
        return `${this.use('_or_none')}(${this.encoder(type.of)})`;
      case 'tuple':
        return `${this.use('_each_of')}(${type.items.map((item) => this.encoder(item)).join(', ')})`;
      case 'list':
        return `${this.use('_each')}(${this.encoder(type.items)})`;
      case 'map':
        return `${this.use('_each_value')}(${this.encoder(type.values)})`;
      default:
        return this.use('_anything');
    }
  }

  /** What all holds of parsed JSON that is for an arm of a union. */
  private tests({ type, test }: UnionArm, value: string): string[] {
    const json = this.jsonTests(type, value);
    if (test.kind === 'key') return [...json, `${python(test.key)} in ${value}`];
    if (test.kind === 'json') return json;
    const tag = `${value}.get(${python(test.key)})`;
    const [only, ...others] = test.values.map(python);
    return [
      ...json,
      others.length === 0 ? `${tag} == ${only}` : `${tag} in (${[only, ...others].join(', ')})`,
    ];
  }

  private jsonTests(type: Type, value: string): string[] {
    switch (type.kind) {
      case 'boolean':
        return [`isinstance(${value}, bool)`];
      case 'string':
      case 'choice':
      case 'literal':
        return [`isinstance(${value}, str)`];
      case 'integer':
        return [`isinstance(${value}, int)`, `not isinstance(${value}, bool)`];
      case 'number':
        if (this.exact) this.imports.add('decimal:Decimal');
        return [
          `isinstance(${value}, (int, ${this.exact ? 'Decimal' : 'float'}))`,
          `not isinstance(${value}, bool)`,
        ];
      case 'list':
      case 'tuple':
        return [`isinstance(${value}, list)`];
      default:
        return [`isinstance(${value}, dict)`];
    }
  }

  /** A test of a decoded value for the arm of a union that it came by. */
  private instance(type: Type, value: string): string {
    if (type.kind === 'list') return `isinstance(${value}, list)`;
    if (type.kind === 'tuple') return `isinstance(${value}, tuple)`;
    if (type.kind === 'choice') return `isinstance(${value}, ${this.types.get(type.name)!})`;
    return `isinstance(${value}, ${type.kind === 'map' ? 'dict' : this.typeText(type)})`;
  }

  private documentation(documented: Documented): Doc[] {
    const prose = proseOf(documented);
    const deprecated = documented.deprecated ? 'Deprecated.' : '';
    const text = [prose, deprecated].filter(Boolean).join('\n\n');
    return text === '' ? [] : [docstring(text, 4)];
  }

  /** Notes that a helper is needed, and what it needs; returns the name it is called by. */
  private use(name: string): string {
    if (!this.used.has(name)) {
      this.used.add(name);
      const helper: Helper = (before[name] ?? after[name] ?? variables[name])!;
      helper.imports.forEach((each) => this.imports.add(each));
      helper.needs.forEach((each) => this.use(each));
    }
    return name;
  }
}

/** The type of a form of text, what is imported for it, and what makes one. */
const pythonViews = {
  'date-time': ['_datetime.datetime', 'datetime as _datetime', '_time'],
  date: ['_datetime.date', 'datetime as _datetime', '_datetime.date.fromisoformat'],
  uuid: ['_uuid.UUID', 'uuid as _uuid', '_uuid.UUID'],
  base64: ['_Bytes', undefined, '_bytes'],
} as const;

function presenceHelper(field: RecordField): string {
  if (field.required) return '_required';
  return acceptsNull(field) ? '_present' : '_optional';
}

const lineBreak: Doc = lines('', '');

function indentDoc(doc: Doc): Doc {
  return indent([lineBreak, doc]);
}

/** The body under a line that ends in a colon; `lines` has already put it on a line of its own. */
function indent4(doc: Doc): Doc {
  return ['    ', indent(doc)];
}

function block(head: string, body: readonly Doc[]): Doc {
  return [head, indentDoc(blocks(body))];
}

function call(callee: Doc, args: readonly Doc[]): Doc {
  return [
    callee,
    '(',
    group([
      indent([softline, group([join([',', line], [...args]), args.length > 1 ? ifBreak(',', '') : ''])]),
      softline,
    ]),
    ')',
  ];
}

/** `if a and b:`, in parentheses and on several lines when it is long. */
function condition(tests: readonly string[]): Doc {
  const flat = `if ${tests.join(' and ')}:`;
  if (flat.length <= width - 4) return flat;
  return ['if (', indentDoc(join([lineBreak, 'and '], [...tests])), lineBreak, '):'];
}

function bracketed(open: string, parts: readonly Doc[], close: string): Doc {
  return [open, group([indent([softline, group(join(line, [...parts]))]), softline]), close];
}

function signature(name: string, parameter: string, result: string): Doc {
  return [
    'def ',
    name,
    '(',
    group([indent([softline, parameter, ifBreak(',', '')]), softline]),
    `) -> ${result}:`,
  ];
}

function python(text: string): string {
  return literal(text, {
    quote: text.includes('"') && !text.includes("'") ? "'" : '"',
    short: { '\n': '\\n', '\r': '\\r', '\t': '\\t' },
    unit: (code) => (code < 0x100 ? `\\x${hex(code, 2)}` : `\\u${hex(code, 4)}`),
    astral: (code) => `\\U${hex(code, 8)}`,
  });
}

/** A docstring as black leaves it. */
function docstring(text: string, indentation: number): Doc {
  const safe = (line: string) => line.replace(/\\/g, '\\\\').replace(/"""/g, '\\"\\"\\"');
  const prose = proseLines(text, width - indentation - 6).map(safe);
  const first = prose[0]!.startsWith('"') ? ` ${prose[0]}` : prose[0]!;
  if (prose.length === 1) return `"""${first}${/["\\]$/.test(first) ? ' ' : ''}"""`;
  return lines(`"""${first}`, ...prose.slice(1), '"""');
}

function comment(documented: Documented): Doc[] {
  const text = [proseOf(documented), documented.deprecated ? 'Deprecated.' : ''].filter(Boolean).join('\n\n');
  return text === '' ? [] : proseLines(text, width - 6).map((line) => (line === '' ? '#' : `# ${line}`));
}
