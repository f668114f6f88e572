import Foundation

typealias BenchPayload = __Root__

struct BenchHost: Codable {
    var before: Int
    __wrapper__var payload: BenchPayload
    var after: Int
}

struct BenchRefused: Error, CustomStringConvertible {
    var description: String
}

func decoded<Value: Decodable>(_ type: Value.Type, _ text: String) throws -> Value {
    try JSONDecoder().decode(type, from: Data(text.utf8))
}

func encoded(_ value: some Encodable) throws -> String {
    let encoder = JSONEncoder()
    encoder.outputFormatting = [.withoutEscapingSlashes, .sortedKeys]
    return String(decoding: try encoder.encode(value), as: UTF8.self)
}

func plain(_ text: String) throws -> String {
    try encoded(decoded(BenchPayload.self, text))
}

func inField(_ text: String) throws -> String {
    let host = try decoded(BenchHost.self, "{\"before\":1,\"payload\":\(text),\"after\":2}")
    guard host.before == 1, host.after == 2 else {
        throw BenchRefused(description: "the fields beside the payload are lost")
    }
    return String(try encoded(host).dropFirst("{\"after\":2,\"before\":1,\"payload\":".count).dropLast())
}

func elements(_ text: String) throws -> String {
    let list = try decoded([BenchPayload].self, "[\(text)]")
    let byName = try decoded([String: BenchPayload].self, "{\"only\":\(text)}")
    guard list[0] == byName["only"] else {
        throw BenchRefused(description: "an element of a list and one of a dictionary differ")
    }
    return String(try encoded(list).dropFirst().dropLast())
}

//: if record
func built(_ text: String) throws -> String {
    let value = try decoded(BenchPayload.self, text)
    //: if built
    let again = BenchPayload(
        //: each built
        __label__: value.__name____comma__
        //: end
    )
    //: else
    let again = BenchPayload()
    //: end
    guard Set([value, again]).count == 1 else {
        throw BenchRefused(description: "what was built is not equal to what was decoded")
    }
    return try encoded(again)
}
//: else
func built(_ text: String) throws -> String {
    let value = try decoded(BenchPayload.self, text)
    return try encoded(value)
}
//: end

func changed(_ field: String, _ text: String, _ from: String) throws -> String {
    //: if fields
    var value = try decoded(BenchPayload.self, text)
    let other = try decoded(BenchPayload.self, from)
    switch field {
    //: each fields
    case "__i__": value.__Field__ = other.__Field__
    //: end
    default: throw BenchRefused(description: "there is no field \(field)")
    }
    return try encoded(value)
    //: else
    throw BenchRefused(description: "there is no field \(field)")
    //: end
}

func said(_ work: () throws -> String) -> String {
    do {
        return try work()
    } catch {
        return "!" + String(describing: error).split(whereSeparator: \.isWhitespace).joined(separator: " ")
    }
}

func answer(_ line: String) -> String {
    let parts = line.split(separator: "\u{1e}", omittingEmptySubsequences: false).map(String.init)
    if parts.count == 4 {
        return said { try changed(parts[1], parts[2], parts[3]) }
    }
    let answers = [plain, inField, elements, built].map { way in said { try way(line) } }
    return answers.enumerated()
        .map { $0.offset > 0 && $0.element == answers[0] ? "=" : $0.element }
        .joined(separator: "\u{1e}")
}

while let line = readLine() {
    FileHandle.standardOutput.write(Data((answer(line) + "\n").utf8))
}
