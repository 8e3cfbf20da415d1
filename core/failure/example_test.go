package failure_test

import (
	"fmt"

	"envex/core/failure"
	"envex/core/plan"
	"envex/demo"
)

func Example() {
	p, err := plan.Decode(demo.File)
	if err != nil {
		panic(err)
	}
	rig, err := failure.On(p, "long", "", "quay-set")
	if err != nil {
		panic(err)
	}
	fate, err := rig.Without("rotor")
	if err != nil {
		panic(err)
	}
	for _, s := range fate.Sounds {
		if s.State == failure.Lost {
			fmt.Printf("%s: %s\n", s.Name, s.Without)
		}
	}
	fmt.Println(fate.Round)
	// Output:
	// Shimmer: no vibe
	// leave it off: true bypass passes the signal; if it does not, lead from Silt output to Pier combo input
}
