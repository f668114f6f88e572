class PayloadError(ValueError):
    """A payload that is not as its type says, and where."""

    def __init__(self, message: str) -> None:
        super().__init__(message)
        self.path: list[str | int] = []

    def __str__(self) -> str:
        steps = [str(step).replace("~", "~0").replace("/", "~1") for step in self.path]
        return f"/{'/'.join(steps)}: {self.args[0]}" if steps else f"{self.args[0]}"


#: if absent
class Absent(Enum):
    """Says that a key is not there, where None says that it is null."""

    ABSENT = "absent"

    def __bool__(self) -> Literal[False]:
        return False

    def __repr__(self) -> str:
        return self.name


ABSENT: Final = Absent.ABSENT


#: end
#: if records
class Payload:
    """A dataclass that is read from JSON and written to it."""

    __slots__ = ()

    @classmethod
    def from_json(cls, text: str | bytes) -> Self:
        payload: Self = read(cls, text)
        return payload

    def to_json(self) -> str:
        return write(self)

    @classmethod
    def _from_members(cls, members: dict[str, Any]) -> Self:
        type_: Any = cls
        values: dict[str, Any] = {}
        for name, key, kinds in _fields(type_):
            item = members.get(key, _NOTHING)
            try:
                make = kinds[type(item)]
                values[name] = item if make is None else make(item)
            except (KeyError, ValueError) as error:
                raise _misfit(error, kinds, item, key) from None
        #: if open
        if issubclass(cls, OpenPayload):
            return cls(**values, extra=_extra(cls, members))
        #: end
        #: if reject
        for key in members:
            if key not in _keys(type_):
                raise _misfit(PayloadError("no key of this type"), {}, None, key)
        #: end
        return cls(**values)

    def _members(self) -> dict[str, Any]:
        type_: Any = type(self)
        keys, get, defaults = _getters(type_)
        members = dict(zip(keys, get(self), strict=True))
        for key, default in defaults:
            if members[key] is default:
                del members[key]
        #: if open
        return {**self.extra, **members} if isinstance(self, OpenPayload) else members
        #: else
        return members
        #: end


#: end
#: if open
@dataclass(frozen=True, kw_only=True, slots=True)
class OpenPayload(Payload):
    """One that keeps the keys that its schema does not name."""

    extra: Mapping[str, Any] = field(default_factory=dict[str, Any])


#: end
#-
def read(type_: Any, text: str | bytes) -> Any:
    """A payload of the type, which may be a union or a tuple."""
    try:
        value = _DECODER.decode(text if isinstance(text, str) else text.decode())
        return _value(_kinds(type_), value)
    except RecursionError:
        raise PayloadError("nested too deep") from None


def write(value: object) -> str:
    """The JSON of anything that holds payloads."""
    try:
        text = _ENCODER.encode(value)
    except RecursionError:
        raise PayloadError("nested too deep") from None
    #: if digits
    return re.sub(f'"{_MARK}(.*?)"', r"\1", text) if _MARK in text else text
    #: else
    return text
    #: end


def plain(value: object) -> Any:
    """The default of json.dumps for payloads and what is in them."""
    #: if records
    members = getattr(value, "_members", None)
    if members is not None:
        return members()
    #: end
    #: if times
    if isinstance(value, dt.datetime):
        short = value.microsecond > 0 and value.microsecond % 1000 == 0
        text = value.isoformat(timespec="milliseconds" if short else "auto")
        return text.replace("+00:00", "Z")
    #: end
    #: if days
    if isinstance(value, dt.date):
        return value.isoformat()
    #: end
    #: if uuids
    if isinstance(value, UUID):
        return str(value)
    #: end
    #: if bytes
    if isinstance(value, bytes):
        return base64.b64encode(value).decode()
    #: end
    raise TypeError(f"{value!r} is no JSON")


_Make = Callable[[Any], Any]
_Kinds = Mapping[type, _Make | None]
"""What makes a value of each kind of JSON; None where it is the value already."""


class _Nothing:
    """The kind of a key that is not there."""


_NOTHING = _Nothing()


#: if records
class _Field(NamedTuple):
    name: str
    key: str
    kinds: _Kinds


@cache
def _fields(type_: Any) -> list[_Field]:
    hints = get_type_hints(type_)
    found: list[_Field] = []
    for name, key, default in _declared(type_):
        kinds = dict(_kinds(hints[name]))
        #: if absent
        kinds.pop(Absent, None)
        #: end
        if default is None:
            del kinds[NoneType]
        if default is not MISSING:
            kinds[_Nothing] = partial(_given, default)
        found.append(_Field(name, key, kinds))
    return found


@cache
def _getters(type_: Any) -> tuple[list[str], _Make, list[tuple[str, object]]]:
    """The keys of a record, what gets its values, and what says that a key is not there."""
    declared = _declared(type_)
    names = [name for name, _, _ in declared]
    get = attrgetter(*names) if len(names) > 1 else partial(_attributes, names)
    defaults = [
        (key, default) for _, key, default in declared if default is not MISSING
    ]
    return [key for _, key, _ in declared], get, defaults


