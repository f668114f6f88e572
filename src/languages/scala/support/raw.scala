/** JSON as it was written. */
final case class RawJson(text: String)

private given JsonValueCodec[RawJson] with
  def nullValue: RawJson = RawJson("null")

  def decodeValue(in: JsonReader, default: RawJson): RawJson =
    RawJson(String(in.readRawValAsBytes(), UTF_8))

  def encodeValue(x: RawJson, out: JsonWriter): Unit =
    out.writeRawVal(x.text.getBytes(UTF_8))
