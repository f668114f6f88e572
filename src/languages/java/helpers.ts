import type { UnknownRule } from '../language.js';

/** The class that decodes and encodes payloads, with Jackson set up so that nothing is coerced or rounded. */
export const facade = {
  imports: [
    'com.fasterxml.jackson.annotation.JsonSetter',
    'com.fasterxml.jackson.annotation.Nulls',
    'java.io.IOException',
    'com.fasterxml.jackson.databind.DeserializationFeature',
    'com.fasterxml.jackson.databind.MapperFeature',
    'com.fasterxml.jackson.databind.ObjectMapper',
    'com.fasterxml.jackson.databind.SerializationFeature',
    'com.fasterxml.jackson.databind.cfg.CoercionAction',
    'com.fasterxml.jackson.databind.cfg.CoercionInputShape',
    'com.fasterxml.jackson.databind.json.JsonMapper',
    'com.fasterxml.jackson.databind.node.JsonNodeFactory',
    'com.fasterxml.jackson.databind.type.LogicalType',
  ],
  text: (
    name: string,
    type: string,
    target: string,
    unknown: UnknownRule,
    mayBeNull: boolean,
  ) => `public final class ${name} {
    /** Refuses what does not have the declared shape, and keeps every digit. */
    public static final ObjectMapper MAPPER = JsonMapper.builder()
            .disable(MapperFeature.ALLOW_COERCION_OF_SCALARS)
            .disable(DeserializationFeature.ACCEPT_FLOAT_AS_INT)
            .${unknown === 'reject' ? 'enable' : 'disable'}(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .disable(SerializationFeature.FAIL_ON_EMPTY_BEANS)
            .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .nodeFactory(JsonNodeFactory.withExactBigDecimals(true))
            .defaultSetterInfo(JsonSetter.Value.forValueNulls(Nulls.FAIL, Nulls.SET))
            .withCoercionConfig(LogicalType.Textual, config -> config
                    .setCoercion(CoercionInputShape.Integer, CoercionAction.Fail)
                    .setCoercion(CoercionInputShape.Float, CoercionAction.Fail)
                    .setCoercion(CoercionInputShape.Boolean, CoercionAction.Fail))
            .build();

    private ${name}() {}

    /** Reads one payload from JSON text. */
    public static ${type} decode(String text) throws IOException {
        ${mayBeNull ? 'return ' : `${type} payload = `}MAPPER.readValue(text, ${target});${
          mayBeNull
            ? ''
            : `
        if (payload == null) {
            throw com.fasterxml.jackson.databind.JsonMappingException.from(
                    (com.fasterxml.jackson.core.JsonParser) null, "at the top: expected a value, found null");
        }
        return payload;`
        }
    }

    /** Writes one payload as JSON text. */
    public static String encode(${type} payload) throws IOException {
        return MAPPER.writeValueAsString(payload);
    }
}`,
};

/** A value or null, for fields that may also be absent. */
export const nullable = {
  imports: [
    'com.fasterxml.jackson.annotation.JsonValue',
    'com.fasterxml.jackson.core.JsonParser',
    'com.fasterxml.jackson.databind.BeanProperty',
    'com.fasterxml.jackson.databind.DeserializationContext',
    'com.fasterxml.jackson.databind.JavaType',
    'com.fasterxml.jackson.databind.JsonDeserializer',
    'com.fasterxml.jackson.databind.annotation.JsonDeserialize',
    'com.fasterxml.jackson.databind.deser.ContextualDeserializer',
    'java.io.IOException',
  ],
  text: `/** A value or null, for a field that may also be absent: then the field itself is null. */
@JsonDeserialize(using = Nullable.Reader.class)
public record Nullable<T>(T value) {
    @JsonValue
    public T value() {
        return value;
    }

    /** Reads the value, and null as one that is there. */
    static final class Reader extends JsonDeserializer<Nullable<?>> implements ContextualDeserializer {
        private final JavaType type;

        Reader() {
            this(null);
        }

        private Reader(JavaType type) {
            this.type = type;
        }

        @Override
        public Class<?> handledType() {
            return Nullable.class;
        }

        @Override
        public JsonDeserializer<?> createContextual(DeserializationContext context, BeanProperty property) {
            return new Reader(context.getContextualType().containedType(0));
        }

        @Override
        public Nullable<?> deserialize(JsonParser parser, DeserializationContext context) throws IOException {
            return new Nullable<>(context.readValue(parser, type));
        }

        @Override
        public Nullable<?> getNullValue(DeserializationContext context) {
            return new Nullable<>(null);
        }

        @Override
        public Object getAbsentValue(DeserializationContext context) {
            return null;
        }
    }
}`,
};

const positions = 'first second third fourth fifth sixth seventh eighth'.split(' ');

/** The accessor of a position. */
export function positionName(index: number): string {
  return positions[index]!;
}

/** A list of fixed length, each position of a type of its own. */
export function tuple(size: number): { imports: readonly string[]; text: string } {
  const letters = 'ABCDEFGH'.slice(0, size).split('');
  const components = letters.map(
    (letter, i) =>
      `    @JsonProperty(value = "${positions[i]}", required = true) @JsonSetter(nulls = Nulls.SET) ${letter} ${positions[i]}`,
  );
  return {
    imports: [
      'com.fasterxml.jackson.annotation.JsonFormat',
      'com.fasterxml.jackson.annotation.JsonProperty',
      'com.fasterxml.jackson.annotation.JsonPropertyOrder',
      'com.fasterxml.jackson.annotation.JsonSetter',
      'com.fasterxml.jackson.annotation.Nulls',
    ],
    text: `/** A list of ${size} elements, each of a type of its own. */
@JsonFormat(shape = JsonFormat.Shape.ARRAY)
@JsonPropertyOrder({${positions
      .slice(0, size)
      .map((name) => `"${name}"`)
      .join(', ')}})
public record Tuple${size}<${letters.join(', ')}>(
${components.join(',\n')}) {}`,
  };
}
