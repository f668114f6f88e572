extension Decoder {
    /// The members of an object whose keys are not among the known ones.
    func extra<Value: Decodable>(beyond known: Set<String>) throws -> [String: Value] {
        let fields = try container(keyedBy: AnyKey.self)
        var extra: [String: Value] = [:]
        for key in fields.allKeys where !known.contains(key.stringValue) {
            extra[key.stringValue] = try fields.decode(Value.self, forKey: key)
        }
        return extra
    }
}
