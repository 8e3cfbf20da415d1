package mix_test

import (
	"context"
	"fmt"

	"envex/core/mix"
	"envex/core/plan"
)

func ExampleRoom() {
	p := gig(panics{}, func(b *plan.Band) { b.GuitarDB = number(-16) }, usual()...)
	r, err := mix.Room(context.Background(), p, "small", "set", mix.Options{Kept: kept})
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, f := range r.Findings {
		fmt.Println(f.Title)
	}
	// Output:
	// Lead is not over the band
	// Clean is buried
}

// panics ends an example that cannot begin.
type panics struct{}

func (panics) Errorf(format string, args ...any) { panic(fmt.Sprintf(format, args...)) }
func (panics) FailNow()                          { panic("the plan is not sound") }
