// __Constant__ is one word, which nobody need say.
type __Constant__ struct{}

// String is the word.
__string__

// MarshalText implements encoding.TextMarshaler.
__marshal__

// UnmarshalText implements encoding.TextUnmarshaler.
func (__Constant__) UnmarshalText(text []byte) error {
	if string(text) == __word__ {
		return nil
	}
	return mismatch(reflect.TypeFor[__Constant__](), strconv.Quote(string(text)))
}
