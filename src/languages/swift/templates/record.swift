//: if doc
/// __doc__
//: end
//: if filled
__access__struct __Record__: __conforms__ {
    //: each constants
    __access__enum __Constant__: String, Codable, Sendable { case __word__ }
    //: end
    //: if constants

    //: end
    //: each fields
    //: if doc
    /// __doc__
    //: end
    __wrapper____access__var __name__: __Type__
    //: end
    //: if extra
    /// The keys that the schema does not __know__.
    __access__var __extra__: [String: __Other__] = [:]
    //: end
    //: if keys

    private enum CodingKeys: __raw__CodingKey {
        __keys__
    }
    //: end
    //: if initialiser

    __initialiser__
    //: end
}
//: else
__access__struct __Record__: __conforms__ {
    //: if initialiser
    __initialiser__
    //: end
}
//: end
//: if reads

extension __Record__ {
    __access__init(from decoder: any Decoder) throws {
        //: if only
        try decoder.refuse(beyond: __known__)
        //: end
        //: if bare
        _ = try decoder.container(keyedBy: AnyKey.self)
        //: end
        //: if fields
        let fields = try decoder.container(keyedBy: CodingKeys.self)
        //: end
        //: each fields
        __read__
        //: end
        //: if extra
        __extra__ = try decoder.extra(beyond: __known__)
        //: end
    }
    //: if extra

    __access__func encode(to encoder: any Encoder) throws {
        //: if fields
        var fields = encoder.container(keyedBy: CodingKeys.self)
        //: end
        //: each fields
        try fields.__encode__
        //: end
        try __extra__.encode(to: encoder)
    }
    //: end
}
//: end
