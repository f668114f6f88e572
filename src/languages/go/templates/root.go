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
	//: if plain
	return json.Unmarshal(text, &__r__.Value)
	//: else
	return unmarshal(text, &__r__.Value)
	//: end
}

// MarshalJSON implements json.Marshaler.
func (__r__ __Root__) MarshalJSON() ([]byte, error) {
	//: if plain
	return json.Marshal(__r__.Value)
	//: else
	return encode(__r__.Value)
	//: end
}
//: else
type __Root__ __Type__
//: if !plain

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
//: end
