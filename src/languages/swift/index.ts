import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitSwift, fileName, functionNames } from './emit.js';
import { plainSwift, reachSwift } from './reach.js';

/** Swift: Codable structs. */
export const swift: Language = {
  name: 'swift',
  title: 'Swift',
  package: { pattern: /^[A-Z][A-Za-z0-9]*$/, example: 'Sailings', reserved: new Set(), isFile: true },
  text: 'utf-8',
  // Foundation's Decimal has 38 digits and an exponent of 8 bits.
  lossyNumbers: /\d{39}|[eE][+-]?[1-9]\d{2}/,
  tools: [
    {
      name: 'swiftc',
      programs: ['swiftc'],
      variable: 'SKEVO_SWIFTC',
      versionArguments: ['--version'],
      versionPattern: /Swift version (\d+(?:\.\d+)+)/,
      minimum: '5.5',
      install: 'see swift.org/install',
    },
  ],
  styles: [
    {
      name: 'codable',
      summary: 'Codable structs, Foundation only',
      natives: ['uuid', 'base64'],
      emit: emitSwift,
      reach: reachSwift,
      plain: plainSwift,
      bench,
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions): Bench {
  const { pedantic } = options;
  const { decode, encode } = functionNames(model.roots[options.root ?? 0]!);
  const program = `import Foundation

func answer(_ line: String) -> String {
    do {
        return String(decoding: try ${encode}(try ${decode}(Data(line.utf8))), as: UTF8.self)
    } catch {
        return "!" + String(describing: error).split(whereSeparator: \\.isWhitespace).joined(separator: " ")
    }
}

while let line = readLine() {
    FileHandle.standardOutput.write(Data((answer(line) + "\\n").utf8))
}
`;
  return {
    files: [{ path: 'main.swift', text: program }],
    build: [
      {
        tool: 'swiftc',
        arguments: [
          ...(pedantic ? ['-warnings-as-errors'] : ['-suppress-warnings']),
          'main.swift',
          `classes/${fileName(model)}.swift`,
          '-o',
          'bench',
        ],
      },
    ],
    run: { program: 'bench', arguments: [] },
  };
}
