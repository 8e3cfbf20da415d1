package guide_test

import (
	"fmt"

	"envex/core/guide"
	"envex/core/plan"
)

// What an empty plan is to be told first.
func ExampleNext() {
	for _, step := range guide.Next(&plan.Plan{}, "", "") {
		fmt.Println(step.Action)
	}
	// Output:
	// Type your chain
	// Type your set
}
