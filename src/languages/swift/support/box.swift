/// A value held apart, for types inside themselves.
__access__indirect enum Box<Value: Codable & Hashable & Sendable>: Codable, Hashable, Sendable {
    case of(Value)

    __access__init(_ value: Value) {
        self = .of(value)
    }

    __access__var value: Value {
        switch self {
        case .of(let value): value
        }
    }

    __access__init(from decoder: any Decoder) throws {
        self = .of(try Value(from: decoder))
    }

    __access__func encode(to encoder: any Encoder) throws {
        try value.encode(to: encoder)
    }
}
