// Package demo carries the made-up act that Envex shows itself with: the Kelp Street Nine,
// a nine-piece surf-cumbia dance band on a tour of ferry quays. It is an ordinary file.
package demo

import (
	_ "embed" // for the file below
	"encoding/json"
	"fmt"
	"sync"

	"envex/core/plan"
)

// File is the demo plan in the file format.
//
//go:embed kelp-street-nine.envex.json
var File []byte

var sound = sync.OnceFunc(func() {
	if _, err := plan.Decode(File); err != nil {
		panic(fmt.Sprint("the demo: ", err)) // it ships with the program, and is tried by its tests
	}
})

// Plan is the demo plan, to be changed as one likes: each is another. What the file has been found to be once is not
// looked for again.
func Plan() *plan.Plan {
	sound()
	var file plan.File
	if err := json.Unmarshal(File, &file); err != nil {
		panic(fmt.Sprint("the demo: ", err))
	}
	return &file.Plan
}
