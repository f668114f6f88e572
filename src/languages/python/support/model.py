class Model(BaseModel):
    """As strict as the schema under every call, and written with the payload's keys."""

    model_config = ConfigDict(
        __extra__
        strict=True,
        allow_inf_nan=False,
        validate_assignment=True,
        validate_by_name=True,
        serialize_by_alias=True,
    )
