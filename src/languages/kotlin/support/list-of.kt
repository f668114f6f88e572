internal fun Decoder.listOf(size: Int): Pair<JsonArray, Json> {
    this as JsonDecoder
    val items = decodeJsonElement()
    if (items !is JsonArray || items.size != size) throw SerializationException("expected a list of $size")
    return items to json
}
