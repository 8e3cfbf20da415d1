package plan

import (
	"fmt"
	"math"
	"strings"
)

// Listed is a list in a sentence: "a", "a and b", "a, b and c"; empty for an empty one.
func Listed(words []string) string {
	n := len(words)
	if n < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:n-1], ", ") + " and " + words[n-1]
}

// Tenth is a number to the tenth in which it is told: what comes to nothing is 0.0 and not -0.0.
func Tenth(x float64) float64 { return math.Round(10*x)/10 + 0 }

// Counted is how many there are of something: "1 block", "3 blocks".
func Counted(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}
