package signal_test

import (
	"fmt"
	"math"

	"envex/core/signal"
)

// How much louder a recording is than another.
func ExampleOnOverOff() {
	off, on := make([]float64, 2*signal.Rate), make([]float64, 2*signal.Rate)
	for i := range off {
		off[i] = 0.1 * math.Sin(2*math.Pi*440*float64(i)/signal.Rate)
		on[i] = 2 * off[i]
	}
	fmt.Printf("%.1f LU\n", signal.OnOverOff(on, off))
	// Output:
	// 6.0 LU
}
