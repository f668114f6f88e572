import java.io.BufferedReader;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.io.PrintStream;
import java.lang.reflect.InvocationHandler;
import java.lang.reflect.Proxy;
import java.net.StandardProtocolFamily;
import java.net.UnixDomainSocketAddress;
import java.nio.channels.Channels;
import java.nio.channels.ServerSocketChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * Runs one compiler of the JVM again and again, so that the tests do not wait for it to start hundreds of times.
 * A request is the number of arguments and the arguments, a line each; the answer is a line with the exit code and what
 * the compiler said. Ends when nobody has asked for two minutes.
 */
public final class CompilerServer {
    private static volatile long lastUse = System.nanoTime();

    public static void main(String[] arguments) throws Exception {
        Path socket = Path.of(arguments[0]);
        Compiler compiler = switch (arguments[1]) {
            case "javac" -> java();
            case "kotlinc" -> kotlin();
            default -> scala();
        };
        Files.deleteIfExists(socket);
        Thread watch = new Thread(() -> endWhenIdle(socket));
        watch.setDaemon(true);
        watch.start();
        try (ServerSocketChannel server = ServerSocketChannel.open(StandardProtocolFamily.UNIX)) {
            server.bind(UnixDomainSocketAddress.of(socket));
            while (true) {
                try (var channel = server.accept()) {
                    var input = new BufferedReader(
                            new InputStreamReader(Channels.newInputStream(channel), StandardCharsets.UTF_8));
                    int count = Integer.parseInt(input.readLine());
                    List<String> given = new ArrayList<>();
                    for (int i = 0; i < count; i++) given.add(input.readLine());
                    var said = new ByteArrayOutputStream();
                    int code = compiler.run(given.toArray(new String[0]), new PrintStream(said, true, "UTF-8"));
                    OutputStream output = Channels.newOutputStream(channel);
                    output.write((code + "\n").getBytes(StandardCharsets.UTF_8));
                    output.write(said.toByteArray());
                } catch (IOException gone) {
                    System.err.println(gone);
                }
                lastUse = System.nanoTime();
            }
        }
    }

    private static void endWhenIdle(Path socket) {
        try {
            while (System.nanoTime() - lastUse < 120_000_000_000L) Thread.sleep(1000);
            Files.deleteIfExists(socket);
        } catch (IOException | InterruptedException ended) {
            System.err.println(ended);
        }
        System.exit(0);
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
