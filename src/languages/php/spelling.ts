/** Neither classes nor constants of a class may be called so, in whatever capitals. */
export const reservedTypes = new Set(
  'abstract and array as break callable case catch class clone const continue declare default do echo else elseif empty enddeclare endfor endforeach endif endswitch endwhile eval exit extends final finally fn for foreach function global goto if implements include instanceof insteadof interface isset list match namespace new or print private protected public readonly require return static switch throw trait try unset use var while xor yield self parent int float bool string true false null void iterable object mixed never resource numeric enum die halt_compiler Absent BackedEnum Closure DateTimeImmutable DateTimeInterface ExactJson InvalidPayload JsonException JsonReader JsonSerializable Number Rfc3339 stdClass Stringable'.split(
    ' ',
  ),
);

/** What a class has beside its fields. */
export const reservedFields = new Set(['this']);

/** What no part of a namespace may be, in lower case. */
export const reservedPackages = new Set([...reservedTypes].map((each) => each.toLowerCase()));
