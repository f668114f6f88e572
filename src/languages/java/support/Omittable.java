/** A field that may be absent, then null in Java, and that no JSON may give as null. */
@JacksonAnnotationsInside
@JsonInclude(JsonInclude.Include.NON_NULL)
@JsonDeserialize(using = Omittable.Deserializer.class)
@Retention(RetentionPolicy.RUNTIME)
@interface Omittable {
//: if older
  final class Deserializer extends JsonDeserializer<Object> implements ContextualDeserializer {
//: else
  final class Deserializer extends ValueDeserializer<Object> {
//: end
    private final @Nullable BeanProperty property;
    private volatile @Nullable __Base__<?> content;

    Deserializer() {
      this(null);
    }

    private Deserializer(@Nullable BeanProperty property) {
      this.property = property;
    }

    @Override
    public __Base__<?> createContextual(
        DeserializationContext context, BeanProperty property) {
      return new Deserializer(property);
    }

    @Override
//: if older
    public Object deserialize(JsonParser parser, DeserializationContext context)
        throws IOException {
//: else
    public Object deserialize(JsonParser parser, DeserializationContext context) {
//: end
      // Found at its first use, since a record may have a field of its own type.
      var found = content;
      if (found == null) {
        var own = requireNonNull(property);
        found = context.findContextualValueDeserializer(own.getType(), own);
        content = found;
      }
      return found.deserialize(parser, context);
    }

    @Override
    public Object getNullValue(DeserializationContext context)__throwsMapping__ {
      return context.reportInputMismatch(this, "null, where a value or nothing is expected");
    }

    @Override
    public @Nullable Object getAbsentValue(DeserializationContext context) {
      return null;
    }
  }
}
