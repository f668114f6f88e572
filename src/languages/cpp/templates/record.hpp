//: if doc
__doc__
//: end
//: if members
struct __Record__ {
    //: each members
    __line__
    //: end

    bool operator==(const __Record__&) const = default;
};
//: else
struct __Record__ {
    bool operator==(const __Record__&) const = default;
};
//: end
