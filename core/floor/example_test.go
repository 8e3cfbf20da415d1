package floor_test

import (
	"fmt"

	"envex/core/floor"
	"envex/core/plan"
)

// How long a foot takes to a switch 300 mm away and 20 mm wide, after Fitts.
func ExampleMoveSeconds() {
	feet := plan.FootProfile{}.Filled()
	fmt.Printf("%.2f s\n", floor.MoveSeconds(feet, 300, 20))
	// Output:
	// 0.68 s
}
