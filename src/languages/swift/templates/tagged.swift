//: if doc
/// __doc__
//: end
//: if shared
@dynamicMemberLookup
//: end
__access____indirect__enum __Union__: Codable, Hashable, Sendable {
    //: each arms
    case __arm__(__Type__)
    //: end
    //: if shared

    /// What all of them have.
    __access__var shared: any __Fields__ {
        switch self {
        //: each arms
        case .__arm__(let value): value
        //: end
        }
    }

    __access__subscript<Value>(dynamicMember path: KeyPath<any __Fields__, Value>) -> Value {
        shared[keyPath: path]
    }
    //: end

    private enum CodingKeys: String, CodingKey {
        case __tag__
    }

    __access__init(from decoder: any Decoder) throws {
        let fields = try decoder.container(keyedBy: CodingKeys.self)
        switch try fields.decode(String.self, forKey: .__tagName__) {
        //: each arms
        case __words__: self = .__arm__(try __Type__(from: decoder))
        //: end
        case let word:
            throw DecodingError.dataCorruptedError(
                forKey: .__tagName__, in: fields,
                debugDescription: __none__
            )
        }
    }

    __access__func encode(to encoder: any Encoder) throws {
        switch self {
        //: each arms
        case .__arm__(let value): try value.encode(to: encoder)
        //: end
        }
    }
}
//: if shared

/// What each alternative of __Union__ has.
__access__protocol __Fields__: Sendable {
    //: each shared
    //: if doc
    /// __doc__
    //: end
    var __name__: __Type__ { get set }
    //: end
}
//: end
