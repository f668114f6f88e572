import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language, Limit, Style } from '../language.js';
import { plainPython, reachMsgspec, reachPydantic, reachPython } from './reach.js';
import { emitDataclasses, rootOfDataclass } from './dataclass.js';
import { emitMsgspec, rootOfMsgspec } from './msgspec.js';
import { emitPydantic, rootOfPydantic } from './pydantic.js';
import { reservedModules } from './spelling.js';
import { moduleName } from './text.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.py';
import { built, changed } from '../kit/ways.js';

/** What a double does not carry goes through one all the same. */
const doubles: Limit = {
  says: 'pydantic reads decimals as doubles',
  kinds: ['altered'],
  causes: /goes through a double/,
};

/** What a style of the same name has no types for goes through doubles too. */
const rounded: Limit = {
  says: 'msgspec reads what may be anything as doubles',
  kinds: ['altered'],
  causes: /goes through a double/,
};

/** `json` reads decimals as floats, before they come to the types. */
const floats: Limit = {
  says: 'json.loads reads decimals as doubles',
  kinds: ['altered', 'refused'],
  causes: /goes through a double|non-finite/,
};

/** Only an encoder that is told so writes a Decimal as a number. */
const decimals: Limit = {
  says: 'msgspec.json.encode writes a Decimal as text',
  kinds: ['retyped'],
};

/** What no float holds, `json` has no form for. */
const digits: Limit = {
  says: 'json.dumps has no form for digits beyond a float',
  kinds: ['refused'],
  causes: /is no JSON/,
};

/** Python: dataclasses with the standard library. */
export const python: Language = {
  name: 'python',
  title: 'Python',
  package: { pattern: /^[a-z][a-z0-9_]*$/, example: 'sailings', reserved: reservedModules, isFile: true },
  text: 'utf-16',
  tools: [
    {
      name: 'python',
      programs: ['python3', 'python'],
      variable: 'SKEVO_PYTHON',
      versionArguments: ['--version'],
      versionPattern: /Python (\d+\.\d+\.\d+)/,
      minimum: '3.11',
      install: 'apt-get install python3',
    },
  ],
  styles: [
    {
      name: 'dataclass',
      summary: 'dataclasses, standard library only',
      ways: [
        { name: 'from_json', summary: 'from_json and to_json' },
        { name: 'field', summary: "a field of the caller's own payload" },
        { name: 'elements', summary: 'elements of a tuple and of a map' },
        { name: 'dumps', summary: 'json.dumps with `plain`, inside a dict', limits: [digits] },
        built,
        changed,
      ],
      typesOthers: true,
      natives: ['date-time', 'date', 'uuid', 'base64'],
      emit: emitDataclasses,
      reach: reachPython,
      plain: plainPython,
      bench: benchWith('dataclass', rootOfDataclass),
    },
    {
      name: 'pydantic',
      summary: 'models of pydantic',
      // Its reader takes text as UTF-8.
      text: 'utf-8',
      // No double is infinite.
      lossyNumbers: /[eE]\+?(?:3\d|[4-9]\d|\d{3})\d/,
      deepest: 180,
      tools: [
        {
          name: 'pydantic',
          programs: ['python3', 'python'],
          variable: 'SKEVO_PYTHON',
          versionArguments: [
            '-c',
            'import sys, pydantic; sys.version_info >= (3, 11) and print("pydantic", pydantic.VERSION)',
          ],
          versionPattern: /pydantic (\d+\.\d+\.\d+)/,
          minimum: '2.14',
          install: "pip install 'pydantic>=2.14'",
        },
      ],
      ways: [
        {
          name: 'model_validate_json',
          summary: 'model_validate_json and model_dump_json, or those of a TypeAdapter',
          limits: [doubles],
        },
        { name: 'field', summary: "a field of the caller's own model" },
        { name: 'elements', summary: 'elements of a list and a dict' },
        {
          name: 'dict',
          summary: 'a dict that json.loads made, as web frameworks hand it on',
        },
        built,
        changed,
      ],
      typesOthers: true,
      natives: ['date-time', 'date', 'uuid'],
      emit: emitPydantic,
      reach: reachPydantic,
      plain: plainPython,
      bench: benchWith('pydantic', rootOfPydantic),
    },
    {
      name: 'msgspec',
      summary: 'structs of msgspec, without checks when built',
      // Its reader takes text as UTF-8.
      text: 'utf-8',
      // No double is infinite.
      lossyNumbers: /[eE]\+?(?:3\d|[4-9]\d|\d{3})\d/,
      deepest: 400,
      tools: [
        {
          name: 'msgspec',
          programs: ['python3', 'python'],
          variable: 'SKEVO_PYTHON',
          versionArguments: [
            '-c',
            'import sys, msgspec; sys.version_info >= (3, 11) and print("msgspec", msgspec.__version__)',
          ],
          versionPattern: /msgspec (\d+\.\d+\.\d+)/,
          minimum: '0.22',
          install: "pip install 'msgspec>=0.22'",
        },
      ],
      ways: [
        {
          name: 'decode',
          summary: 'msgspec.json.decode, and an Encoder that writes decimals as numbers',
          limits: [rounded],
        },
        { name: 'encode', summary: 'msgspec.json.encode without settings', limits: [decimals] },
        { name: 'field', summary: "a field of the caller's own struct" },
        { name: 'elements', summary: 'elements of a list and a dict' },
        {
          name: 'convert',
          summary: 'msgspec.convert of a dict that json.loads made',
          limits: [floats],
        },
        built,
        changed,
      ],
      unknown: ['drop', 'reject'],
      // As plain dicts.
      typesOthers: true,
      natives: ['date-time', 'date', 'uuid', 'base64'],
      emit: emitMsgspec,
      reach: reachMsgspec,
      plain: plainPython,
      bench: benchWith('msgspec', rootOfMsgspec),
    },
  ],
};

function benchWith(
  style: 'dataclass' | 'pydantic' | 'msgspec',
  rootOf: typeof rootOfDataclass,
): Style['bench'] {
  return (model: TypeModel, { unknown, root = 0 }: BenchOptions): Bench => {
    const { Root, record, fields, keys, from_json, to_json } = rootOf(model, unknown, root);
    const scope = {
      module: moduleName(model),
      pydantic: style === 'pydantic',
      dataclass: style === 'dataclass',
      msgspec: style === 'msgspec',
      Root,
      record,
      from_json,
      to_json,
      fields: fields.map((Field) => ({ Field })),
    };
    return {
      changes: keys,
      files: [{ path: 'skevo_bench.py', text: `${fill(benchTemplate, scope, '#')}\n` }],
      build: [],
      run: { tool: 'python', arguments: ['-B', 'skevo_bench.py'] },
    };
  };
}
