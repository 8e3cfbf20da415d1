package electric_test

import (
	"fmt"

	"envex/core/electric"
	"envex/core/plan"
	"envex/demo"
)

// The treble that cables and switched-off pedals take from each sound.
func ExampleSolve() {
	p, err := plan.Decode(demo.File)
	if err != nil {
		panic(err)
	}
	r, err := electric.Solve(p, "long", "", electric.Options{SetList: "quay-set"})
	if err != nil {
		panic(err)
	}
	fmt.Printf("%s: %.1f dB at 5 kHz\n", r.Sounds[0].Name, r.Sounds[0].Loss5k)
	// Output:
	// Home: 10.4 dB at 5 kHz
}
