<?php

// An application over the payloads of the ferries, with json_encode() from anywhere.

declare(strict_types=1);

use Saltmere\Sailings\Absent;
use Saltmere\Sailings\Audience;
use Saltmere\Sailings\ClosureNotice;
use Saltmere\Sailings\Comment;
use Saltmere\Sailings\DelayNotice;
use Saltmere\Sailings\Notice;
use Saltmere\Sailings\SailingPage;
use Saltmere\Sailings\SailingPageItem;
use Saltmere\Sailings\WeatherNotice;

// In an application composer's autoloader does this.
spl_autoload_register(
    static fn (string $class) => require __DIR__ . '/' . substr($class, strlen('Saltmere\\Sailings\\')) . '.php',
);

function late(SailingPageItem $sailing): string
{
    return match (true) {
        !$sailing->hasDelayMinutes => 'on time',
        $sailing->delayMinutes === null => 'some time',
        default => "{$sailing->delayMinutes} minutes late",
    };
}

function about(Notice $notice): string
{
    return match (true) {
        $notice instanceof ClosureNotice => "{$notice->berth} is closed"
            . ($notice->until === null ? '' : " until {$notice->until->format(DATE_ATOM)}"),
        $notice instanceof DelayNotice => "{$notice->sailing} is {$notice->minutes} late",
        $notice instanceof WeatherNotice => "wind {$notice->wind->from} of {$notice->wind->force}",
    };
}

function refused(string $what, string $json): void
{
    try {
        SailingPage::fromJson($json);
        echo "{$what}: decoded\n";
    } catch (JsonException $error) {
        echo "{$what}: ", $error->getMessage() === '' ? 'silent' : 'refused', "\n";
    }
}

[, $demo] = $argv;

$page = SailingPage::fromJson((string) file_get_contents("{$demo}/sailings/page-1.json"));
echo "page {$page->page} of {$page->pages}\n";
foreach ($page->results as $sailing) {
    $gates = array_filter(array_map(static fn ($leg): ?string => $leg->gate, $sailing->legs));
    echo "{$sailing->code} ", late($sailing), ', gates ', implode(' ', $gates), "\n";
}
$again = SailingPage::fromJson(json_encode($page, JSON_THROW_ON_ERROR));
$first = $page->results[0]->with(delayMinutes: 3, remarks: null);
$changed = json_decode(json_encode($first, JSON_THROW_ON_ERROR), true);
echo $changed['delay_minutes'], ' ', json_encode($changed['remarks']), "\n";
$first = $first->with(delayMinutes: Absent::Value);
echo json_encode(array_key_exists('delay_minutes', (array) $first->jsonSerialize())), "\n";
echo json_encode($again == $page), "\n";
$vessels = array_unique(array_map(static fn (SailingPageItem $each): string => $each->vessel->id, $page->results));
echo count($vessels), " vessels\n";

for ($number = 1; $number <= 4; $number++) {
    $notice = Notice::fromJson((string) file_get_contents("{$demo}/notices/notice-{$number}.json"));
    echo "{$notice->title}: ", about($notice), ', ', count($notice->comments), " comments\n";
}

$issued = new DateTimeImmutable('2031-05-01T07:30:00+01:00');
$seen = new Comment(by: 'clerk a', at: $issued->modify('+30 minutes'), text: 'Seen.', replies: []);
$notice = new ClosureNotice(
    id: 1,
    issued: $issued,
    title: 'Berth N2',
    berth: 'N2',
    until: null,
    comments: [$seen],
    audience: Audience::CREW,
);
$json = json_encode($notice, JSON_THROW_ON_ERROR);
$value = json_decode($json, true);
echo implode(' ', array_map(json_encode(...), [$value['kind'], $value['until'], $value['audience']])), "\n";
$again = Notice::fromJson($json);
echo json_encode($again == $notice), ' ', count(array_unique([$notice->title, $again->title])), "\n";

refused('seq', '{"page":1,"pages":1,"next":null,"results":[{"id":1}]}');
refused('pages', '{"page":1,"pages":"one","next":null,"results":[]}');
refused('next', '{"page":1,"pages":1,"results":[]}');
refused('page', '{"page":1,"pages":1,"next":null,');
