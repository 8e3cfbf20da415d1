package soundcheck_test

import (
	"context"
	"fmt"

	"envex/core/plan"
	"envex/core/signal"
	"envex/core/soundcheck"
	"envex/demo"
)

// What two minutes are enough for.
func ExampleFor() {
	p, err := plan.Decode(demo.File)
	if err != nil {
		panic(err)
	}
	r, err := soundcheck.For(context.Background(), p, "quay-12", "", 2, signal.Options{})
	if err != nil {
		panic(err)
	}
	for _, c := range r.Checks {
		fmt.Printf("%g min  %s\n", c.Minutes, c.Kind)
	}
	fmt.Println(len(r.Left), "left out")
	// Output:
	// 0.5 min  lines
	// 1.5 min  levels
	// 5 left out
}
