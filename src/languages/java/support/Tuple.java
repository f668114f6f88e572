/** A list of __size__ elements, each of a type of its own. */
@JsonFormat(shape = JsonFormat.Shape.ARRAY)
@JsonPropertyOrder({__order__})
__declaration__
