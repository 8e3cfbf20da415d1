package plan

import "strings"

// Listed is a list in a sentence: "a", "a and b", "a, b and c"; empty for an empty one.
func Listed(words []string) string {
	n := len(words)
	if n < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:n-1], ", ") + " and " + words[n-1]
}
