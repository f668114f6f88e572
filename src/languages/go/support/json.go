// unmarshal decodes a payload, and leaves what is there alone on failure.
func unmarshal[T any](text []byte, into *T) error {
	var read T
	if err := decode(text, &read, reflect.TypeFor[T]().Name()); err != nil {
		return err
	}
	*into = read
	return nil
}

// assign decodes a T for a field of the interface type I.
func assign[T, I any](text []byte, into *I) error {
	var read T
	if err := decode(text, &read, ""); err != nil {
		return err
	}
	*into = any(read).(I)
	return nil
}

//: if plain

// decode is json.Unmarshal.
func decode(text []byte, into any, _ string) error { return json.Unmarshal(text, into) }

// encode is json.Marshal.
func encode(value any) ([]byte, error) { return json.Marshal(value) }

// unmarshalOpen decodes a struct, and returns the members that it does not have beside it.
func unmarshalOpen[T, V any](text []byte) (T, map[string]V, error) {
	var read T
	if err := json.Unmarshal(text, &read); err != nil {
		return read, nil, err
	}
	unknown, err := others[V](text, &read)
	return read, unknown, err
}

//: else

// unmarshalOpen decodes a payload, and returns the members that T does not have beside it.
func unmarshalOpen[T, V any](text []byte) (T, map[string]V, error) {
	var read T
	err := decodeAs(cursor{text: text, open: reflect.TypeFor[T]()}, &read, reflect.TypeFor[T]().Name())
	if err != nil {
		return read, nil, err
	}
	unknown, err := others[V](text, &read)
	return read, unknown, err
}

// decode is json.Unmarshal, and refuses what that lets pass: a missing key, a key that is there twice or in
// other letters, null where the type has no place for it, and text that is not Unicode. Errors bear the name.
func decode(text []byte, into any, name string) error {
	return decodeAs(cursor{text: text}, into, name)
}

// decodeAs is decode with what is known of the text.
func decodeAs(c cursor, into any, name string) error {
	t := reflect.TypeOf(into).Elem()
	err := json.Unmarshal(c.text, into)
	if err != nil {
		err = located(err, c.text, t)
	} else {
		err = c.check(t, takesNull(t))
		if err == nil && (c.broken || !utf8.Valid(c.text)) {
			err = mismatch(t, "text that is not Unicode")
		}
	}
	if wrong, ok := err.(*json.UnmarshalTypeError); ok && wrong.Field != "" {
		wrong.Struct = name
	}
	return err
}

// located is the library's error with the path of JSON: the library has no indexes and no keys of maps in it, and has
// the names of embedded structs.
func located(err error, text []byte, t reflect.Type) error {
	wrong, ok := err.(*json.UnmarshalTypeError)
	if !ok {
		//: if natives
		c := cursor{text: text, probing: json.Valid(text)}
		if found := c.check(t, takesNull(t)); c.probing && found != nil {
			return found
		}
		//: end
		return err
	}
	if wrong.Offset > 0 {
		c := cursor{text: text}
		wrong.Field, wrong.Offset = strings.Join(c.pathTo(int(wrong.Offset)), "."), 0
		return err
	}
	for i := 0; t.Kind() == reflect.Struct && i < t.NumField() && t.Field(i).Anonymous; i++ {
		wrong.Field = strings.TrimPrefix(wrong.Field, t.Field(i).Name+".")
	}
	return err
}

// encode is json.Marshal, with [] and {} for lists and maps that are nil.
func encode(value any) ([]byte, error) {
	text, err := json.Marshal(value)
	if err != nil || !bytes.Contains(text, []byte("null")) {
		return text, err
	}
	t := reflect.TypeOf(value)
	c := cursor{text: text, writing: true}
	if err := c.check(t, takesNull(t)); err != nil {
		return nil, err
	}
	return append(c.written, text[c.from:]...), nil
}

//: end

// pathTo is the keys and indexes that lead to what ends behind an offset.
func (c *cursor) pathTo(offset int) []string {
	for i, key := range c.steps() {
		c.next()
		start := c.at
		c.skip()
		if start >= offset || c.at < offset {
			continue
		}
		step := string(key)
		if key == nil {
			step = strconv.Itoa(i)
		}
		inner := cursor{text: c.text[:c.at], at: start}
		return append([]string{step}, inner.pathTo(offset)...)
	}
	return nil
}