def _declared(type_: Any) -> list[tuple[str, str, object]]:
    """The name and key of each field, and its default; MISSING where it must be there."""
    return [
        (
            each.name,
            each.metadata.get("key", each.name),
            MISSING if isinstance(each.default, str) else each.default,
        )
        for each in fields(type_)
        #: if open
        if each.name != "extra" or not issubclass(type_, OpenPayload)
        #: end
    ]


def _given(value: object, _: object) -> object:
    return value


def _attributes(names: list[str], value: object) -> list[object]:
    return [getattr(value, name) for name in names]


#: end
#: if keys
@cache
def _keys(type_: Any) -> frozenset[str]:
    return frozenset(key for _, key, _ in _declared(type_))


#: end
#: if open
def _extra(type_: Any, members: dict[str, Any]) -> dict[str, Any]:
    known = _keys(type_)
    #: if typed
    kinds = _kinds(get_args(get_type_hints(type_)["extra"])[1])
    return {
        key: _value(kinds, members[key], key) for key in members if key not in known
    }
    #: else
    return {key: members[key] for key in members if key not in known}
    #: end


#: end
@cache
def _kinds(hint: Any) -> _Kinds:
    #: if recursive
    if isinstance(hint, str | ForwardRef):
        text = hint if isinstance(hint, str) else hint.__forward_arg__
        return _kinds(eval(text, globals()))
    #: end
    own = getattr(hint, "_from_members", None)
    if own is not None:
        return {dict: own}
    origin, args = get_origin(hint), get_args(hint)
    if origin in (Union, UnionType):
        kinds = {kind: make for arg in args for kind, make in _kinds(arg).items()}
        #: if alike
        arms = [arg for arg in args if hasattr(arg, "_from_members")]
        return kinds if len(arms) < 2 else {**kinds, dict: _one_of(arms)}
        #: else
        return kinds
        #: end
    #: if listed
    if origin is Literal and isinstance(args[0], int):
        listed = partial(_listed, frozenset(args))
        return {int: listed, float: listed}
    #: end
    #: if words
    if origin is Literal:
        return {str: partial(_word, frozenset(args))}
    #: end
    if origin is tuple:
        #: if tuples
        if args[-1] is not Ellipsis:
            return {list: partial(_tuple, args)}
        #: end
        return {list: partial(_items, args[0])}
    if origin is Mapping:
        return {dict: partial(_values, args[1])}
    if hint not in _SCALARS:
        raise TypeError(f"{hint} is no type of a payload")
    return _SCALARS[hint]


def _value(kinds: _Kinds, item: object, *step: str | int) -> Any:
    try:
        make = kinds[type(item)]
        return item if make is None else make(item)
    except (KeyError, ValueError) as error:
        raise _misfit(error, kinds, item, *step) from None


def _misfit(
    error: Exception, kinds: _Kinds, item: object, *step: str | int
) -> PayloadError:
    """The same error, seen from what is around it."""
    path = getattr(error, "path", [])
    if isinstance(error, KeyError):
        #: if listed
        own = kinds.get(float)
        whole = own is _whole or isinstance(own, partial)
        #: else
        whole = kinds.get(float) is _whole
        #: end
        skipped = {_Nothing, float if whole else int if float in kinds else None}
        wanted = dict.fromkeys(_NAMES[kind] for kind in kinds if kind not in skipped)
        error = PayloadError(f"{_NAMES[type(item)]} instead of {' or '.join(wanted)}")
    seen = PayloadError(*error.args)
    seen.path = [*step, *path]
    return seen


def _items(hint: Any, items: list[Any]) -> tuple[Any, ...]:
    kinds = _kinds(hint)
    made: list[Any] = []
    for item in items:
        try:
            make = kinds[type(item)]
            made.append(item if make is None else make(item))
        except (KeyError, ValueError) as error:
            raise _misfit(error, kinds, item, len(made)) from None
    return tuple(made)


#: if tuples
def _tuple(hints: tuple[Any, ...], items: list[Any]) -> tuple[Any, ...]:
    if len(items) != len(hints):
        raise PayloadError(f"{len(items)} elements instead of {len(hints)}")
    each = enumerate(zip(hints, items, strict=True))
    return tuple([_value(_kinds(hint), item, i) for i, (hint, item) in each])


#: end
def _values(hint: Any, members: dict[str, Any]) -> dict[str, Any]:
    kinds = _kinds(hint)
    return {key: _value(kinds, members[key], key) for key in members}


#: if alike
def _one_of(arms: list[Any]) -> _Make:
    """What makes one of several records, told apart by a word or by a key of its own."""
    #: if tagged
    hints = [get_type_hints(arm) for arm in arms]
    for name, key, _ in _declared(arms[0]):
        words = [_words(own.get(name)) for own in hints]
        if all(words) and len({*chain(*words)}) == sum(map(len, words)):
            makes = {
                word: arm._from_members
                for arm, own in zip(arms, words, strict=True)
                for word in own
            }
            known: _Kinds = {str: partial(_word, frozenset(makes))}
            return partial(_told, key, known, makes)
    #: end
    #: if keyed
    own = {
        key: arm._from_members
        for arm in arms
        for _, key, default in _declared(arm)
        if default is MISSING
        and not any(key in _keys(other) for other in arms if other is not arm)
    }
    return partial(_told_by_key, own)
    #: else
    raise TypeError(f"nothing tells {arms} apart")
    #: end


