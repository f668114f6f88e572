/// A field that may be absent, null or a value.
__access__enum Field<Value> {
    case absent
    case null
    case value(Value)

    /// Whether the field is there, be it null.
    __access__var isSet: Bool {
        if case .absent = self { false } else { true }
    }

    /// The value, nil when the field is absent or null.
    __access__var get: Value? {
        if case .value(let value) = self { value } else { nil }
    }

    __access__mutating func set(_ value: Value) { self = .value(value) }

    __access__mutating func setNull() { self = .null }

    __access__mutating func clear() { self = .absent }
}

extension Field: Sendable where Value: Sendable {}
extension Field: Equatable where Value: Equatable {}
extension Field: Hashable where Value: Hashable {}

extension Field: Decodable where Value: Decodable {
    __access__init(from decoder: any Decoder) throws {
        self = try Value?(from: decoder).map(Field.value) ?? .null
    }
}

extension Field: Encodable where Value: Encodable {
    __access__func encode(to encoder: any Encoder) throws {
        try get.encode(to: encoder)
    }
}

// The synthesised init(from:) and encode(to:) pick these up, so that a Field may be absent.
extension KeyedDecodingContainer {
    __access__func decode<Value: Decodable>(
        _ type: Field<Value>.Type, forKey key: Key
    ) throws -> Field<Value> {
        guard contains(key) else { return .absent }
        return try decodeNil(forKey: key) ? .null : .value(decode(Value.self, forKey: key))
    }
}

extension KeyedEncodingContainer {
    __access__mutating func encode<Value: Encodable>(
        _ field: Field<Value>, forKey key: Key
    ) throws {
        switch field {
        case .absent: return
        case .null: try encodeNil(forKey: key)
        case .value(let value): try encode(value, forKey: key)
        }
    }
}
