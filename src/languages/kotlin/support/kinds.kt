internal fun JsonElement.isText(): Boolean = this is JsonPrimitive && isString

internal fun JsonElement.isFlag(): Boolean = this is JsonPrimitive && !isString && booleanOrNull != null

internal fun JsonElement.isNumber(): Boolean = this is JsonPrimitive && this !is JsonNull && !isString && booleanOrNull == null

/** Whether it is an object that has a key. */
internal fun JsonElement.has(key: String): Boolean = this is JsonObject && key in this

/** Whether it is an object with one of some words under a key. */
internal fun JsonElement.says(
    key: String,
    vararg words: String,
): Boolean {
    val word = (this as? JsonObject)?.get(key)
    return word is JsonPrimitive && word.isString && word.content in words
}
