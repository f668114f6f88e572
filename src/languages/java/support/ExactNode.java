import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonParser;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectReader;
import tools.jackson.databind.ValueDeserializer;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.NullNode;

/** Reads any JSON with every digit of its numbers, whatever the mapper's settings. */
final class ExactNode extends ValueDeserializer<JsonNode> {
  private static final ObjectReader READER =
      JsonMapper.shared()
          .reader()
          .with(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
          .without(DeserializationFeature.FAIL_ON_TRAILING_TOKENS);

  static JsonNode read(JsonParser parser) {
    return READER.readTree(parser);
  }

  @Override
  public JsonNode deserialize(JsonParser parser, DeserializationContext context) {
    return read(parser);
  }

  @Override
  public JsonNode getNullValue(DeserializationContext context) {
    return NullNode.getInstance();
  }

  @Override
  public @Nullable JsonNode getAbsentValue(DeserializationContext context) {
    return null;
  }
}
