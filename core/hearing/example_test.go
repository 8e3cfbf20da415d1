package hearing_test

import (
	"fmt"

	"envex/core/hearing"
)

// A tone of 60 dB alone, and beside a band of noise around it.
func ExampleTogetherOf() {
	alone := hearing.AloneOf(tone(1000, 60)).Sones
	beside := hearing.TogetherOf(tone(1000, 60), noise(35, 800, 1200))[0].Sones
	fmt.Printf("%.1f sones alone; %.0f %% of it is left\n", alone, 100*beside/alone)
	// Output: 4.2 sones alone; 17 % of it is left
}
