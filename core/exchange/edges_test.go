package exchange

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
)

func TestMetersAreReadWithinTheirBounds(t *testing.T) {
	for text, want := range map[string]plan.Meter{
		"1/1": {Beats: 1, Unit: 1}, "4/4": {Beats: 4, Unit: 4}, " 6 / 8 ": {Beats: 6, Unit: 8}, "32/32": {Beats: 32, Unit: 32},
		"0/4": {}, "33/4": {}, "4/3": {}, "4/64": {}, "4": {}, "x/4": {}, "4/x": {}, "": {}, "-1/4": {},
	} {
		got, ok := meterOf(text)
		assert.Equal(t, want, got, text)
		assert.Equal(t, want != plan.Meter{}, ok, text)
	}
	for text, ok := range map[string]bool{"20": true, "400": true, "19.9": false, "400.1": false, "120,5": true, "": false} {
		_, is := tempoOf(text)
		assert.Equal(t, ok, is, text)
	}
}
