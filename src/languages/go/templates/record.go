//: if doc
// __doc__
//: end
//: if fields
type __Record__ struct {
	//: columns fields
	__Field__ __Type__ __tag__
	//: end
	//: if extra

	// __extra__ has the keys that the schema does not __know__.
	__extra__ map[string]__Other__ `json:"-"`
	//: end
}
//: else
//: if extra
// __Record__ has no keys that the schema names.
type __Record__ struct {
	// __extra__ has all that it has.
	__extra__ map[string]__Other__ `json:"-"`
}
//: else
type __Record__ struct{}
//: end
//: end
//: if swaps

// No struct tag can hold some keys of __Record__: others stand for them.
var keysOf__Record__ = bothWays(
	//: each swaps
	__key__, __standIn__,
	//: end
)
//: end
//: if reads

// UnmarshalJSON implements json.Unmarshaler.
func (__r__ *__Record__) UnmarshalJSON(text []byte) error {
	type __local__ __Record__
	//: if swaps
	//: if extra
	read, unknown, err := unmarshalOpen[__local__, __Other__](swap(text, keysOf__Record__))
	if err != nil {
		return swapped(err, keysOf__Record__)
	}
	*__r__ = __Record__(read)
	__r__.__extra__ = unknown
	return nil
	//: else
	return swapped(unmarshal(swap(text, keysOf__Record__), (*__local__)(__r__)), keysOf__Record__)
	//: end
	//: else
	//: if extra
	read, unknown, err := unmarshalOpen[__local__, __Other__](text)
	if err != nil {
		return err
	}
	*__r__ = __Record__(read)
	__r__.__extra__ = unknown
	return nil
	//: else
	return unmarshal(text, (*__local__)(__r__))
	//: end
	//: end
}
//: end
//: if writes

// MarshalJSON implements json.Marshaler.
func (__r__ __Record__) MarshalJSON() ([]byte, error) {
	type __local__ __Record__
	//: if swaps
	text, err := marshal(__parts__)
	return swap(text, keysOf__Record__), err
	//: else
	return marshal(__parts__)
	//: end
}
//: end
