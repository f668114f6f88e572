import static java.util.Objects.requireNonNull;

import com.fasterxml.jackson.annotation.JsonValue;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonParser;
import tools.jackson.databind.BeanProperty;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.ValueDeserializer;
import tools.jackson.databind.annotation.JsonDeserialize;

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
  final class Deserializer extends ValueDeserializer<Field<?>> {
    private final @Nullable ValueDeserializer<?> content;

    Deserializer() {
      this(null);
    }

    private Deserializer(@Nullable ValueDeserializer<?> content) {
      this.content = content;
    }

    @Override
    public ValueDeserializer<?> createContextual(
        DeserializationContext context, @Nullable BeanProperty property) {
      var type = context.getContextualType().containedType(0);
      return new Deserializer(context.findContextualValueDeserializer(type, property));
    }

    @Override
    public Field<?> deserialize(JsonParser parser, DeserializationContext context) {
      return of(requireNonNull(content).deserialize(parser, context));
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
