//: if doc
/// __doc__
//: end
//: if open
__access__struct __Choice__: RawRepresentable, Codable, Hashable, Sendable {
    __access__var rawValue: String

    //: if initialiser
    __access__init(rawValue: String) {
        self.rawValue = rawValue
    }

    //: end
    //: each words
    __access__static let __name__ = __Choice__(rawValue: __word__)
    //: end
}
//: else
__access__enum __Choice__: String, Codable, CaseIterable, Sendable {
    //: each words
    case __case__
    //: end
}
//: end
