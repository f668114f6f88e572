import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.MapperFeature;
import tools.jackson.databind.cfg.CoercionAction;
import tools.jackson.databind.cfg.CoercionInputShape;
import tools.jackson.databind.cfg.EnumFeature;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.type.LogicalType;

/** Any mapper reads and writes these types; this one also refuses what others bend. */
public final class StrictMapper {
  private StrictMapper() {}

  /** A new mapper that takes no number for text, no 1.5 for 1, and no key twice. */
  public static JsonMapper create() {
    return JsonMapper.builder()
        .disable(MapperFeature.ALLOW_COERCION_OF_SCALARS)
        .disable(DeserializationFeature.ACCEPT_FLOAT_AS_INT)
        .enable(EnumFeature.FAIL_ON_NUMBERS_FOR_ENUMS)
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
