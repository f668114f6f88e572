/** For a field that may be absent and not null: refuses null in the JSON. */
internal abstract class OmittableSerializer<T : Any>(
    private val content: KSerializer<T>,
) : KSerializer<T?> {
    override val descriptor: SerialDescriptor = content.nullable.descriptor

    override fun deserialize(decoder: Decoder): T = decoder.decodeSerializableValue(content)

    override fun serialize(
        encoder: Encoder,
        value: T?,
    ) = content.nullable.serialize(encoder, value)
}
