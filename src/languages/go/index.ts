import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { benchGo, emitGo } from './emit.js';
import { plainGo, reachGo } from './reach.js';
import { plainWays, reservedPackages, ways } from './spelling.js';

const shared = {
  ways,
  typesOthers: true,
  natives: ['date-time', 'base64'],
  reach: reachGo,
  plain: plainGo,
} as const;

/** Go: structs with the standard library's encoding/json. */
export const go: Language = {
  name: 'go',
  title: 'Go',
  text: 'utf-8',
  package: { pattern: /^[a-z][a-z0-9]*$/, example: 'sailings', reserved: reservedPackages },
  tools: [
    {
      name: 'go',
      programs: ['go'],
      variable: 'SKEVO_GO',
      versionArguments: ['version'],
      versionPattern: /go(\d+\.\d+(?:\.\d+)?)/,
      minimum: '1.24',
      install: 'apt-get install golang-go',
    },
  ],
  styles: [
    {
      name: 'struct',
      summary: 'structs for encoding/json, standard library only',
      ...shared,
      emit: emitGo,
      bench: (model, options) => bench(model, options, false),
    },
    {
      name: 'plain',
      summary: 'the same structs without checks, for those who validate elsewhere',
      ...shared,
      ways: plainWays(),
      isUnchecked: true,
      unknown: ['drop', 'keep'],
      emit: (model, options) => emitGo(model, options, true),
      bench: (model, options) => bench(model, options, true),
    },
  ],
};

function bench(model: TypeModel, { pedantic, unknown, root = 0 }: BenchOptions, isPlain: boolean): Bench {
  const { text, changes } = benchGo(model, root, unknown, isPlain);
  return {
    changes,
    files: [
      { path: 'main.go', text },
      { path: 'go.mod', text: 'module skevo.example/bench\n\ngo 1.24\n' },
    ],
    build: [
      ...(pedantic ? [{ tool: 'go', arguments: ['vet', './...'] }] : []),
      { tool: 'go', arguments: ['build', '-o', 'bench', '.'] },
    ],
    run: { program: 'bench', arguments: [] },
  };
}
