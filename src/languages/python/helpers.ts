/**
 * What generated Python may need beside its classes. Each is written only where something uses it.
 * `needs` names other helpers; `imports` are lines of the form `module` or `module:name`.
 */
export interface Helper {
  readonly imports: readonly string[];
  readonly needs: readonly string[];
  readonly text: string;
}

const error = `class DecodeError(ValueError):
    """A payload does not have the declared shape."""

    def __init__(self, expected: str, found: Any) -> None:
        super().__init__(expected, found)
        self.path = ""
        self.expected = expected
        self.found = found

    def within(self, step: str | int) -> DecodeError:
        """The same error, seen from the object or list around it."""
        token = str(step).replace("~", "~0").replace("/", "~1")
        self.path = f"/{token}{self.path}"
        return self

    def __str__(self) -> str:
        place = self.path or "the top"
        return f"at {place}: expected {self.expected}, found {_describe(self.found)}"
`;

/** Helpers that stand before the classes, in order. */
export const before: Readonly<Record<string, Helper>> = {
  DecodeError: { imports: ['typing:Any'], needs: ['_describe'], text: error },
  Absent: {
    imports: ['enum:Enum'],
    needs: [],
    text: `class Absent(Enum):
    """Stands for a key that is not there, where None stands for null."""

    ABSENT = "absent"
`,
  },
};

