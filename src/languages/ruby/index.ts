import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitRuby, fileName, functionNames, moduleName, reservedPackages } from './emit.js';
import { plainRuby, reachRuby } from './reach.js';
import { benchScope } from '../kit/bench.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.rb';
import { built, changed, generated } from '../kit/ways.js';

/** Ruby: classes with the standard library's JSON. */
export const ruby: Language = {
  name: 'ruby',
  title: 'Ruby',
  text: 'utf-8',
  package: { pattern: /^[A-Z]\w*$/, example: 'SaltmereSailings', reserved: reservedPackages },
  tools: [
    {
      name: 'ruby',
      programs: ['ruby'],
      variable: 'SKEVO_RUBY',
      versionArguments: ['--version'],
      versionPattern: /ruby (\d+\.\d+\.\d+)/,
      minimum: '3.0',
      install: 'apt-get install ruby',
    },
  ],
  styles: [
    {
      name: 'class',
      summary: 'classes, standard library only',
      ways: [
        generated,
        {
          name: 'to_json',
          summary: 'to_json of what was decoded',
          limits: [{ says: 'records have no to_json of their own', ours: true }],
        },
        {
          name: 'generate',
          summary: "a value in the caller's own hash",
          limits: [{ says: 'records have no to_json of their own', ours: true }],
        },
        {
          ...built,
          limits: [
            {
              says: 'records are not compared by their fields',
              ours: true,
              kinds: ['refused'],
              causes: /not equal/,
            },
          ],
        },
        { ...changed, limits: [{ says: 'records have no setters', ours: true, kinds: ['refused'] }] },
      ],
      natives: ['date-time', 'date', 'base64'],
      emit: emitRuby,
      reach: reachRuby,
      plain: plainRuby,
      bench,
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions): Bench {
  const { pedantic } = options;
  const module = moduleName(model, options);
  const file = fileName(model);
  const { scope, changes } = benchScope(model, options);
  const program = `${fill(benchTemplate, { ...scope, module, file, ...functionNames(model, model.roots[options.root ?? 0]!) }, '#')}\n`;
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
    changes,
    files: [{ path: 'bench.rb', text: program }, ...(pedantic ? [{ path: 'strict.rb', text: strict }] : [])],
    build: pedantic ? [{ tool: 'ruby', arguments: ['-w', 'strict.rb'] }] : [],
    run: { tool: 'ruby', arguments: ['bench.rb'] },
  };
}
