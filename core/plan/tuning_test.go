package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
)

func TestTuningsAsPeopleWriteThem(t *testing.T) {
	for text, want := range map[string]plan.Strings{
		"": {}, "Standard": {}, "E standard": {}, "EADGBE": {}, "standard tuning": {},
		"Eb": {-1, -1, -1, -1, -1, -1}, "E flat": {-1, -1, -1, -1, -1, -1}, "half step down": {-1, -1, -1, -1, -1, -1},
		"D standard": {-2, -2, -2, -2, -2, -2}, "B standard": {-5, -5, -5, -5, -5, -5}, "F": {1, 1, 1, 1, 1, 1},
		"Drop D": {-2}, "drop C#": {-3, -1, -1, -1, -1, -1}, "Drop C": {-4, -2, -2, -2, -2, -2},
		"Drop Db":           {-3, -1, -1, -1, -1, -1},
		"eb ab db gb bb eb": {-1, -1, -1, -1, -1, -1}, "eb": {-1, -1, -1, -1, -1, -1}, "eadgbe": {},
		"DADGAD": {-2, 0, 0, 0, -2, -2}, "D A D G A D": {-2, 0, 0, 0, -2, -2}, "D-A-D-F♯-A-D": {-2, 0, 0, -1, -2, -2},
		"Open G": {-2, -2, 0, 0, 0, -2}, "open E": {0, 2, 2, 1, 0, 0},
		"Eb Ab Db Gb Bb Eb": {-1, -1, -1, -1, -1, -1}, "CGCFAD": {-4, -2, -2, -2, -2, -2},
	} {
		got, ok := plan.StringsOf(text)
		assert.True(t, ok, text)
		assert.Equal(t, want, got, text)
	}
	for _, text := range []string{"whatever is there", "Drop", "drop it", "EADG", "open h", "EADGBEE", "BEADGBE", "#", "42"} {
		_, ok := plan.StringsOf(text)
		assert.False(t, ok, text)
	}
}

func TestACapoIsPartOfTheTuning(t *testing.T) {
	got, ok := plan.Song{Tuning: "Drop D", Capo: 2}.TunedFor()
	assert.True(t, ok)
	assert.Equal(t, plan.Strings{0, 2, 2, 2, 2, 2}, got)
	got, ok = plan.Song{Tuning: "as on the record", Capo: 1}.TunedFor()
	assert.False(t, ok)
	assert.Equal(t, plan.Strings{1, 1, 1, 1, 1, 1}, got)
}

func FuzzStringsOf(f *testing.F) {
	for _, text := range []string{"Drop D", "DADGAD", "Eb Ab Db Gb Bb Eb", "open g", "bbbbbb", "drop bb#"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		s, ok := plan.StringsOf(text)
		if !ok {
			assert.Equal(t, plan.Strings{}, s)
		}
		for _, x := range s {
			assert.LessOrEqual(t, max(x, -x), 16, text)
		}
	})
}
