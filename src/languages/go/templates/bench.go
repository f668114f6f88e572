package main

import (
	"bufio"
	"bytes"
	"encoding/json"
	"errors"
	"os"
	"reflect"
	"strconv"
	"strings"

	classes "skevo.example/bench/classes"
)

type payload = classes.__Root__

const separator = "\x1e"

// ways are how programs decode and encode a payload.
var ways = []func(text []byte) ([]byte, error){plain, inField, inElements, streamed, built}

func plain(text []byte) ([]byte, error) {
	var value payload
	if err := json.Unmarshal(text, &value); err != nil {
		return nil, err
	}
	return json.Marshal(value)
}

type host struct {
	Before  int     `json:"before"`
	Payload payload `json:"payload"`
	After   int     `json:"after"`
}

func inField(text []byte) ([]byte, error) {
	var value host
	if err := json.Unmarshal(around(`{"before":1,"payload":`, text, `,"after":2}`), &value); err != nil {
		return nil, err
	}
	if value.Before != 1 || value.After != 2 {
		return nil, errors.New("the fields beside the payload are lost")
	}
	return within(`{"before":1,"payload":`, value, `,"after":2}`)
}

func inElements(text []byte) ([]byte, error) {
	var list []payload
	if err := json.Unmarshal(around(`[`, text, `]`), &list); err != nil {
		return nil, err
	}
	byName := map[string]payload{}
	if err := json.Unmarshal(around(`{"only":`, text, `}`), &byName); err != nil {
		return nil, err
	}
	if !reflect.DeepEqual(list[0], byName["only"]) {
		return nil, errors.New("an element of a list and one of a map differ")
	}
	if _, err := within(`[`, list, `]`); err != nil {
		return nil, err
	}
	return within(`{"only":`, byName, `}`)
}

func around(before string, text []byte, after string) []byte {
	return append(append([]byte(before), text...), after...)
}

func within(before string, value any, after string) ([]byte, error) {
	text, err := json.Marshal(value)
	if err == nil && !(bytes.HasPrefix(text, []byte(before)) && bytes.HasSuffix(text, []byte(after))) {
		err = errors.New("what is around the payload has changed")
	}
	if err != nil {
		return nil, err
	}
	return text[len(before) : len(text)-len(after)], nil
}

func streamed(text []byte) ([]byte, error) {
	var value payload
	decoder := json.NewDecoder(bytes.NewReader(text))
	decoder.UseNumber()
	if err := decoder.Decode(&value); err != nil {
		return nil, err
	}
	var out bytes.Buffer
	encoder := json.NewEncoder(&out)
	encoder.SetEscapeHTML(false)
	err := encoder.Encode(value)
	return bytes.TrimSpace(out.Bytes()), err
}

func built(text []byte) ([]byte, error) {
	var value payload
	if err := json.Unmarshal(text, &value); err != nil {
		return nil, err
	}
	//: if literal
	again := payload{
		//: columns all
		__Field__: value.__Field__,
		//: end
	}
	//: else
	again := value
	//: end
	//: if arms
	switch detail := value.__Detail__.(type) {
	//: each arms
	case *classes.__Arm__:
		again.__Detail__ = &classes.__Arm__{
			//: columns fields
			__Field__: detail.__Field__,
			//: end
		}
	//: end
	}
	//: end
	if !reflect.DeepEqual(value, again) {
		return nil, errors.New("what was built is not equal to what was decoded")
	}
	//: each lists
	if len(again.__Field__) == 0 {
		again.__Field__ = nil // as it is when nobody says anything
	}
	//: end
	return json.Marshal(again)
}

var setters = map[string]func(value, other *payload){
	//: each fields
	"__i__": func(value, other *payload) { value.__Field__ = other.__Field__ },
	//: end
}

// changed sets one field of a payload to what it is in another.
func changed(field string, text, from []byte) ([]byte, error) {
	var value, other payload
	if err := json.Unmarshal(text, &value); err != nil {
		return nil, err
	}
	if err := json.Unmarshal(from, &other); err != nil {
		return nil, err
	}
	if set, ok := setters[field]; ok {
		set(&value, &other)
		return json.Marshal(value)
	}
	return nil, errors.New("there is no field " + strconv.Quote(field))
}

func answer(line []byte) string {
	if parts := strings.Split(string(line), separator); len(parts) == 4 {
		return said(changed(parts[1], []byte(parts[2]), []byte(parts[3])))
	}
	answers := make([]string, len(ways))
	for i, way := range ways {
		answers[i] = said(way(line))
		if i > 0 && answers[i] == answers[0] {
			answers[i] = "="
		}
	}
	return strings.Join(answers, separator)
}

func said(text []byte, err error) string {
	if err != nil {
		return "!" + strings.Join(strings.Fields(strings.ReplaceAll(err.Error(), separator, " ")), " ")
	}
	return string(text)
}

func main() {
	input := bufio.NewReaderSize(os.Stdin, 1<<16)
	for {
		line, err := input.ReadBytes('\n')
		if len(line) > 0 {
			os.Stdout.WriteString(answer(bytes.TrimSuffix(line, []byte{'\n'})) + "\n")
		}
		if err != nil {
			return
		}
	}
}
