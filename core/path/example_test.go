package path_test

import (
	"context"
	"fmt"

	"envex/core/path"
	"envex/core/plan"
	"envex/demo"
)

// What speaks against the order of a chain, and the best order.
func ExampleJudge() {
	p, err := plan.Decode(demo.File)
	if err != nil {
		panic(err)
	}
	r, err := path.Judge(context.Background(), p, "long", "")
	if err != nil {
		panic(err)
	}
	fmt.Println(r.Words)
	fmt.Println(r.Best.Moves[0].Words)
	// Output:
	// 5 things could stand better (15 points). Best possible: 4 points, proven.
	// Move Rotor before Amber
}
