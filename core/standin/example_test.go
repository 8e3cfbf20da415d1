package standin_test

import (
	"context"
	"fmt"

	"envex/core/standin"
)

func ExampleFor() {
	p := pier(panics{}, "transparent-overdrive")
	o := standin.Options{Kinds: []string{}, Kept: kept}
	r, err := standin.For(context.Background(), p, "rig", "mid-hump-overdrive", o)
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, o := range r.Offers {
		fmt.Println(o.Name, o.Within, "of", len(r.Sounds))
	}
	// Output: Transparent overdrive 1 of 1
}

// panics ends an example that cannot begin.
type panics struct{}

func (panics) Errorf(format string, args ...any) { panic(fmt.Sprintf(format, args...)) }
func (panics) FailNow()                          { panic("the plan is not sound") }