// marshal writes the members of all parts as one object.
func marshal(parts ...any) ([]byte, error) {
	object := []byte{'{'}
	for _, part := range parts {
		text, err := encode(part)
		if err != nil {
			return nil, err
		}
		//: if plain
		if string(text) == "null" {
			continue
		}
		//: end
		if text[0] != '{' {
			return nil, mismatch(reflect.TypeOf(part), kindOf(text))
		}
		if len(text) > len("{}") {
			object = append(append(object, text[1:len(text)-1]...), ',')
		}
	}
	return append(bytes.TrimSuffix(object, []byte{','}), '}'), nil
}

// unmarshalList decodes a list of as many elements as there are places for them.
func unmarshalList(text []byte, into ...any) error {
	c := cursor{text: text}
	count := 0
	if kindOf(text) == "array" {
		for i := range c.steps() {
			value := c.value()
			if count++; count > len(into) {
				break
			}
			if err := decode(value, into[i], ""); err != nil {
				return within(strconv.Itoa(i), err)
			}
		}
	}
	if count != len(into) {
		return mismatch(reflect.TypeFor[[]any](), kindOf(text)+" that is no list of "+strconv.Itoa(len(into)))
	}
	return nil
}

// marshalList writes the values as one list.
func marshalList(values ...any) ([]byte, error) {
	list := []byte{'['}
	for _, value := range values {
		text, err := encode(value)
		if err != nil {
			return nil, err
		}
		list = append(append(list, text...), ',')
	}
	return append(bytes.TrimSuffix(list, []byte{','}), ']'), nil
}

// wordUnder is what an alternative is told by; nothing where it holds the word itself.
func wordUnder(key, word string) map[string]string {
	if word == "" {
		return map[string]string{}
	}
	return map[string]string{key: word}
}

// tag is the word under a key of an object.
func tag(text []byte, key string) (word string) {
	c := cursor{text: text}
	for _, k := range c.steps() {
		if value := c.value(); string(k) == key {
			_ = json.Unmarshal(value, &word)
			break
		}
	}
	return word
}

// has reports whether an object has a key.
func has(text []byte, key string) bool {
	c := cursor{text: text}
	for _, k := range c.steps() {
		if string(k) == key {
			return true
		}
		c.value()
	}
	return false
}

// kindOf is the kind of a JSON value, as the library calls it.
func kindOf(text []byte) string {
	for _, b := range text {
		switch b {
		case ' ', '\t', '\r', '\n':
		case '{':
			return "object"
		case '[':
			return "array"
		case '"':
			return "string"
		case 't', 'f':
			return "bool"
		case 'n':
			return "null"
		default:
			return "number"
		}
	}
	return "nothing"
}

// others are the members of an object that the struct it was decoded into does not have; nil when there are none.
func others[V any](text []byte, into any) (map[string]V, error) {
	var others map[string]V
	known := shapeOf(reflect.TypeOf(into)).members
	c := cursor{text: text}
	for _, key := range c.steps() {
		value := c.value()
		if _, ok := known[string(key)]; ok {
			continue
		}
		var other V
		if err := decode(value, &other, ""); err != nil {
			return nil, within(string(key), err)
		}
		if others == nil {
			others = map[string]V{}
		}
		others[string(key)] = other
	}
	return others, nil
}

// bothWays leads from each of two keys to the other.
func bothWays(pairs ...string) map[string]string {
	keys := make(map[string]string, len(pairs))
	for i := 0; i < len(pairs); i += 2 {
		keys[pairs[i]], keys[pairs[i+1]] = pairs[i+1], pairs[i]
	}
	return keys
}

// swap gives members of an object other keys.
func swap(text []byte, keys map[string]string) []byte {
	var swapped []byte
	from := 0
	c := cursor{text: text}
	for range c.steps() {
		if to, ok := keys[string(c.lastKey)]; ok {
			key, _ := json.Marshal(to)
			swapped = append(append(append(swapped, text[from:c.keyStart]...), key...), ':')
			from = c.at
		}
		c.value()
	}
	return append(swapped, text[from:]...)
}

// swapped is an error with the key that people know.
func swapped(err error, keys map[string]string) error {
	if wrong, ok := err.(*json.UnmarshalTypeError); ok {
		first, rest, more := strings.Cut(wrong.Field, ".")
		if key, ok := keys[first]; ok {
			wrong.Field = key
			if more {
				wrong.Field += "." + rest
			}
		}
	}
	return err
}

// mismatch is the library's own error, to which the library adds the path.
func mismatch(t reflect.Type, value string) error {
	return &json.UnmarshalTypeError{Value: value, Type: t}
}

