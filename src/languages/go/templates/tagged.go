// __doc__
type __Union__ struct {
	//: columns fields
	__Field__ __Type__ __tag__
	//: end
	//: if extra

	// __extra__ has the keys that the schema does not know.
	__extra__ map[string]json.RawMessage `json:"-"`
	//: end
}

// __Value__ is __held__.
//
//sumtype:decl
type __Value__ interface{ __marker__() string }

//: each arms
//: if doc
// __doc__
//: end
//: if fields
type __Arm__ struct {
	//: columns fields
	__Field__ __Type__ __tag__
	//: end
}
//: else
type __Arm__ struct{}
//: end

//: end
__markers__
//: if swaps

// No struct tag can hold some keys of __Union__: others stand for them.
var keysOf__Union__ = bothWays(
	//: each swaps
	__key__, __standIn__,
	//: end
)
//: end

// UnmarshalJSON implements json.Unmarshaler.
func (__u__ *__Union__) UnmarshalJSON(text []byte) error {
	type __local__ __Union__
	var read __local__
	//: if swaps
	text = swap(text, keysOf__Union__)
	//: end
	var whole any
	//: if direct
	var told struct {
		Word string `json:__key__`
	}
	if err := json.Unmarshal(text, &told); err != nil {
		return err
	}
	switch told.Word {
	//: else
	switch word := tag(text, __key__); word {
	//: end
	//: each arms
	case __words__:
		own := new(__Arm__)
		read.__Detail__ = own
		whole = &struct {
			*__local__
			*__Arm__
			//: if Implied
			__Implied__ string `json:__key__`
			//: end
		}{__local__: &read, __Arm__: own}
	//: end
	default:
		//: if direct
		return untold(reflect.TypeFor[__Union__](), __key__, told.Word)
		//: else
		return untold(reflect.TypeFor[__Union__](), __key__, word)
		//: end
	}
	//: if direct
	if err := json.Unmarshal(text, whole); err != nil {
	//: else
	if err := decode(text, whole, "__local__"); err != nil {
	//: end
		//: if swaps
		return swapped(err, keysOf__Union__)
		//: else
		return err
		//: end
	}
	//: if extra
	unknown, err := others[json.RawMessage](text, whole)
	read.__extra__ = unknown
	*__u__ = __Union__(read)
	return err
	//: else
	*__u__ = __Union__(read)
	return nil
	//: end
}

// MarshalJSON implements json.Marshaler.
func (__u__ __Union__) MarshalJSON() ([]byte, error) {
	if __u__.__Detail__ == nil {
		return nil, errors.New("__Union__ without __Detail__")
	}
	type __local__ __Union__
	//: if swaps
	text, err := marshal(wordUnder(__key__, __u__.__Detail__.__marker__()), __parts__)
	return swap(text, keysOf__Union__), err
	//: else
	return marshal(wordUnder(__key__, __u__.__Detail__.__marker__()), __parts__)
	//: end
}
