/** For a field that may be absent and not null: the library reads null as
  * absent.
  */
private final class OptionCodec[A](content: JsonValueCodec[A])
    extends JsonValueCodec[Option[A]]:
  def nullValue: Option[A] = None

  def decodeValue(in: JsonReader, default: Option[A]): Option[A] =
    Some(content.decodeValue(in, content.nullValue))

  def encodeValue(x: Option[A], out: JsonWriter): Unit =
    x.foreach(content.encodeValue(_, out))
