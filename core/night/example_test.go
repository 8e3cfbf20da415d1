package night_test

import (
	"fmt"

	"envex/core/night"
	"envex/core/plan"
	"envex/demo"
)

// The vibe fails before the show: what its sections are played with, and what is done about it.
func ExampleOn() {
	p, err := plan.Decode(demo.File)
	if err != nil {
		panic(err)
	}
	e, err := night.On(p, "quay-12", "", []night.Event{
		{ID: "1", Kind: night.Broke, Gear: "rotor", Way: &night.Way{Round: night.LeaveOut}},
	})
	if err != nil {
		panic(err)
	}
	fmt.Println(e.Troubles[0].Words)
	for _, s := range e.Steps {
		if s.Without != "" {
			fmt.Printf("%s, %s: %s, %s\n", s.Title, s.Label, s.Name, s.Without)
			break
		}
	}
	// Output:
	// leave it off: true bypass passes the signal; if it does not, lead from Silt output to Pier combo input
	// Low Tide Cumbia, Chorus: Shimmer, no vibe
}
