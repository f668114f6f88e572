"""An application over the payloads of the ferries, with nothing but the standard library."""

import json
import sys
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path
from typing import assert_never

from sailings import (
    ABSENT,
    ClosureNotice,
    Comment,
    DelayNotice,
    Notice,
    SailingPage,
    WeatherNotice,
    notice_from_json,
    notice_to_json,
    plain,
)


def sailings(demo: Path) -> None:
    text = (demo / "sailings/page-1.json").read_text()
    page = SailingPage.from_json(text)
    print(f"page {page.page} of {page.pages}")
    for sailing in page.results:
        if sailing.delay_minutes is ABSENT:
            delay = "on time"
        elif sailing.delay_minutes is None:
            delay = "some time"
        else:
            delay = f"{sailing.delay_minutes} minutes late"
        # What is absent is false, and so is what is null.
        gates = [leg.gate.upper() for leg in sailing.legs if leg.gate]
        print(f"{sailing.code} {delay}, gates {' '.join(gates)}")
    again = SailingPage.from_json(page.to_json())
    first = replace(page.results[0], delay_minutes=3, remarks=None)
    changed = json.loads(first.to_json())
    print(changed["delay_minutes"], json.dumps(changed["remarks"]))
    first = replace(first, delay_minutes=ABSENT)
    print(json.dumps("delay_minutes" in json.loads(first.to_json())))
    print(json.dumps(again == page))
    print(f"{len({sailing.vessel for sailing in page.results})} vessels")


def about(notice: Notice) -> str:
    match notice:
        case ClosureNotice(berth=berth, until=until):
            end = "" if until is None else f" until {until.isoformat()}"
            return f"{berth} is closed{end}"
        case DelayNotice(sailing=sailing, minutes=minutes):
            return f"{sailing} is {minutes} late"
        case WeatherNotice(wind=wind):
            return f"wind {wind.from_} of {wind.force}"
        case _:
            assert_never(notice)


def notices(demo: Path) -> None:
    for number in range(1, 5):
        text = (demo / f"notices/notice-{number}.json").read_bytes()
        notice = notice_from_json(text)
        print(f"{notice.title}: {about(notice)}, {len(notice.comments)} comments")


def built() -> None:
    issued = datetime.fromisoformat("2031-05-01T07:30:00+01:00")
    seen = Comment(
        by="clerk a", at=issued + timedelta(minutes=30), text="Seen.", replies=()
    )
    notice = ClosureNotice(
        id=1,
        issued=issued,
        title="Berth N2",
        berth="N2",
        until=None,
        comments=(seen,),
        audience="crew",
    )
    value = json.loads(json.dumps(notice, default=plain))
    print(*(json.dumps(value[key]) for key in ("kind", "until", "audience")))
    again = notice_from_json(notice_to_json(notice))
    print(json.dumps(again == notice), len({notice, again}))


def refused(what: str, text: str) -> None:
    try:
        SailingPage.from_json(text)
        print(f"{what}: decoded")
    except ValueError as error:
        print(f"{what}: {'refused' if str(error) else 'silent'}")


DEMO = Path(sys.argv[1])
sailings(DEMO)
notices(DEMO)
built()
refused("seq", '{"page":1,"pages":1,"next":null,"results":[{"id":1}]}')
refused("pages", '{"page":1,"pages":"one","next":null,"results":[]}')
refused("next", '{"page":1,"pages":1,"results":[]}')
refused("page", '{"page":1,"pages":1,"next":null,')
