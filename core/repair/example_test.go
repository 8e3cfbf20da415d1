package repair_test

import (
	"context"
	"fmt"

	"envex/core/plan"
	"envex/core/repair"
	"envex/demo"
)

// What would mend a change that fails, checked on the whole show.
func ExampleFind() {
	p, err := plan.Decode(demo.File)
	if err != nil {
		panic(err)
	}
	r, err := repair.Find(context.Background(), p, repair.Site{Rig: "long"}, "quay-set", repair.Options{})
	if err != nil {
		panic(err)
	}
	fmt.Println(r.Failures[0].From, "to", r.Failures[0].To+":", r.Failures[0].Reason)
	// Output:
	// Home to Lead: 3 presses, 1.05 s of footwork, 0.40 s by hand, 1.02 s free. Late by 0.03 s.
}
