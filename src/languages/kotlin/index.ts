import type { TypeModel } from '../../core/model/types.js';
import { classPath, jackson, javaRuntime, jvmPackage, runClass, shortLivedCompiler } from '../kit/jackson.js';
import { fileLibrary } from '../kit/library.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitKotlin, facadeName, packageName, reservedPackages } from './emit.js';
import { plainKotlin, reachKotlin } from './reach.js';

const runtime = fileLibrary('kotlin-stdlib', 'apt-get install kotlin', [
  '/usr/share/java/kotlin-stdlib.jar',
  '/usr/lib/kotlinc/lib/kotlin-stdlib.jar',
  '/usr/local/lib/kotlinc/lib/kotlin-stdlib.jar',
  '/opt/homebrew/opt/kotlin/libexec/lib/kotlin-stdlib.jar',
]);

/** Kotlin: data classes for Jackson. */
export const kotlin: Language = {
  name: 'kotlin',
  title: 'Kotlin',
  text: 'utf-16',
  // Jackson takes an empty name for no name.
  unboundKeys: /^$/,
  package: jvmPackage(reservedPackages),
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
    javaRuntime('11'),
  ],
  libraries: [jackson, runtime],
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

function bench(model: TypeModel, options: BenchOptions): Bench {
  const { pedantic } = options;
  const facade = `${packageName(model, options)}.${facadeName(model)}`;
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
  const path = classPath([jackson, runtime]);
  return {
    files: [{ path: 'Bench.kt', text: program }],
    build: [
      {
        tool: 'kotlinc',
        arguments: [
          ...shortLivedCompiler,
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
    run: runClass('BenchKt', path),
  };
}
