/** A field that may be absent, null or a value. */
@JsonDeserialize(using = Field.Deserializer.class)
public sealed interface Field<T> {
  static <T> Field<T> absent() {
    return new Absent<>();
  }

  static <T> Field<T> of(@Nullable T value) {
    return new Present<>(value);
  }

  /** Whether the field is there, be it null. */
  boolean isSet();

  /** The value, null when the field is null or absent. */
  @Nullable T get();

  record Absent<T>() implements Field<T> {
    @Override
    public boolean isSet() {
      return false;
    }

    @Override
    public @Nullable T get() {
      return null;
    }
  }

  record Present<T>(@JsonValue @Nullable T get) implements Field<T> {
    @Override
    public boolean isSet() {
      return true;
    }
  }

  /** Tells null from a field that is not there. */
//: if older
  final class Deserializer extends JsonDeserializer<Field<?>> implements ContextualDeserializer {
//: else
  final class Deserializer extends ValueDeserializer<Field<?>> {
//: end
    private final @Nullable __Base__<?> content;
    private final @Nullable TypeDeserializer told;

    Deserializer() {
      this(null, null);
    }

    private Deserializer(@Nullable __Base__<?> content, @Nullable TypeDeserializer told) {
      this.content = content;
      this.told = told;
    }

    @Override
//: if older
    public JsonDeserializer<?> createContextual(
        DeserializationContext context, @Nullable BeanProperty property)
        throws JsonMappingException {
//: else
    public ValueDeserializer<?> createContextual(
        DeserializationContext context, @Nullable BeanProperty property) {
//: end
      var type = context.getContextualType().containedType(0);
//: if older
      var told = context.getFactory().findTypeDeserializer(context.getConfig(), type);
//: else
      var told = context.findTypeDeserializer(type);
//: end
      return new Deserializer(
          context.findContextualValueDeserializer(type, property),
          told == null ? null : told.forProperty(property));
    }

    @Override
//: if older
    public Field<?> deserialize(JsonParser parser, DeserializationContext context)
        throws IOException {
//: else
    public Field<?> deserialize(JsonParser parser, DeserializationContext context) {
//: end
      var found = requireNonNull(content);
      return of(
          told == null
              ? found.deserialize(parser, context)
              : found.deserializeWithType(parser, context, told));
    }

    @Override
    public Field<?> getNullValue(DeserializationContext context) {
      return of(null);
    }

    @Override
    public Field<?> getAbsentValue(DeserializationContext context) {
      return absent();
    }
  }
}
