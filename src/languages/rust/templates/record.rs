//: if doc
/// __doc__
//: end
#[derive(__derives__)]
__attributes__
//: if filled
pub struct __Record__ {
    //: each fields
    //: if doc
    /// __doc__
    //: end
    __serde__
    pub __field__: __Type__,
    //: end
    //: if extra
    /// The keys that the schema does not __know__.
    #[serde(flatten)]
    pub __extra__: BTreeMap<String, __Other__>,
    //: end
    //: if detail
    #[serde(flatten)]
    pub __detail__: __Detail__,
    //: end
}
//: else
pub struct __Record__ {}
//: end
