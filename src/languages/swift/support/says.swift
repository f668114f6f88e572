extension Decoder {
    /// Whether the object has one of the words under a key.
    func says(_ key: String, _ words: Set<String>) throws -> Bool {
        let fields = try container(keyedBy: AnyKey.self)
        let word = try? fields.decode(String.self, forKey: AnyKey(stringValue: key))
        return word.map(words.contains) ?? false
    }
}
