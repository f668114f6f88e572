/** A field that may be absent; its value may be null where [T] says so. */
@Serializable(FieldSerializer::class)
public sealed interface Field<out T> {
    /** The value; null when the field is absent. */
    public val value: T?

    public val isSet: Boolean
        get() = this is Present

    public data object Absent : Field<Nothing> {
        override val value: Nothing? = null
    }

    public data class Present<out T>(
        override val value: T,
    ) : Field<T>
}

internal class FieldSerializer<T>(
    private val content: KSerializer<T>,
) : KSerializer<Field<T>> {
    override val descriptor: SerialDescriptor = content.descriptor

    override fun deserialize(decoder: Decoder): Field<T> = Field.Present(decoder.decodeSerializableValue(content))

    override fun serialize(
        encoder: Encoder,
        value: Field<T>,
    ) = when (value) {
        is Field.Present -> encoder.encodeSerializableValue(content, value.value)
        Field.Absent -> throw SerializationException("an absent field is left out, not written")
    }
}
