/**
 * Decodes and encodes numbers that neither int nor float holds, as Number.
 *
 * @internal
 */
final class ExactJson
{
    /** @throws JsonException where $json is not JSON */
    public static function decode(string $json): mixed
    {
        $value = json_decode($json, flags: JSON_THROW_ON_ERROR);
        if (preg_match('/[\d.]{16}|\d[eE]/', $json) === 0) {
            return $value;
        }
        $key = bin2hex(random_bytes(16));

        return self::unmark(json_decode(self::mark($json, $key), depth: 513, flags: JSON_THROW_ON_ERROR), $key);
    }

    /** @throws JsonException where $value has text that is not UTF-8 */
    public static function encode(mixed $value): string
    {
        if ($value instanceof Number) {
            return $value->text;
        }
        if ($value instanceof JsonSerializable) {
            return self::encode($value->jsonSerialize());
        }
        if (is_array($value) && array_is_list($value)) {
            return '[' . implode(',', array_map(self::encode(...), $value)) . ']';
        }
        if (is_array($value) || $value instanceof stdClass) {
            $members = [];
            foreach ((array) $value as $key => $member) {
                $members[] = self::encode((string) $key) . ':' . self::encode($member);
            }

            return '{' . implode(',', $members) . '}';
        }

        return json_encode($value, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION | JSON_UNESCAPED_UNICODE);
    }

    /** Makes {"key":"number"} of each number that does not fit. */
    private static function mark(string $json, string $key): string
    {
        $marked = '';
        for ($at = 0; $at < strlen($json); $at = $end) {
            $end = $at + strcspn($json, '"', $at);
            $marked .= (string) preg_replace_callback(
                '/-?\d[-+.\deE]*+/',
                static fn (array $match): string => self::fits($match[0]) ? $match[0] : "{\"{$key}\":\"{$match[0]}\"}",
                substr($json, $at, $end - $at),
            );
            // The string that begins here, as it is.
            $start = $end++;
            while (($json[$end += strcspn($json, '"\\', $end)] ?? '') === '\\') {
                $end += 2;
            }
            $marked .= substr($json, $start, ++$end - $start);
        }

        return $marked;
    }

    private static function unmark(mixed $value, string $key): mixed
    {
        if ($value instanceof stdClass && property_exists($value, $key)) {
            return new Number((string) $value->{$key});
        }
        if (is_array($value)) {
            return array_map(static fn (mixed $item): mixed => self::unmark($item, $key), $value);
        }

        return $value instanceof stdClass ? (object) self::unmark((array) $value, $key) : $value;
    }

    /** Whether an int or a float is the number, as far as it is one. */
    private static function fits(string $number): bool
    {
        $value = json_decode($number);

        return $value === null || is_int($value) || self::digits($number) === self::digits((string) json_encode($value));
    }

    private static function digits(string $number): string
    {
        return trim(str_replace(['-', '.'], '', explode('e', strtolower($number))[0]), '0');
    }
}