#: end
#: if tagged
def _words(hint: Any) -> tuple[str, ...]:
    return get_args(hint) if get_origin(hint) is Literal else ()


def _told(
    key: str, known: _Kinds, makes: dict[str, _Make], members: dict[str, Any]
) -> Any:
    return makes[_value(known, members.get(key, _NOTHING), key)](members)


#: end
#: if keyed
def _told_by_key(makes: dict[str, _Make], members: dict[str, Any]) -> Any:
    for key, make in makes.items():
        if key in members:
            return make(members)
    raise PayloadError(f"an object without {' or '.join(map(repr, makes))}")


#: end
#: if words
def _word(known: frozenset[str], word: str) -> str:
    if word in known:
        return word
    raise PayloadError(f"{word!r} is none of {', '.join(sorted(known))}")


#: end
#: if listed
def _listed(known: frozenset[int], number: float) -> int:
    if number in known:
        return int(number)
    raise PayloadError(f"{number} is none of {', '.join(map(str, sorted(known)))}")


#: end
def _whole(number: float) -> int:
    if number.is_integer() and abs(number) <= 2**53:
        return int(number)
    raise PayloadError(f"{number} instead of an integer")


#: if digits
def _rounded(number: Decimal) -> float:
    return _finite(float(number))


#: end
def _finite(number: float) -> float:
    if isfinite(number):
        return number
    raise PayloadError("a number beyond every float")


#: if decimals
def _decimal(number: float) -> Decimal:
    return Decimal(repr(number))


#: end
#: if times
def _time(text: str) -> dt.datetime:
    time = dt.datetime.fromisoformat(text.upper())
    if time.tzinfo is None:
        raise PayloadError(f"{text!r} has no offset")
    return time


#: end
#: if days
def _day(text: str) -> dt.date:
    day = dt.date.fromisoformat(text)
    if day.isoformat() != text:
        raise PayloadError(f"{text!r} is no date")
    return day


#: end
#: if uuids
def _uuid(text: str) -> UUID:
    uuid = UUID(text)
    if str(uuid) != text.lower():
        raise PayloadError(f"{text!r} is no UUID")
    return uuid


#: end
#: if bytes
def _bytes(text: str) -> bytes:
    value = base64.b64decode(text, validate=True)
    if base64.b64encode(value).decode() != text:
        raise PayloadError(f"{text!r} is no base64")
    return value


#: end
_SCALARS: Mapping[Any, _Kinds] = {
    #: if digits
    Any: dict.fromkeys([str, bool, int, float, Decimal, list, dict, NoneType]),
    #: else
    Any: dict.fromkeys([str, bool, int, float, list, dict, NoneType]),
    #: end
    NoneType: {NoneType: None},
    bool: {bool: None},
    str: {str: None},
    int: {int: None, float: _whole},
    #: if digits
    float: {float: None, int: None, Decimal: _rounded},
    #: else
    float: {float: _finite, int: None},
    #: end
    #: if decimals
    Decimal: {Decimal: None, float: _decimal, int: Decimal},
    #: end
    #: if times
    dt.datetime: {str: _time},
    #: end
    #: if days
    dt.date: {str: _day},
    #: end
    #: if uuids
    UUID: {str: _uuid},
    #: end
    #: if bytes
    bytes: {str: _bytes},
    #: end
    #: if absent
    Absent: {Absent: None},
    #: end
}

_NAMES: Mapping[type, str] = {
    str: "text",
    bool: "true or false",
    int: "an integer",
    float: "a number",
    #: if digits
    Decimal: "a number",
    #: end
    list: "a list",
    dict: "an object",
    NoneType: "null",
    _Nothing: "nothing",
}


def _refuse(word: str) -> Any:
    raise PayloadError(f"{word} is no JSON")


#: if digits
def _number(text: str) -> float | Decimal:
    """A float where it holds every digit."""
    number = float(text)
    few = len(text) < 17 and "e" not in text.lower()
    return number if few or Decimal(repr(number)) == Decimal(text) else Decimal(text)


_MARK = token_hex()
"""Before the digits of a Decimal on their way through json, which has no form for it."""


def _marked(value: object) -> Any:
    if isinstance(value, Decimal) and value.is_finite():
        return f"{_MARK}{value}"
    return plain(value)


_DECODER = json.JSONDecoder(parse_float=_number, parse_constant=_refuse)
_ENCODER = json.JSONEncoder(default=_marked, allow_nan=False)
#: else
_DECODER = json.JSONDecoder(parse_constant=_refuse)
_ENCODER = json.JSONEncoder(default=plain, allow_nan=False)
#: end
