package midi_test

import (
	"fmt"

	"envex/core/midi"
	"envex/core/plan"
	"envex/demo"
)

// Which devices the programs of a rig speak to.
func ExampleMap() {
	p, err := plan.Decode(demo.File)
	if err != nil {
		panic(err)
	}
	r, err := midi.Map(p, "long")
	if err != nil {
		panic(err)
	}
	for _, d := range r.Devices {
		fmt.Println(d.Name, d.Channel)
	}
	// Output:
	// Echo 3
}
