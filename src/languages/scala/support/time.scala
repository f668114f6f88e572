private given JsonValueCodec[OffsetDateTime] with
  def nullValue: OffsetDateTime = null

  def decodeValue(in: JsonReader, default: OffsetDateTime): OffsetDateTime =
    in.readOffsetDateTime(default)

  // The library leaves out seconds that are zero, and writes fractions by threes.
  def encodeValue(x: OffsetDateTime, out: JsonWriter): Unit =
    if x.getSecond != 0 && x.getNano == 0 then out.writeVal(x)
    else out.writeNonEscapedAsciiVal(ISO_OFFSET_DATE_TIME.format(x))
