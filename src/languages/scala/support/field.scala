/** A field that may be absent, null or a value. */
sealed trait Field[+A]:
  /** Whether the field is there, be it null. */
  final def isSet: Boolean = this != Field.Absent

  final def toOption: Option[A] = this match
    case Field.Value(value) => Some(value)
    case _                  => None

object Field:
  case object Absent extends Field[Nothing]
  case object Null extends Nullable[Nothing]
  final case class Value[+A](value: A) extends Nullable[A]

/** A field that is always there, null or a value. */
sealed trait Nullable[+A] extends Field[A]

private final class FieldCodec[A, F >: Nullable[A] <: Field[A]](
    content: JsonValueCodec[A]
) extends JsonValueCodec[F]:
  def nullValue: F = null.asInstanceOf[F]

  def decodeValue(in: JsonReader, default: F): F =
    if in.isNextToken('n') then
      in.readNullOrError(Field.Null, "expected null or a value")
    else
      in.rollbackToken()
      Field.Value(content.decodeValue(in, content.nullValue))

  def encodeValue(x: F, out: JsonWriter): Unit = x match
    case Field.Value(value) => content.encodeValue(value, out)
    case _                  => out.writeNull()
