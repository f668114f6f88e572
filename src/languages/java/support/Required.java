import com.fasterxml.jackson.annotation.JacksonAnnotationsInside;
import com.fasterxml.jackson.annotation.JsonSetter;
import com.fasterxml.jackson.annotation.Nulls;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;

/** Refuses JSON in which the field is missing or null, or a list or map with a null in it. */
@JacksonAnnotationsInside
@JsonSetter(nulls = Nulls.FAIL, contentNulls = Nulls.FAIL)
@Retention(RetentionPolicy.RUNTIME)
@interface Required {}
