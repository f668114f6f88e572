<?php

declare(strict_types=1);

spl_autoload_register(static function (string $name): void {
    require './classes/' . substr($name, strrpos($name, '\\') + 1) . '.php';
});

const SEPARATOR = "\x1e";

$ways = [
    static fn (string $line): string => __facade__::encode(__facade__::decode($line)),
    //: if named
    static fn (string $line): string => json_encode(__facade__::decode($line), JSON_THROW_ON_ERROR),
    static function (string $line): string {
        $host = ['before' => 1, 'payload' => __facade__::decode($line)];
        return substr(json_encode($host, JSON_THROW_ON_ERROR), strlen('{"before":1,"payload":'), -1);
    },
    //: end
    //: if record
    static function (string $line): string {
        $value = __facade__::decode($line);
        $again = new __Root__(
            //: each fields
            __Field__: $value->__Field__,
            //: end
        );
        if ($again != $value) {
            throw new RuntimeException('what was built is not equal to what was decoded');
        }
        return __facade__::encode($again);
    },
    //: end
];

//: if record
const FIELDS = [
    //: each fields
    '__Field__',
    //: end
];

function changed(string $field, string $line, string $from): string
{
    $name = FIELDS[(int) $field];
    $values = get_object_vars(__facade__::decode($line));
    $values[$name] = __facade__::decode($from)->$name;
    return __facade__::encode(new __Root__(...$values));
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
