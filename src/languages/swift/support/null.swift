/// Null and nothing else.
__access__struct Null: Codable, Hashable, Sendable {
    __access__init() {}

    __access__init(from decoder: any Decoder) throws {
        let value = try decoder.singleValueContainer()
        guard value.decodeNil() else {
            throw DecodingError.dataCorruptedError(in: value, debugDescription: "expected null")
        }
    }

    __access__func encode(to encoder: any Encoder) throws {
        var value = encoder.singleValueContainer()
        try value.encodeNil()
    }
}
