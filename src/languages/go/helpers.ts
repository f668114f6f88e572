import type { Helper } from '../kit/helpers.js';

const positions = 'First Second Third Fourth Fifth Sixth Seventh Eighth'.split(' ');

/** What generated Go may need beside its types. Each stands only where something uses it. */
export const helpers: Readonly<Record<string, Helper>> = {
  DecodeError: {
    imports: ['fmt'],
    needs: ['describe', 'within'],
    text: `// DecodeError says that a payload does not have the declared shape.
type DecodeError struct {
	// Path is the JSON Pointer of the value.
	Path string

	// Expected is what should stand there, and Found what does.
	Expected, Found string
}

func (e *DecodeError) Error() string {
	path := e.Path
	if path == "" {
		path = "the top"
	}
	return fmt.Sprintf("at %s: expected %s, found %s", path, e.Expected, e.Found)
}

func mismatch(expected string, found any) error {
	return &DecodeError{Expected: expected, Found: describe(found)}
}`,
  },
  Nullable: {
    imports: ['encoding/json'],
    text: `// Nullable is a value or null, where a nil pointer to it stands for a key that is absent.
type Nullable[T any] struct {
	Value *T
}

// MarshalJSON writes the value or null.
func (n Nullable[T]) MarshalJSON() ([]byte, error) {
	return json.Marshal(n.Value)
}`,
  },
  Tuple2: tuple(2),
  Tuple3: tuple(3),
  Tuple4: tuple(4),
  Tuple5: tuple(5),
  Tuple6: tuple(6),
  Tuple7: tuple(7),
  Tuple8: tuple(8),
  unmarshal: {
    needs: ['parse'],
    text: `func unmarshal[T any](text []byte, read func(any) (T, error), into *T) error {
	value, err := parse(text)
	if err == nil {
		*into, err = read(value)
	}
	return err
}`,
  },
  parse: {
    imports: ['bytes', 'encoding/json', 'fmt', 'io'],
    text: `// parse reads JSON without losing a digit.
func parse(text []byte) (any, error) {
	decoder := json.NewDecoder(bytes.NewReader(text))
	decoder.UseNumber()
	var value any
	if err := decoder.Decode(&value); err != nil {
		return nil, err
	}
	if _, err := decoder.Token(); err != io.EOF {
		return nil, fmt.Errorf("more follows after the JSON value")
	}
	return value, nil
}`,
  },
  objectWriter: {
    imports: ['bytes', 'encoding/json'],
    text: `// objectWriter writes members whose keys no struct tag can hold.
type objectWriter struct {
	buffer bytes.Buffer
	err    error
}

func (w *objectWriter) add(key string, value any) {
	name, err := json.Marshal(key)
	if w.err == nil {
		w.err = err
	}
	text, err := json.Marshal(value)
	if w.err == nil {
		w.err = err
	}
	if w.buffer.Len() > 0 {
		w.buffer.WriteByte(',')
	}
	w.buffer.Write(name)
	w.buffer.WriteByte(':')
	w.buffer.Write(text)
}

func (w *objectWriter) bytes() ([]byte, error) {
	return append(append([]byte{'{'}, w.buffer.Bytes()...), '}'), w.err
}`,
  },
  objectReader: {
    needs: ['DecodeError'],
    text: `// objectReader reads the fields of an object and keeps the first error.
type objectReader struct {
	fields map[string]any
	err    error
}

func readObject(value any) *objectReader {
	fields, ok := value.(map[string]any)
	if !ok {
		return &objectReader{err: mismatch("an object", value)}
	}
	return &objectReader{fields: fields}
}`,
  },
  others: {
    needs: ['objectReader', 'isAmong'],
    text: `// others are the fields whose keys are not known.
func others(object *objectReader, known ...string) map[string]any {
	var result map[string]any
	for key, value := range object.fields {
		if !isAmong(key, known) {
			if result == nil {
				result = make(map[string]any)
			}
			result[key] = value
		}
	}
	return result
}`,
  },
  only: {
    imports: ['sort'],
    needs: ['objectReader', 'isAmong', 'within'],
    text: `// only refuses fields whose keys are not known, the first in order of the alphabet.
func only(object *objectReader, known ...string) {
	var strange []string
	for key := range object.fields {
		if !isAmong(key, known) {
			strange = append(strange, key)
		}
	}
	if object.err == nil && len(strange) > 0 {
		sort.Strings(strange)
		object.err = within(strange[0], mismatch("no such field", object.fields[strange[0]]))
	}
}`,
  },
  isAmong: {
    text: `func isAmong(key string, known []string) bool {
	for _, each := range known {
		if key == each {
			return true
		}
	}
	return false
}`,
  },
  addAll: {
    imports: ['sort'],
    needs: ['objectWriter'],
    text: `func (w *objectWriter) addAll(fields map[string]any) {
	keys := make([]string, 0, len(fields))
	for key := range fields {
		keys = append(keys, key)
	}
	sort.Strings(keys)
	for _, key := range keys {
		w.add(key, fields[key])
	}
}`,
  },
  required: {
    needs: ['objectReader', 'within'],
    text: `func required[T any](object *objectReader, key string, read func(any) (T, error)) T {
	var result T
	if object.err != nil {
		return result
	}
	value, ok := object.fields[key]
	if !ok {
		object.err = within(key, &DecodeError{Expected: "a value", Found: "nothing"})
		return result
	}
	result, err := read(value)
	object.err = within(key, err)
	return result
}`,
  },
  optional: {
    needs: ['required'],
    text: `func optional[T any](object *objectReader, key string, read func(any) (T, error)) *T {
	if _, ok := object.fields[key]; !ok {
		return nil
	}
	result := required(object, key, read)
	return &result
}`,
  },
  present: {
    needs: ['required', 'Nullable', 'nullable'],
    text: `func present[T any](object *objectReader, key string, read func(any) (T, error)) *Nullable[T] {
	if _, ok := object.fields[key]; !ok {
		return nil
	}
	return &Nullable[T]{required(object, key, nullable(read))}
}`,
  },
  nullable: {
    text: `func nullable[T any](read func(any) (T, error)) func(any) (*T, error) {
	return func(value any) (*T, error) {
		if value == nil {
			return nil, nil
		}
		result, err := read(value)
		return &result, err
	}
}`,
  },
  within: {
    imports: ['errors', 'strings'],
    text: `// within is the same error, seen from the object or list around it.
func within(step string, err error) error {
	var mismatch *DecodeError
	if errors.As(err, &mismatch) {
		mismatch.Path = "/" + strings.NewReplacer("~", "~0", "/", "~1").Replace(step) + mismatch.Path
	}
	return err
}`,
  },
  readList: {
    imports: ['strconv'],
    needs: ['DecodeError', 'within'],
    text: `func readList[T any](read func(any) (T, error)) func(any) ([]T, error) {
	return func(value any) ([]T, error) {
		items, ok := value.([]any)
		if !ok {
			return nil, mismatch("a list", value)
		}
		result := make([]T, len(items))
		for i, item := range items {
			var err error
			if result[i], err = read(item); err != nil {
				return nil, within(strconv.Itoa(i), err)
			}
		}
		return result, nil
	}
}`,
  },
  readMap: {
    needs: ['DecodeError', 'within'],
    text: `func readMap[T any](read func(any) (T, error)) func(any) (map[string]T, error) {
	return func(value any) (map[string]T, error) {
		members, ok := value.(map[string]any)
		if !ok {
			return nil, mismatch("an object", value)
		}
		result := make(map[string]T, len(members))
		for key, member := range members {
			each, err := read(member)
			if err != nil {
				return nil, within(key, err)
			}
			result[key] = each
		}
		return result, nil
	}
}`,
  },
  readAny: {
    text: `func readAny(value any) (any, error) {
	return value, nil
}`,
  },
  readNull: {
    needs: ['DecodeError'],
    text: `func readNull(value any) (any, error) {
	if value != nil {
		return nil, mismatch("null", value)
	}
	return nil, nil
}`,
  },
  readBool: {
    needs: ['DecodeError'],
    text: `func readBool(value any) (bool, error) {
	result, ok := value.(bool)
	if !ok {
		return false, mismatch("true or false", value)
	}
	return result, nil
}`,
  },
  readString: {
    needs: ['DecodeError'],
    text: `func readString(value any) (string, error) {
	result, ok := value.(string)
	if !ok {
		return "", mismatch("a string", value)
	}
	return result, nil
}`,
  },
  readLiteral: {
    imports: ['strconv'],
    needs: ['DecodeError'],
    text: `func readLiteral(expected string) func(any) (string, error) {
	return func(value any) (string, error) {
		if value != expected {
			return "", mismatch(strconv.Quote(expected), value)
		}
		return expected, nil
	}
}`,
  },
  readChoice: {
    needs: ['readString'],
    text: `func readChoice[T ~string](words ...T) func(any) (T, error) {
	return func(value any) (T, error) {
		text, err := readString(value)
		for _, word := range words {
			if err == nil && word == T(text) {
				return word, nil
			}
		}
		if err == nil {
			err = mismatch("a known word", value)
		}
		return "", err
	}
}`,
  },
  readOpenChoice: {
    needs: ['readString'],
    text: `func readOpenChoice[T ~string](value any) (T, error) {
	text, err := readString(value)
	return T(text), err
}`,
  },
  readInt32: {
    imports: ['encoding/json', 'strconv'],
    needs: ['DecodeError'],
    text: `func readInt32(value any) (int32, error) {
	number, ok := value.(json.Number)
	if ok {
		if result, err := strconv.ParseInt(number.String(), 10, 32); err == nil {
			return int32(result), nil
		}
	}
	return 0, mismatch("an integer of 32 bits", value)
}`,
  },
  readInt64: {
    imports: ['encoding/json', 'strconv'],
    needs: ['DecodeError'],
    text: `func readInt64(value any) (int64, error) {
	number, ok := value.(json.Number)
	if ok {
		if result, err := strconv.ParseInt(number.String(), 10, 64); err == nil {
			return result, nil
		}
	}
	return 0, mismatch("an integer of 64 bits", value)
}`,
  },
  readInteger: {
    imports: ['encoding/json', 'strings'],
    needs: ['DecodeError'],
    text: `func readInteger(value any) (json.Number, error) {
	number, ok := value.(json.Number)
	if !ok || strings.ContainsAny(number.String(), ".eE") {
		return "", mismatch("an integer", value)
	}
	return number, nil
}`,
  },
  readFloat: {
    imports: ['encoding/json'],
    needs: ['DecodeError'],
    text: `func readFloat(value any) (float64, error) {
	number, ok := value.(json.Number)
	if ok {
		if result, err := number.Float64(); err == nil {
			return result, nil
		}
	}
	return 0, mismatch("a number", value)
}`,
  },
  readDecimal: {
    imports: ['encoding/json'],
    needs: ['DecodeError'],
    text: `func readDecimal(value any) (json.Number, error) {
	number, ok := value.(json.Number)
	if !ok {
		return "", mismatch("a number", value)
	}
	return number, nil
}`,
  },
  arm: {
    text: `func arm[T any](read func(any) (T, error), value any, into **T) error {
	result, err := read(value)
	*into = &result
	return err
}`,
  },
  has: {
    text: `func has(object map[string]any, key string) bool {
	_, ok := object[key]
	return ok
}`,
  },
  kindOf: {
    imports: ['encoding/json'],
    text: `func kindOf(value any) string {
	switch value.(type) {
	case bool:
		return "boolean"
	case json.Number:
		return "number"
	case string:
		return "string"
	case []any:
		return "list"
	case map[string]any:
		return "object"
	default:
		return "null"
	}
}`,
  },
  describe: {
    imports: ['encoding/json', 'strconv'],
    text: `func describe(value any) string {
	switch value := value.(type) {
	case nil:
		return "null"
	case bool:
		return strconv.FormatBool(value)
	case json.Number:
		return value.String()
	case string:
		if runes := []rune(value); len(runes) > 40 {
			value = string(runes[:39]) + "…"
		}
		return strconv.Quote(value)
	case []any:
		return "a list"
	default:
		return "an object"
	}
}`,
  },
};

