import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { benchGo, emitGo } from './emit.js';
import { plainGo, reachGo } from './reach.js';
import { reservedPackages, ways } from './spelling.js';

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
      ways,
      typesOthers: true,
      natives: ['date-time', 'base64'],
      emit: emitGo,
      reach: reachGo,
      plain: plainGo,
      bench,
    },
  ],
};

function bench(model: TypeModel, { pedantic, unknown, root = 0 }: BenchOptions): Bench {
  const { text, changes } = benchGo(model, root, unknown);
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
