package setorder_test

import (
	"context"
	"fmt"

	"envex/core/plan"
	"envex/core/setorder"
	"envex/demo"
)

// Which guitar changes the demo's set has, and the fewest it can have.
func ExampleFind() {
	p, err := plan.Decode(demo.File)
	if err != nil {
		panic(err)
	}
	r, err := setorder.Find(context.Background(), p, "long", "quay-set")
	if err != nil {
		panic(err)
	}
	for _, c := range r.Now.Changes {
		fmt.Printf("%s: %s, %.0f s of %.0f s\n", c.Title, c.Words, c.Seconds, c.GapS)
	}
	if r.Offered != nil {
		fmt.Printf("%d changes, %.0f s\n", len(r.Offered.Changes), r.Offered.Seconds)
	}
	// Output:
	// Lamp Room Waltz: change guitar to Bulkhead, 12 s of 30 s
	// Winch Song: tune 1 string to standard, 8 s of 15 s
	// Slack Water: change guitar to Driftwood, 12 s of 30 s
	// 2 changes, 20 s
}
