extension Decoder {
    /// Whether the object has one of the words under a key.
    func says(_ key: String, _ words: Set<String>) throws -> Bool {
        let fields = try container(keyedBy: AnyKey.self)
        guard let word = try? fields.decode(String.self, forKey: AnyKey(stringValue: key)) else { return false }
        return words.contains(word)
    }
}
