import dataclasses
import json
import sys

from classes import __module__ as classes

SEPARATOR = "\x1e"


def generated(line):
    return classes.__encode__(classes.__decode__(line))


WAYS = [generated]
#: if record


def built(line):
    value = classes.__decode__(line)
    again = classes.__Root__(
        #: each fields
        __Field__=value.__Field__,
        #: end
    )
    if again != value:
        raise ValueError("what was built is not equal to what was decoded")
    return classes.__encode__(again)


def in_field(line):
    value = classes.__Root__.decode(json.loads(line))
    return json.dumps({"payload": value.encode()})[len('{"payload": ') : -1]


WAYS += [in_field, built]
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
    part = getattr(classes.__decode__(other), name)
    return classes.__encode__(dataclasses.replace(value, **{name: part}))


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
