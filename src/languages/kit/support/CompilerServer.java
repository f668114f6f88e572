import java.io.BufferedReader;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.lang.reflect.InvocationHandler;
import java.lang.reflect.Proxy;
import java.nio.charset.StandardCharsets;
import java.util.Base64;

/**
 * Runs one compiler of the JVM again and again, so that many builds do not wait for it to start. A line of its input has
 * the arguments of a build, in base64 with a space between them; the answer is a line with the exit code and what the
 * compiler said, in base64 too. Ends with its input.
 */
public final class CompilerServer {
    public static void main(String[] arguments) throws Exception {
        PrintStream answers = System.out;
        // Whatever a compiler prints on its own is no answer.
        System.setOut(System.err);
        Compiler compiler = switch (arguments[0]) {
            case "javac" -> java();
            case "kotlinc" -> kotlin();
            default -> scala();
        };
        var input = new BufferedReader(new InputStreamReader(System.in, StandardCharsets.US_ASCII));
        for (String line = input.readLine(); line != null; line = input.readLine()) {
            String[] given = line.split(" ", -1);
            for (int i = 0; i < given.length; i++) given[i] = decoded(given[i]);
            var said = new ByteArrayOutputStream();
            int code = compiler.run(given, new PrintStream(said, true, StandardCharsets.UTF_8));
            answers.println(code + " " + Base64.getEncoder().encodeToString(said.toByteArray()));
        }
    }

    private static String decoded(String text) throws IOException {
        return new String(Base64.getDecoder().decode(text), StandardCharsets.UTF_8);
    }

    private interface Compiler {
        int run(String[] arguments, PrintStream out) throws Exception;
    }

    private static Compiler java() {
        var javac = javax.tools.ToolProvider.getSystemJavaCompiler();
        return (given, out) -> javac.run(null, out, out, given);
    }

    private static Compiler kotlin() throws Exception {
        System.setProperty("kotlin.environment.keepalive", "true");
        var type = Class.forName("org.jetbrains.kotlin.cli.jvm.K2JVMCompiler");
        var exec = type.getMethod("exec", PrintStream.class, String[].class);
        return (given, out) -> {
            Object code = exec.invoke(type.getConstructor().newInstance(), out, given);
            return (int) code.getClass().getMethod("getCode").invoke(code);
        };
    }

    private static Compiler scala() throws Exception {
        var main = Class.forName("dotty.tools.dotc.Main");
        var reporter = Class.forName("dotty.tools.dotc.interfaces.SimpleReporter");
        var callback = Class.forName("dotty.tools.dotc.interfaces.CompilerCallback");
        var result = Class.forName("dotty.tools.dotc.interfaces.ReporterResult");
        var diagnostic = Class.forName("dotty.tools.dotc.interfaces.Diagnostic");
        var process = main.getMethod("process", String[].class, reporter, callback);
        return (given, out) -> {
            InvocationHandler print = (proxy, method, arguments) -> {
                Object position = diagnostic.getMethod("position").invoke(arguments[0]);
                out.println(position + ": " + diagnostic.getMethod("message").invoke(arguments[0]));
                return null;
            };
            Object printing =
                    Proxy.newProxyInstance(reporter.getClassLoader(), new Class<?>[] {reporter}, print);
            Object said = process.invoke(null, given, printing, null);
            return (boolean) result.getMethod("hasErrors").invoke(said) ? 1 : 0;
        };
    }
}
