package night

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/reach"
)

func TestTroubleOfAnotherRigIsNoneOfThis(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p, Event{ID: "b", Kind: Broke, Rig: "bare", Gear: "rotor", Way: &Way{Round: LeaveOut}})
	assert.Empty(t, e.Troubles)
}

func TestTwoRigsPlayOneShow(t *testing.T) {
	p := theDemo(t)
	second := plan.PartOf{Band: p.Bands[0].ID, Part: p.Bands[0].Parts[0].ID}
	r, _ := p.FindRig("carry")
	r.Player = &second
	p.Songs[0].Sections[1].Others = []plan.OtherPlayer{{PartOf: second, Sound: "crunch"}}
	s, _ := p.FindShow(show)
	s.Others = []plan.ShowRig{{Rig: "carry"}}
	require.Empty(t, p.Validate())
	first := evening(t, p)
	other, err := On(p, show, "carry", nil)
	require.NoError(t, err)
	assert.Equal(t, []reach.Named{{ID: "long", Name: "Long board"}, {ID: "carry", Name: other.Rig.Name}}, other.Rigs)
	assert.Equal(t, p.Bands[0].Parts[0].Name, other.Player)
	assert.Equal(t, plan.ID("home"), first.Steps[1].Sound)
	assert.Equal(t, plan.ID("crunch"), other.Steps[1].Sound)
	called := event(in(first, 2, 1), "c", 1, Called, Event{Song: first.Order[9].Song})
	broke := event(in(first, 2, 1), "b", 2, Broke, Event{Rig: "carry", Gear: r.GearIn()[0], Way: &Way{Round: LeaveOut}})
	first = evening(t, p, called, broke)
	other, err = On(p, show, "carry", []Event{called, broke})
	require.NoError(t, err)
	assert.Equal(t, titles(first), titles(other), "a song is called for all")
	assert.Empty(t, first.Troubles)
	assert.Len(t, other.Troubles, 1, "a box dies on one")
	assert.Equal(t, plan.ID("crunch"), other.Steps[1].Sound, "and the other player keeps their own sounds")
}
