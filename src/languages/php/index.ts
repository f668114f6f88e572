import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitPhp, facadeName, namespaceName, reservedPackages } from './emit.js';
import { plainPhp, reachPhp } from './reach.js';

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
      emit: emitPhp,
      reach: reachPhp,
      plain: plainPhp,
      bench,
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions): Bench {
  const facade = `\\${namespaceName(model, options)}\\${facadeName(model)}`;
  const program = `<?php

declare(strict_types=1);

spl_autoload_register(static function (string $name): void {
    require __DIR__ . '/classes/' . substr($name, strrpos($name, '\\\\') + 1) . '.php';
});

while (($line = fgets(STDIN)) !== false) {
    try {
        $answer = ${facade}::encode(${facade}::decode($line));
    } catch (\\Throwable $error) {
        $answer = '!' . preg_replace('/\\s+/', ' ', $error->getMessage());
    }
    fwrite(STDOUT, $answer . "\\n");
}
`;
  return {
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
