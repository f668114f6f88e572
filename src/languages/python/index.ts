import type { TypeModel } from '../../core/model/types.js';
import type { Bench, Language } from '../language.js';
import { plainPython, reachPython } from './reach.js';
import { emitDataclasses, emitPydantic, functionNames, moduleName } from './emit.js';

/** Python: dataclasses with the standard library. */
export const python: Language = {
  name: 'python',
  title: 'Python',
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
      emit: emitDataclasses,
      reach: reachPython,
      plain: plainPython,
      bench,
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
      emit: emitPydantic,
      reach: reachPython,
      plain: plainPython,
      bench,
    },
  ],
};

function bench(model: TypeModel): Bench {
  const module = moduleName(model);
  const { decode, encode } = functionNames(model);
  const program = `import sys
from classes import ${module} as classes

for line in sys.stdin.buffer:
    try:
        answer = classes.${encode}(classes.${decode}(line))
    except Exception as error:
        message = f"{type(error).__name__} {error}" if not isinstance(error, ValueError) else str(error)
        answer = "!" + " ".join(message.split())
    sys.stdout.buffer.write(answer.encode("utf-8", "backslashreplace") + b"\\n")
    sys.stdout.buffer.flush()
`;
  return {
    files: [{ path: 'skevo_bench.py', text: program }],
    build: [],
    run: { tool: 'python', arguments: ['-B', 'skevo_bench.py'] },
  };
}
