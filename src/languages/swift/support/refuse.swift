extension Decoder {
    /// Throws for a member of an object whose key is not among the known ones.
    func refuse(beyond known: Set<String>) throws {
        let keys = try container(keyedBy: AnyKey.self).allKeys.map(\.stringValue)
        if let key = keys.filter({ !known.contains($0) }).min() {
            let path = codingPath + [AnyKey(stringValue: key)]
            throw DecodingError.dataCorrupted(
                .init(codingPath: path, debugDescription: "no such field")
            )
        }
    }
}
