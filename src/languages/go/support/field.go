// Field may be absent, null or a value; the zero Field is absent.
type Field[T any] struct {
	value T
	state fieldState
}

func (Field[T]) nullable() {}

// fieldState is what a Field is.
type fieldState byte

const (
	fieldAbsent fieldState = iota
	fieldNull
	fieldSet
)

// FieldOf is a Field with a value.
func FieldOf[T any](value T) Field[T] { return Field[T]{value, fieldSet} }

// NullField is a Field that is there and null.
func NullField[T any]() Field[T] { return Field[T]{state: fieldNull} }

// IsSet reports whether the field is there, be it null.
func (f Field[T]) IsSet() bool { return f.state != fieldAbsent }

// IsZero reports whether the field is absent; encoding/json then leaves it out.
func (f Field[T]) IsZero() bool { return f.state == fieldAbsent }

// Get returns the value, and false when the field is absent or null.
func (f Field[T]) Get() (value T, ok bool) { return f.value, f.state == fieldSet }

// Set gives the field a value.
func (f *Field[T]) Set(value T) { *f = FieldOf(value) }

// SetNull makes the field null.
func (f *Field[T]) SetNull() { *f = NullField[T]() }

// Clear makes the field absent.
func (f *Field[T]) Clear() { *f = Field[T]{} }

// MarshalJSON implements json.Marshaler.
func (f Field[T]) MarshalJSON() ([]byte, error) {
	if f.state != fieldSet {
		return []byte("null"), nil
	}
	return encode(f.value)
}

// UnmarshalJSON implements json.Unmarshaler.
func (f *Field[T]) UnmarshalJSON(text []byte) error {
	if string(text) == "null" {
		f.SetNull()
		return nil
	}
	var value T
	err := decode(text, &value, "")
	if err == nil {
		f.Set(value)
	}
	return err
}

// Null is null and nothing else.
type Null struct{}

func (Null) nullable() {}

// MarshalJSON implements json.Marshaler.
func (Null) MarshalJSON() ([]byte, error) { return []byte("null"), nil }

// UnmarshalJSON implements json.Unmarshaler.
func (Null) UnmarshalJSON(text []byte) error {
	if string(text) == "null" {
		return nil
	}
	return mismatch(reflect.TypeFor[Null](), kindOf(text))
}
