package layers_test

import (
	"fmt"
	"os"

	"envex/core/layers"
	"envex/core/plan"
)

// What a looper is pressed for over a set.
func ExampleCompute() {
	data, err := os.ReadFile("../../testdata/rigs/looper/rig.envex.json")
	if err != nil {
		panic(err)
	}
	p, err := plan.Decode(data)
	if err != nil {
		panic(err)
	}
	r, err := layers.Compute(p, p.Rigs[0].ID, "", p.SetLists[0].ID)
	if err != nil {
		panic(err)
	}
	for _, press := range r.Songs[0].Presses[:2] {
		fmt.Println(press.Words)
	}
	// Output:
	// Record Bass with Round
	// Close Bass, and at once: Lay Chords over it with Round
}
