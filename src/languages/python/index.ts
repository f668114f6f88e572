import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { plainPython, reachPython } from './reach.js';
import { emitDataclasses, emitPydantic, functionNames, moduleName, reservedModules } from './emit.js';
import { benchScope } from '../kit/bench.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.py';
import { built, changed, generated } from '../kit/ways.js';

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
      bench: (model, options) => bench(model, options, 'dataclass'),
    },
    {
      name: 'pydantic',
      summary: 'models of pydantic 2',
      // Aliases are read by code for which text is UTF-8.
      unboundKeys: /\p{Surrogate}/u,
      tools: [
        {
          name: 'pydantic',
          programs: ['python3', 'python'],
          variable: 'SKEVO_PYTHON',
          versionArguments: [
            '-c',
            'import sys, pydantic; sys.version_info >= (3, 10) and print("pydantic", pydantic.VERSION)',
          ],
          versionPattern: /pydantic (\d+\.\d+\.\d+)/,
          minimum: '2',
          install: 'pip install pydantic',
        },
      ],
      ways: [
        generated,
        {
          name: 'validate_json',
          summary: 'validate_json and dump_json',
          limits: [
            {
              says: 'a model of pydantic does not say by itself that an absent field stays absent and a decimal a number',
              ours: true,
            },
          ],
        },
        {
          name: 'field',
          summary: "a field of the caller's own model",
          limits: [
            {
              says: 'a model of pydantic does not say by itself that an absent field stays absent and a decimal a number',
              ours: true,
            },
          ],
        },
        built,
        changed,
      ],
      natives: ['date-time', 'date', 'uuid', 'base64'],
      emit: emitPydantic,
      reach: reachPython,
      plain: plainPython,
      bench: (model, options) => bench(model, options, 'pydantic'),
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions, style: 'dataclass' | 'pydantic'): Bench {
  const module = moduleName(model);
  const { decode, encode } = functionNames(model.roots[options.root ?? 0]!);
  const { scope, changes } = benchScope(model, options);
  const program = fill(
    benchTemplate,
    { ...scope, module, decode, encode, pydantic: style === 'pydantic' },
    '#',
  );
  return {
    changes,
    files: [{ path: 'skevo_bench.py', text: `${program}\n` }],
    build: [],
    run: { tool: 'python', arguments: ['-B', 'skevo_bench.py'] },
  };
}
