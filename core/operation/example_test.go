package operation_test

import (
	"fmt"

	"envex/core/operation"
	"envex/core/plan"
)

// One field of a song is changed, if it is what was seen.
func ExampleApply() {
	song := plan.Song{ID: "ferry-lights", Title: "Ferry Lights", Sections: []plan.Section{}}
	rename := operation.Op{
		Do: "set", Path: []operation.Step{{Key: "title"}}, Was: "Ferry Lights", To: "Harbour Lights",
	}
	changed, err := operation.Apply(song, []operation.Op{rename})
	if err != nil {
		panic(err)
	}
	fmt.Println(changed.(plan.Song).Title)
	// Output:
	// Harbour Lights
}
