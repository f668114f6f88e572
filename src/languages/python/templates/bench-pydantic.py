import json
import sys

from classes import __module__ as classes
from pydantic import BaseModel, TypeAdapter

SEPARATOR = "\x1e"
PAYLOAD = TypeAdapter(classes.__Root__)
LIST = TypeAdapter(list[classes.__Root__])
DICT = TypeAdapter(dict[str, classes.__Root__])


def decoded(line):
    #: if record
    return classes.__Root__.model_validate_json(line)
    #: else
    return PAYLOAD.validate_json(line)
    #: end


def encoded(value):
    #: if record
    return value.model_dump_json()
    #: else
    return PAYLOAD.dump_json(value).decode()
    #: end


def plain(line):
    return encoded(decoded(line))


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


def built(line):
    #: if record
    value = decoded(line)
    again = classes.__Root__(
        #: each fields
        __Field__=value.__Field__,
        #: end
        **(value.model_extra or {}),
    )
    if again != value:
        raise ValueError("what was built is not equal to what was decoded")
    return encoded(again)
    #: else
    return plain(line)
    #: end


WAYS = [plain, in_field, elements, in_dict, built]
#: if record

NAMES = [
    #: each fields
    "__Field__",
    #: end
]


def changed(field, line, other):
    value = decoded(line)
    name = NAMES[int(field)]
    setattr(value, name, getattr(decoded(other), name))
    return encoded(value)


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
