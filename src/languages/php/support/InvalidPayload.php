/** JSON that is not of the shape that was asked for. */
final class InvalidPayload extends JsonException
{
}
