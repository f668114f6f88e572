// __Constant__ is one word, which nobody need say.
type __Constant__ struct{}

// String is the word.
func (__Constant__) String() string { return __word__ }

// MarshalText implements encoding.TextMarshaler.
func (__Constant__) MarshalText() ([]byte, error) { return []byte(__word__), nil }

// UnmarshalText implements encoding.TextUnmarshaler.
func (__Constant__) UnmarshalText(text []byte) error {
	if string(text) == __word__ {
		return nil
	}
	return mismatch(reflect.TypeFor[__Constant__](), strconv.Quote(string(text)))
}