// untold is the error of an alternative that no known word tells.
func untold(t reflect.Type, key, word string) error {
	value := "nothing"
	if word != "" {
		value = strconv.Quote(word)
	}
	return &json.UnmarshalTypeError{Value: value, Type: t, Struct: t.Name(), Field: key}
}

// within is the same error, seen from around it.
func within(step string, err error) error {
	if wrong, ok := err.(*json.UnmarshalTypeError); ok {
		wrong.Field = strings.TrimSuffix(step+"."+wrong.Field, ".")
	}
	return err
}

// shape is what a type asks of JSON: members of an object, elements of a list or map, or nothing.
type shape struct {
	keys     []string
	members  map[string]member
	element  reflect.Type
	nullable bool
}

// member is what a struct asks of the value under a key.
type member struct {
	index              int
	typ                reflect.Type
	optional, nullable bool
}

// shapes has what was found of types.
var shapes sync.Map // from reflect.Type to shape

// takesNull reports whether null is a value of a type.
func takesNull(t reflect.Type) bool {
	return t.Kind() == reflect.Pointer || t == reflect.TypeFor[json.RawMessage]() ||
		t.Implements(reflect.TypeFor[interface{ nullable() }]())
}

// shapeOf is the shape of a type.
func shapeOf(t reflect.Type) shape {
	if known, ok := shapes.Load(t); ok {
		return known.(shape)
	}
	var s shape
	switch kind := t.Kind(); {
	case kind == reflect.Pointer:
		s = shapeOf(t.Elem())
	case reflect.PointerTo(t).Implements(reflect.TypeFor[json.Unmarshaler]()):
	case kind == reflect.Slice || kind == reflect.Map:
		s.element, s.nullable = t.Elem(), takesNull(t.Elem())
	case kind == reflect.Struct:
		s.members = map[string]member{}
		s.add(t)
	}
	shapes.Store(t, s)
	return s
}

// add adds the members of a struct.
func (s *shape) add(t reflect.Type) {
	for i := range t.NumField() {
		field := t.Field(i)
		if field.Anonymous {
			s.add(field.Type.Elem())
			continue
		}
		tag := field.Tag.Get("json")
		if tag == "" || tag == "-" {
			continue
		}
		key, options, _ := strings.Cut(tag, ",")
		m := member{index: len(s.members), typ: field.Type, optional: options == "omitzero"}
		isPointer := field.Type.Kind() == reflect.Pointer
		m.nullable = takesNull(field.Type) && !(isPointer && m.optional)
		s.keys = append(s.keys, key)
		s.members[key] = m
	}
}

// cursor goes through valid JSON.
//: if plain
type cursor struct {
	text     []byte
	at       int
	keyStart int // where the last key began
	lastKey  []byte
}
//: else
type cursor struct {
	text   []byte
	at     int
	broken bool // a string had half a surrogate pair

	open reflect.Type // a struct that may have members beside its own

	keyStart int // where the last key began
	lastKey  []byte

	//: if natives
	probing bool // where the library says that a string is wrong, and not where

	//: end
	writing bool
	written []byte // text with nil lists and maps replaced, as far as from
	from    int
}
//: end

// check compares the value at the cursor with the type that it is decoded into or written from.
func (c *cursor) check(t reflect.Type, nullable bool) error {
	open := c.next()
	if open == 'n' && !nullable && !c.fill(t) {
		return mismatch(t, "null")
	}
	//: if bytes
	if raw := reflect.TypeFor[[]byte](); open == '[' && (t == raw || t == reflect.PointerTo(raw)) {
		return mismatch(t, "array")
	}
	//: end
	if open != '{' && open != '[' {
		//: if natives
		if c.probing && open == '"' {
			if text := c.value(); json.Unmarshal(text, reflect.New(t).Interface()) != nil {
				return mismatch(t, string(text))
			}
			return nil
		}
		//: end
		//: if digits
		for ; t.Kind() == reflect.Pointer; t = t.Elem() {
		}
		if open == '"' && t == reflect.TypeFor[json.Number]() {
			return mismatch(t, "string")
		}
		//: end
		c.skip()
		return nil
	}
	s := shapeOf(t)
	seen := make([]bool, len(s.members))
	for i, key := range c.steps() {
		var err error
		m, known := s.members[string(key)]
		switch {
		case s.element != nil:
			err = c.check(s.element, s.nullable)
		case !known:
			c.skip()
			if t != c.open {
				err = s.strange(key)
			}
		case seen[m.index]:
			err = mismatch(m.typ, "a second value")
		default:
			seen[m.index] = true
			err = c.check(m.typ, m.nullable)
		}
		if err != nil && open == '[' {
			return within(strconv.Itoa(i), err)
		}
		if err != nil {
			return within(string(key), err)
		}
	}
	for _, key := range s.keys {
		if m := s.members[key]; !seen[m.index] && !m.optional {
			return within(key, mismatch(m.typ, "nothing"))
		}
	}
	return nil
}

