package wav_test

import (
	"fmt"

	"envex/core/wav"
)

// A recording is written and read back.
func ExampleEncode() {
	data, err := wav.Encode([]float64{0, 0.5, -0.5})
	if err != nil {
		panic(err)
	}
	channels, err := wav.Decode(data)
	fmt.Println(len(channels), len(channels[0]), err)
	// Output:
	// 1 3 <nil>
}
