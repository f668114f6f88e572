/** Keeps the keys that a class does not have in its property called [extra]; the [tag] of a union is none of them. */
internal abstract class ExtraKeysSerializer<T : Any>(
    content: KSerializer<T>,
    private val extra: String,
    tag: String? = null,
) : JsonTransformingSerializer<T>(content) {
    private val known = content.descriptor.elementNames.toSet() - extra
    private val named = known + listOfNotNull(tag)

    override fun transformDeserialize(element: JsonElement): JsonElement {
        if (element !is JsonObject) throw SerializationException("expected an object")
        return JsonObject(element.filterKeys { it in known } + (extra to JsonObject(element - named)))
    }

    override fun transformSerialize(element: JsonElement): JsonElement =
        JsonObject(element.jsonObject - extra + element.jsonObject[extra]?.jsonObject.orEmpty())
}
