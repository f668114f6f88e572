/** Reads any JSON with every digit of its numbers, whatever the mapper's settings. */
final class ExactNode extends __Base__<JsonNode> {
  private static final ObjectReader READER =
//: if older
      new JsonMapper().reader().with(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS);
//: else
      JsonMapper.shared()
          .reader()
          .with(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
          .without(DeserializationFeature.FAIL_ON_TRAILING_TOKENS);
//: end

  static JsonNode read(JsonParser parser)__throws__ {
    return READER.readTree(parser);
  }

  @Override
//: if older
  public JsonNode deserialize(JsonParser parser, DeserializationContext context)
      throws IOException {
//: else
  public JsonNode deserialize(JsonParser parser, DeserializationContext context) {
//: end
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
