/// A field that is required and may be null: read and set as an optional, written as null when nil.
// swift-format-ignore: UseSynthesizedInitializer
@propertyWrapper
__access__struct Nullable<Value> {
    __access__var wrappedValue: Value?

    __access__init(wrappedValue: Value?) {
        self.wrappedValue = wrappedValue
    }
}

extension Nullable: Sendable where Value: Sendable {}
extension Nullable: Equatable where Value: Equatable {}
extension Nullable: Hashable where Value: Hashable {}

extension Nullable: Decodable where Value: Decodable {
    __access__init(from decoder: any Decoder) throws {
        wrappedValue = try Value?(from: decoder)
    }
}

extension Nullable: Encodable where Value: Encodable {
    __access__func encode(to encoder: any Encoder) throws {
        try wrappedValue.encode(to: encoder)
    }
}
