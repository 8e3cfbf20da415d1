package switching_test

import (
	"fmt"

	"envex/core/plan"
	"envex/core/switching"
)

// Two programs change places.
func ExampleExchanged() {
	rig := &plan.Rig{
		Programs: map[plan.ID]map[string]map[string]plan.Program{"ctl": {"A": {"1": {Label: "Clean"}, "2": {Label: "Lead"}}}},
	}
	changed, err := switching.Exchanged(
		rig, "ctl", switching.Seat{Bank: "A", Slot: "1"}, switching.Seat{Bank: "A", Slot: "2"},
	)
	if err != nil {
		panic(err)
	}
	fmt.Println(changed.Programs["ctl"]["A"]["1"].Label)
	// Output:
	// Lead
}
