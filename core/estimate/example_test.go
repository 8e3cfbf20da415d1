package estimate_test

import (
	"fmt"
	"math"

	"envex/core/estimate"
)

func ExampleOf() {
	x := make([]float64, 4*48000) // a string that is struck twice a second
	for i := range x {
		at := math.Mod(float64(i)/48000, 0.5)
		x[i] = 0.3 * math.Exp(-6*at) * math.Sin(2*math.Pi*196*at)
	}
	got, err := estimate.Of([][]float64{x}, nil)
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Println(len(got.Bands), got.Stereo, got.OverHome == nil)
	// Output: 29 false true
}
