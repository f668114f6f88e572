// Tuple__Size__ is a list of __Size__ elements, each of a type of its own.
type Tuple__Size__[__Letters__ any] struct {
	//: columns elements
	__Position__ __Letter__
	//: end
}

// MarshalJSON implements json.Marshaler.
func (t Tuple__Size__[__Letters__]) MarshalJSON() ([]byte, error) {
	return marshalList(__values__)
}

// UnmarshalJSON implements json.Unmarshaler.
func (t *Tuple__Size__[__Letters__]) UnmarshalJSON(text []byte) error {
	var read Tuple__Size__[__Letters__]
	if err := unmarshalList(text, __places__); err != nil {
		return err
	}
	*t = read
	return nil
}
