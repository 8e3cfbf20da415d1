package exchange_test

import (
	"fmt"

	"envex/core/exchange"
)

// A set list from a table that somebody else made.
func ExampleReadCSV() {
	d, err := exchange.ReadCSV([]byte("title,bpm\nFerry Lights,104\n"), "quay.csv")
	if err != nil {
		panic(err)
	}
	fmt.Println(d.Songs[0].Title, d.Songs[0].Tempo.BPM)
	// Output:
	// Ferry Lights 104
}
