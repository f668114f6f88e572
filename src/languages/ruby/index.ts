import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitRuby, rootOfRuby } from './emit.js';
import { plainRuby, reachRuby } from './reach.js';
import { fileName, moduleName, reservedPackages } from './spelling.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.rb';
import { built, changed } from '../kit/ways.js';

/** Ruby: frozen classes with the JSON of its library. */
export const ruby: Language = {
  name: 'ruby',
  title: 'Ruby',
  text: 'utf-8',
  deepest: 100,
  package: { pattern: /^[A-Z]\w*$/, example: 'SaltmereSailings', reserved: reservedPackages },
  tools: [
    {
      name: 'ruby',
      programs: ['ruby'],
      variable: 'SKEVO_RUBY',
      versionArguments: ['--version'],
      versionPattern: /ruby (\d+\.\d+\.\d+)/,
      minimum: '3.1',
      install: 'apt-get install ruby',
    },
  ],
  styles: [
    {
      name: 'class',
      summary: 'frozen classes, standard library only',
      ways: [
        { name: 'from_json', summary: 'from_json and to_json' },
        {
          name: 'read',
          summary: "read of what the caller's JSON.parse made",
          limits: [
            {
              says: 'JSON.parse rounds decimals unless it is told otherwise, which from_json does',
              kinds: ['altered', 'refused'],
            },
          ],
        },
        { name: 'inside', summary: "a value in the caller's own array, with settings of JSON.generate" },
        built,
        changed,
      ],
      typesOthers: true,
      natives: ['date-time', 'date'],
      emit: emitRuby,
      reach: reachRuby,
      plain: plainRuby,
      bench,
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions): Bench {
  const { Root, isOwn, record, fields, keys } = rootOfRuby(model, options, options.root ?? 0);
  const file = fileName(model, options);
  const program = fill(
    benchTemplate,
    {
      module: moduleName(model, options),
      file,
      Root,
      isOwn,
      record,
      fields: fields.map((Field) => ({ Field })),
    },
    '#',
  );
  // Warnings are printed and do not end Ruby: here they do.
  const strict = `module Strict
  def warn(message, **)
    raise message
  end
end
Warning.singleton_class.prepend(Strict)
require_relative "classes/${file}"
`;
  return {
    changes: record ? keys : [],
    files: [
      { path: 'bench.rb', text: `${program}\n` },
      ...(options.pedantic ? [{ path: 'strict.rb', text: strict }] : []),
    ],
    build: options.pedantic ? [{ tool: 'ruby', arguments: ['-w', 'strict.rb'] }] : [],
    run: { tool: 'ruby', arguments: ['bench.rb'] },
  };
}
