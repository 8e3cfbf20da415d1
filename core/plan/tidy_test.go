package plan_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/demo"
)

func TestTextThatNoHandWrites(t *testing.T) {
	tests := map[string]struct {
		a    plan.Aggregate
		want plan.Problems
	}{
		"plain": {plan.Gear{Name: "Größe µ 大 e\u0301", Notes: "two\nlines\tand a tab"}, nil},
		"NUL": {
			plan.Gear{Name: "a\x00b"}, plan.Problems{{Path: "name", Message: "a control character (U+0000) cannot stand here"}},
		},
		"two lines": {plan.Gear{Name: "a\nb"}, plan.Problems{{Path: "name", Message: "a line break cannot stand here"}}},
		"separator": {plan.Gear{Name: "a\u2028b"}, plan.Problems{{Path: "name", Message: "a line break cannot stand here"}}},
		"turned": {
			plan.Song{Title: "a\u202eb"},
			plan.Problems{{Path: "title", Message: "a character that turns the direction of text (U+202E) cannot stand here"}},
		},
		"isolated": {
			plan.Sound{Name: "a\u2066b"},
			plan.Problems{{Path: "name", Message: "a character that turns the direction of text (U+2066) cannot stand here"}},
		},
		"deep": {
			plan.Song{Sections: []plan.Section{{}, {Label: "x\x1b"}}},
			plan.Problems{{Path: "sections[1].label", Message: "a control character (U+001B) cannot stand here"}},
		},
		"in notes": {
			plan.Show{Notes: "a\x07"}, plan.Problems{{Path: "notes", Message: "a control character (U+0007) cannot stand here"}},
		},
		"of a fault": {plan.Show{Faults: []plan.Fault{{Text: "hum\nafter the break"}}}, nil},
		"a date":     {plan.Show{Date: "2028-02-29"}, nil},
		"no date": {
			plan.Show{Date: "12.6.2027"},
			plan.Problems{{Path: "date", Message: `"12.6.2027" is no date: write year-month-day, as in 2027-06-12`}},
		},
		"no day": {
			plan.Show{Date: "2027-02-29"},
			plan.Problems{{Path: "date", Message: `"2027-02-29" is no date: write year-month-day, as in 2027-06-12`}},
		},
	}
	for name, test := range tests {
		t.Run(name, func(t *testing.T) { assert.Equal(t, test.want, plan.Untidy(test.a)) })
	}
}

// A text is a date exactly when the calendar has that day.
func TestDatesAreThoseOfTheCalendar(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		text := rapid.OneOf(
			rapid.StringMatching(`(1899|1900|2000|2027|2028)-(0[0-9]|1[0-9])-[0-3][0-9]`),
			rapid.StringMatching(`[0-9+-]{8,11}`),
		).Draw(r, "text")
		_, err := time.Parse(time.DateOnly, text)
		assert.Equal(r, err == nil, plan.Untidy(plan.Show{Date: text}) == nil, text)
	})
}

func TestAFileWithTextThatNoHandWritesIsRefusedByItsPath(t *testing.T) {
	_, err := plan.Decode(
		[]byte(
			`{"format":"envex","version":1,"gear":[],"rigs":[],"set_lists":[],"shows":[],"songs":[],"sounds":[{"id":"a","name":"x","short":"A","role":"rhythm","tape":"bone","targets":{}},{"id":"b","name":"y\u0000","short":"B","role":"rhythm","tape":"bone","targets":{}}]}`,
		),
	)
	require.EqualError(t, err, "sounds[1].name: a control character (U+0000) cannot stand here")
}

// A plan that was valid before one thing of it was written has the same problems, however it is asked.
func TestAChangeIsJudgedAsTheWholeIs(t *testing.T) {
	file := demo.Plan()
	rapid.Check(t, func(r *rapid.T) {
		p := *file
		all := p.All()
		switch a := all[rapid.IntRange(0, len(all)-1).Draw(r, "which")].(type) {
		case plan.Song:
			a.Tempo.BPM = rapid.Float64Range(-10, 2000).Draw(r, "bpm")
			p.Put(a)
			require.Equal(r, p.Validate(), p.ValidateChange(a.ID))
		case plan.Sound:
			a.Tape = rapid.SampledFrom([]string{"bone", "glass", ""}).Draw(r, "tape")
			p.Put(a)
			require.Equal(r, p.Validate(), p.ValidateChange(a.ID))
		case plan.Gear:
			a.Name = strings.Repeat("x", rapid.SampledFrom([]int{0, 1, 200, 201, 30000}).Draw(r, "length"))
			p.Put(a)
			require.Equal(r, p.Validate(), p.ValidateChange(a.ID))
		case plan.Rig:
			p.Drop(plan.KindRig, a.ID)
			require.Equal(r, p.Validate(), p.ValidateChange(a.ID))
		case plan.SetList:
			a.Entries = append(a.Entries[:0:0], make([]plan.SetEntry, rapid.SampledFrom([]int{1, 1001}).Draw(r, "entries"))...)
			p.Put(a)
			require.Equal(r, p.Validate(), p.ValidateChange(a.ID))
		case plan.Show:
			a.Rig = "none"
			p.Put(a)
			require.Equal(r, p.Validate(), p.ValidateChange(a.ID))
		}
	})
}
