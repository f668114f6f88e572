<?php

declare(strict_types=1);

spl_autoload_register(static function (string $name): void {
    require './classes/' . substr($name, strrpos($name, '\\') + 1) . '.php';
});

const SEPARATOR = "\x1e";

function decoded(string $line): mixed
{
    return __Root__::fromJson($line);
}

function encoded(mixed $value): string
{
    //: if isOwn
    //: if digits
    return $value->toJson();
    //: else
    return json_encode($value, JSON_THROW_ON_ERROR);
    //: end
    //: else
    return __Root__::toJson($value);
    //: end
}

$ways = [
    static fn (string $line): string => encoded(decoded($line)),
    //: if isOwn
    static fn (string $line): string => json_encode(decoded($line), JSON_THROW_ON_ERROR),
    static function (string $line): string {
        $host = ['before' => 1, 'payload' => decoded($line)];
        return substr(json_encode($host, JSON_THROW_ON_ERROR), strlen('{"before":1,"payload":'), -1);
    },
    //: else
    static fn (string $line): string => encoded(decoded($line)),
    static fn (string $line): string => encoded(decoded($line)),
    //: end
    //: if record
    static function (string $line): string {
        $value = decoded($line);
        $again = new __Root__(
            //: each fields
            //: if threefold
            __Field__: $value->__has__ ? $value->__Field__ : __absent__::Value,
            //: else
            __Field__: $value->__Field__,
            //: end
            //: end
            //: if extra
            extra: $value->extra,
            //: end
        );
        if ($again != $value) {
            throw new RuntimeException('what was built is not equal to what was decoded');
        }
        return encoded($again);
    },
    //: end
];

//: if record
const FIELDS = [
    //: each fields
    ['__Field__', '__has__'],
    //: end
];

function changed(string $field, string $line, string $from): string
{
    [$name, $has] = FIELDS[(int) $field];
    $other = decoded($from);
    $value = $has === '' || $other->$has ? $other->$name : __absent__::Value;
    return encoded(decoded($line)->with(...[$name => $value]));
}

//: end
function said(callable $make): string
{
    try {
        return $make();
    } catch (\Throwable $error) {
        return '!' . preg_replace('/[\s\x1e]+/', ' ', $error->getMessage());
    }
}

while (($line = fgets(STDIN)) !== false) {
    $line = rtrim($line, "\n");
    //: if record
    $parts = explode(SEPARATOR, $line);
    if (count($parts) === 4) {
        fwrite(STDOUT, said(static fn (): string => changed($parts[1], $parts[2], $parts[3])) . "\n");
        continue;
    }
    //: end
    $answers = [];
    foreach ($ways as $way) {
        $own = said(static fn (): string => $way($line));
        $answers[] = $answers !== [] && $own === $answers[0] ? '=' : $own;
    }
    fwrite(STDOUT, implode(SEPARATOR, $answers) . "\n");
}
