/** Any mapper reads and writes these types; this one also refuses what others bend. */
public final class StrictMapper {
  private StrictMapper() {}

  /** A new mapper that takes no number for text, no 1.5 for 1, and no key twice. */
  public static JsonMapper create() {
    return JsonMapper.builder()
        .disable(MapperFeature.ALLOW_COERCION_OF_SCALARS)
        .disable(DeserializationFeature.ACCEPT_FLOAT_AS_INT)
//: if older
        .enable(DeserializationFeature.FAIL_ON_NUMBERS_FOR_ENUMS)
        .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
//: else
        .enable(EnumFeature.FAIL_ON_NUMBERS_FOR_ENUMS)
//: end
        .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
        .withCoercionConfig(
            LogicalType.Textual,
            text ->
                text.setCoercion(CoercionInputShape.Integer, CoercionAction.Fail)
                    .setCoercion(CoercionInputShape.Float, CoercionAction.Fail)
                    .setCoercion(CoercionInputShape.Boolean, CoercionAction.Fail))
        .build();
  }
}
