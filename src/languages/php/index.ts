import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitPhp, facadeName, namespaceName, reservedPackages } from './emit.js';
import { plainPhp, reachPhp } from './reach.js';
import { benchScope } from '../kit/bench.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.php';
import { built, changed, generated } from '../kit/ways.js';

/** PHP: readonly classes with the JSON that comes with it. */
export const php: Language = {
  name: 'php',
  title: 'PHP',
  text: 'utf-8',
  // What PHP keeps for private properties.
  unboundKeys: /^\0/,
  package: {
    pattern: /^[A-Z]\w*(\\[A-Z]\w*)*$/,
    example: 'Saltmere\\Sailings',
    reserved: reservedPackages,
    caseless: true,
  },
  tools: [
    {
      name: 'php',
      programs: ['php', 'php8.3', 'php8.2', 'php8.1'],
      variable: 'SKEVO_PHP',
      versionArguments: ['--version'],
      versionPattern: /PHP (\d+\.\d+\.\d+)/,
      minimum: '8.1',
      install: 'apt-get install php-cli',
    },
  ],
  styles: [
    {
      name: 'class',
      summary: 'readonly classes, no package needed',
      ways: [
        generated,
        {
          name: 'json_encode',
          summary: 'json_encode of what was decoded',
          limits: [{ says: 'exact numbers are objects', ours: true, kinds: ['retyped'] }],
        },
        {
          name: 'field',
          summary: "a value in the caller's own array",
          limits: [{ says: 'exact numbers are objects', ours: true, kinds: ['retyped'] }],
        },
        built,
        changed,
      ],
      natives: ['date-time', 'date', 'base64'],
      emit: emitPhp,
      reach: reachPhp,
      plain: plainPhp,
      bench,
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions): Bench {
  const facade = `\\${namespaceName(model, options)}\\${facadeName(model.roots[options.root ?? 0]!)}`;
  const { scope, changes } = benchScope(model, options);
  const program = `${fill(benchTemplate, { ...scope, Root: `\\${namespaceName(model, options)}\\${scope.Root}`, facade })}\n`;
  return {
    changes,
    files: [{ path: 'bench.php', text: program }],
    build: [],
    run: {
      tool: 'php',
      arguments: [
        '-d',
        'memory_limit=-1',
        '-d',
        'serialize_precision=-1',
        '-d',
        'display_errors=stderr',
        'bench.php',
      ],
    },
  };
}
