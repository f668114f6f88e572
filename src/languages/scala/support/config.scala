//: if maps
/** Empty lists and maps are written, and required; a tag may stand anywhere,
  * and a map has as many keys as it has.
  */
//: else
/** Empty lists and maps are written, and required; a tag may stand anywhere. */
//: end
inline given config: CodecMakerConfig = CodecMakerConfig
  .withAllowRecursiveTypes(true)
  .withTransientEmpty(false)
  .withRequireCollectionFields(true)
  .withRequireDiscriminatorFirst(false)
//: if strict
  .withSkipUnexpectedFields(false)
//: end
//: if maps
  .withMapMaxInsertNumber(Int.MaxValue)
//: end
//: if decimals
  .withBigDecimalPrecision(0)
  .withBigDecimalScaleLimit(Int.MaxValue)
  .withBigDecimalDigitsLimit(Int.MaxValue)
//: end
//: if integers
  .withBigIntDigitsLimit(Int.MaxValue)
//: end
