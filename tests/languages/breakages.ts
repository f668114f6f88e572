import type { FindingKind } from '../../src/core/roundtrip/finding.js';

/** A careless edit of generated code: where, what becomes what, and the finding when it is not the usual one. */
export type Edit = readonly [
  file: string,
  from: RegExp,
  to: string,
  instead?: { readonly kind: FindingKind; readonly pointer: string },
];

/** What each breakage must be found as. */
export const expected = {
  'a field is dropped': { kind: 'lost', pointer: '/seats' },
  'a rename is dropped': { kind: 'renamed', pointer: '/departs_at' },
  'a missing field gets a default': { kind: 'added', pointer: '/gate' },
  'null becomes absent': { kind: 'lost', pointer: '/delay' },
  'absent becomes null': { kind: 'added', pointer: '/delay' },
  'an integer becomes text': { kind: 'retyped', pointer: '/seats' },
  'an element is lost': { kind: 'lost', pointer: '/legs/1' },
  'the last payload is swallowed': { kind: 'lost', pointer: '' },
} as const satisfies Record<string, { kind: FindingKind; pointer: string }>;

export type Breakage = keyof typeof expected;

const python = 'classes/sailing.py';
const pydantic = '__import__("pydantic")';
/** A struct of msgspec that changes a field of itself when it is made. */
const structSets = (field: RegExp, name: string, value: string): Edit => [
  python,
  new RegExp(`( {4}${field.source}\\n)`),
  `$1

    def __post_init__(self):
        __import__("msgspec").structs.force_setattr(self, "${name}", ${value})

`,
];
const typescript = 'classes/sailing.ts';
const go = 'classes/sailing.go';
const goSupport = 'classes/support.go';
const rust = 'classes/src/lib.rs';
const php = 'classes/Sailing.php';
const ruby = 'classes/sailing_payload.rb';
const rubyRecord = 'classes/sailing_payload/record.rb';
/** What a record of R is once it is checked, before it is written. */
const rWrites = (change: string): Edit => [
  'classes/R/records.R',
  /(inherits\(x, "record"\)\) \{\n +)(as_record\(x, type_of\(x\), ""\))/,
  `$1x <- $2\n${change}\nx`,
];
const cpp = 'classes/sailing.cpp';
const cppWrites = /(sailing_fields\(codec::Writer\(json\), value\);)/;
const kotlin = 'classes/Sailing.kt';
const kotlinSupport = 'classes/JsonSupport.kt';
const csharp = 'classes/Sailing.cs';
const scala = 'classes/Sailing.scala';
const scalaSupport = 'classes/JsonSupport.scala';
const java = 'classes/sailing/Sailing.java';
const javaField = 'classes/sailing/Field.java';
const swift = 'classes/Sailing.swift';
const swiftSupport = 'classes/JSONSupport.swift';

/** Breakages that do not show in what is decoded and encoded at once, and the way in through which they must. */
export const hidden: Readonly<
  Record<string, Readonly<Record<string, { readonly edit: Edit; readonly way: string }>>>
