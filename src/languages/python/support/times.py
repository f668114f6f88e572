def _text_in_dicts(strict: CoreSchema, lax: CoreSchema) -> GetPydanticSchema:
    """Text in JSON, and in a dict made of JSON, as web frameworks hand it on."""
    schema = core_schema.json_or_python_schema(json_schema=strict, python_schema=lax)
    return GetPydanticSchema(lambda _source, _handler: schema)


Moment = Annotated[
    datetime,
    _text_in_dicts(
        core_schema.datetime_schema(strict=True, tz_constraint="aware"),
        core_schema.datetime_schema(strict=False, tz_constraint="aware"),
    ),
]
"""A time with its offset."""


Day = Annotated[
    date,
    _text_in_dicts(
        core_schema.date_schema(strict=True),
        core_schema.date_schema(strict=False),
    ),
]
"""A date."""


Identifier = Annotated[
    UUID,
    _text_in_dicts(
        core_schema.uuid_schema(strict=True),
        core_schema.uuid_schema(strict=False),
    ),
]
"""A UUID."""
