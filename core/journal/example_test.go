package journal_test

import (
	"fmt"

	"envex/core/journal"
	"envex/core/plan"
	"envex/demo"
)

// What was written down of shows, about one box.
func ExampleRead() {
	p, err := plan.Decode(demo.File)
	if err != nil {
		panic(err)
	}
	for _, line := range journal.Read(p, journal.Query{Text: "stairs"}) {
		fmt.Println(line.Text)
	}
	// Output:
	// Stairs: carry the combo with two. Stage right, next to the horns.
}
