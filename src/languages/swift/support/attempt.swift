extension SingleValueDecodingContainer {
    /// The value, nil when it is of another kind; what is wrong further in is thrown.
    func attempt<Value: Decodable>(_ type: Value.Type) throws -> Value? {
        do {
            return try decode(type)
        } catch DecodingError.typeMismatch(_, let context)
            where context.codingPath.count == codingPath.count
        {
            return nil
        }
    }
}
