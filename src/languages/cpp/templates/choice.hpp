//: if doc
__doc__
//: end
struct __Choice__ {
    std::string word;

    //: each words
    static __Choice__ __name__() { return {__word__}; }
    //: end

    auto operator<=>(const __Choice__&) const = default;
};
