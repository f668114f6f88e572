import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitGo, functionNames, reservedPackages } from './emit.js';
import { plainGo, reachGo } from './reach.js';

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
      minimum: '1.18',
      install: 'apt-get install golang-go',
    },
  ],
  styles: [
    {
      name: 'struct',
      summary: 'structs for encoding/json, standard library only',
      emit: emitGo,
      reach: reachGo,
      plain: plainGo,
      bench,
    },
  ],
};

function bench(model: TypeModel, { pedantic }: BenchOptions): Bench {
  const { decode, encode } = functionNames(model);
  const program = `package main

import (
	"bufio"
	"os"
	"strings"

	classes "skevo.example/bench/classes"
)

func answer(line []byte) []byte {
	payload, err := classes.${decode}(line)
	if err != nil {
		return []byte("!" + strings.Join(strings.Fields(err.Error()), " "))
	}
	text, err := classes.${encode}(payload)
	if err != nil {
		return []byte("!" + strings.Join(strings.Fields(err.Error()), " "))
	}
	return text
}

func main() {
	input := bufio.NewReaderSize(os.Stdin, 1<<16)
	for {
		line, err := input.ReadBytes('\\n')
		if len(line) > 0 {
			os.Stdout.Write(append(answer(line), '\\n'))
		}
		if err != nil {
			return
		}
	}
}
`;
  return {
    files: [
      { path: 'main.go', text: program },
      { path: 'go.mod', text: 'module skevo.example/bench\n\ngo 1.18\n' },
    ],
    build: [
      ...(pedantic ? [{ tool: 'go', arguments: ['vet', './...'] }] : []),
      { tool: 'go', arguments: ['build', '-o', 'bench', '.'] },
    ],
    run: { program: 'bench', arguments: [] },
  };
}
