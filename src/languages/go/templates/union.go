// __doc__
//: if short
type __Union__ struct{ Value __Value__ }
//: else
type __Union__ struct {
	Value __Value__
}
//: end

// __Value__ is __held__.
//
//sumtype:decl
type __Value__ interface{ __marker__() }

//: each defined
type __Arm__ __Type__
//: if digits

// MarshalJSON implements json.Marshaler.
func (a __Arm__) MarshalJSON() ([]byte, error) { return json.Marshal(json.Number(a)) }

// UnmarshalJSON implements json.Unmarshaler.
func (a *__Arm__) UnmarshalJSON(text []byte) error {
	return decode(text, (*json.Number)(a), "")
}
//: end

//: end
//: columns arms
func (__Held__) __marker__()	{}
//: end

// UnmarshalJSON implements json.Unmarshaler.
func (__u__ *__Union__) UnmarshalJSON(text []byte) error {
	//: if tagged
	switch word := tag(text, __key__); word {
	//: each tagged
	case __words__:
		return assign[__Held__](text, &__u__.Value)
	//: end
	//: if !kinds
	default:
		return untold(reflect.TypeFor[__Union__](), __key__, word)
	//: end
	}
	//: end
	//: if keyed
	switch {
	//: each keyed
	case has(text, __key__):
		return assign[__Held__](text, &__u__.Value)
	//: end
	}
	//: end
	//: if kinds
	switch kind := kindOf(text); kind {
	//: each kinds
	case __kind__:
		return assign[__Held__](text, &__u__.Value)
	//: end
	default:
		return mismatch(reflect.TypeFor[__Union__](), kind)
	}
	//: else
	//: if !tagged
	return mismatch(reflect.TypeFor[__Union__](), kindOf(text))
	//: end
	//: end
}

// MarshalJSON implements json.Marshaler.
func (__u__ __Union__) MarshalJSON() ([]byte, error) {
	if __u__.Value == nil {
		return nil, errors.New("__Union__ without a Value")
	}
	return encode(__u__.Value)
}
