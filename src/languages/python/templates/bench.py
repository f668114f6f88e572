import dataclasses
import json
import sys

from classes import __module__ as classes

#: if pydantic
from pydantic import BaseModel, TypeAdapter

#: end
SEPARATOR = "\x1e"


def generated(line):
    return classes.__encode__(classes.__decode__(line))


WAYS = [generated]
#: if named
#: if pydantic


def validated(line):
    return TypeAdapter(classes.__Root__).validate_json(line)


def dumped(value):
    return TypeAdapter(classes.__Root__).dump_json(value, by_alias=True).decode()


def library(line):
    return dumped(validated(line))


class Host(BaseModel):
    before: int
    payload: classes.__Root__
    after: int


def in_field(line):
    host = Host.model_validate_json(b'{"before":1,"payload":' + line + b',"after":2}')
    if (host.before, host.after) != (1, 2):
        raise ValueError("the fields beside the payload are lost")
    text = host.model_dump_json(by_alias=True)
    return text[len('{"before":1,"payload":') : -len(',"after":2}')]


WAYS += [library, in_field]
#: end
#: end
#: if record


#: if pydantic


def given(value):
    return {name: getattr(value, name) for name in value.model_fields_set}


#: end
def built(line):
    value = classes.__decode__(line)
    #: if pydantic
    again = classes.__Root__(**given(value))
    #: else
    again = classes.__Root__(
        #: each fields
        __Field__=value.__Field__,
        #: end
    )
    #: end
    if again != value:
        raise ValueError("what was built is not equal to what was decoded")
    return classes.__encode__(again)


#: if pydantic
WAYS += [built]
#: else


def in_field(line):
    value = classes.__Root__.decode(json.loads(line))
    return json.dumps({"payload": value.encode()})[len('{"payload": ') : -1]


WAYS += [in_field, built]
#: end
#: end
#: if record

NAMES = [
    #: each fields
    "__Field__",
    #: end
]


def changed(field, line, other):
    value = classes.__decode__(line)
    name = NAMES[int(field)]
    #: if pydantic
    values, others = given(value), given(classes.__decode__(other))
    values.pop(name, None)
    values.update({each: others[each] for each in others if each == name})
    return classes.__encode__(classes.__Root__(**values))
    #: else
    part = getattr(classes.__decode__(other), name)
    return classes.__encode__(dataclasses.replace(value, **{name: part}))
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
