/// A list of __size__, each of a type of its own.
__access__struct Tuple__size__<__parameters__>: Codable, Hashable, Sendable {
    //: each elements
    __access__var __position__: __Letter__
    //: end

    __access__init(__given__) {
        //: each elements
        self.__position__ = __position__
        //: end
    }

    __access__init(from decoder: any Decoder) throws {
        var items = try decoder.unkeyedContainer()
        //: each elements
        __position__ = try items.decode(__Letter__.self)
        //: end
        if !items.isAtEnd {
            throw DecodingError.dataCorruptedError(
                in: items, debugDescription: "expected a list of __size__")
        }
    }

    __access__func encode(to encoder: any Encoder) throws {
        var items = encoder.unkeyedContainer()
        //: each elements
        try items.encode(__position__)
        //: end
    }
}
