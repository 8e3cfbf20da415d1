package plan_test

import (
	"fmt"

	"envex/core/plan"
)

// A file that is not valid is refused by the path of each thing that is wrong.
func ExampleDecode() {
	_, err := plan.Decode([]byte(`{
		"format": "envex", "version": 2, "gear": [], "sounds": [], "set_lists": [], "rigs": [], "shows": [],
		"songs": [{"id": "s", "title": "Ferry Lights", "tempo": {"bpm": 900}, "meter": {"beats": 4, "unit": 4}, "sections": []}]
	}`))
	fmt.Println(err)
	// Output:
	// songs[0].tempo.bpm: 900 is outside 20 to 400
}
