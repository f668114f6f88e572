import type { Helper } from '../kit/helpers.js';

/** Classes that generated PHP may need beside its own, each in a file of its own. */
export const helpers: Readonly<Record<string, Helper>> = {
  Absent: {
    text: `/** Stands for a key that is not there, where null stands for null. */
enum Absent
{
    case Absent;
}`,
  },
  DecodeError: {
    text: `/** A payload does not have the declared shape. */
final class DecodeError extends \\UnexpectedValueException
{
    public function __construct(
        public readonly string $expected,
        public readonly string $found,
        public readonly string $path = '',
    ) {
        $place = $path === '' ? 'the top' : $path;
        parent::__construct("at {$place}: expected {$expected}, found {$found}");
    }

    /** The same error, seen from the object or list around it. */
    public function within(string $step): self
    {
        $token = strtr($step, ['~' => '~0', '/' => '~1']);

        return new self($this->expected, $this->found, "/{$token}{$this->path}");
    }
}`,
  },
  Others: {
    needs: ['Read'],
    text: `/**
 * Fields that the schema does not know.
 *
 * @internal
 */
final class Others
{
    /** @return array<array-key, mixed> */
    public static function of(\\stdClass $fields, string ...$known): array
    {
        return array_diff_key(get_object_vars($fields), array_flip($known));
    }

    public static function refuse(\\stdClass $fields, string ...$known): void
    {
        foreach (self::of($fields, ...$known) as $key => $value) {
            throw Read::mismatch('no such field', $value)->within((string) $key);
        }
    }
}`,
  },
  Read: {
    needs: ['DecodeError'],
    text: `/**
 * Reads values of decoded JSON, and refuses what is not as declared.
 *
 * @internal
 */
final class Read
{
    public static function object(mixed $value): \\stdClass
    {
        return $value instanceof \\stdClass ? $value : throw self::mismatch('an object', $value);
    }

    public static function required(\\stdClass $fields, string $key, callable $read): mixed
    {
        try {
            return property_exists($fields, $key) ? $read($fields->{$key}) : throw new DecodeError('a value', 'nothing');
        } catch (DecodeError $error) {
            throw $error->within($key);
        }
    }

    public static function optional(\\stdClass $fields, string $key, callable $read, mixed $absent = null): mixed
    {
        return property_exists($fields, $key) ? self::required($fields, $key, $read) : $absent;
    }

    public static function nullable(callable $read): \\Closure
    {
        return static fn (mixed $value): mixed => $value === null ? null : $read($value);
    }

    public static function listOf(callable $read): \\Closure
    {
        return static function (mixed $value) use ($read): array {
            if (!is_array($value)) {
                throw self::mismatch('a list', $value);
            }

            return array_map(self::each($read), $value, array_keys($value));
        };
    }

    public static function mapOf(callable $read): \\Closure
    {
        return static function (mixed $value) use ($read): \\ArrayObject {
            $map = new \\ArrayObject();
            foreach (get_object_vars(self::object($value)) as $key => $member) {
                $map[$key] = self::each($read)($member, $key);
            }

            return $map;
        };
    }

    public static function tupleOf(callable ...$reads): \\Closure
    {
        return static function (mixed $value) use ($reads): array {
            if (!is_array($value) || count($value) !== count($reads)) {
                throw self::mismatch('a list of ' . count($reads), $value);
            }

            return array_map(static fn (callable $read, mixed $item, int $i): mixed => self::each($read)($item, $i), $reads, $value, array_keys($value));
        };
    }

    public static function anything(mixed $value): mixed
    {
        return $value;
    }

    public static function null(mixed $value): mixed
    {
        return $value === null ? null : throw self::mismatch('null', $value);
    }

    public static function bool(mixed $value): bool
    {
        return is_bool($value) ? $value : throw self::mismatch('true or false', $value);
    }

    public static function string(mixed $value): string
    {
        return is_string($value) ? $value : throw self::mismatch('a string', $value);
    }

    public static function literal(string $expected): \\Closure
    {
        return static fn (mixed $value): string => $value === $expected ? $expected : throw self::mismatch("\\"{$expected}\\"", $value);
    }

    public static function int(mixed $value): int
    {
        return is_int($value) ? $value : throw self::mismatch('an integer', $value);
    }

    public static function float(mixed $value): float
    {
        return is_int($value) || is_float($value) ? (float) $value : throw self::mismatch('a number', $value);
    }

    public static function mismatch(string $expected, mixed $found): DecodeError
    {
        $described = match (true) {
            is_string($found), is_int($found), is_float($found), is_bool($found), $found === null => preg_replace('/^(.{39}).{2,}$/us', '$1…', (string) json_encode($found, JSON_PARTIAL_OUTPUT_ON_ERROR | JSON_UNESCAPED_UNICODE)),
            is_array($found) => 'a list',
            default => 'an object',
        };

        return new DecodeError($expected, $described);
    }

    private static function each(callable $read): \\Closure
    {
        return static function (mixed $item, int|string $step) use ($read): mixed {
            try {
                return $read($item);
            } catch (DecodeError $error) {
                throw $error->within((string) $step);
            }
        };
    }
}`,
  },
  Number: {
    text: `/** A number with all its digits, for those that neither int nor float holds. */
final class Number
{
    /** @param string $text the number as JSON writes it */
    public function __construct(public readonly string $text)
    {
    }

    /** @internal */
    public static function float(mixed $value): float
    {
        return $value instanceof self ? (float) $value->text : Read::float($value);
    }

    /** @internal */
    public static function read(mixed $value): self
    {
        return match (true) {
            $value instanceof self => $value,
            is_int($value), is_float($value) => new self(json_encode($value, JSON_PRESERVE_ZERO_FRACTION)),
            default => throw Read::mismatch('a number', $value),
        };
    }
}`,
    needs: ['Read'],
  },
  ExactJson: {
    needs: ['Number'],
    text: `/**
 * Reads and writes JSON without losing a digit: integers that fit are int, all other numbers are Number.
 *
 * @internal
 */
final class ExactJson
{
    private int $at = 0;

    private function __construct(private readonly string $text)
    {
    }

    /** @throws \\JsonException when the text is not JSON */
    public static function decode(string $text): mixed
    {
        // Whether it is JSON is for the standard decoder to say; the rest can then be simple.
        json_decode($text, false, 1024, JSON_THROW_ON_ERROR);

        return (new self($text))->value();
    }

    /** @throws \\JsonException for text that is not UTF-8 */
    public static function encode(mixed $value): string
    {
        if ($value instanceof Number) {
            return $value->text;
        }
        if ($value instanceof \\JsonSerializable) {
            return self::encode($value->jsonSerialize());
        }
        if (is_array($value)) {
            return '[' . implode(',', array_map(self::encode(...), $value)) . ']';
        }
        if ($value instanceof \\stdClass || $value instanceof \\ArrayObject) {
            $members = [];
            foreach ($value instanceof \\ArrayObject ? $value : get_object_vars($value) as $key => $member) {
                $members[] = self::encode((string) $key) . ':' . self::encode($member);
            }

            return '{' . implode(',', $members) . '}';
        }

        return json_encode($value, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }

    private function value(): mixed
    {
        switch ($this->peek()) {
            case '{':
                $object = new \\stdClass();
                foreach ($this->parts('}') as $ignored) {
                    $key = $this->scalar();
                    $this->take(':');
                    $object->{$key} = $this->value();
                }

                return $object;
            case '[':
                $list = [];
                foreach ($this->parts(']') as $ignored) {
                    $list[] = $this->value();
                }

                return $list;
            default:
                return $this->scalar();
        }
    }

    /** Runs once for each element or member, on which the caller then moves past it. */
    private function parts(string $close): \\Generator
    {
        $this->at++;
        while ($this->peek() !== $close) {
            yield;
            if ($this->peek() === ',') {
                $this->at++;
            }
        }
        $this->at++;
    }

    private function scalar(): mixed
    {
        $this->peek();
        preg_match('/\\G(?:"(?:[^"\\\\\\\\]|\\\\\\\\.)*+"|[^\\s,:\\]}]+)/s', $this->text, $match, 0, $this->at);
        $this->at += strlen($match[0]);
        if (preg_match('/^[-\\d]/', $match[0]) !== 1) {
            return json_decode($match[0], false, 2, JSON_THROW_ON_ERROR);
        }
        $int = filter_var($match[0], FILTER_VALIDATE_INT);

        return is_int($int) && (string) $int === $match[0] ? $int : new Number($match[0]);
    }

    private function peek(): string
    {
        $this->at += strspn($this->text, " \\t\\r\\n", $this->at);

        return $this->text[$this->at] ?? '';
    }

    private function take(string $sign): void
    {
        if ($this->peek() === $sign) {
            $this->at++;
        }
    }
}`,
  },
};
