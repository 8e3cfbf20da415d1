package signal

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestABandInWords(t *testing.T) {
	for want, x := range map[string][4]float64{
		"0.0 LU over home.":                   {-0.04, -1, 1, 0},
		"-0.1 LU over home.":                  {-0.06, -1, 1, 0},
		"2.0 LU over home, 0.7 short of 2.7.": {2, 2.7, 4.3, -0.7},
		"5.0 LU over home, 0.7 over 4.3.":     {5, 2.7, 4.3, 0.7},
	} {
		assert.Equal(t, want, bandWords("over home", x[0], x[1], x[2], x[3], "LU"))
	}
}
