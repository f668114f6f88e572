"""An application over the payloads of the ferries, with pydantic's own calls."""

import json
import sys
from datetime import datetime, timedelta
from pathlib import Path

from pydantic import MISSING, TypeAdapter, ValidationError

from sailings import ClosureNotice, Comment, DelayNotice, Notice, SailingPage

NOTICE: TypeAdapter[Notice] = TypeAdapter(Notice)


def sailings(demo: Path) -> None:
    text = (demo / "sailings/page-1.json").read_text()
    page = SailingPage.model_validate_json(text)
    print(f"page {page.page} of {page.pages}")
    for sailing in page.results:
        if sailing.delay_minutes is MISSING:
            delay = "on time"
        elif sailing.delay_minutes is None:
            delay = "some time"
        else:
            delay = f"{sailing.delay_minutes} minutes late"
        gates = [
            leg.gate
            for leg in sailing.legs
            if leg.gate is not MISSING and leg.gate is not None
        ]
        print(f"{sailing.code} {delay}, gates {' '.join(gates)}")
    again = SailingPage.model_validate_json(page.model_dump_json())
    first = page.results[0].model_copy()
    first.delay_minutes = 3
    first.remarks = None
    changed = json.loads(first.model_dump_json())
    print(changed["delay_minutes"], json.dumps(changed["remarks"]))
    first.delay_minutes = MISSING
    print(json.dumps("delay_minutes" in json.loads(first.model_dump_json())))
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
        notice = NOTICE.validate_json(text)
        print(f"{notice.title}: {about(notice)}, {len(notice.comments)} comments")


def built() -> None:
    issued = datetime.fromisoformat("2031-05-01T07:30:00+01:00")
    seen = Comment(
        by="clerk a", at=issued + timedelta(minutes=30), text="Seen.", replies=[]
    )
    notice = ClosureNotice(
        id=1,
        issued=issued,
        title="Berth N2",
        berth="N2",
        until=None,
        comments=[seen],
        audience="crew",
    )
    value = json.loads(notice.model_dump_json())
    print(*(json.dumps(value[key]) for key in ("kind", "until", "audience")))
    again = NOTICE.validate_json(notice.model_dump_json())
    print(json.dumps(again == notice), len({notice.title, again.title}))


def refused(what: str, text: str) -> None:
    try:
        SailingPage.model_validate_json(text)
        print(f"{what}: decoded")
    except ValidationError as error:
        print(f"{what}: {'refused' if error.errors() else 'silent'}")


DEMO = Path(sys.argv[1])
sailings(DEMO)
notices(DEMO)
built()
refused("seq", '{"page":1,"pages":1,"next":null,"results":[{"id":1}]}')
refused("pages", '{"page":1,"pages":"one","next":null,"results":[]}')
refused("next", '{"page":1,"pages":1,"results":[]}')
refused("page", '{"page":1,"pages":1,"next":null,')
