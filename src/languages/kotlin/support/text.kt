/** For a value that is text in the JSON. */
internal abstract class TextSerializer<T>(
    name: String,
    private val parse: (String) -> T,
    private val format: (T) -> String = { it.toString() },
) : KSerializer<T> {
    override val descriptor: SerialDescriptor = PrimitiveSerialDescriptor(name, PrimitiveKind.STRING)

    override fun deserialize(decoder: Decoder): T {
        val text = decoder.decodeString()
        return runCatching { parse(text) }.getOrElse { throw SerializationException(it.message, it) }
    }

    override fun serialize(
        encoder: Encoder,
        value: T,
    ) = encoder.encodeString(format(value))
}

internal object OffsetDateTimeSerializer : TextSerializer<OffsetDateTime>(
    "java.time.OffsetDateTime",
    OffsetDateTime::parse,
    DateTimeFormatter.ISO_OFFSET_DATE_TIME::format,
)

internal object LocalDateSerializer : TextSerializer<LocalDate>("java.time.LocalDate", LocalDate::parse)

// The platform's own reader takes groups of any length.
internal object UuidSerializer : TextSerializer<UUID>(
    "java.util.UUID",
    { text -> UUID.fromString(text).also { require(text.length == it.toString().length) { "no UUID: $text" } } },
)
