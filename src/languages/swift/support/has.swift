extension Decoder {
    /// Whether the object has a key.
    func has(_ key: String) throws -> Bool {
        try container(keyedBy: AnyKey.self).contains(AnyKey(stringValue: key))
    }
}
