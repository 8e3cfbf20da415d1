package tempo_test

import (
	"fmt"

	"envex/core/plan"
	"envex/core/tempo"
)

// How long a dotted eighth is at 104 beats a minute.
func ExampleTable() {
	for _, l := range tempo.Table(plan.Tempo{BPM: 104}) {
		if l.Note == "1/8." {
			fmt.Printf("%s: %.1f ms\n", l.Words, l.MS)
		}
	}
	// Output:
	// dotted 1/8: 432.7 ms
}
