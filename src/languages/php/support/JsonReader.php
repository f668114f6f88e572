/**
 * Reads the fields of an object, or the items of a list, by their keys.
 *
 * @internal
 */
final readonly class JsonReader
{
    /** @param array<mixed> $values */
    private function __construct(
        private array $values,
        private ?self $parent = null,
        private int|string $key = '',
    ) {
    }

    /** @param mixed $json what json_decode() gives, with its objects as objects; it is there under the empty key */
    public static function of(mixed $json): self
    {
        return new self(['' => $json]);
    }

    public function has(int|string $key): bool
    {
        return array_key_exists($key, $this->values);
    }

    public function isNull(int|string $key): bool
    {
        return ($this->values[$key] ?? null) === null && $this->has($key);
    }

    public function kind(int|string $key): string
    {
        $value = $this->values[$key] ?? null;

        return match (true) {
            is_string($value) => 'string',
            //: if digits
            is_int($value), is_float($value), $value instanceof Number => 'number',
            //: else
            is_int($value), is_float($value) => 'number',
            //: end
            is_bool($value) => 'boolean',
            is_array($value) => 'list',
            $value instanceof stdClass => 'object',
            default => $this->has($key) ? 'null' : 'nothing',
        };
    }

    public function value(int|string $key): mixed
    {
        return $this->has($key) ? $this->values[$key] : throw $this->isNot('a value', $key);
    }

    public function null(int|string $key): null
    {
        return $this->isNull($key) ? null : throw $this->isNot('null', $key);
    }

    public function string(int|string $key): string
    {
        $value = $this->values[$key] ?? null;

        return is_string($value) ? $value : throw $this->isNot('a string', $key);
    }

    public function oneOf(int|string $key, string ...$words): string
    {
        $value = $this->values[$key] ?? null;

        return in_array($value, $words, true) ? $value : throw $this->isNot(implode(' or ', $words), $key);
    }

    public function bool(int|string $key): bool
    {
        $value = $this->values[$key] ?? null;

        return is_bool($value) ? $value : throw $this->isNot('true or false', $key);
    }

    public function int(int|string $key): int
    {
        $value = $this->values[$key] ?? null;
        if (is_int($value)) {
            return $value;
        }
        // 1.0 and 1e2 are integers too; from 2^53 on a float does not say which.
        $isWhole = is_float($value) && floor($value) === $value && abs($value) < 2 ** 53;

        return $isWhole ? (int) $value : throw $this->isNot('an integer', $key);
    }

    public function wideInt(int|string $key): int|Number
    {
        $value = $this->values[$key] ?? null;
        $isWide = $value instanceof Number && preg_match('/^-?\d+$/', $value->text) === 1;

        return $isWide ? $value : $this->int($key);
    }

    public function float(int|string $key): float
    {
        $value = $this->values[$key] ?? null;
        $float = match (true) {
            is_int($value), is_float($value) => (float) $value,
            //: if digits
            $value instanceof Number => (float) $value->text,
            //: end
            default => throw $this->isNot('a number', $key),
        };

        return is_finite($float) ? $float : throw $this->isNot('a number within the range of float', $key);
    }

    public function number(int|string $key): int|float|Number
    {
        $value = $this->values[$key] ?? null;
        $isNumber = is_int($value) || is_float($value) || $value instanceof Number;

        return $isNumber ? $value : throw $this->isNot('a number', $key);
    }

    public function dateTime(int|string $key): DateTimeImmutable
    {
        return Rfc3339::parse($this->string($key)) ?? throw $this->isNot('a date-time', $key);
    }

    /**
     * @template T of BackedEnum
     * @param class-string<T> $words
     * @return T
     */
    public function word(int|string $key, string $words): BackedEnum
    {
        return $words::tryFrom($this->string($key))
            ?? throw $this->isNot(implode(', ', array_column($words::cases(), 'value')), $key);
    }

    public function object(int|string $key): self
    {
        $value = $this->values[$key] ?? null;

        return $value instanceof stdClass
            ? new self((array) $value, $this, $key)
            : throw $this->isNot('an object', $key);
    }

    /**
     * @template T
     * @param callable(self): T $read
     * @return list<T>
     */
    public function objects(int|string $key, callable $read): array
    {
        return $this->list($key, static fn (self $items, int $i): mixed => $read($items->object($i)));
    }

    /**
     * @template T
     * @param callable(self, int): T $read
     * @return list<T>
     */
    public function list(int|string $key, callable $read): array
    {
        $values = $this->values[$key] ?? null;
        if (!is_array($values)) {
            throw $this->isNot('a list', $key);
        }
        $items = new self($values, $this, $key);
        $list = [];
        for ($i = 0; $i < count($values); $i++) {
            $list[] = $read($items, $i);
        }

        return $list;
    }

    /**
     * @template T
     * @param callable(self): T $read
     * @return T
     */
    public function tuple(int|string $key, int $length, callable $read): array
    {
        $values = $this->values[$key] ?? null;
        if (!is_array($values) || count($values) !== $length) {
            throw $this->isNot("a list of {$length}", $key);
        }

        return $read(new self($values, $this, $key));
    }

    /**
     * @template T
     * @param callable(self, int|string): T $read
     * @return array<T>
     */
    public function map(int|string $key, callable $read): array
    {
        return $this->object($key)->others($read);
    }

    /**
     * @template T
     * @param callable(self, int|string): T $read
     * @return array<T> the fields but those named
     */
    public function others(callable $read, string ...$known): array
    {
        $others = [];
        foreach ($this->values as $name => $_) {
            if (!in_array((string) $name, $known, true)) {
                $others[$name] = $read($this, $name);
            }
        }

        return $others;
    }

    public function only(string ...$known): void
    {
        $this->others(fn (self $json, int|string $key): mixed => throw $this->isNot('no such field', $key), ...$known);
    }

    public function isNot(string $expected, int|string $key): InvalidPayload
    {
        $value = $this->values[$key] ?? null;
        $found = match ($this->kind($key)) {
            'string', 'boolean' => substr((string) json_encode($value), 0, 60),
            //: if digits
            'number' => $value instanceof Number ? $value->text : var_export($value, true),
            //: else
            'number' => var_export($value, true),
            //: end
            default => $this->kind($key),
        };

        return new InvalidPayload(ltrim("{$this->place($key)}: expected {$expected}, found {$found}", ': '));
    }

    private function place(int|string $key): string
    {
        return $this->parent === null
            ? ''
            : $this->parent->place($this->key) . '/' . strtr((string) $key, ['~' => '~0', '/' => '~1']);
    }
}
