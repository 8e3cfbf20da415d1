package reach_test

import (
	"fmt"

	"envex/core/plan"
	"envex/core/reach"
	"envex/demo"
)

// How many changes of a set a player reaches in time.
func ExampleCompute() {
	p, err := plan.Decode(demo.File)
	if err != nil {
		panic(err)
	}
	r, err := reach.Compute(p, "long", "quay-set")
	if err != nil {
		panic(err)
	}
	fmt.Printf("%d of %d\n", r.Reach.Reached, r.Reach.Total)
	// Output:
	// 71 of 76
}
