Moment = Annotated[dt.datetime, Meta(tz=True)]
"""A time with its offset."""
