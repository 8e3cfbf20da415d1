package shorthand_test

import (
	"fmt"

	"envex/core/plan"
	"envex/core/shorthand"
)

// A chain in a player's own words.
func ExampleReadChain() {
	r, err := shorthand.ReadChain("tuner, 2 x mid hump drive, hall reverb > combo with loop", &plan.Plan{})
	if err != nil {
		panic(err)
	}
	for _, chip := range r.Chips {
		fmt.Println(chip.Name, chip.Effect)
	}
	// Output:
	// Tuner tuner
	// Mid hump drive overdrive
	// Hall reverb reverb
	// Combo with loop preamp
}
