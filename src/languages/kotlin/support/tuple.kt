/** A list of __size__, each of a type of its own. */
@Serializable(Tuple__size__Serializer::class)
public data class Tuple__size__<__variance__>(
    //: each elements
    val __position__: __Letter__,
    //: end
)

internal class Tuple__size__Serializer<__letters__>(
    //: each elements
    private val __position__: KSerializer<__Letter__>,
    //: end
) : KSerializer<Tuple__size__<__letters__>> {
    override val descriptor: SerialDescriptor =
        SerialDescriptor("Tuple__size__", ListSerializer(JsonElement.serializer()).descriptor)

    override fun deserialize(decoder: Decoder): Tuple__size__<__letters__> {
        val (items, json) = decoder.listOf(__size__)
        return Tuple__size__(
            //: each elements
            json.decodeFromJsonElement(__position__, items[__i__]),
            //: end
        )
    }

    override fun serialize(
        encoder: Encoder,
        value: Tuple__size__<__letters__>,
    ) {
        val json = (encoder as JsonEncoder).json
        val items =
            listOf(
                //: each elements
                json.encodeToJsonElement(__position__, value.__position__),
                //: end
            )
        encoder.encodeSerializableValue(JsonArray.serializer(), JsonArray(items))
    }
}
