import type { UnknownRule } from '../language.js';
import { positionName } from '../java/spelling.js';
import type { Helper } from '../kit/helpers.js';

const jackson = 'com.fasterxml.jackson';

/** What generated Kotlin may need beside its classes. */
export const helpers: Readonly<Record<string, Helper>> = {
  Nullable: {
    imports: [
      `${jackson}.annotation.JsonValue`,
      `${jackson}.core.JsonParser`,
      `${jackson}.databind.BeanProperty`,
      `${jackson}.databind.DeserializationContext`,
      `${jackson}.databind.JavaType`,
      `${jackson}.databind.JsonDeserializer`,
      `${jackson}.databind.annotation.JsonDeserialize`,
      `${jackson}.databind.deser.ContextualDeserializer`,
    ],
    text: `/** A value or null, for a property that may also be absent: then the property itself is null. */
@JsonDeserialize(using = Nullable.Reader::class)
data class Nullable<out T>(@get:JsonValue val value: T?) {
    /** Reads the value, and null as one that is there. */
    internal class Reader(private val type: JavaType? = null) : JsonDeserializer<Nullable<*>>(), ContextualDeserializer {
        override fun handledType(): Class<*> = Nullable::class.java

        override fun createContextual(context: DeserializationContext, property: BeanProperty?): JsonDeserializer<*> =
            Reader(context.contextualType.containedType(0))

        override fun deserialize(parser: JsonParser, context: DeserializationContext): Nullable<*> =
            Nullable<Any?>(context.readValue<Any?>(parser, type))

        override fun getNullValue(context: DeserializationContext): Nullable<*> = Nullable(null)

        override fun getAbsentValue(context: DeserializationContext): Any? = null
    }
}`,
  },
  ...Object.fromEntries([2, 3, 4, 5, 6, 7, 8].map((size) => [`Tuple${size}`, tuple(size)])),
};

function tuple(size: number): Helper {
  const letters = 'ABCDEFGH'.slice(0, size).split('');
  const properties = letters.map((letter, i) => {
    const name = positionName(i);
    return `    @param:JsonProperty(value = "${name}", required = true) @param:JsonSetter(nulls = Nulls.SET) @get:JsonProperty("${name}") val ${name}: ${letter}`;
  });
  return {
    imports: ['JsonCreator', 'JsonFormat', 'JsonProperty', 'JsonPropertyOrder', 'JsonSetter', 'Nulls'].map(
      (name) => `${jackson}.annotation.${name}`,
    ),
    text: `/** A list of ${size} elements, each of a type of its own. */
@JsonFormat(shape = JsonFormat.Shape.ARRAY)
@JsonPropertyOrder(${letters.map((_, i) => `"${positionName(i)}"`).join(', ')})
data class Tuple${size}<${letters.map((letter) => `out ${letter}`).join(', ')}> @JsonCreator constructor(
${properties.join(',\n')}
)`,
  };
}

export const facadeImports = [
  `${jackson}.annotation.JsonSetter`,
  `${jackson}.annotation.Nulls`,
  `${jackson}.databind.DeserializationFeature`,
  `${jackson}.databind.MapperFeature`,
  `${jackson}.databind.ObjectMapper`,
  `${jackson}.databind.SerializationFeature`,
  `${jackson}.databind.cfg.CoercionAction`,
  `${jackson}.databind.cfg.CoercionInputShape`,
  `${jackson}.databind.json.JsonMapper`,
  `${jackson}.databind.node.JsonNodeFactory`,
  `${jackson}.databind.type.LogicalType`,
];

/** The object that decodes and encodes payloads, with Jackson set up so that nothing is coerced or rounded. */
export function facade(name: string, type: string, target: string, unknown: UnknownRule): string {
  return `object ${name} {
    /** Refuses what does not have the declared shape, and keeps every digit. */
    val mapper: ObjectMapper = JsonMapper.builder()
        .disable(MapperFeature.ALLOW_COERCION_OF_SCALARS)
        .disable(DeserializationFeature.ACCEPT_FLOAT_AS_INT)
        .${unknown === 'reject' ? 'enable' : 'disable'}(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
        .disable(SerializationFeature.FAIL_ON_EMPTY_BEANS)
        .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
        .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
        .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
        .nodeFactory(JsonNodeFactory.withExactBigDecimals(true))
        .defaultSetterInfo(JsonSetter.Value.forValueNulls(Nulls.FAIL, Nulls.SET))
        .withCoercionConfig(LogicalType.Textual) { config ->
            config
                .setCoercion(CoercionInputShape.Integer, CoercionAction.Fail)
                .setCoercion(CoercionInputShape.Float, CoercionAction.Fail)
                .setCoercion(CoercionInputShape.Boolean, CoercionAction.Fail)
        }
        .build()

    /** Reads one payload from JSON text. */
    fun decode(text: String): ${type} = mapper.readValue(text, ${target})

    /** Writes one payload as JSON text. */
    fun encode(payload: ${type}): String = mapper.writeValueAsString(payload)
}`;
}
