//: if doc
/** __doc__ */
//: end
//: if open
public record __Choice__(@JsonValue String word) {
  //: each words
  public static final __Choice__ __NAME__ = new __Choice__(__word__);
  //: end

  public __Choice__ {
    requireNonNull(word, "word");
  }
}
//: else
public enum __Choice__ {
  //: each words
  @JsonProperty(__word__)
  __NAME____comma__
  //: end
}
//: end
