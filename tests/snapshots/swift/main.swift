import Foundation

func answer(_ line: String) -> String {
    do {
        return String(decoding: try encodeSailing(try decodeSailing(Data(line.utf8))), as: UTF8.self)
    } catch {
        return "!" + String(describing: error).split(whereSeparator: \.isWhitespace).joined(separator: " ")
    }
}

while let line = readLine() {
    FileHandle.standardOutput.write(Data((answer(line) + "\n").utf8))
}
