/// Any JSON value.
__access__indirect enum JSONValue: Codable, Hashable, Sendable {
    case null
    case bool(Bool)
    case integer(Int)
    case number(Decimal)
    case string(String)
    case list([JSONValue])
    case object([String: JSONValue])

    __access__init(from decoder: any Decoder) throws {
        let value = try decoder.singleValueContainer()
        if value.decodeNil() {
            self = .null
        } else if let string = try? value.decode(String.self) {
            self = .string(string)
        } else if let integer = try? value.decode(Int.self) {
            self = .integer(integer)
        } else if let number = try? value.decode(Decimal.self) {
            self = .number(number)
        } else if let bool = try? value.decode(Bool.self) {
            self = .bool(bool)
        } else if let object = try value.attempt([String: JSONValue].self) {
            self = .object(object)
        } else {
            self = .list(try value.decode([JSONValue].self))
        }
    }

    // By the container, since Decimal's own encode(to:) writes its innards.
    __access__func encode(to encoder: any Encoder) throws {
        var value = encoder.singleValueContainer()
        switch self {
        case .null: try value.encodeNil()
        case .bool(let bool): try value.encode(bool)
        case .integer(let integer): try value.encode(integer)
        case .number(let number): try value.encode(number)
        case .string(let string): try value.encode(string)
        case .list(let list): try value.encode(list)
        case .object(let object): try value.encode(object)
        }
    }
}
