package plan

import (
	"slices"
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

// packages are the names that errors of these programs begin with, for whoever reads a log.
var packages = []string{
	"access", "api", "board", "disk", "doctor", "electric", "exchange", "floor", "journal", "lan", "layers", "midi",
	"operation", "page", "paper", "path", "plan",
	"play", "propose", "reach", "repair", "revision", "shorthand", "signal", "store", "switching", "tempo", "wal", "wav",
}

// Plainly is what an error says to a player: without the names of the parts of the program it came through.
func Plainly(text string) string {
	parts := strings.Split(text, ": ")
	return strings.Join(slices.DeleteFunc(parts, func(x string) bool { return slices.Contains(packages, x) }), ": ")
}
