package beside_test

import (
	"context"
	"fmt"

	"envex/core/beside"
)

func ExampleFor() {
	p := quay(panics{})
	r, _ := p.FindRig("rig")
	ways, err := beside.Ways(p, r, "", beside.Asked{Slot: &r.Swaps[0]})
	if err != nil {
		fmt.Println(err)
		return
	}
	found, err := beside.For(context.Background(), p, "rig", "night", ways, beside.Options{Kept: kept})
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, c := range found.Columns {
		fmt.Printf("%s: %d of %d sounds within their targets\n", c.Name, c.Within, len(c.Sounds))
	}
	// Output:
	// Chorus: 2 of 3 sounds within their targets
	// Tremolo: 2 of 3 sounds within their targets
}

// panics ends an example that cannot begin.
type panics struct{}

func (panics) Errorf(format string, args ...any) { panic(fmt.Sprintf(format, args...)) }
func (panics) FailNow()                          { panic("the plan is not sound") }
