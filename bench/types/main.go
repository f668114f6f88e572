// Times the library on a file of a list: as anything, and as the generated types, in turn.
package main

import (
	"encoding/json"
	"fmt"
	"os"
	"time"

	"skevo.example/types/sailings"
)

func timed[T any](text []byte) (decode, encode time.Duration) {
	start := time.Now()
	var value T
	if err := json.Unmarshal(text, &value); err != nil {
		panic(err)
	}
	decode = time.Since(start)
	start = time.Now()
	if _, err := json.Marshal(value); err != nil {
		panic(err)
	}
	return decode, time.Since(start)
}

func main() {
	for _, name := range []string{"notices", "sailings"} {
		text, err := os.ReadFile(os.Args[1] + "/" + name + ".json")
		if err != nil {
			panic(err)
		}
		for range 9 {
			plainDecode, plainEncode := timed[any](text)
			var decode, encode time.Duration
			if name == "notices" {
				decode, encode = timed[[]sailings.Notice](text)
			} else {
				decode, encode = timed[[]sailings.SailingPageItem](text)
			}
			fmt.Println(name, plainDecode.Seconds(), plainEncode.Seconds(), decode.Seconds(), encode.Seconds())
		}
	}
}
