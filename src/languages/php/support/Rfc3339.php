/** @internal */
final class Rfc3339
{
    public static function parse(string $text): ?DateTimeImmutable
    {
        $upper = strtoupper($text);
        $time = DateTimeImmutable::createFromFormat(DATE_RFC3339, $upper)
            ?: DateTimeImmutable::createFromFormat('Y-m-d\TH:i:s.uP', $upper);

        // A 30th of February is only a warning.
        return $time && !DateTimeImmutable::getLastErrors() ? $time : null;
    }

    public static function format(DateTimeInterface $time): string
    {
        $micros = (int) $time->format('u');
        $fraction = $micros === 0 ? '' : ($micros % 1000 === 0 ? '.v' : '.u');

        return $time->format("Y-m-d\\TH:i:s{$fraction}p");
    }
}
