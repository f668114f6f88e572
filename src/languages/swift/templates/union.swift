//: if doc
/// __doc__
//: end
__access____indirect__enum __Union__: Codable, Hashable, Sendable {
    //: each arms
    case __arm__(__Type__)
    //: end

    __access__init(from decoder: any Decoder) throws {
        //: if value
        let value = try decoder.singleValueContainer()
        //: end
        //: each arms
        __otherwise__if __test__ {
            self = .__arm__(__held__)
        //: end
        } else {
            throw DecodingError.dataCorrupted(
                .init(
                    codingPath: decoder.codingPath,
                    debugDescription: __expected__
                )
            )
        }
    }

    __access__func encode(to encoder: any Encoder) throws {
        var value = encoder.singleValueContainer()
        switch self {
        //: each arms
        case .__arm__(let held): try value.encode(held)
        //: end
        }
    }
}
