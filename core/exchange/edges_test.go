package exchange

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
)

func TestMetersAreReadWithinTheirBounds(t *testing.T) {
	for text, want := range map[string]plan.Meter{
		"1/1": {Beats: 1, Unit: 1}, "4/4": {Beats: 4, Unit: 4}, " 6 / 8 ": {Beats: 6, Unit: 8},
		"32/32": {Beats: 32, Unit: 32},
		"0/4":   {}, "33/4": {}, "4/3": {}, "4/64": {}, "4": {}, "x/4": {}, "4/x": {}, "": {}, "-1/4": {},
	} {
		got, ok := meterOf(text)
		assert.Equal(t, want, got, text)
		assert.Equal(t, want != plan.Meter{}, ok, text)
	}
	for text, ok := range map[string]bool{
		"20": true, "400": true, "19.9": false, "400.1": false, "120,5": true, "": false,
	} {
		_, is := tempoOf(text)
		assert.Equal(t, ok, is, text)
	}
}

func TestALabelMayEndInItsSound(t *testing.T) {
	for text, want := range map[string]DraftSection{
		"Solo [Lead]": {Label: "Solo", Sound: "Lead"}, "Solo [2] [Lead]": {Label: "Solo [2]", Sound: "Lead"},
		"[Lead]": {Label: "[Lead]"}, "Solo [Lead": {Label: "Solo [Lead"}, "Solo Lead]": {Label: "Solo Lead]"}, "": {},
		"x[]": {Label: "x"},
	} {
		assert.Equal(t, want, labelled(text), text)
	}
	for text, ok := range map[string]bool{"0": true, "24": true, "25": false, "-1": false, "x": false} {
		_, is := capoOf(text)
		assert.Equal(t, ok, is, text)
	}
}

func TestWhatIsLeftOutIsListedUpToALimit(t *testing.T) {
	r := chordPro{draft: &Draft{}}
	for i := range maxLeft + 5 {
		r.left("line %d", i)
	}
	assert.Len(t, r.draft.Left, maxLeft+1)
	assert.Equal(t, "And more.", r.draft.Left[maxLeft])
	assert.Equal(t, "line 99", r.draft.Left[maxLeft-1])
}
