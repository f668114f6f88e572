import type { TypeModel } from '../../core/model/types.js';
import { classPath, jackson, javaRuntime, jvmPackage, runClass, shortLivedCompiler } from '../kit/jackson.js';
import type { Bench, BenchOptions, Language, Style } from '../language.js';
import { emitJava, facadeName, packageName, reservedPackages, type JavaStyle } from './emit.js';
import { plainJava, reachJava } from './reach.js';

const install = 'apt-get install openjdk-17-jdk-headless libjackson2-databind-java';

/** Java: records or classes for Jackson. */
export const java: Language = {
  name: 'java',
  title: 'Java',
  text: 'utf-16',
  // Jackson takes an empty name for no name.
  unboundKeys: /^$/,
  package: jvmPackage(reservedPackages),
  tools: [
    {
      name: 'javac',
      programs: ['javac'],
      variable: 'SKEVO_JAVAC',
      versionArguments: ['-version'],
      versionPattern: /javac (\d+(?:\.\d+)*)/,
      minimum: '17',
      install,
    },
    javaRuntime('17'),
  ],
  libraries: [jackson],
  styles: [style('record', 'records for Jackson'), style('class', 'immutable classes for Jackson')],
};

function style(name: JavaStyle, summary: string): Style {
  return {
    name,
    summary,
    emit: (model, options) => emitJava(model, options, name),
    reach: (root, steps, names) => reachJava(name, root, steps, names),
    plain: plainJava,
    bench,
  };
}

function bench(model: TypeModel, options: BenchOptions): Bench {
  const { pedantic } = options;
  const name = packageName(model, options);
  const facade = facadeName(model);
  const program = `import ${name}.${facade};
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.regex.Pattern;

public final class Bench {
    /** Halves of surrogate pairs, which UTF-8 cannot carry unless they are escaped. */
    private static final Pattern HALVES = Pattern.compile("\\\\p{Cs}");

    private static String answer(String line) {
        try {
            return HALVES.matcher(${facade}.encode(${facade}.decode(line)))
                    .replaceAll(half -> String.format("\\\\\\\\u%04x", (int) half.group().charAt(0)));
        } catch (IOException | RuntimeException error) {
            return "!" + error.getMessage().replaceAll("\\\\s+", " ");
        }
    }

    public static void main(String[] arguments) throws IOException {
        var input = new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8));
        var output = new PrintStream(System.out, false, StandardCharsets.UTF_8);
        for (String line = input.readLine(); line != null; line = input.readLine()) {
            output.print(answer(line) + "\\n");
            output.flush();
        }
    }
}
`;
  const path = classPath([jackson]);
  return {
    files: [{ path: 'Bench.java', text: program }],
    build: [
      {
        tool: 'javac',
        arguments: [
          ...shortLivedCompiler,
          '-encoding',
          'UTF-8',
          '-proc:none',
          '-nowarn',
          ...(pedantic ? ['-Xlint:all', '-Werror'] : []),
          '-d',
          'build',
          '-cp',
          path,
          '-sourcepath',
          'classes',
          'Bench.java',
        ],
      },
    ],
    run: runClass('Bench', path),
  };
}