//: if rejects

// strange refuses a key that a struct does not have.
func (s shape) strange(key []byte) error {
	if s.members == nil {
		return nil
	}
	return mismatch(reflect.TypeFor[struct{}](), "a field that is not known")
}

//: else

// strange refuses a key that encoding/json takes for a known one because only the case of letters differs.
func (s shape) strange(key []byte) error {
	for _, known := range s.keys {
		if strings.EqualFold(known, string(key)) {
			return mismatch(s.members[known].typ, strconv.Quote(string(key))+" in place of "+strconv.Quote(known))
		}
	}
	return nil
}

//: end

// fill replaces null by the empty list or map, where one was written.
func (c *cursor) fill(t reflect.Type) bool {
	empty, ok := map[reflect.Kind]string{reflect.Slice: "[]", reflect.Map: "{}"}[t.Kind()]
	//: if bytes
	if t == reflect.TypeFor[[]byte]() {
		empty = `""`
	}
	//: end
	if ok = ok && c.writing; ok {
		c.written = append(append(c.written, c.text[c.from:c.at]...), empty...)
		c.from = c.at + len("null")
	}
	return ok
}

// steps yields the indexes of a list or the indexes and keys of an object. Whoever takes one takes the value too.
func (c *cursor) steps() iter.Seq2[int, []byte] {
	return func(yield func(int, []byte) bool) {
		open := c.next()
		for i, more := 0, open == '{' || open == '['; more; i++ {
			c.forth(1)
			if c.next() == open+2 { // the closing bracket
				break
			}
			var key []byte
			if open == '{' {
				key = c.key()
			}
			if !yield(i, key) {
				return
			}
			more = c.next() == ','
		}
		c.forth(1)
	}
}

// key takes the key at the cursor, and its colon.
func (c *cursor) key() []byte {
	c.next()
	c.keyStart = c.at
	key := c.value()
	c.forth(1)
	c.lastKey = bytes.Trim(key, `"`)
	if bytes.IndexByte(key, '\\') >= 0 {
		var plain string
		_ = json.Unmarshal(key, &plain)
		c.lastKey = []byte(plain)
	}
	return c.lastKey
}

// value takes the value at the cursor.
func (c *cursor) value() []byte {
	c.next()
	start := c.at
	c.skip()
	return bytes.TrimSpace(c.text[start:c.at])
}

// forth goes on, not beyond the end.
func (c *cursor) forth(bytes int) { c.at = min(c.at+bytes, len(c.text)) }

// next is the byte behind blanks, 0 at the end.
func (c *cursor) next() byte {
	for ; c.at < len(c.text); c.at++ {
		if b := c.text[c.at]; b > ' ' {
			return b
		}
	}
	return 0
}

// skip goes to the comma, colon or bracket behind a value.
func (c *cursor) skip() {
	for depth := 0; c.at < len(c.text); c.forth(1) {
		switch c.text[c.at] {
		case '"':
			c.skipString()
		case '{', '[':
			depth++
		case '}', ']', ',', ':':
			if depth == 0 {
				return
			}
			if b := c.text[c.at]; b == '}' || b == ']' {
				depth--
			}
		}
	}
}

// skipString goes to the last quote of a string.
func (c *cursor) skipString() {
	for c.forth(1); c.at < len(c.text) && c.text[c.at] != '"'; c.forth(1) {
		if c.text[c.at] != '\\' {
			continue
		}
		//: if !plain
		if half := escape(c.text[c.at:]); utf16.IsSurrogate(half) {
			c.forth(len(`\ud800`))
			c.broken = c.broken || utf16.DecodeRune(half, escape(c.text[c.at:])) == unicode.ReplacementChar
		}
		//: end
		c.forth(1)
	}
}

// escape is the character of an escape like \u00e9, 0 where another follows.
func escape(text []byte) rune {
	if len(text) < 6 || text[1] != 'u' {
		return 0
	}
	r, _ := strconv.ParseUint(string(text[2:6]), 16, 32)
	return rune(r)
}
