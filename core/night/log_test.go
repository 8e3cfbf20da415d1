package night

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestWhatHappensIsWrittenIntoTheLogOfTheShow(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p)
	at := in(e, 3, 1)
	broke := event(at, "b", 1, Broke, Event{Gear: "rotor", Way: &Way{Round: LeaveOut}})
	s, label, ok := Logged(p, show, broke, "leave it off")
	require.True(t, ok)
	assert.Equal(t, "Rotor failed", label)
	fault := s.Faults[len(s.Faults)-1]
	assert.Equal(t, "Rotor failed in "+e.Order[3].Title+", "+e.Steps[slices.IndexFunc(e.Steps, func(x Step) bool {
		return x.Section == at.Section
	})].Label+". Gone round: leave it off.", fault.Text)
	assert.Empty(t, fault.Cured)
	p.Put(s)
	require.Empty(t, p.Validate())
	_, _, ok = Logged(p, show, broke, "leave it off")
	assert.False(t, ok, "it is written once")
	mended, _, ok := Logged(p, show, Event{ID: "m", Kind: Mended, Of: "b"}, "")
	require.True(t, ok)
	assert.Equal(t, "Works again.", mended.Faults[len(mended.Faults)-1].Cured)
	struck, _, ok := Logged(p, show, Event{ID: "u", Kind: Undone, Of: "b"}, "")
	require.True(t, ok)
	before, _ := theDemo(t).FindShow(show)
	assert.Equal(t, len(before.Faults), len(struck.Faults))
	note := Event{ID: "n", Kind: Note, Text: "Wind in the backing microphones"}
	s, _, ok = Logged(p, show, note, "")
	require.True(t, ok)
	assert.Contains(t, s.After, "Wind in the backing microphones")
	p.Put(s)
	_, _, ok = Logged(p, show, note, "")
	assert.False(t, ok)
	for _, e := range []Event{{ID: "x", Kind: At}, {ID: "x", Kind: Undone, Of: "called"}, {ID: "x", Kind: Mended, Of: "nope"}} {
		_, _, ok = Logged(p, show, e, "")
		assert.False(t, ok)
	}
	_, _, ok = Logged(p, "nope", note, "")
	assert.False(t, ok)
}
