package catalog_test

import (
	"fmt"

	"envex/core/catalog"
	"envex/core/plan"
)

// A generic kind, as gear with an id and a name that is free.
func ExampleFind() {
	kind, _ := catalog.Find("tape-echo")
	gear := kind.In(&plan.Plan{}, "echo", "Echo")
	fmt.Println(kind.Name, kind.Description)
	fmt.Println(gear.Name, gear.Blocks[0].Effect)
	// Output:
	// Tape echo Three presets, stepped by a switch of their own.
	// Echo delay
}
