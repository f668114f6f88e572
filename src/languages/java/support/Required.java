/** Refuses JSON in which the field is missing or null, or a list or map with a null in it. */
@JacksonAnnotationsInside
@JsonSetter(nulls = Nulls.FAIL, contentNulls = Nulls.FAIL)
@Retention(RetentionPolicy.RUNTIME)
@interface Required {}
