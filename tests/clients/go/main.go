// An application over the payloads of the ferries, with the library's own calls.
package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"time"

	"saltmere.example/client/sailings"
)

func main() {
	if len(os.Args) < 2 {
		log.Fatal("name the folder of the payloads")
	}
	for _, step := range []func(string) error{page, notices, built, refused} {
		if err := step(os.Args[1]); err != nil {
			log.Fatal(err)
		}
	}
}

func page(demo string) error {
	text, err := os.ReadFile(filepath.Join(demo, "sailings", "page-1.json"))
	if err != nil {
		return err
	}
	var page sailings.SailingPage
	if err := json.Unmarshal(text, &page); err != nil {
		return err
	}
	fmt.Println("page", page.Page, "of", page.Pages)
	for _, sailing := range page.Results {
		delay := "on time"
		if minutes, ok := sailing.DelayMinutes.Get(); ok {
			delay = fmt.Sprint(minutes, " minutes late")
		} else if sailing.DelayMinutes.IsSet() {
			delay = "some time"
		}
		var gates []string
		for _, leg := range sailing.Legs {
			if gate, ok := leg.Gate.Get(); ok {
				gates = append(gates, gate)
			}
		}
		fmt.Printf("%s %s, gates %s\n", sailing.Code, delay, strings.Join(gates, " "))
	}
	first := &page.Results[0]
	first.DelayMinutes.Set(3)
	first.Remarks = nil
	changed, err := firstOf(page)
	if err != nil {
		return err
	}
	fmt.Printf("%s %s\n", changed["delay_minutes"], changed["remarks"])
	first.DelayMinutes.Clear()
	cleared, err := firstOf(page)
	if err != nil {
		return err
	}
	_, isThere := cleared["delay_minutes"]
	fmt.Println(isThere)
	whole, err := json.Marshal(page)
	if err != nil {
		return err
	}
	var again sailings.SailingPage
	if err := json.Unmarshal(whole, &again); err != nil {
		return err
	}
	fmt.Println(reflect.DeepEqual(again, page))
	byVessel := map[sailings.Vessel]sailings.SailingPageItem{}
	for _, sailing := range page.Results {
		byVessel[sailing.Vessel] = sailing
	}
	fmt.Println(len(byVessel), "vessels")
	return nil
}

// firstOf is the first sailing of a page, as it is in JSON.
func firstOf(page sailings.SailingPage) (map[string]json.RawMessage, error) {
	text, err := json.Marshal(page.Results[0])
	if err != nil {
		return nil, err
	}
	var fields map[string]json.RawMessage
	return fields, json.Unmarshal(text, &fields)
}

func notices(demo string) error {
	for number := 1; number <= 4; number++ {
		text, err := os.ReadFile(filepath.Join(demo, "notices", fmt.Sprintf("notice-%d.json", number)))
		if err != nil {
			return err
		}
		var notice sailings.Notice
		if err := json.Unmarshal(text, &notice); err != nil {
			return err
		}
		var about string
		switch detail := notice.Detail.(type) {
		case *sailings.ClosureNotice:
			about = detail.Berth + " is closed"
			if detail.Until != nil {
				about += " until " + detail.Until.Format(time.RFC3339)
			}
		case *sailings.DelayNotice:
			about = fmt.Sprintf("%s is %d late", detail.Sailing, detail.Minutes)
		case *sailings.WeatherNotice:
			about = fmt.Sprintf("wind %s of %d", detail.Wind.From, detail.Wind.Force)
		}
		fmt.Printf("%s: %s, %d comments\n", notice.Title, about, len(notice.Comments))
	}
	return nil
}

func built(string) error {
	issued := time.Date(2031, time.May, 1, 7, 30, 0, 0, time.FixedZone("", 60*60))
	notice := sailings.Notice{
		ID:     1,
		Issued: issued,
		Title:  "Berth N2",
		Comments: []sailings.Comment{
			{By: "clerk a", At: issued.Add(30 * time.Minute), Text: "Seen.", Replies: []sailings.Comment{}},
		},
		Audience: sailings.AudienceListOrText{Value: sailings.AudienceListOrTextText("crew")},
		Detail:   &sailings.ClosureNotice{Berth: "N2"},
	}
	text, err := json.Marshal(notice)
	if err != nil {
		return err
	}
	var value map[string]json.RawMessage
	if err := json.Unmarshal(text, &value); err != nil {
		return err
	}
	fmt.Printf("%s %s %s\n", value["kind"], value["until"], value["audience"])
	var again sailings.Notice
	if err := json.Unmarshal(text, &again); err != nil {
		return err
	}
	byID := map[int64]sailings.Notice{notice.ID: notice, again.ID: again}
	fmt.Println(reflect.DeepEqual(again, notice), len(byID))
	if _, err := json.Marshal(sailings.Notice{}); err == nil {
		return errors.New("a notice of no kind is written")
	}
	return nil
}

func refused(string) error {
	for _, bad := range [][2]string{
		{"seq", `{"page":1,"pages":1,"next":null,"results":[{"id":1}]}`},
		{"pages", `{"page":1,"pages":"1","next":null,"results":[]}`},
		{"next", `{"page":1,"pages":1,"results":[]}`},
		{"page", `{"page":1,"pages":1,"next":null,`},
	} {
		var page sailings.SailingPage
		switch err := json.Unmarshal([]byte(bad[1]), &page); {
		case err == nil:
			fmt.Println(bad[0] + ": decoded")
		default:
			fmt.Println(bad[0] + ": refused")
		}
	}
	return nil
}
