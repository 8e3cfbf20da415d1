package revision_test

import (
	"fmt"

	"envex/core/plan"
	"envex/core/revision"
)

// What is different between two versions of a thing.
func ExampleWords() {
	was := plan.Song{ID: "s", Title: "Ferry Lights", Tempo: plan.Tempo{BPM: 104}}
	is := was
	is.Tempo.BPM = 108
	for _, line := range revision.Words(&plan.Plan{}, was, is) {
		fmt.Println(line)
	}
	// Output:
	// tempo bpm: 104 to 108
}
