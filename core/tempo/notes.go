package tempo

import (
	"math"
	"strings"

	"envex/core/plan"
	"envex/core/reason"
)

// Length is a note at a tempo.
type Length struct {
	Note  string  `json:"note" doc:"1/8 is an eighth, 1/8. a dotted one, 1/8t one of a triplet."`
	Words string  `json:"words"`
	MS    float64 `json:"ms"`
	Hz    float64 `json:"hz" doc:"As a rate: 1000 / ms."`
}

// Notes are the lengths a player asks for, the longest first.
func Notes() []string {
	return []string{
		"1/1", "1/2.", "1/2", "1/4.", "1/2t", "1/4", "1/8.", "1/4t", "1/8", "1/16.", "1/8t", "1/16", "1/16t", "1/32",
	}
}

// Words says a note as players do: "dotted 1/8", "1/8 triplet". What is no note is given back.
func Words(note string) string {
	switch {
	case strings.HasSuffix(note, "."):
		return "dotted " + strings.TrimSuffix(note, ".")
	case strings.HasSuffix(note, "t"):
		return strings.TrimSuffix(note, "t") + " triplet"
	}
	return note
}

var named = map[string]string{
	"whole": "1/1", "half": "1/2", "quarter": "1/4", "eighth": "1/8", "sixteenth": "1/16", "thirty-second": "1/32",
	"minim": "1/2", "crotchet": "1/4", "quaver": "1/8", "semiquaver": "1/16",
}

// ParseNote reads a note as a player writes it: "1/8.", "dotted 1/8", "dotted eighth", "1/8 triplet",
// "1/8t". It fails on what is no note from 1/1 to 1/64.
func ParseNote(text string) (string, error) {
	words := strings.Fields(strings.ToLower(text))
	mark := ""
	var rest []string
	for _, w := range words {
		switch w {
		case "dotted":
			mark += "."
		case "triplet":
			mark += "t"
		case "note":
		default:
			if n, ok := named[w]; ok {
				w = n
			}
			rest = append(rest, w)
		}
	}
	note := strings.Join(rest, " ") + mark
	if _, ok := plan.NoteFraction(note); !ok {
		return "", reason.Errorf("%q is not a note: write 1/8, dotted 1/8 or 1/8 triplet, from 1/1 to 1/64", text)
	}
	return note, nil
}

// Table is every note at a tempo, the longest first.
func Table(t plan.Tempo) []Length {
	list := []Length{}
	for _, n := range Notes() {
		if ms, ok := t.Milliseconds(n); ok {
			list = append(list, Length{n, Words(n), ms, 1000 / ms})
		}
	}
	return list
}

// Near is the note a time is nearest to.
type Near struct {
	Length
	OffMS  float64 `json:"off_ms" doc:"The time over the note."`
	OffPct float64 `json:"off_pct"`
}

// Nearest is the note whose length differs least from a time, as a ratio. It reports false for a time
// or a tempo that is none.
func Nearest(t plan.Tempo, ms float64) (Near, bool) {
	if !(ms > 0) || math.IsInf(ms, 0) {
		return Near{}, false
	}
	best, found := Near{}, false
	for _, l := range Table(t) {
		off := ms - l.MS
		if !found || math.Abs(math.Log(ms/l.MS)) < math.Abs(math.Log(ms/best.MS)) {
			best, found = Near{l, off, 100 * off / l.MS}, true
		}
	}
	return best, found
}
