package estimate

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestAStepIsHeldAgainstItsRecording(t *testing.T) {
	after := &Recording{Loudness: -20, Dirt: Figure{20, 10, 40}}
	for _, x := range []struct {
		before *Recording
		dirt   float64
		louder float64
		met    bool
		says   string
	}{
		{nil, 15, 3, true, "Recorded: 20 % dirt (10 to 40), modelled: 15 %."},
		{nil, 5, 0, false, "it is dirtier than the model"},
		{nil, 60, 0, false, "it is cleaner than the model"},
		{&Recording{Loudness: -22}, 20, 2.5, true, "; +2.0 LU, modelled: +2.5 LU."},
		{&Recording{Loudness: -25}, 20, 2, false, "it came out louder"},
		{&Recording{Loudness: -20}, 20, 2, false, "it came out quieter"},
		{&Recording{Loudness: -20}, 10, 1.5, true, "modelled: +1.5 LU."},
	} {
		got := Step(after, x.before, x.dirt, x.louder)
		assert.Equal(t, x.met, got.Met, "%+v", x)
		assert.Contains(t, got.Words, x.says)
		assert.Equal(t, x.before == nil, got.Louder == nil)
	}
}
