// __doc__
//: if wrapped
//: if short
type __Root__ struct{ Value __Type__ }
//: else
type __Root__ struct {
	Value __Type__
}
//: end

// UnmarshalJSON implements json.Unmarshaler.
func (__r__ *__Root__) UnmarshalJSON(text []byte) error {
	return unmarshal(text, &__r__.Value)
}

// MarshalJSON implements json.Marshaler.
func (__r__ __Root__) MarshalJSON() ([]byte, error) {
	return encode(__r__.Value)
}
//: else
type __Root__ __Type__

// UnmarshalJSON implements json.Unmarshaler.
func (__r__ *__Root__) UnmarshalJSON(text []byte) error {
	type __local__ __Root__
	return unmarshal(text, (*__local__)(__r__))
}

// MarshalJSON implements json.Marshaler.
func (__r__ __Root__) MarshalJSON() ([]byte, error) {
	type __local__ __Root__
	return encode(__local__(__r__))
}
//: end
