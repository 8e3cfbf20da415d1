package board_test

import (
	"context"
	"fmt"

	"envex/core/board"
	"envex/core/plan"
	"envex/demo"
)

// How a rig stands on its board.
func ExampleJudge() {
	p, err := plan.Decode(demo.File)
	if err != nil {
		panic(err)
	}
	r, err := board.Judge(context.Background(), p, "long", board.Options{})
	if err != nil {
		panic(err)
	}
	for _, f := range r.Findings[:2] {
		fmt.Println(f.Words)
	}
	// Output:
	// Sluice stands 20 mm over the edge of Long plank.
	// The plug at output of Rotor has no room anywhere along its side: it needs 40 mm, and Flutter leaves 20.
}
