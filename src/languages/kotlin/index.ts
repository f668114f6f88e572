import { existsSync } from 'node:fs';
import type { TypeModel } from '../../core/model/types.js';
import { jacksonJars } from '../java/index.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitKotlin, facadeName, packageName } from './emit.js';
import { plainKotlin, reachKotlin } from './reach.js';

const runtimes = [
  '/usr/share/java/kotlin-stdlib.jar',
  '/usr/lib/kotlinc/lib/kotlin-stdlib.jar',
  '/usr/local/lib/kotlinc/lib/kotlin-stdlib.jar',
  '/opt/homebrew/opt/kotlin/libexec/lib/kotlin-stdlib.jar',
];

function runtime(): string[] | undefined {
  const found = runtimes.find((path) => existsSync(path));
  return found === undefined ? undefined : [found];
}

/** Kotlin: data classes for Jackson. */
export const kotlin: Language = {
  name: 'kotlin',
  title: 'Kotlin',
  text: 'utf-16',
  // Jackson takes an empty name for no name.
  unboundKeys: /^$/,
  package: { pattern: /^[a-z]\w*(\.[a-z]\w*)*$/, example: 'saltmere.sailings' },
  tools: [
    {
      name: 'kotlinc',
      programs: ['kotlinc'],
      variable: 'SKEVO_KOTLINC',
      versionArguments: ['-version'],
      versionPattern: /kotlinc-jvm (\d+\.\d+(?:\.\d+)?)/,
      minimum: '1.3',
      install: 'apt-get install kotlin',
    },
    {
      name: 'java',
      programs: ['java'],
      variable: 'SKEVO_JAVA',
      versionArguments: ['-version'],
      versionPattern: /version "(\d+(?:\.\d+)*)/,
      minimum: '11',
      install: 'apt-get install openjdk-17-jre-headless',
    },
  ],
  libraries: [
    { name: 'Jackson', files: jacksonJars, install: 'apt-get install libjackson2-databind-java' },
    { name: 'kotlin-stdlib', files: runtime, install: 'apt-get install kotlin' },
  ],
  styles: [
    {
      name: 'data',
      summary: 'data classes for Jackson',
      emit: emitKotlin,
      reach: reachKotlin,
      plain: plainKotlin,
      bench,
    },
  ],
};

function bench(model: TypeModel, { pedantic }: BenchOptions): Bench {
  const facade = `${packageName(model)}.${facadeName(model)}`;
  const program = `import java.io.PrintStream

/** Halves of surrogate pairs, which UTF-8 cannot carry unless they are escaped. */
private val halves = Regex("\\\\p{Cs}")

private fun answer(line: String): String =
    try {
        halves.replace(${facade}.encode(${facade}.decode(line))) { half ->
            "\\\\u" + half.value[0].toInt().toString(16).padStart(4, '0')
        }
    } catch (error: Exception) {
        "!" + (error.message ?: "").replace(Regex("\\\\s+"), " ")
    }

fun main() {
    val input = System.\`in\`.bufferedReader(Charsets.UTF_8)
    val output = PrintStream(System.out, false, "UTF-8")
    while (true) {
        val line = input.readLine() ?: break
        output.print(answer(line) + "\\n")
        output.flush()
    }
}
`;
  const path = [...(jacksonJars() ?? []), ...(runtime() ?? [])].join(':');
  return {
    files: [{ path: 'Bench.kt', text: program }],
    build: [
      {
        tool: 'kotlinc',
        arguments: [
          // A build is over before a better compilation of the compiler would pay.
          '-J-XX:TieredStopAtLevel=1',
          '-J-XX:+UseSerialGC',
          ...(pedantic ? ['-Werror'] : ['-nowarn']),
          '-jvm-target',
          '1.8',
          '-cp',
          path,
          '-d',
          'build',
          'classes',
          'Bench.kt',
        ],
      },
    ],
    run: {
      tool: 'java',
      arguments: [
        '-XX:+UseSerialGC',
        '-XX:TieredStopAtLevel=1',
        '-Xshare:auto',
        '-cp',
        `build:${path}`,
        'BenchKt',
      ],
    },
  };
}
