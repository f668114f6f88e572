import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.PropertyNamingStrategies;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;

public final class Bench {
    /** Halves of surrogate pairs, which UTF-8 cannot carry unless they are escaped. */
    private static final Pattern HALVES = Pattern.compile("\\p{Cs}");

    private static final String SEPARATOR = "\u001e";

    /** How programs decode and encode a payload. */
    private interface Way {
        String of(String line) throws IOException;
    }

    private static final List<Way> WAYS = List.of(
            //: if named
            Bench::generated,
            Bench::library,
            Bench::inField,
            //: if record
            Bench::underSettings,
            Bench::built);
            //: else
            Bench::underSettings);
            //: end
            //: else
            Bench::generated);
            //: end

    private static String generated(String line) throws IOException {
        return __package__.__facade__.encode(__package__.__facade__.decode(line));
    }
    //: if named

    private static final ObjectMapper PLAIN = new ObjectMapper();

    private static String library(String line) throws IOException {
        return PLAIN.writeValueAsString(PLAIN.readValue(line, __package__.__Root__.class));
    }

    public record Host(int before, __package__.__Root__ payload, int after) {}

    private static final String BEFORE = "{\"before\":1,\"payload\":";
    private static final String AFTER = ",\"after\":2}";

    private static String inField(String line) throws IOException {
        Host host = __package__.__facade__.MAPPER.readValue(BEFORE + line + AFTER, Host.class);
        if (host.before() != 1 || host.after() != 2) {
            throw new IOException("the fields beside the payload are lost");
        }
        String text = __package__.__facade__.MAPPER.writeValueAsString(host);
        return text.substring(BEFORE.length(), text.length() - AFTER.length());
    }

    /** Settings that are common: no nulls, names in snake case, what is unknown left out. */
    private static final ObjectMapper SPARING = new ObjectMapper()
            .setSerializationInclusion(JsonInclude.Include.NON_NULL)
            .setPropertyNamingStrategy(PropertyNamingStrategies.SNAKE_CASE)
            .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES);

    private static String underSettings(String line) throws IOException {
        return SPARING.writeValueAsString(SPARING.readValue(line, __package__.__Root__.class));
    }
    //: end
    //: if record

    private static String built(String line) throws IOException {
        __package__.__Root__ value = __package__.__facade__.decode(line);
        __package__.__Root__ again = new __package__.__Root__(
                //: each fields
                value.__Get____comma__
                //: end
                );
        String text = __package__.__facade__.encode(again);
        if (!again.equals(value)) {
            throw new IOException("what was built is not equal to what was decoded");
        }
        return text;
    }
    //: end

    private static String changed(String field, String line, String from) throws IOException {
        //: if setters
        __package__.__Root__ value = __package__.__facade__.decode(line);
        __package__.__Root__ other = __package__.__facade__.decode(from);
        switch (field) {
            //: each setters
            case "__i__":
                return __package__.__facade__.encode(new __package__.__Root__(
                        //: each each
                        __from__.__Own____comma__
                        //: end
                        ));
            //: end
            default:
                throw new IOException("there is no such field");
        }
        //: else
        throw new IOException("there is no such field");
        //: end
    }

    private static String said(Way way, String line) {
        try {
            return HALVES.matcher(way.of(line))
                    .replaceAll(half -> String.format("\\\\u%04x", (int) half.group().charAt(0)));
        } catch (IOException | RuntimeException error) {
            return "!" + String.valueOf(error.getMessage()).replaceAll("[\\s\u001e]+", " ");
        }
    }

    private static String answer(String line) {
        String[] parts = line.split(SEPARATOR);
        if (parts.length == 4) {
            return said(one -> changed(parts[1], one, parts[3]), parts[2]);
        }
        var answers = new ArrayList<String>();
        for (Way way : WAYS) {
            String own = said(way, line);
            answers.add(!answers.isEmpty() && own.equals(answers.get(0)) ? "=" : own);
        }
        return String.join(SEPARATOR, answers);
    }

    public static void main(String[] arguments) throws IOException {
        var input = new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8));
        var output = new PrintStream(System.out, false, StandardCharsets.UTF_8);
        for (String line = input.readLine(); line != null; line = input.readLine()) {
            output.print(answer(line) + "\n");
            output.flush();
        }
    }
}
