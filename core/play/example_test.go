package play_test

import (
	"fmt"

	"envex/core/plan"
	"envex/core/play"
	"envex/demo"
)

// A set as it is rehearsed: when each section begins.
func ExampleRead() {
	p, err := plan.Decode(demo.File)
	if err != nil {
		panic(err)
	}
	s, err := play.Read(p, "long", "", "quay-set")
	if err != nil {
		panic(err)
	}
	first := s.Songs[0]
	fmt.Printf("%s: %s at %.1f s\n", first.Title, first.Sections[1].Label, first.Sections[1].FromS)
	// Output:
	// Ferry Lights: Verse at 8.7 s
}
