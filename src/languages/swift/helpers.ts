import type { Helper } from '../kit/helpers.js';

/** What the positions of a tuple are called. */
export const positions = 'first second third fourth fifth sixth seventh eighth'.split(' ');

/** What generated Swift may need beside its types. Each stands only where something uses it. */
export const helpers: Readonly<Record<string, Helper>> = {
  Nullable: {
    text: `/// A value or null, for a property that may also be absent: then the property itself is nil.
public enum Nullable<Value: Codable & Equatable>: Codable, Equatable {
    case null
    case value(Value)

    /// The value, nil when it is null.
    public var wrapped: Value? {
        if case .value(let value) = self { return value }
        return nil
    }

    public init(from decoder: Decoder) throws {
        let container = try decoder.singleValueContainer()
        self = try container.decodeNil() ? .null : .value(container.decode(Value.self))
    }

    public func encode(to encoder: Encoder) throws {
        var container = encoder.singleValueContainer()
        switch self {
        case .null: try container.encodeNil()
        case .value(let value): try container.encode(value)
        }
    }
}`,
  },
  Box: {
    text: `/// A value held apart, for types inside themselves.
public indirect enum Box<Value: Codable & Equatable>: Codable, Equatable {
    case of(Value)

    public init(_ value: Value) {
        self = .of(value)
    }

    public var value: Value {
        switch self {
        case .of(let value): return value
        }
    }

    public init(from decoder: Decoder) throws {
        self = .of(try Value(from: decoder))
    }

    public func encode(to encoder: Encoder) throws {
        try value.encode(to: encoder)
    }
}`,
  },
  Tuple2: tuple(2),
  Tuple3: tuple(3),
  Tuple4: tuple(4),
  Tuple5: tuple(5),
  Tuple6: tuple(6),
  Tuple7: tuple(7),
  Tuple8: tuple(8),
  Key: {
    text: `/// Any key of an object.
struct Key: CodingKey {
    let stringValue: String
    var intValue: Int? { nil }

    init(_ text: String) {
        stringValue = text
    }

    init?(stringValue: String) {
        self.init(stringValue)
    }

    init?(intValue: Int) {
        return nil
    }
}`,
  },
  JSONValue: {
    needs: ['Key'],
    text: `/// Any JSON value.
public enum JSONValue: Codable, Equatable {
    case null
    case bool(Bool)
    case integer(Int64)
    case number(Decimal)
    case string(String)
    case list([JSONValue])
    case object([String: JSONValue])

    public init(from decoder: Decoder) throws {
        if let fields = try? decoder.container(keyedBy: Key.self) {
            var members: [String: JSONValue] = [:]
            for key in fields.allKeys {
                members[key.stringValue] = try fields.decode(JSONValue.self, forKey: key)
            }
            self = .object(members)
            return
        }
        if var items = try? decoder.unkeyedContainer() {
            var list: [JSONValue] = []
            while !items.isAtEnd {
                list.append(try items.decode(JSONValue.self))
            }
            self = .list(list)
            return
        }
        let value = try decoder.singleValueContainer()
        if value.decodeNil() {
            self = .null
        } else if let bool = try? value.decode(Bool.self) {
            self = .bool(bool)
        } else if let integer = try? value.decode(Int64.self) {
            self = .integer(integer)
        } else if let number = try? value.decode(Decimal.self) {
            self = .number(number)
        } else {
            self = .string(try value.decode(String.self))
        }
    }

    public func encode(to encoder: Encoder) throws {
        switch self {
        case .object(let members):
            var fields = encoder.container(keyedBy: Key.self)
            for (key, value) in members {
                try fields.encode(value, forKey: Key(key))
            }
        case .list(let list):
            var items = encoder.unkeyedContainer()
            for item in list {
                try items.encode(item)
            }
        case .null:
            var value = encoder.singleValueContainer()
            try value.encodeNil()
        case .bool(let bool):
            var value = encoder.singleValueContainer()
            try value.encode(bool)
        case .integer(let integer):
            var value = encoder.singleValueContainer()
            try value.encode(integer)
        case .number(let number):
            var value = encoder.singleValueContainer()
            try value.encode(number)
        case .string(let string):
            var value = encoder.singleValueContainer()
            try value.encode(string)
        }
    }

    /// The member of an object, nil when there is none.
    subscript(key: String) -> JSONValue? {
        guard case .object(let members) = self else { return nil }
        return members[key]
    }
}`,
  },
  mismatch: {
    text: `/// What the types decode themselves with.
enum Codec {
    static func mismatch(_ expected: String, at path: [CodingKey]) -> DecodingError {
        DecodingError.dataCorrupted(.init(codingPath: path, debugDescription: "expected \\(expected)"))
    }
}`,
  },
  literal: {
    needs: ['mismatch'],
    text: `extension Codec {
    static func literal(_ found: String?, is word: String, at path: [CodingKey]) throws {
        if let found = found, found != word {
            throw mismatch("\\"\\(word)\\"", at: path)
        }
    }
}`,
  },
  only: {
    needs: ['Key', 'mismatch'],
    text: `extension Codec {
    static func only(_ known: Set<String>, in decoder: Decoder) throws {
        let keys = try decoder.container(keyedBy: Key.self).allKeys
        for key in keys.sorted(by: { $0.stringValue < $1.stringValue }) where !known.contains(key.stringValue) {
            throw mismatch("no such field", at: decoder.codingPath + [key])
        }
    }
}`,
  },
  others: {
    needs: ['Key', 'JSONValue', 'mismatch'],
    text: `extension Codec {
    static func others(than known: Set<String>, in decoder: Decoder) throws -> [String: JSONValue] {
        let fields = try decoder.container(keyedBy: Key.self)
        var result: [String: JSONValue] = [:]
        for key in fields.allKeys where !known.contains(key.stringValue) {
            result[key.stringValue] = try fields.decode(JSONValue.self, forKey: key)
        }
        return result
    }
}`,
  },
};

/** A list of fixed length. */
function tuple(size: number): Helper {
  const letters = 'ABCDEFGH'.slice(0, size).split('');
  const rows = letters.map((letter, i) => ({ letter, name: positions[i]! }));
  return {
    needs: ['mismatch'],
    text: `/// A list of ${size}.
public struct Tuple${size}<${letters.map((each) => `${each}: Codable & Equatable`).join(', ')}>: Codable, Equatable {
${rows.map(({ letter, name }) => `    public var ${name}: ${letter}`).join('\n')}

    public init(_ ${rows.map(({ letter, name }) => `${name}: ${letter}`).join(', _ ')}) {
${rows.map(({ name }) => `        self.${name} = ${name}`).join('\n')}
    }

    public init(from decoder: Decoder) throws {
        var items = try decoder.unkeyedContainer()
${rows.map(({ letter, name }) => `        ${name} = try items.decode(${letter}.self)`).join('\n')}
        if !items.isAtEnd {
            throw Codec.mismatch("a list of ${size}", at: decoder.codingPath)
        }
    }

    public func encode(to encoder: Encoder) throws {
        var items = encoder.unkeyedContainer()
${rows.map(({ name }) => `        try items.encode(${name})`).join('\n')}
    }
}`,
  };
}
