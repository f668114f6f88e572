import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonPropertyOrder;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.regex.Pattern;
import __jackson__.core.type.TypeReference;
import __jackson__.databind.DeserializationFeature;
import __jackson__.databind.PropertyNamingStrategies;
import __jackson__.databind.json.JsonMapper;

public final class Bench {
  /** Halves of surrogate pairs, which UTF-8 cannot carry unless they are escaped. */
  private static final Pattern HALVES = Pattern.compile("\\p{Cs}");

  private static final String SEPARATOR = "\u001e";

  /** How programs decode and encode a payload. */
  private interface Way {
    String of(String line) throws IOException;
  }

  private static final List<Way> WAYS =
      List.of(
          Bench::strict,
          Bench::plain,
          Bench::inField,
          Bench::elements,
          Bench::underSettings,
          Bench::built);

  private static final JsonMapper PLAIN = new JsonMapper();

  private static __package__.__Root__ decoded(String line) throws IOException {
    return PLAIN.readValue(line, __package__.__Root__.class);
  }

  private static final JsonMapper STRICT = __package__.StrictMapper.create();

  private static String strict(String line) throws IOException {
    return STRICT.writeValueAsString(STRICT.readValue(line, __package__.__Root__.class));
  }

  private static String plain(String line) throws IOException {
    return PLAIN.writeValueAsString(decoded(line));
  }

  @JsonPropertyOrder({"before", "payload", "after"})
  public record Host(int before, __package__.__Root__ payload, int after) {}

  private static final String BEFORE = "{\"before\":1,\"payload\":";
  private static final String AFTER = ",\"after\":2}";

  private static String inField(String line) throws IOException {
    Host host = PLAIN.readValue(BEFORE + line + AFTER, Host.class);
    if (host.before() != 1 || host.after() != 2) {
      throw new IOException("the fields beside the payload are lost");
    }
    String text = PLAIN.writeValueAsString(host);
    return text.substring(BEFORE.length(), text.length() - AFTER.length());
  }

  private static String elements(String line) throws IOException {
    var list = PLAIN.readValue("[" + line + "]", new TypeReference<List<__package__.__Root__>>() {});
    var byName =
        PLAIN.readValue(
            "{\"only\":" + line + "}", new TypeReference<Map<String, __package__.__Root__>>() {});
    if (!Objects.equals(list.get(0), byName.get("only"))) {
      throw new IOException("an element of a list and one of a map differ");
    }
    String text = PLAIN.writeValueAsString(list);
    return text.substring(1, text.length() - 1);
  }

  /** Settings that are common: no nulls, names in snake case. */
  private static final JsonMapper SPARING =
      JsonMapper.builder()
          //: if older
          .defaultPropertyInclusion(
              JsonInclude.Value.construct(
                  JsonInclude.Include.NON_NULL, JsonInclude.Include.ALWAYS))
          //: else
          .changeDefaultPropertyInclusion(
              all -> all.withValueInclusion(JsonInclude.Include.NON_NULL))
          //: end
          .propertyNamingStrategy(PropertyNamingStrategies.SNAKE_CASE)
          .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
          .build();

  private static String underSettings(String line) throws IOException {
    return SPARING.writeValueAsString(SPARING.readValue(line, __package__.__Root__.class));
  }

  private static String built(String line) throws IOException {
    //: if record
    __package__.__Root__ value = decoded(line);
    __package__.__Root__ again =
        new __package__.__Root__(
            //: each members
            value.__name__()__comma__
            //: end
            );
    if (!again.equals(value) || again.hashCode() != value.hashCode()) {
      throw new IOException("what was built is not equal to what was decoded");
    }
    return PLAIN.writeValueAsString(again);
    //: else
    return plain(line);
    //: end
  }

  private static String changed(String field, String line, String from) throws IOException {
    //: if setters
    __package__.__Root__ value = decoded(line);
    __package__.__Root__ other = decoded(from);
    return switch (field) {
      //: each setters
      case "__i__" ->
          PLAIN.writeValueAsString(
              //: if builder
              value.toBuilder().__name__(other.__name__()).build());
              //: else
              new __package__.__Root__(
                  //: each each
                  __from__.__name__()__comma__
                  //: end
                  ));
              //: end
      //: end
      default -> throw new IOException("there is no such field");
    };
    //: else
    throw new IOException("there is no such field");
    //: end
  }

  private static String said(Way way, String line) {
    try {
      return HALVES
          .matcher(way.of(line))
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
