/** A time read and written with its own offset. */
@JacksonAnnotationsInside
@JsonFormat(without = JsonFormat.Feature.ADJUST_DATES_TO_CONTEXT_TIME_ZONE)
@Retention(RetentionPolicy.RUNTIME)
@interface DateTime {}