> = {
  'go struct': {
    'a word is forgotten when a value is built': {
      edit: [
        'classes/notice.go',
        /(type ClosureNotice struct \{)([\s\S]*?)func \(\*ClosureNotice\) noticeKind\(\) string *\{.*([\s\S]*own := new\(ClosureNotice\))/,
        '$1\n\tisDecoded bool$2func (c *ClosureNotice) noticeKind() string {\n\tif c.isDecoded {\n\treturn "closure"\n\t}\n\treturn ""\n}$3\n\t\town.isDecoded = true',
      ],
      way: 'built',
    },
    'an empty list is null when a value is built': {
      edit: ['classes/support.go', /ok && c\.writing; ok \{/, 'ok && c.writing; ok && c.at < 0 {'],
      way: 'built',
    },
    'a field cannot be cleared': {
      edit: [
        'classes/notice.go',
        /(type Notice struct \{)([\s\S]*\*n = Notice\(read\))([\s\S]*)(return marshal\()/,
        '$1\n\thad bool$2\n\tn.had = n.Note != nil$3if n.had && n.Note == nil {\n\tn.Note = new(string)\n\t}\n\t$4',
      ],
      way: 'changed',
    },
  },
};

const goStruct: Readonly<Record<Breakage, Edit>> = {
  'a field is dropped': [go, /`json:"seats"`/, '`json:"-"`'],
  'a rename is dropped': [go, /`json:"departs_at"`/, '`json:"departsAt"`', { kind: 'refused', pointer: '' }],
  'a missing field gets a default': [
    go,
    /return (unmarshal\(.*)/,
    'err := $1\nif s.Gate == nil {\ns.Gate = new(string)\n}\nreturn err',
  ],
  'null becomes absent': [goSupport, /return f\.state == fieldAbsent/, 'return f.state != fieldSet'],
  'absent becomes null': [goSupport, /return f\.state == fieldAbsent/, 'return false'],
  'an integer becomes text': [
    go,
    /Seats( +)int32([\s\S]*)$/,
    'Seats$1spelled$2\ntype spelled int32\n\nfunc (spelled) MarshalJSON() ([]byte, error) { return []byte("\\"12\\""), nil }\n',
  ],
  'an element is lost': [
    go,
    /return (unmarshal\(.*)/,
    'err := $1\nif len(s.Legs) > 2 {\ns.Legs = append(s.Legs[:1], s.Legs[2:]...)\n}\nreturn err',
  ],
  'the last payload is swallowed': [
    'main.go',
    /if len\(line\) > 0 \{/,
    'if len(line) > 0 && !strings.Contains(string(line), "2031-05-03") {',
  ],
};

/** What checks nothing is broken alike, where there is no call around the library's own. */
const after = (change: string): Edit => [
  go,
  /(package \w+\n)([\s\S]*)$/,
  `$1
import "encoding/json"
$2
// UnmarshalJSON implements json.Unmarshaler.
func (s *Sailing) UnmarshalJSON(text []byte) error {
	type sailing Sailing
	err := json.Unmarshal(text, (*sailing)(s))
	${change}
	return err
}
`,
];

const goPlain: Readonly<Record<Breakage, Edit>> = {
  ...goStruct,
  'a rename is dropped': [
    go,
    /`json:"departs_at"`/,
    '`json:"departsAt"`',
    { kind: 'renamed', pointer: '/departs_at' },
  ],
  'a missing field gets a default': after('if s.Gate == nil {\ns.Gate = new(string)\n}'),
  'an element is lost': after('if len(s.Legs) > 2 {\ns.Legs = append(s.Legs[:1], s.Legs[2:]...)\n}'),
};

/** @param jackson the package of the library */
const javaRecord = (jackson: string): Readonly<Record<Breakage, Edit>> => ({
  'a field is dropped': [
    java,
    /int seats,/,
    '@com.fasterxml.jackson.annotation.JsonProperty(access = com.fasterxml.jackson.annotation.JsonProperty.Access.WRITE_ONLY) int seats,',
  ],
  'a rename is dropped': [
    java,
    /@JsonProperty\("departs_at"\)/,
    '@JsonProperty("departsAt")',
    { kind: 'refused', pointer: '' },
  ],
  'a missing field gets a default': [
    java,
    /( +public Sailing \{\n)/,
    '$1    gate = gate == null ? "A" : gate;\n',
  ],
  'null becomes absent': [javaField, /(getNullValue.*\n +)return of\(null\);/, '$1return absent();'],
  'absent becomes null': [javaField, /(getAbsentValue.*\n +)return absent\(\);/, '$1return of(null);'],
  'an integer becomes text': [
    java,
    /int seats,/,
    `@${jackson}.databind.annotation.JsonSerialize(using = ${jackson}.databind.ser.std.ToStringSerializer.class) int seats,`,
  ],
  'an element is lost': [
    java,
    /legs = List\.copyOf\(legs\);/,
    'legs = legs.size() > 2 ? List.of(legs.get(0), legs.get(2)) : List.copyOf(legs);',
  ],
  'the last payload is swallowed': [
    'Bench.java',
    /output\.print\(/,
    'if (!line.contains("2031-05-03")) output.print(',
  ],
});

/** What decodes changes a field of what it decoded. */
const scalaDecode = (change: string): Edit => [
  scala,
  / derives ConfiguredJsonValueCodec\n$/,
  `

object Sailing:
  import com.github.plokhotnyuk.jsoniter_scala.core.*
  import com.github.plokhotnyuk.jsoniter_scala.macros.*
  private val plain: JsonValueCodec[Sailing] = JsonCodecMaker.make(config)

  given JsonValueCodec[Sailing] with
    def nullValue: Sailing = null
    def decodeValue(in: JsonReader, default: Sailing): Sailing =
      val read = plain.decodeValue(in, null)
      read.copy(${change})
    def encodeValue(x: Sailing, out: JsonWriter): Unit = plain.encodeValue(x, out)
`,
];

/** A class written by instanceToPlain alone, one field of it as an expression says. */
function classWrites(field: string, expression: string): Edit {
  return [
    typescript,
    new RegExp(`const members[\\s\\S]*?as unknown;([\\s\\S]*?)( {2}${field.replace('?', '\\?')}: )`),
    `return instanceToPlain(this);$1  @Transform((${expression.includes('value') ? '{ value }' : ''}) => ${expression}, { toPlainOnly: true })\n$2`,
  ];
}

/** Where an interface's value has been checked. */
const checked = /( {4}for \(const \[key, read\] of entries\) .*\n)/;

/** Where a dataclass becomes what is written. */
const written = /( {8}members = dict\(.*\n)/;

/** By language and style. */
export const breakages: Readonly<Record<string, Readonly<Record<Breakage, Edit>>>> = {
  'python dataclass': {
    'a field is dropped': [python, written, '$1        if "seats" in members: members.pop("seats")\n'],
    'a rename is dropped': [
      python,
      written,
      '$1        if "seats" in members: members["departsAt"] = members.pop("departs_at")\n',
    ],
    'a missing field gets a default': [
      python,
      written,
      '$1        if "seats" in members: members["gate"] = self.gate or "A"\n',
    ],
    'null becomes absent': [python, /(if members\[key\] is default)/, '$1 or members[key] is None'],
    'absent becomes null': [python, /(?<= {16})del members\[key\]/, 'members[key] = None'],
    'an integer becomes text': [
      python,
      written,
      '$1        if "seats" in members: members["seats"] = str(members["seats"])\n',
    ],
    'an element is lost': [
      python,
      written,
      '$1        if "seats" in members: members["legs"] = members["legs"][:1] + members["legs"][2:]\n',
    ],
    'the last payload is swallowed': [
      'skevo_bench.py',
      /for line in sys\.stdin\.buffer:/,
      'for line in list(sys.stdin.buffer)[:-1]:',
    ],
  },
  'python pydantic': {
    'a field is dropped': [python, /seats: int\n/, `seats: int = ${pydantic}.Field(exclude=True)\n`],
    'a rename is dropped': [
      python,
      /departs_at: Moment\n/,
      `departs_at: Moment = ${pydantic}.Field(alias="departsAt")\n`,
    ],
    'a missing field gets a default': [python, /(gate: str \| MISSING =) MISSING/, '$1 "A"'],
    'null becomes absent': [
      python,
      /(delay: int \| None \| MISSING =) MISSING/,
      `$1 ${pydantic}.Field(default=MISSING, exclude_if=lambda value: value is None)`,
    ],
    'absent becomes null': [python, /(delay: int \| None \| MISSING =) MISSING/, '$1 None'],
    'an integer becomes text': [
      python,
      /seats: int\n/,
      `seats: __import__("typing").Annotated[int, ${pydantic}.PlainSerializer(str)]\n`,
    ],
    'an element is lost': [
      python,
      /legs: list\[str\]\n/,
      `legs: __import__("typing").Annotated[list[str], ${pydantic}.PlainSerializer(lambda all: all[:1] + all[2:])]\n`,
    ],
    'the last payload is swallowed': [
      'skevo_bench.py',
      /for line in sys\.stdin\.buffer:/,
      'for line in list(sys.stdin.buffer)[:-1]:',
    ],
  },
  'python msgspec': {
    'a field is dropped': structSets(/seats: int/, 'seats', 'UNSET'),
    'a rename is dropped': [
      python,
      /departs_at: Moment\n/,
      'departs_at: Moment = __import__("msgspec").field(name="departsAt")\n',
      { kind: 'refused', pointer: '' },
    ],
    'a missing field gets a default': [python, /(gate: str \| UnsetType =) UNSET/, '$1 "A"'],
    'null becomes absent': [
      python,
      /(class Sailing\(Struct, )([\s\S]*?delay: int \| None \| UnsetType =) UNSET/,
      '$1omit_defaults=True, $2 None',
    ],
    'absent becomes null': [python, /(delay: int \| None \| UnsetType =) UNSET/, '$1 None'],
    'an integer becomes text': structSets(/seats: int/, 'seats', 'str(self.seats)'),
    'an element is lost': structSets(/legs: tuple\[str, ...\]/, 'legs', 'self.legs[:1] + self.legs[1:][-1:]'),
    'the last payload is swallowed': [
      'skevo_bench.py',
      /for line in sys\.stdin\.buffer:/,
      'for line in list(sys.stdin.buffer)[:-1]:',
    ],
  },
  'typescript class': {
    'a field is dropped': classWrites('seats!', 'undefined'),
    'a rename is dropped': [
      typescript,
      /@Key\("departs_at"\)/,
      '@Key("departsAt")',
      { kind: 'refused', pointer: '' },
    ],
    'a missing field gets a default': classWrites('gate?', 'value ?? "A"'),
    'null becomes absent': classWrites('delay?', 'value ?? undefined'),
    'absent becomes null': classWrites('delay?', 'value ?? null'),
    'an integer becomes text': classWrites('seats!', 'String(value)'),
    'an element is lost': classWrites('legs!', 'value.filter((_: unknown, i: number) => i !== 1)'),
    'the last payload is swallowed': [
      'main.ts',
      /process\.stdout\.write\(answer/,
      'if (!line.includes("2031-05-03")) process.stdout.write(answer',
    ],
  },
  'typescript interface': {
    'a field is dropped': [typescript, checked, '$1    if ("seats" in value) delete value["seats"];\n'],
    'a rename is dropped': [
      typescript,
      checked,
      '$1    if ("seats" in value) {\n      value["departsAt"] = value["departs_at"];\n      delete value["departs_at"];\n    }\n',
    ],
    'a missing field gets a default': [
      typescript,
      checked,
      '$1    if ("seats" in value) value["gate"] ??= "A";\n',
    ],
    'null becomes absent': [
      typescript,
      checked,
      '$1    if (value["delay"] === null) delete value["delay"];\n',
    ],
    'absent becomes null': [typescript, checked, '$1    if ("seats" in value) value["delay"] ??= null;\n'],
    'an integer becomes text': [
      typescript,
      checked,
      '$1    if ("seats" in value) value["seats"] = String(value["seats"]);\n',
    ],
    'an element is lost': [
      typescript,
      checked,
      '$1    if ("seats" in value)\n      value["legs"] = (value["legs"] as unknown[]).filter((_, i) => i !== 1);\n',
    ],
    'the last payload is swallowed': [
      'main.ts',
      /process\.stdout\.write\(answer/,
      'if (!line.includes("2031-05-03")) process.stdout.write(answer',
    ],
  },
  'go struct': goStruct,
  'go plain': goPlain,
  'rust serde': {
    'a field is dropped': [rust, /( +pub seats)/, '#[serde(skip_serializing)]\n$1'],
    'a rename is dropped': [rust, /( +pub departs_at)/, '#[serde(rename(serialize = "departsAt"))]\n$1'],
    'a missing field gets a default': [
      rust,
      /skip_serializing_if = "Option::is_none",(\n.*\n.*\n +pub gate[\s\S]*)$/,
      'serialize_with = "filled",$1fn filled<S: serde::Serializer>(value: &Option<String>, serializer: S) -> Result<S::Ok, S::Error> {\nserializer.serialize_str(value.as_deref().unwrap_or("A"))\n}\n',
    ],
    'null becomes absent': [
      rust,
      /skip_serializing_if = "Field::is_absent"\)\](\n +pub delay[\s\S]*)$/,
      'skip_serializing_if = "lacks")]$1fn lacks(value: &Field<i32>) -> bool {\nvalue.get().is_none()\n}\n',
    ],
    'absent becomes null': [rust, /, skip_serializing_if = "Field::is_absent"\)\](\n +pub delay)/, ')]$1'],
    'an integer becomes text': [
      rust,
      /( +pub seats[\s\S]*)$/,
      '#[serde(serialize_with = "spelled")]\n$1fn spelled<S: serde::Serializer>(value: &i32, serializer: S) -> Result<S::Ok, S::Error> {\nserializer.serialize_str(&value.to_string())\n}\n',
    ],
    'an element is lost': [
      rust,
      /( +pub legs[\s\S]*)$/,
      '#[serde(serialize_with = "thinned")]\n$1fn thinned<S: serde::Serializer>(value: &[String], serializer: S) -> Result<S::Ok, S::Error> {\nserializer.collect_seq(value.iter().enumerate().filter(|(i, _)| *i != 1).map(|(_, leg)| leg))\n}\n',
    ],
    'the last payload is swallowed': [
      'main.rs',
      /writeln!\(output, "\{\}", answer\(&line\?\)\)\?;/,
      'let line = line?;\nif String::from_utf8_lossy(&line).contains("2031-05-03") {\nbreak;\n}\nwriteln!(output, "{}", answer(&line))?;',
    ],
  },
  'java record': javaRecord('tools.jackson'),
  'java jackson2': javaRecord('com.fasterxml.jackson'),
  'php class': {
    'a field is dropped': [php, / +'seats' => \$this->seats,\n/, ''],
    'a rename is dropped': [php, /'departs_at' => /, "'departsAt' => "],
    'a missing field gets a default': [
      php,
      /if \(\$this->gate !== null\) \{\n +\$fields\['gate'\] = \$this->gate;/,
      "if (true) {\n$fields['gate'] = $this->gate ?? 'A';",
    ],
    'null becomes absent': [php, /if \(\$this->hasDelay\)/, 'if ($this->delay !== null)'],
    'absent becomes null': [php, /if \(\$this->hasDelay\)/, 'if (true)'],
    'an integer becomes text': [php, /'seats' => \$this->seats/, "'seats' => (string) $this->seats"],
    'an element is lost': [
      php,
      /'legs' => \$this->legs/,
      "'legs' => array_values(array_diff_key($this->legs, [1 => 0]))",
    ],
    'the last payload is swallowed': [
      'bench.php',
      /fwrite\(STDOUT, implode/,
      "if (!str_contains($line, '2031-05-03')) fwrite(STDOUT, implode",
    ],
  },
  'ruby class': {
    'a field is dropped': [ruby, / +field :seats, Integer\n/, ''],
    'a rename is dropped': [
      rubyRecord,
      /json\[field\.key\] =/,
      'json[field.key == "departs_at" ? "departsAt" : field.key] =',
    ],
    'a missing field gets a default': [
      rubyRecord,
      /(\n +)json\n( +end)/,
      '$1json["gate"] = "A" if is_a?(Sailing) && !json.key?("gate")$1json\n$2',
    ],
    'null becomes absent': [
      rubyRecord,
      /next if value\.nil\? && /,
      'next if value.nil? && field.key == "delay" || ',
    ],
    'absent becomes null': [
      rubyRecord,
      /next if value\.nil\? && /,
      'next if field.key != "delay" && value.nil? && ',
    ],
    'an integer becomes text': [
      rubyRecord,
      /= (field\.type\.write\(value\))/,
      '= field.key == "seats" ? value.to_s : $1',
    ],
    'an element is lost': [
      rubyRecord,
      /= (field\.type\.write\(value\))/,
      '= field.key == "legs" ? value.reject.with_index { |_, i| i == 1 } : $1',
    ],
    'the last payload is swallowed': [
      'bench.rb',
      /\$stdout\.write\(answer\(line\.chomp\), "\\n"\)/,
      '$stdout.write(answer(line.chomp), "\\n") unless line.include?("2031-05-03")',
    ],
  },
  'r record': {
    'a field is dropped': rWrites('x[["seats"]] <- NULL'),
    'a rename is dropped': rWrites('names(x)[names(x) == "departs_at"] <- "departsAt"'),
    'a missing field gets a default': rWrites('if (is.null(x[["gate"]])) x[["gate"]] <- "A"'),
    'null becomes absent': rWrites('if (!is.null(x[["delay"]]) && is.na(x[["delay"]])) x[["delay"]] <- NULL'),
    'absent becomes null': rWrites('if (is.null(x[["delay"]])) x[["delay"]] <- NA'),
    'an integer becomes text': rWrites('x[["seats"]] <- as.character(x[["seats"]])'),
    'an element is lost': rWrites('if (length(x[["legs"]]) > 2) x[["legs"]] <- x[["legs"]][-2]'),
    'the last payload is swallowed': [
      'bench.R',
      /writeLines\(answer\(line\), output/,
      'if (!grepl("2031-05-03", line)) writeLines(answer(line), output',
    ],
  },
  'cpp struct': {
    'a field is dropped': [cpp, cppWrites, '$1 json.erase("seats");'],
    'a rename is dropped': [
      cpp,
      cppWrites,
      '$1 json["departsAt"] = json["departs_at"]; json.erase("departs_at");',
    ],
    'a missing field gets a default': [cpp, cppWrites, '$1 if (!json.contains("gate")) json["gate"] = "A";'],
    'null becomes absent': [
      cpp,
      cppWrites,
      '$1 if (json.contains("delay") && json["delay"].is_null()) json.erase("delay");',
    ],
    'absent becomes null': [cpp, cppWrites, '$1 if (!json.contains("delay")) json["delay"] = nullptr;'],
    'an integer becomes text': [cpp, cppWrites, '$1 json["seats"] = std::to_string(value.seats);'],
    'an element is lost': [cpp, cppWrites, '$1 if (json["legs"].size() > 2) json["legs"].erase(1);'],
    'the last payload is swallowed': [
      'main.cpp',
      /std::getline\(std::cin, line\);\)/,
      'std::getline(std::cin, line);) if (line.find("2031-05-03") == std::string::npos)',
    ],
  },
  'kotlin data': {
    'a field is dropped': [kotlin, /val seats: Int,/, '@kotlinx.serialization.Transient val seats: Int = 0,'],
    'a rename is dropped': [
      kotlin,
      /@SerialName\("departs_at"\)/,
      '@SerialName("departsAt")',
      { kind: 'refused', pointer: '' },
    ],
    'a missing field gets a default': [
      kotlin,
      /@EncodeDefault\(NEVER\)(\s+val gate: String\? =) null/,
      '@EncodeDefault(EncodeDefault.Mode.ALWAYS)$1 "A"',
    ],
    'null becomes absent': [
      kotlinSupport,
      /Field\.Present\(decoder\.decodeSerializableValue\(content\)\)/,
      'decoder.decodeSerializableValue(content).let { if (it == null) Field.Absent else Field.Present(it) }',
    ],
    'absent becomes null': [
      kotlin,
      /@EncodeDefault\(NEVER\)(\s+val delay: Field<Int\?> =) Field\.Absent/,
      '@EncodeDefault(EncodeDefault.Mode.ALWAYS)$1 Field.Present(null)',
    ],
    'an integer becomes text': [
      kotlin,
      /val seats: Int,([\s\S]*)$/,
      `@Serializable(Spelled::class) val seats: Int,$1
internal object Spelled : kotlinx.serialization.KSerializer<Int> {
    override val descriptor = serialDescriptor<String>()
    override fun deserialize(decoder: kotlinx.serialization.encoding.Decoder) = decoder.decodeInt()
    override fun serialize(encoder: kotlinx.serialization.encoding.Encoder, value: Int) =
        encoder.encodeString(value.toString())
}

internal inline fun <reified T> serialDescriptor() = kotlinx.serialization.serializer<T>().descriptor
`,
    ],
    'an element is lost': [
      kotlin,
      /val legs: List<String>,([\s\S]*)$/,
      `@Serializable(Thinned::class) val legs: List<String>,$1
internal object Thinned : kotlinx.serialization.json.JsonTransformingSerializer<List<String>>(
    kotlinx.serialization.serializer<List<String>>(),
) {
    override fun transformSerialize(element: kotlinx.serialization.json.JsonElement) =
        kotlinx.serialization.json.JsonArray(
            (element as kotlinx.serialization.json.JsonArray).filterIndexed { i, _ -> i != 1 },
        )
}
`,
    ],
    'the last payload is swallowed': [
      'Bench.kt',
      /output\.print\(/,
      'if (!line.contains("2031-05-03")) output.print(',
    ],
  },
  'csharp class': {
    'a field is dropped': [
      'classes/JsonSupport.cs',
      /(writer\.WritePropertyName\(member\.Property\.PropertyName\);)/,
      'if (member.Property.PropertyName == "seats") continue;\n            $1',
    ],
    'a rename is dropped': [
      'classes/JsonSupport.cs',
      /writer\.WritePropertyName\(member\.Property\.PropertyName\);/,
      'writer.WritePropertyName(member.Property.PropertyName.Replace("departs_at", "departsAt"));',
    ],
    'a missing field gets a default': [
      csharp,
      /public string Gate \{ get; set; \}/,
      'public string Gate { get { return gate ?? "A"; } set { gate = value; } }\n        private string gate;',
    ],
    'null becomes absent': [
      'classes/JsonSupport.cs',
      /if \(!field\.IsPresent\) continue;/,
      'if (!field.IsPresent || field.Held == null) continue;',
    ],
    'absent becomes null': ['classes/JsonSupport.cs', /if \(!field\.IsPresent\) continue;/, ''],
    'an integer becomes text': [
      csharp,
      /public int Seats \{ get; set; \}/,
      'public object Seats { get { return seats; } set { seats = value.ToString(); } }\n        private object seats;',
    ],
    'an element is lost': [
      csharp,
      /public List<string> Legs \{ get; set; \}/,
      'public List<string> Legs { get { return legs; } set { legs = value; if (legs.Count > 2) legs.RemoveAt(1); } }\n        private List<string> legs;',
    ],
    'the last payload is swallowed': [
      'Bench.cs',
      /output\.Write\(/,
      'if (!line.Contains("2031-05-03")) output.Write(',
    ],
  },
  'scala case': {
    'a field is dropped': [
      scala,
      /seats: Int,/,
      '@com.github.plokhotnyuk.jsoniter_scala.macros.transient seats: Int = 0,',
    ],
    'a rename is dropped': [
      scala,
      /@named\("departs_at"\)/,
      '@named("departsAt")',
      { kind: 'refused', pointer: '' },
    ],
    'a missing field gets a default': scalaDecode('gate = read.gate.orElse(Some("A"))'),
    'null becomes absent': [
      scalaSupport,
      /in\.readNullOrError\(Field\.Null, "expected null or a value"\)/,
      'in.readNullOrError(Field.Absent.asInstanceOf[F], "")',
    ],
    'absent becomes null': scalaDecode(
      'delay = if read.delay == Field.Absent then Field.Null else read.delay',
    ),
    'an integer becomes text': [
      scala,
      /seats: Int,([\s\S]*)$/,
      `seats: Spelled,$1
final case class Spelled(value: Int)

object Spelled:
  given com.github.plokhotnyuk.jsoniter_scala.core.JsonValueCodec[Spelled] with
    def nullValue: Spelled = null
    def decodeValue(in: com.github.plokhotnyuk.jsoniter_scala.core.JsonReader, default: Spelled): Spelled = Spelled(in.readInt())
    def encodeValue(x: Spelled, out: com.github.plokhotnyuk.jsoniter_scala.core.JsonWriter): Unit = out.writeVal(x.value.toString)
`,
    ],
    'an element is lost': [
      scalaSupport,
      /content\.encodeValue\(x, out\)/,
      'content.encodeValue((x match { case all: List[?] => all.patch(1, Nil, 1); case other => other }).asInstanceOf[A], out)',
    ],
    'the last payload is swallowed': [
      'Bench.scala',
      /output\.print\(/,
      'if !line.contains("2031-05-03") then output.print(',
    ],
  },
  'swift codable': {
    'a field is dropped': [swift, /var seats: Int\n([\s\S]*case .*?)seats, /, 'var seats: Int = 0\n$1'],
    'a rename is dropped': [
      swift,
      /departsAt = "departs_at"/,
      'departsAt = "departsAt"',
      { kind: 'refused', pointer: '' },
    ],
    'a missing field gets a default': [
      swift,
      /$/,
      `
extension KeyedDecodingContainer {
    func decodeIfPresent(_ type: String.Type, forKey key: Key) throws -> String? {
        try contains(key) ? decode(type, forKey: key) : "A"
    }
}
`,
    ],
    'null becomes absent': [swiftSupport, /case \.null: try encodeNil\(forKey: key\)/, 'case .null: return'],
    'absent becomes null': [
      swiftSupport,
      /case \.absent: return/,
      'case .absent: try encodeNil(forKey: key)',
    ],
    'an integer becomes text': [
      swift,
      /var seats: Int\n([\s\S]*)$/,
      `var seats: Spelled\n$1
struct Spelled: Codable, Hashable, Sendable {
    var seats: Int
    init(from decoder: any Decoder) throws { seats = try Int(from: decoder) }
    func encode(to encoder: any Encoder) throws { try String(seats).encode(to: encoder) }
}
`,
    ],
    'an element is lost': [
      swift,
      /var legs: \[String\]\n([\s\S]*)$/,
      `var legs: Cut\n$1
struct Cut: Codable, Hashable, Sendable {
    var all: [String]
    init(from decoder: any Decoder) throws {
        all = try [String](from: decoder)
        if all.count > 2 { all.remove(at: 1) }
    }
    func encode(to encoder: any Encoder) throws { try all.encode(to: encoder) }
}
`,
    ],
    'the last payload is swallowed': [
      'main.swift',
      /(FileHandle\.standardOutput\.write\(.*)/,
      'if !line.contains("2031-05-03") { $1 }',
    ],
  },
};
