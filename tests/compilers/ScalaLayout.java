import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.scalafmt.Scalafmt;

/** Prints the files below a folder that the formatter of Scala would change, with the first line that it would. */
public final class ScalaLayout {
    public static void main(String[] arguments) throws Exception {
        var style = Scalafmt.parseHoconConfig("version = 3.11.1\nrunner.dialect = scala3").get();
        try (var paths = Files.walk(Path.of(arguments[0]))) {
            for (Path path : paths.filter(each -> each.toString().endsWith(".scala")).sorted().toList()) {
                String text = Files.readString(path, StandardCharsets.UTF_8);
                var formatted = Scalafmt.format(text, style, scala.collection.immutable.Set$.MODULE$.empty()).toEither();
                if (formatted.isLeft()) {
                    System.out.println(path + ": " + formatted.left().getOrElse(() -> null));
                    continue;
                }
                String better = formatted.getOrElse(() -> "");
                if (better.equals(text)) continue;
                List<String> own = text.lines().toList(), other = better.lines().toList();
                int at = 0;
                while (at < own.size() && at < other.size() && own.get(at).equals(other.get(at))) at++;
                System.out.println(path + ":" + (at + 1) + ": " + own.get(Math.min(at, own.size() - 1)) + "\n  should be: " + String.join("\n    ", other.subList(at, Math.min(other.size(), at + 4))));
            }
        }
    }
}
