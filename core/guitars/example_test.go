package guitars_test

import (
	"context"
	"fmt"

	"envex/core/guitars"
)

func ExampleLevel() {
	found, err := guitars.Level(context.Background(), pair(panics{}, 0.5), "rig", guitars.Options{Kept: kept})
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, g := range found.Guitars {
		fmt.Printf("%s against %s: %.1f LU\n", g.Name, found.Name, g.Input)
	}
	// Output: other against usual: -6.0 LU
}

// panics ends an example that cannot begin.
type panics struct{}

func (panics) Errorf(format string, args ...any) { panic(fmt.Sprintf(format, args...)) }
func (panics) FailNow()                          { panic("the plan is not sound") }
