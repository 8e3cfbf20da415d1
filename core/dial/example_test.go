package dial_test

import (
	"context"
	"fmt"

	"envex/core/dial"
)

func ExampleSteps() {
	got, err := dial.Steps(context.Background(), small(panics{}), "small", "", "lead", "", dial.Options{Kept: kept})
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, s := range got.Steps {
		fmt.Println(s.Words)
	}
	// Output:
	// With every pedal off, set the amp: 7 % dirt.
	// Turn Amber on: +3.2 LU, 42 % dirt.
}

// panics ends an example that cannot begin.
type panics struct{}

func (panics) Errorf(format string, args ...any) { panic(fmt.Sprintf(format, args...)) }
func (panics) FailNow()                          { panic("the plan is not sound") }
