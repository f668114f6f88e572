import com.fasterxml.jackson.annotation.JsonFormat;
import com.fasterxml.jackson.annotation.JsonPropertyOrder;

/** A list of __size__ elements, each of a type of its own. */
@JsonFormat(shape = JsonFormat.Shape.ARRAY)
@JsonPropertyOrder({__order__})
public record Tuple__size__<__letters__>(__components__) {}
