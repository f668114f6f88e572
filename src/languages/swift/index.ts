import type { TypeModel } from '../../core/model/types.js';
import { fill } from '../kit/template.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitSwift, rootOf } from './emit.js';
import { plainSwift, reachSwift } from './reach.js';
import { ways } from './spelling.js';
import benchTemplate from './templates/bench.swift';

const shared = {
  ways,
  typesOthers: true,
  natives: ['base64'],
  reach: reachSwift,
  plain: plainSwift,
  bench,
} as const;

/** Swift: Codable structs. */
export const swift: Language = {
  name: 'swift',
  title: 'Swift',
  package: {
    pattern: /^[A-Z][A-Za-z0-9]*$/,
    example: 'Sailings',
    reserved: new Set(['JSONSupport']),
    isFile: true,
  },
  text: 'utf-8',
  // Foundation refuses deeper text.
  deepest: 512,
  // Foundation's Decimal has 38 digits and an exponent of 8 bits.
  lossyNumbers: /\d{39}|[eE][+-]?[1-9]\d{2}/,
  tools: [
    {
      name: 'swiftc',
      programs: ['swiftc'],
      variable: 'SKEVO_SWIFTC',
      versionArguments: ['--version'],
      versionPattern: /Swift version (\d+(?:\.\d+)+)/,
      minimum: '6.0',
      install: 'see swift.org/install',
    },
  ],
  styles: [
    {
      name: 'codable',
      summary: 'Codable structs, Foundation only',
      ...shared,
      emit: emitSwift,
    },
    {
      name: 'public',
      summary: 'the same, public with initialisers, for a module of their own',
      ...shared,
      variantOf: 'codable',
      emit: (model, options) => emitSwift(model, options, true),
    },
  ],
};

function bench(model: TypeModel, { pedantic, paths, unknown, root = 0 }: BenchOptions): Bench {
  const { Root, isRecord, isNullable, members, fields } = rootOf(model, unknown, root);
  const program = `${fill(benchTemplate, {
    Root,
    record: isRecord,
    wrapper: isNullable ? '@Nullable ' : '',
    built: members.map(({ label, name }, i) => ({ label, name, comma: i < members.length - 1 ? ',' : '' })),
    fields: fields.map(({ name }, i) => ({ i: String(i), Field: name })),
  })}\n`;
  return {
    changes: fields.map(({ key }) => key),
    files: [{ path: 'main.swift', text: program }],
    build: [
      {
        tool: 'swiftc',
        arguments: [
          '-swift-version',
          '6',
          pedantic ? '-warnings-as-errors' : '-suppress-warnings',
          'main.swift',
          ...paths.map((path) => `classes/${path}`),
          '-o',
          'bench',
        ],
      },
    ],
    run: { program: 'bench', arguments: [] },
  };
}
