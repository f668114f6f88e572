import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language, Limit } from '../language.js';
import { plainPython, reachPydantic, reachPython } from './reach.js';
import { emitDataclasses, functionNames } from './emit.js';
import { emitPydantic, rootOf } from './pydantic.js';
import { reservedModules } from './spelling.js';
import { moduleName } from './text.js';
import { benchScope } from '../kit/bench.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.py';
import pydanticTemplate from './templates/bench-pydantic.py';
import { built, changed, generated } from '../kit/ways.js';

/** What a double does not carry goes through one all the same. */
const doubles: Limit = {
  says: 'pydantic reads decimals as doubles',
  kinds: ['altered'],
  causes: /goes through a double/,
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
      minimum: '3.9',
      install: 'apt-get install python3',
    },
  ],
  styles: [
    {
      name: 'dataclass',
      summary: 'dataclasses, standard library only',
      ways: [
        generated,
        {
          name: 'field',
          summary: 'decode and encode of the class, inside what the caller decodes',
          limits: [
            {
              says: 'decimals that json.loads made floats are refused, or rounded where anything may be',
              ours: true,
              kinds: ['refused', 'altered'],
            },
          ],
        },
        built,
        changed,
      ],
      natives: ['date-time', 'date', 'uuid', 'base64'],
      emit: emitDataclasses,
      reach: reachPython,
      plain: plainPython,
      bench,
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
        { name: 'field', summary: "a field of the caller's own model", limits: [doubles] },
        { name: 'elements', summary: 'elements of a list and a dict', limits: [doubles] },
        {
          name: 'dict',
          summary: 'a dict that json.loads made, as web frameworks hand it on',
          limits: [doubles],
        },
        { ...built, limits: [doubles] },
        { ...changed, limits: [doubles] },
      ],
      typesOthers: true,
      natives: ['date-time', 'date', 'uuid'],
      emit: emitPydantic,
      reach: reachPydantic,
      plain: plainPython,
      bench: benchPydantic,
    },
  ],
};

function benchPydantic(model: TypeModel, { unknown, root = 0 }: BenchOptions): Bench {
  const { Root, record, fields, keys } = rootOf(model, unknown, root);
  const program = fill(
    pydanticTemplate,
    { module: moduleName(model), Root, record, fields: fields.map((Field) => ({ Field })) },
    '#',
  );
  return {
    changes: keys,
    files: [{ path: 'skevo_bench.py', text: `${program}\n` }],
    build: [],
    run: { tool: 'python', arguments: ['-B', 'skevo_bench.py'] },
  };
}

function bench(model: TypeModel, options: BenchOptions): Bench {
  const module = moduleName(model);
  const { decode, encode } = functionNames(model.roots[options.root ?? 0]!);
  const { scope, changes } = benchScope(model, options);
  const program = fill(benchTemplate, { ...scope, module, decode, encode }, '#');
  return {
    changes,
    files: [{ path: 'skevo_bench.py', text: `${program}\n` }],
    build: [],
    run: { tool: 'python', arguments: ['-B', 'skevo_bench.py'] },
  };
}
