/** Keeps the keys that the schema does not name. */
private final class ExtraKeysCodec[A, B](
    fields: JsonValueCodec[A],
    content: => JsonValueCodec[B]
)(
    known: A => Set[String],
    extra: A => VectorMap[String, B],
    withExtra: (A, VectorMap[String, B]) => A
) extends JsonValueCodec[A]:
  def nullValue: A = fields.nullValue

  def decodeValue(in: JsonReader, default: A): A =
    val json = in.readRawValAsBytes()
    val value = readFromArrayReentrant(json)(using fields)
    val rest = readFromArrayReentrant(json)(using RestCodec(known(value)))
    withExtra(value, rest)

  def encodeValue(x: A, out: JsonWriter): Unit =
    val json = writeToStringReentrant(x)(using fields)
    val rest = writeToStringReentrant(extra(x))(using RestCodec(Set.empty))
    val both =
      if rest == "{}" then json
      else if json == "{}" then rest
      else s"${json.init},${rest.tail}"
    out.writeRawVal(both.getBytes(UTF_8))

  private final class RestCodec(without: Set[String])
      extends JsonValueCodec[VectorMap[String, B]]:
    def nullValue: VectorMap[String, B] = VectorMap.empty

    def decodeValue(
        in: JsonReader,
        default: VectorMap[String, B]
    ): VectorMap[String, B] =
      val rest = VectorMap.newBuilder[String, B]
      if !in.isNextToken('{') then in.decodeError("expected an object")
      if !in.isNextToken('}') then
        in.rollbackToken()
        while
          val key = in.readKeyAsString()
          if without(key) then in.skip()
          else rest += key -> content.decodeValue(in, content.nullValue)
          in.isNextToken(',')
        do ()
        if !in.isCurrentToken('}') then in.objectEndOrCommaError()
      rest.result()

    def encodeValue(x: VectorMap[String, B], out: JsonWriter): Unit =
      out.writeObjectStart()
      for (key, value) <- x do
        out.writeKey(key)
        content.encodeValue(value, out)
      out.writeObjectEnd()
