import json
import sys
#: if pydantic

from classes import __module__ as classes
from pydantic import BaseModel, TypeAdapter
#: end
#: if msgspec

import msgspec

from classes import __module__ as classes
#: end
#: if dataclass
from collections.abc import Mapping
from dataclasses import dataclass, replace

from classes import __module__ as classes
#: end

SEPARATOR = "\x1e"
#: if pydantic
PAYLOAD = TypeAdapter(classes.__Root__)
LIST = TypeAdapter(list[classes.__Root__])
DICT = TypeAdapter(dict[str, classes.__Root__])
#: end
#: if msgspec
LIST = tuple[classes.__Root__, ...]
DICT = dict[str, classes.__Root__]
WRITER = msgspec.json.Encoder(decimal_format="number")
#: end
#: if dataclass
LIST = tuple[classes.__Root__, ...]
DICT = Mapping[str, classes.__Root__]
#: end


def decoded(line):
    #: if msgspec
    return msgspec.json.decode(line, type=classes.__Root__)
    #: else
    #: if record
    #: if pydantic
    return classes.__Root__.model_validate_json(line)
    #: else
    return classes.__Root__.from_json(line)
    #: end
    #: else
    #: if pydantic
    return PAYLOAD.validate_json(line)
    #: else
    return classes.__from_json__(line)
    #: end
    #: end
    #: end


def encoded(value):
    #: if msgspec
    return WRITER.encode(value).decode()
    #: else
    #: if record
    #: if pydantic
    return value.model_dump_json()
    #: else
    return value.to_json()
    #: end
    #: else
    #: if pydantic
    return PAYLOAD.dump_json(value).decode()
    #: else
    return classes.__to_json__(value)
    #: end
    #: end
    #: end


def as_itself(line):
    return encoded(decoded(line))


#: if pydantic
class Host(BaseModel):
    before: int
    payload: classes.__Root__
    after: int


def in_field(line):
    host = Host.model_validate_json(b'{"before":1,"payload":' + line + b',"after":2}')
    if (host.before, host.after) != (1, 2):
        raise ValueError("the fields beside the payload are lost")
    text = host.model_dump_json()
    return text[len('{"before":1,"payload":') : -len(',"after":2}')]


def elements(line):
    items = LIST.validate_json(b"[" + line + b"]")
    by_name = DICT.validate_json(b'{"only":' + line + b"}")
    if items[0] != by_name["only"]:
        raise ValueError("an element of a list and one of a dict differ")
    return LIST.dump_json(items).decode()[1:-1]


def in_dict(line):
    return encoded(PAYLOAD.validate_python(json.loads(line)))


def more(value):
    return value.model_extra or {}


WAYS = [as_itself, in_field, elements, in_dict]
#: end
#: if msgspec
class Host(msgspec.Struct):
    before: int
    payload: classes.__Root__
    after: int


def plainly(line):
    return msgspec.json.encode(decoded(line)).decode()


def in_field(line):
    text = b'{"before":1,"payload":' + line + b',"after":2}'
    host = msgspec.json.decode(text, type=Host)
    if (host.before, host.after) != (1, 2):
        raise ValueError("the fields beside the payload are lost")
    return encoded(host)[len('{"before":1,"payload":') : -len(',"after":2}')]


def elements(line):
    items = msgspec.json.decode(b"[" + line + b"]", type=LIST)
    by_name = msgspec.json.decode(b'{"only":' + line + b"}", type=DICT)
    if items[0] != by_name["only"]:
        raise ValueError("an element of a list and one of a dict differ")
    return encoded(items)[1:-1]


def converted(line):
    return encoded(msgspec.convert(json.loads(line), classes.__Root__))


def more(value):
    return {}


WAYS = [as_itself, plainly, in_field, elements, converted]
#: end
#: if dataclass
#: if record
@dataclass(frozen=True, kw_only=True, slots=True)
class Host(classes.Payload):
    before: int
    payload: classes.__Root__
    after: int


def in_field(line):
    host = Host.from_json(b'{"before":1,"payload":' + line + b',"after":2}')
    if (host.before, host.after) != (1, 2):
        raise ValueError("the fields beside the payload are lost")
    text = host.to_json()
    return text[len('{"before": 1, "payload": ') : -len(', "after": 2}')]


#: end
def elements(line):
    items = classes.read(LIST, b"[" + line + b"]")
    by_name = classes.read(DICT, b'{"only":' + line + b"}")
    if items[0] != by_name["only"]:
        raise ValueError("an element of a list and one of a dict differ")
    return classes.write(items)[1:-1]


def dumped(line):
    text = json.dumps({"payload": decoded(line)}, default=classes.plain)
    return text[len('{"payload": ') : -1]


def more(value):
    return {"extra": value.extra} if hasattr(value, "extra") else {}


#: if record
WAYS = [as_itself, in_field, elements, dumped]
#: else
WAYS = [as_itself, as_itself, elements, dumped]
#: end
#: end
#: if record


def built(line):
    value = decoded(line)
    again = classes.__Root__(
        #: each fields
        __Field__=value.__Field__,
        #: end
        **more(value),
    )
    if again != value:
        raise ValueError("what was built is not equal to what was decoded")
    return encoded(again)


WAYS += [built]

NAMES = [
    #: each fields
    "__Field__",
    #: end
]


def changed(field, line, other):
    value = decoded(line)
    name = NAMES[int(field)]
    part = getattr(decoded(other), name)
    #: if pydantic
    setattr(value, name, part)
    return encoded(value)
    #: end
    #: if msgspec
    return encoded(msgspec.structs.replace(value, **{name: part}))
    #: end
    #: if dataclass
    return encoded(replace(value, **{name: part}))
    #: end


#: end
def said(way, *arguments):
    try:
        return way(*arguments)
    except Exception as error:
        message = str(error) if isinstance(error, ValueError) else repr(error)
        return "!" + " ".join(message.split())


def answer(line):
    #: if record
    parts = line.split(SEPARATOR.encode())
    if len(parts) == 4:
        return said(changed, *parts[1:])
    #: end
    answers = [said(way, line) for way in WAYS]
    rest = ["=" if each == answers[0] else each for each in answers[1:]]
    return SEPARATOR.join([answers[0], *rest])


for line in sys.stdin.buffer:
    sys.stdout.buffer.write(answer(line.rstrip(b"\n")).encode("utf-8", "backslashreplace") + b"\n")
    sys.stdout.buffer.flush()
