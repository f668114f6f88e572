import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitRuby, fileName, moduleName, reservedPackages } from './emit.js';
import { plainRuby, reachRuby } from './reach.js';

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
  const program = `# frozen_string_literal: true

require_relative "classes/${file}"

$stdin.set_encoding(Encoding::UTF_8)
$stdout.sync = true
while (line = $stdin.gets)
  answer =
    begin
      ${module}.encode(${module}.decode(line))
    rescue StandardError => e
      "!#{e.message.scrub.split.join(" ")}"
    end
  $stdout.write(answer, "\\n")
end
`;
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
    files: [{ path: 'bench.rb', text: program }, ...(pedantic ? [{ path: 'strict.rb', text: strict }] : [])],
    build: pedantic ? [{ tool: 'ruby', arguments: ['-w', 'strict.rb'] }] : [],
    run: { tool: 'ruby', arguments: ['bench.rb'] },
  };
}
