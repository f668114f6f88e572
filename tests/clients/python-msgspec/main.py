"""An application over the payloads of the ferries, with msgspec's own calls."""

import json
import sys
from datetime import datetime, timedelta
from pathlib import Path

from msgspec import UNSET, DecodeError
from msgspec import json as msgjson
from msgspec.structs import replace
from sailings import ClosureNotice, Comment, DelayNotice, Notice, SailingPage

READ_PAGE = msgjson.Decoder(SailingPage).decode
READ_NOTICE = msgjson.Decoder[Notice](Notice).decode


def sailings(demo: Path) -> None:
    text = (demo / "sailings/page-1.json").read_text()
    page = READ_PAGE(text)
    print(f"page {page.page} of {page.pages}")
    for sailing in page.results:
        if sailing.delay_minutes is UNSET:
            delay = "on time"
        elif sailing.delay_minutes is None:
            delay = "some time"
        else:
            delay = f"{sailing.delay_minutes} minutes late"
        gates = [
            leg.gate
            for leg in sailing.legs
            if leg.gate is not UNSET and leg.gate is not None
        ]
        print(f"{sailing.code} {delay}, gates {' '.join(gates)}")
    again = READ_PAGE(msgjson.encode(page))
    first = replace(page.results[0], delay_minutes=3, remarks=None)
    changed = json.loads(msgjson.encode(first))
    print(changed["delay_minutes"], json.dumps(changed["remarks"]))
    first = replace(first, delay_minutes=UNSET)
    print(json.dumps("delay_minutes" in json.loads(msgjson.encode(first))))
    print(json.dumps(again == page))
    print(f"{len({sailing.vessel.id for sailing in page.results})} vessels")


def about(notice: Notice) -> str:
    if isinstance(notice, ClosureNotice):
        until = "" if notice.until is None else f" until {notice.until.isoformat()}"
        return f"{notice.berth} is closed{until}"
    if isinstance(notice, DelayNotice):
        return f"{notice.sailing} is {notice.minutes} late"
    return f"wind {notice.wind.from_} of {notice.wind.force}"


def notices(demo: Path) -> None:
    for number in range(1, 5):
        text = (demo / f"notices/notice-{number}.json").read_text()
        notice = READ_NOTICE(text)
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
    value = json.loads(msgjson.encode(notice))
    print(*(json.dumps(value[key]) for key in ("kind", "until", "audience")))
    again = READ_NOTICE(msgjson.encode(notice))
    print(json.dumps(again == notice), len({notice.title, again.title}))


def refused(what: str, text: str) -> None:
    try:
        READ_PAGE(text)
        print(f"{what}: decoded")
    except DecodeError as error:
        print(f"{what}: {'refused' if str(error) else 'silent'}")


DEMO = Path(sys.argv[1])
sailings(DEMO)
notices(DEMO)
built()
refused("seq", '{"page":1,"pages":1,"next":null,"results":[{"id":1}]}')
refused("pages", '{"page":1,"pages":"one","next":null,"results":[]}')
refused("next", '{"page":1,"pages":1,"results":[]}')
refused("page", '{"page":1,"pages":1,"next":null,')
