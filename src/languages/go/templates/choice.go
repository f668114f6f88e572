// __doc__
type __Choice__ string

const (
	//: columns words
	__Word__ __Choice__ = __word__
	//: end
)
//: if closed

// Valid reports whether the word is one of the known ones.
func (__c__ __Choice__) Valid() bool {
	switch __c__ {
	case __Words__:
		return true
	}
	return false
}

// UnmarshalText implements encoding.TextUnmarshaler.
func (__c__ *__Choice__) UnmarshalText(text []byte) error {
	if word := __Choice__(text); word.Valid() {
		*__c__ = word
		return nil
	}
	return mismatch(reflect.TypeFor[__Choice__](), strconv.Quote(string(text)))
}

// MarshalText implements encoding.TextMarshaler.
func (__c__ __Choice__) MarshalText() ([]byte, error) {
	if !__c__.Valid() {
		return nil, errors.New(strconv.Quote(string(__c__)) + " is no __Choice__")
	}
	return []byte(__c__), nil
}
//: end
