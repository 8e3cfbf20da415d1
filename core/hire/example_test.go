package hire_test

import (
	"context"
	"fmt"

	"envex/core/hire"
)

func ExampleAskFor() {
	p := pier(panics{}, "two-channel-head")
	ask, err := hire.AskFor(context.Background(), p, "rig", "", "night", kept)
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, x := range ask.Items[2:4] {
		fmt.Printf("%s: %s (%s)\n", x.Of, x.Need, x.Why)
	}
	// Output:
	// Two-channel head: a series effects loop at instrument level, or with a level control (Digital delay in it)
	// Two-channel head: a cab for it, 8 ohm or 16 ohm (Two-channel head has no speaker of its own)
}

// panics ends an example that cannot begin.
type panics struct{}

func (panics) Errorf(format string, args ...any) { panic(fmt.Sprintf(format, args...)) }
func (panics) FailNow()                          { panic("the plan is not sound") }
