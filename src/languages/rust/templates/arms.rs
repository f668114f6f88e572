//: if doc
/// __doc__
//: end
#[derive(__derives__)]
__attributes__
pub enum __Union__ {
    //: each arms
    //: if doc
    /// __doc__
    //: end
    __serde__
    //: if fields
    __Arm__ {
        //: each fields
        //: if doc
        /// __doc__
        //: end
        __serde__
        __field__: __Type__,
        //: end
    },
    //: else
    __Arm____held__,
    //: end
    //: end
}
