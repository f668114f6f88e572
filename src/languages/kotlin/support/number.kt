/** For a number of any size, with every digit. */
@OptIn(ExperimentalSerializationApi::class)
internal abstract class NumberSerializer<T : Any>(
    name: String,
    private val parse: (String) -> T,
) : KSerializer<T> {
    override val descriptor: SerialDescriptor = PrimitiveSerialDescriptor(name, PrimitiveKind.DOUBLE)

    override fun deserialize(decoder: Decoder): T {
        val element = decoder.decodeSerializableValue(JsonElement.serializer())
        val literal = (element as? JsonPrimitive)?.takeUnless { it.isString }?.content
        return runCatching { parse(checkNotNull(literal)) }
            .getOrElse { throw SerializationException("expected a number, not $element", it) }
    }

    override fun serialize(
        encoder: Encoder,
        value: T,
    ) = encoder.encodeSerializableValue(JsonElement.serializer(), JsonUnquotedLiteral(value.toString()))
}

internal object BigDecimalSerializer : NumberSerializer<BigDecimal>("java.math.BigDecimal", ::BigDecimal)

internal object BigIntegerSerializer : NumberSerializer<BigInteger>("java.math.BigInteger", ::BigInteger)