/** The names of a tuple's fields. */
export function positionName(index: number): string {
  return positions[index]!;
}

function tuple(size: number): Helper {
  const letters = 'ABCDEFGH'.slice(0, size).split('');
  const widest = Math.max(...positions.slice(0, size).map((name) => name.length));
  const fields = letters.map((letter, i) => `\t${positions[i]!.padEnd(widest)} ${letter}`).join('\n');
  const parameters = letters.join(', ');
  const readers = letters.map((letter) => `read${letter} func(any) (${letter}, error)`).join(', ');
  const reads = letters
    .map(
      (letter, i) =>
        `\t\tif result.${positions[i]}, err = read${letter}(items[${i}]); err != nil {\n\t\t\treturn result, within("${i}", err)\n\t\t}`,
    )
    .join('\n');
  return {
    imports: ['encoding/json'],
    needs: ['DecodeError', 'within'],
    text: `// Tuple${size} is a list of ${size} elements, each of a type of its own.
type Tuple${size}[${parameters} any] struct {
${fields}
}

// MarshalJSON writes the elements as a list.
func (t Tuple${size}[${parameters}]) MarshalJSON() ([]byte, error) {
	return json.Marshal([]any{${positions
    .slice(0, size)
    .map((name) => `t.${name}`)
    .join(', ')}})
}

func readTuple${size}[${parameters} any](${readers}) func(any) (Tuple${size}[${parameters}], error) {
	return func(value any) (Tuple${size}[${parameters}], error) {
		var result Tuple${size}[${parameters}]
		items, ok := value.([]any)
		if !ok || len(items) != ${size} {
			return result, mismatch("a list of ${size}", value)
		}
		var err error
${reads}
		return result, nil
	}
}`,
  };
}