/** Helpers that stand after the classes, in order. */
export const after: Readonly<Record<string, Helper>> = {
  _describe: {
    imports: ['typing:Any'],
    needs: ['_MISSING'],
    text: `def _describe(value: Any) -> str:
    if value is None:
        return "null"
    if value is _MISSING:
        return "nothing"
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, dict):
        return "an object"
    if isinstance(value, list):
        return "a list"
    text = repr(value)
    return text if len(text) <= 40 else f"{text[:39]}…"
`,
  },
  _anything: {
    imports: ['typing:Any'],
    needs: [],
    text: `def _anything(value: Any) -> Any:
    return value
`,
  },
  _null: {
    imports: ['typing:Any'],
    needs: ['DecodeError'],
    text: `def _null(value: Any) -> None:
    if value is not None:
        raise DecodeError("null", value)
`,
  },
  _boolean: {
    imports: ['typing:Any'],
    needs: ['DecodeError'],
    text: `def _boolean(value: Any) -> bool:
    if not isinstance(value, bool):
        raise DecodeError("true or false", value)
    return value
`,
  },
  _integer: {
    imports: ['typing:Any'],
    needs: ['DecodeError'],
    text: `def _integer(value: Any) -> int:
    if isinstance(value, float) and value.is_integer():
        return int(value)
    if not isinstance(value, int) or isinstance(value, bool):
        raise DecodeError("an integer", value)
    return value
`,
  },
  _number: {
    imports: ['typing:Any'],
    needs: ['DecodeError'],
    text: `def _number(value: Any) -> float:
    if not isinstance(value, (int, float)) or isinstance(value, bool):
        raise DecodeError("a number", value)
    return value
`,
  },
  _numberOfDecimal: {
    imports: ['typing:Any', 'decimal:Decimal'],
    needs: ['DecodeError'],
    text: `def _number(value: Any) -> float:
    if not isinstance(value, (int, Decimal)) or isinstance(value, bool):
        raise DecodeError("a number", value)
    return float(value) if isinstance(value, Decimal) else value
`,
  },
  _decimal: {
    imports: ['typing:Any', 'decimal:Decimal'],
    needs: ['DecodeError'],
    text: `def _decimal(value: Any) -> Decimal:
    if not isinstance(value, (int, Decimal)) or isinstance(value, bool):
        raise DecodeError("a number", value)
    return Decimal(value)
`,
  },
  _string: {
    imports: ['typing:Any'],
    needs: ['DecodeError'],
    text: `def _string(value: Any) -> str:
    if not isinstance(value, str):
        raise DecodeError("a string", value)
    return value
`,
  },
  _choice: {
    imports: ['typing:Any', 'typing:Callable', 'typing:TypeVar', 'enum:Enum'],
    needs: ['DecodeError', '_Choice'],
    text: `def _choice(choices: type[_Choice]) -> Callable[[Any], _Choice]:
    def decode(value: Any) -> _Choice:
        try:
            return choices(value)
        except ValueError:
            expected = ", ".join(repr(choice.value) for choice in choices)
            raise DecodeError(f"one of {expected}", value) from None

    return decode
`,
  },
  _open_choice: {
    imports: ['typing:Any', 'typing:Callable', 'typing:TypeVar', 'enum:Enum'],
    needs: ['_string', '_Choice'],
    text: `def _open_choice(choices: type[_Choice]) -> Callable[[Any], _Choice | str]:
    def decode(value: Any) -> _Choice | str:
        try:
            return choices(value)
        except ValueError:
            return _string(value)

    return decode
`,
  },
  _literal: {
    imports: ['typing:Any', 'typing:Callable'],
    needs: ['DecodeError'],
    text: `def _literal(expected: str) -> Callable[[Any], Any]:
    def decode(value: Any) -> Any:
        if value != expected:
            raise DecodeError(repr(expected), value)
        return value

    return decode
`,
  },
  _tuple: {
    imports: ['typing:Any', 'typing:Callable'],
    needs: ['DecodeError'],
    text: `def _tuple(*items: Callable[[Any], Any]) -> Callable[[Any], Any]:
    def decode(value: Any) -> Any:
        if not isinstance(value, list) or len(value) != len(items):
            raise DecodeError(f"a list of {len(items)}", value)
        parts = []
        for index, (item, each) in enumerate(zip(items, value)):
            try:
                parts.append(item(each))
            except DecodeError as error:
                raise error.within(index) from None
        return tuple(parts)

    return decode
`,
  },
  _nullable: {
    imports: ['typing:Any', 'typing:Callable'],
    needs: ['_Value'],
    text: `def _nullable(item: Callable[[Any], _Value]) -> Callable[[Any], _Value | None]:
    def decode(value: Any) -> _Value | None:
        return None if value is None else item(value)

    return decode
`,
  },
  _list: {
    imports: ['typing:Any', 'typing:Callable'],
    needs: ['DecodeError', '_Value'],
    text: `def _list(item: Callable[[Any], _Value]) -> Callable[[Any], list[_Value]]:
    def decode(value: Any) -> list[_Value]:
        if not isinstance(value, list):
            raise DecodeError("a list", value)
        items = []
        for index, each in enumerate(value):
            try:
                items.append(item(each))
            except DecodeError as error:
                raise error.within(index) from None
        return items

    return decode
`,
  },
  _map: {
    imports: ['typing:Any', 'typing:Callable'],
    needs: ['DecodeError', '_Value'],
    text: `def _map(item: Callable[[Any], _Value]) -> Callable[[Any], dict[str, _Value]]:
    def decode(value: Any) -> dict[str, _Value]:
        if not isinstance(value, dict):
            raise DecodeError("an object", value)
        items = {}
        for key, each in value.items():
            try:
                items[key] = item(each)
            except DecodeError as error:
                raise error.within(key) from None
        return items

    return decode
`,
  },
  _object: {
    imports: ['typing:Any'],
    needs: ['DecodeError'],
    text: `def _object(value: Any) -> dict[str, Any]:
    if not isinstance(value, dict):
        raise DecodeError("an object", value)
    return value
`,
  },
  _others: {
    imports: ['typing:Any'],
    needs: [],
    text: `def _others(fields: dict[str, Any], *known: str) -> dict[str, Any]:
    return {key: value for key, value in fields.items() if key not in known}
`,
  },
  _only: {
    imports: ['typing:Any'],
    needs: ['DecodeError'],
    text: `def _only(fields: dict[str, Any], *known: str) -> dict[str, Any]:
    for key, value in fields.items():
        if key not in known:
            raise DecodeError("no such field", value).within(key)
    return fields
`,
  },
  _required: {
    imports: ['typing:Any', 'typing:Callable'],
    needs: ['DecodeError', '_Value', '_MISSING'],
    text: `def _required(
    fields: dict[str, Any], key: str, decode: Callable[[Any], _Value]
) -> _Value:
    try:
        if key not in fields:
            raise DecodeError("a value", _MISSING)
        return decode(fields[key])
    except DecodeError as error:
        raise error.within(key) from None
`,
  },
  _optional: {
    imports: ['typing:Any', 'typing:Callable'],
    needs: ['_required', '_Value'],
    text: `def _optional(
    fields: dict[str, Any], key: str, decode: Callable[[Any], _Value]
) -> _Value | None:
    return _required(fields, key, decode) if key in fields else None
`,
  },
  _present: {
    imports: ['typing:Any', 'typing:Callable'],
    needs: ['_required', '_Value', 'Absent'],
    text: `def _present(
    fields: dict[str, Any], key: str, decode: Callable[[Any], _Value]
) -> _Value | Absent:
    return _required(fields, key, decode) if key in fields else Absent.ABSENT
`,
  },
  _time: {
    imports: ['re', 'datetime as _datetime'],
    needs: ['DecodeError'],
    text: `def _time(text: str) -> _datetime.datetime:
    parts = re.fullmatch(
        r"(.{10}).(\\d\\d:\\d\\d:\\d\\d)(?:\\.(\\d+))?([Zz]|[+-]\\d\\d:\\d\\d)", text
    )
    if parts is None:
        raise DecodeError("a date and time", text)
    date, time, fraction, offset = parts.groups()
    micros = (fraction or "").ljust(6, "0")[:6]
    zone = "+00:00" if offset in "Zz" else offset
    return _datetime.datetime.fromisoformat(f"{date}T{time}.{micros}{zone}")
`,
  },
  _bytes: {
    imports: ['base64'],
    needs: ['_Bytes'],
    text: `def _bytes(text: str) -> _Bytes:
    return base64.b64decode(text, validate=True)
`,
  },
  _value_of: {
    imports: ['typing:Any', 'enum:Enum'],
    needs: [],
    text: `def _value_of(choice: Enum | str) -> Any:
    return choice.value if isinstance(choice, Enum) else choice
`,
  },
  _or_none: {
    imports: ['typing:Any', 'typing:Callable'],
    needs: [],
    text: `def _or_none(encode: Callable[[Any], Any]) -> Callable[[Any], Any]:
    return lambda value: None if value is None else encode(value)
`,
  },
  _each: {
    imports: ['typing:Any', 'typing:Callable'],
    needs: [],
    text: `def _each(encode: Callable[[Any], Any]) -> Callable[[Any], Any]:
    return lambda values: [encode(value) for value in values]
`,
  },
  _each_of: {
    imports: ['typing:Any', 'typing:Callable'],
    needs: [],
    text: `def _each_of(*encode: Callable[[Any], Any]) -> Callable[[Any], Any]:
    return lambda values: [each(value) for each, value in zip(encode, values)]
`,
  },
  _each_value: {
    imports: ['typing:Any', 'typing:Callable'],
    needs: [],
    text: `def _each_value(encode: Callable[[Any], Any]) -> Callable[[Any], Any]:
    return lambda values: {key: encode(value) for key, value in values.items()}
`,
  },
  _write: {
    imports: ['json', 'typing:Any', 'decimal:Decimal'],
    needs: [],
    text: `def _write(value: Any) -> str:
    if isinstance(value, Decimal):
        return str(value)
    if isinstance(value, dict):
        members = (f"{json.dumps(key)}: {_write(each)}" for key, each in value.items())
        return "{" + ", ".join(members) + "}"
    if isinstance(value, (list, tuple)):
        return "[" + ", ".join(_write(each) for each in value) + "]"
    return json.dumps(value, allow_nan=False)
`,
  },
};

/** Module variables, written under the imports. */
export const variables: Readonly<Record<string, Helper>> = {
  _Value: { imports: ['typing:TypeVar'], needs: [], text: '_Value = TypeVar("_Value")' },
  _Choice: {
    imports: ['typing:TypeVar', 'enum:Enum'],
    needs: [],
    text: '_Choice = TypeVar("_Choice", bound=Enum)',
  },
  _Bytes: { imports: [], needs: [], text: '_Bytes = bytes' },
  _MISSING: { imports: [], needs: [], text: '_MISSING = object()' },
};
