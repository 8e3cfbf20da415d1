package paper_test

import (
	"fmt"

	"envex/core/paper"
	"envex/core/plan"
	"envex/demo"
)

// A sheet of a show, as data.
func ExampleMake() {
	p, err := plan.Decode(demo.File)
	if err != nil {
		panic(err)
	}
	sheet, err := paper.Make(p, "loft-7", paper.PatchList)
	if err != nil {
		panic(err)
	}
	fmt.Println(sheet.Title)
	for _, column := range sheet.Parts[0].Columns {
		fmt.Println(column.Name)
	}
	// Output:
	// Patch list
	// no.
	// from
	// jack
	// to
	// jack
	// length m
	// plugs
	// channels
	// level
	// note
}
