package exchange

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"strings"
)

// Column is what one column of a set list as CSV may hold.
type Column struct {
	Name    string   `json:"name"`
	Also    []string `json:"also" doc:"What else it may be called."`
	Holds   string   `json:"holds" doc:"What may stand in it, in words."`
	Example string   `json:"example"`
}

// Columns are those of a set list as CSV, in the order they are written. Only the title is needed.
func Columns() []Column {
	return []Column{
		{"title", []string{"song", "name"}, "the song's title; the only column that is needed", "Ferry Lights"},
		{"bpm", []string{"tempo"}, "beats a minute, 20 to 400; 104.5 or 104,5", "104"},
		{"beat", []string{}, "the note that gets the beat; 1/4 when empty", "1/4"},
		{"meter", []string{"time", "time signature"}, "beats and their note; 4/4 when empty", "4/4"},
		{"tuning", []string{}, "any words", ""},
		{"capo", []string{}, "the fret, 0 to 24", ""},
		{"gap s", []string{"gap", "gap_s"}, "seconds before the song, 0 to 3600; the set's own when empty", "20"},
		{"segue", []string{}, "yes where it follows the song before without a gap; no or empty otherwise", "no"},
		{
			"sections", []string{},
			"the sections in order, parted by semicolons: label:sound:bars, then sing where you sing, and rest 2 for two beats of silence before it; all but the label may be left out",
			"Intro:Home:4; Verse:Home:16:sing; Solo:Lead:16:rest 2",
		},
	}
}

// columns are their names, and otherNames what else they are called.
var columns, otherNames = func() ([]string, map[string]string) {
	var names []string
	others := map[string]string{}
	for _, c := range Columns() {
		names = append(names, c.Name)
		for _, also := range c.Also {
			others[also] = c.Name
		}
	}
	return names, others
}()

// Template is a set list of one song as CSV, to be filled in.
func Template() []byte {
	var row []string
	for _, c := range Columns() {
		row = append(row, c.Example)
	}
	var out bytes.Buffer
	w := csv.NewWriter(&out)
	if err := w.WriteAll([][]string{columns, row}); err != nil {
		panic(fmt.Sprintf("exchange: the template: %v", err)) // a buffer takes everything
	}
	return out.Bytes()
}

// separatorOf is what parts the fields of a table: of comma, semicolon and tab the one that stands most often
// in its first line, outside of quotes.
func separatorOf(text string) rune {
	first, _, _ := strings.Cut(strings.TrimLeft(text, "\n"), "\n")
	counts := map[rune]int{}
	quoted := false
	for _, r := range first {
		switch r {
		case '"':
			quoted = !quoted
		case ',', ';', '\t':
			if !quoted {
				counts[r]++
			}
		}
	}
	best := ','
	for _, r := range []rune{';', '\t'} {
		if counts[r] > counts[best] {
			best = r
		}
	}
	return best
}
