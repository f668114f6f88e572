/** For what may be anything, with every digit of its numbers. */
internal object ExactJsonSerializer : KSerializer<JsonElement> {
    override val descriptor: SerialDescriptor = JsonElement.serializer().descriptor

    override fun deserialize(decoder: Decoder): JsonElement = exact(JsonElement.serializer().deserialize(decoder))

    override fun serialize(
        encoder: Encoder,
        value: JsonElement,
    ) = JsonElement.serializer().serialize(encoder, value)

    // Other literals are written as doubles when they fit no integer.
    @OptIn(ExperimentalSerializationApi::class)
    private fun exact(element: JsonElement): JsonElement =
        when (element) {
            is JsonObject -> JsonObject(element.mapValues { exact(it.value) })
            is JsonArray -> JsonArray(element.map(::exact))
            is JsonNull -> element
            is JsonPrimitive -> if (element.isString) element else JsonUnquotedLiteral(element.content)
        }
}
