import static java.util.Objects.requireNonNull;

import com.fasterxml.jackson.annotation.JacksonAnnotationsInside;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonParser;
import tools.jackson.databind.BeanProperty;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.ValueDeserializer;
import tools.jackson.databind.annotation.JsonDeserialize;

/** A field that may be absent, then null in Java, and that no JSON may give as null. */
@JacksonAnnotationsInside
@JsonInclude(JsonInclude.Include.NON_NULL)
@JsonDeserialize(using = Omittable.Deserializer.class)
@Retention(RetentionPolicy.RUNTIME)
@interface Omittable {
  final class Deserializer extends ValueDeserializer<Object> {
    private final @Nullable ValueDeserializer<?> content;

    Deserializer() {
      this(null);
    }

    private Deserializer(@Nullable ValueDeserializer<?> content) {
      this.content = content;
    }

    @Override
    public ValueDeserializer<?> createContextual(
        DeserializationContext context, BeanProperty property) {
      return new Deserializer(
          context.findContextualValueDeserializer(property.getType(), property));
    }

    @Override
    public Object deserialize(JsonParser parser, DeserializationContext context) {
      return requireNonNull(content).deserialize(parser, context);
    }

    @Override
    public Object getNullValue(DeserializationContext context) {
      return context.reportInputMismatch(this, "null, where a value or nothing is expected");
    }

    @Override
    public @Nullable Object getAbsentValue(DeserializationContext context) {
      return null;
    }
  }
}
