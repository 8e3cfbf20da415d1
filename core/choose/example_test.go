package choose_test

import (
	"context"
	"fmt"

	"envex/core/choose"
)

func ExampleFor() {
	p := quay(panics{}, "mid-hump-overdrive", "tremolo", "chorus")
	r, err := choose.For(context.Background(), p, choose.Options{SetList: "night", Kept: kept})
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, s := range r.Sets {
		fmt.Println(s.Names, s.Covers)
	}
	// Output: [Mid-hump overdrive Tremolo] [home crunch haze]
}

// panics ends an example that cannot begin.
type panics struct{}

func (panics) Errorf(format string, args ...any) { panic(fmt.Sprintf(format, args...)) }
func (panics) FailNow()                          { panic("the plan is not sound") }
