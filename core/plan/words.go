package plan

import (
	"fmt"
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

// Counted is how many there are of something: "1 block", "3 blocks".
func Counted(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}
