/** A number with more digits than int and float hold; its text is what bcadd() and its like take. */
final readonly class Number implements JsonSerializable, Stringable
{
    public function __construct(public string $text)
    {
    }

    public function __toString(): string
    {
        return $this->text;
    }

    public function jsonSerialize(): never
    {
        throw new JsonException("json_encode() cannot write all digits of {$this->text}; toJson() does");
    }
}
