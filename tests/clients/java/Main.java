import java.nio.file.Files;
import java.nio.file.Path;
import java.time.OffsetDateTime;
import java.util.HashMap;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import saltmere.sailings.AudienceListOrText;
import saltmere.sailings.ClosureNotice;
import saltmere.sailings.Comment;
import saltmere.sailings.DelayNotice;
import saltmere.sailings.Field;
import saltmere.sailings.Notice;
import saltmere.sailings.SailingPage;
import saltmere.sailings.SailingPageItem;
import saltmere.sailings.WeatherNotice;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** An application over the payloads of the ferries, with the library's own calls. */
public final class Main {
  private static final JsonMapper JSON = new JsonMapper();

  private Main() {}

  private static <T> T read(String path, Class<T> type) throws Exception {
    return JSON.readValue(Files.readString(Path.of(path)), type);
  }

  private static void sailings(String demo) throws Exception {
    var page = read(demo + "/sailings/page-1.json", SailingPage.class);
    System.out.println("page " + page.page() + " of " + page.pages());
    for (var sailing : page.results()) {
      var delay = sailing.delayMinutes().isSet() ? "some time" : "on time";
      var minutes = sailing.delayMinutes().get();
      if (minutes != null) {
        delay = minutes + " minutes late";
      }
      var gates =
          sailing.legs().stream()
              .map(leg -> leg.gate().get())
              .filter(Objects::nonNull)
              .collect(Collectors.joining(" "));
      System.out.println(sailing.code() + " " + delay + ", gates " + gates);
    }
    var first = page.results().get(0).toBuilder().delayMinutes(Field.of(3)).remarks(null).build();
    JsonNode changed = JSON.valueToTree(first);
    System.out.println(changed.get("delay_minutes") + " " + changed.get("remarks"));
    var cleared = first.toBuilder().delayMinutes(Field.absent()).build();
    System.out.println(JSON.<JsonNode>valueToTree(cleared).has("delay_minutes"));
    System.out.println(
        JSON.readValue(JSON.writeValueAsString(page), SailingPage.class).equals(page));
    var byVessel = new HashMap<String, SailingPageItem>();
    page.results().forEach(sailing -> byVessel.put(sailing.vessel().id(), sailing));
    System.out.println(byVessel.size() + " vessels");
  }

  private static void notices(String demo) throws Exception {
    for (int number = 1; number <= 4; number++) {
      var notice = read(demo + "/notices/notice-" + number + ".json", Notice.class);
      String about;
      if (notice instanceof ClosureNotice closure) {
        about = closure.berth() + " is closed";
        if (closure.until() != null) {
          about += " until " + closure.until().toString().replaceFirst("(T..:..)\\+", "$1:00+");
        }
      } else if (notice instanceof DelayNotice delay) {
        about = delay.sailing() + " is " + delay.minutes() + " late";
      } else if (notice instanceof WeatherNotice weather) {
        about = "wind " + weather.wind().from() + " of " + weather.wind().force();
      } else {
        throw new IllegalStateException();
      }
      System.out.println(
          notice.title() + ": " + about + ", " + notice.comments().size() + " comments");
    }
  }

  private static void built() {
    var issued = OffsetDateTime.parse("2031-05-01T07:30:00+01:00");
    Notice notice =
        ClosureNotice.builder()
            .id(1)
            .issued(issued)
            .title("Berth N2")
            .comments(List.of(new Comment("clerk a", issued.plusMinutes(30), "Seen.", List.of())))
            .audience(AudienceListOrText.of("crew"))
            .berth("N2")
            .build();
    JsonNode value = JSON.valueToTree(notice);
    System.out.println(value.get("kind") + " " + value.get("until") + " " + value.get("audience"));
    var again = JSON.readValue(JSON.writeValueAsString(notice), Notice.class);
    System.out.println(again.equals(notice) + " " + Set.copyOf(List.of(notice, again)).size());
  }

  private static void refused(String what, String text) {
    try {
      JSON.readValue(text, SailingPage.class);
      System.out.println(what + ": decoded");
    } catch (JacksonException error) {
      System.out.println(what + (error.getMessage().isEmpty() ? ": silent" : ": refused"));
    }
  }

  public static void main(String[] arguments) throws Exception {
    sailings(arguments[0]);
    notices(arguments[0]);
    built();
    refused("seq", "{\"page\":1,\"pages\":1,\"next\":null,\"results\":[{\"id\":1}]}");
    refused("pages", "{\"page\":1,\"pages\":\"one\",\"next\":null,\"results\":[]}");
    refused("next", "{\"page\":1,\"pages\":1,\"results\":[]}");
    refused("page", "{\"page\":1,\"pages\":1,\"next\":null,");
  }
}
