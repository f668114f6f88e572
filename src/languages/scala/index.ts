import type { TypeModel } from '../../core/model/types.js';
import { classPath, jackson, javaRuntime, jvmPackage, runClass, shortLivedCompiler } from '../kit/jackson.js';
import { fileLibrary } from '../kit/library.js';
import type { Bench, BenchOptions, Language } from '../language.js';
import { emitScala, facadeName, packageName, reservedPackages } from './emit.js';
import { plainScala, reachScala } from './reach.js';

const runtime = fileLibrary('scala-library', 'apt-get install scala-library', [
  '/usr/share/scala-2.11/lib/scala-library.jar',
  '/usr/share/java/scala-library.jar',
  '/usr/share/scala/lib/scala-library.jar',
]);

/** Scala: case classes over the tree of Jackson. */
export const scala: Language = {
  name: 'scala',
  title: 'Scala',
  text: 'utf-16',
  // Jackson's tree takes what is larger than every double for infinity.
  lossyNumbers: /[eE]\+?[1-9]\d{2,}$/,
  package: jvmPackage(reservedPackages),
  tools: [
    {
      name: 'scalac',
      programs: ['scalac'],
      variable: 'SKEVO_SCALAC',
      versionArguments: ['-version'],
      versionPattern: /version (\d+\.\d+\.\d+)/,
      minimum: '2.11',
      install: 'apt-get install scala',
    },
    javaRuntime('11'),
  ],
  libraries: [jackson, runtime],
  styles: [
    {
      name: 'case',
      summary: "case classes over Jackson's tree",
      emit: emitScala,
      reach: reachScala,
      plain: plainScala,
      bench,
    },
  ],
};

function bench(model: TypeModel, options: BenchOptions): Bench {
  const { pedantic } = options;
  const facade = `${packageName(model, options)}.${facadeName(model)}`;
  const [source] = emitScala(model, { origin: '', package: options.package }).files;
  const program = `import java.io.{BufferedReader, InputStreamReader, PrintStream}

object Bench {
  /** Halves of surrogate pairs cannot be carried by UTF-8 unless they are escaped. */
  private def escaped(text: String): String = {
    val result = new StringBuilder
    for (i <- 0 until text.length) {
      val c = text.charAt(i)
      val paired =
        (c.isHighSurrogate && i + 1 < text.length && text.charAt(i + 1).isLowSurrogate) ||
          (c.isLowSurrogate && i > 0 && text.charAt(i - 1).isHighSurrogate)
      if (c.isSurrogate && !paired) result.append("\\\\" + "u%04x".format(c.toInt)) else result.append(c)
    }
    result.toString
  }

  private def answer(line: String): String =
    try escaped(${facade}.encode(${facade}.decode(line)))
    catch {
      case error: Exception => "!" + String.valueOf(error.getMessage).replaceAll("\\\\s+", " ")
    }

  def main(arguments: Array[String]): Unit = {
    val input = new BufferedReader(new InputStreamReader(System.in, "UTF-8"))
    val output = new PrintStream(System.out, false, "UTF-8")
    var line = input.readLine()
    while (line != null) {
      output.print(answer(line) + "\\n")
      output.flush()
      line = input.readLine()
    }
  }
}
`;
  const path = classPath([jackson, runtime]);
  return {
    files: [
      { path: 'Bench.scala', text: program },
      { path: 'build/made-by-scalac', text: '' },
    ],
    build: [
      {
        tool: 'scalac',
        arguments: [
          ...shortLivedCompiler,
          // What it makes of a case class of many fields nests as deep as there are fields.
          '-J-Xss16m',
          '-encoding',
          'UTF-8',
          ...(pedantic
            ? ['-deprecation', '-feature', '-unchecked', '-Xlint:-missing-interpolator,_', '-Xfatal-warnings']
            : ['-nowarn']),
          '-classpath',
          path,
          '-d',
          'build',
          `classes/${source!.path}`,
          'Bench.scala',
        ],
      },
    ],
    run: runClass('Bench', path),
  };
}
