import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language, Limit } from '../language.js';
import { emitPhp, namespaceName, rootOfPhp } from './emit.js';
import { reservedPackages } from './spelling.js';
import { plainPhp, reachPhp } from './reach.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.php';
import { built, changed } from '../kit/ways.js';

const digits: Limit = {
  says: 'json_encode() cannot write all digits of a Number; toJson() does',
  kinds: ['refused'],
  causes: /cannot write all digits/,
};

/** PHP: readonly classes with the JSON that comes with it. */
export const php: Language = {
  name: 'php',
  title: 'PHP',
  text: 'utf-8',
  // What PHP keeps for private properties.
  unboundKeys: /^\0/,
  deepest: 500,
  package: {
    pattern: /^[A-Z]\w*(\\[A-Z]\w*)*$/,
    example: 'Saltmere\\Sailings',
    reserved: reservedPackages,
    caseless: true,
  },
  tools: [
    {
      name: 'php',
      programs: ['php', 'php8.4', 'php8.3', 'php8.2'],
      variable: 'SKEVO_PHP',
      versionArguments: ['--version'],
      versionPattern: /PHP (\d+\.\d+\.\d+)/,
      minimum: '8.2',
      install: 'apt-get install php-cli',
    },
  ],
  styles: [
    {
      name: 'class',
      summary: 'readonly classes, no package needed',
      ways: [
        { name: 'fromJson', summary: 'fromJson, and json_encode or, where digits are kept, toJson' },
        { name: 'json_encode', summary: 'json_encode of what was decoded', limits: [digits] },
        { name: 'field', summary: "a value in the caller's own array", limits: [digits] },
        built,
        changed,
      ],
      typesOthers: true,
      natives: ['date-time'],
      emit: emitPhp,
      reach: reachPhp,
      plain: plainPhp,
      bench,
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions): Bench {
  const own = rootOfPhp(model, options, options.root ?? 0);
  const { isOwn, record, digits: keepsDigits, keys, fields, extra } = own;
  const Root = `\\${namespaceName(model, options)}\\${own.Root}`;
  const program = fill(benchTemplate, {
    Root,
    isOwn,
    record,
    extra,
    digits: keepsDigits,
    absent: `\\${namespaceName(model, options)}\\Absent`,
    fields: fields.map(({ name, has }) => ({ Field: name, has: has ?? '', threefold: has !== undefined })),
  });
  return {
    changes: record ? keys : [],
    files: [{ path: 'bench.php', text: `${program}\n` }],
    build: [],
    run: {
      tool: 'php',
      arguments: ['-d', 'memory_limit=-1', '-d', 'display_errors=stderr', 'bench.php'],
    },
  };
}
