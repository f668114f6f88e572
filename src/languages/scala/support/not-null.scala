/** For a list or map: the library reads null as an empty one. */
private final class NotNullCodec[A](content: JsonValueCodec[A])
    extends JsonValueCodec[A]:
  def nullValue: A = content.nullValue

  def decodeValue(in: JsonReader, default: A): A =
    if in.isNextToken('n') then
      in.decodeError("null, where a list or an object is expected")
    else
      in.rollbackToken()
      content.decodeValue(in, content.nullValue)

  def encodeValue(x: A, out: JsonWriter): Unit = content.encodeValue(x, out)
