package paper

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/signal"
	"envex/core/standin"
	"envex/demo"
)

// The upper deck with three of its sounds, so that few are rendered.
func deck(t require.TestingT) *plan.Plan {
	p := demo.Plan()
	r, _ := p.FindRig("carry")
	var keep []plan.Recipe
	for _, rec := range r.Recipes {
		switch rec.Sound {
		case "home", "skank", "comp":
			keep = append(keep, rec)
		}
	}
	r.Recipes = keep
	require.Empty(t, p.Validate())
	return p
}

func TestStandInsAreOnPaperAsTheyWereMetered(t *testing.T) {
	p, kept := deck(t), signal.NewKept()
	s, err := MakeWith(context.Background(), p, "deck-13", StandInSheet, kept)
	require.NoError(t, err)
	list, err := standin.Each(context.Background(), p, "carry", standin.Options{
		SetList: p.Shows[1].SetList, At: p.Shows[1].Destination, Kept: kept,
	})
	require.NoError(t, err)
	var slap standin.Ready
	for _, x := range list {
		if x.Box == "slap" {
			slap = x
		}
	}
	require.NotNil(t, slap.By)
	part := func(title string) Part {
		for _, x := range s.Parts {
			if x.Title == title {
				return x
			}
		}
		require.Fail(t, "no such part", title)
		return Part{}
	}
	knobs := part("Slap dies: plug in Echo")
	for _, k := range slap.By.Knobs {
		assert.Equal(t, []string{k.Where()}, cells(t, knobs, k.Name))
	}
	assert.Contains(t, knobs.Note, "It draws 250 mA at 9 V", "what else changes")
	sounds := part("With Echo for Slap")
	assert.Contains(t, cells(t, sounds, "sound"), "Skank")
	assert.Contains(t, cells(t, sounds, "targets"), "met")
	assert.Contains(t, s.Cautions, powerCaution)
	for _, x := range s.Parts {
		for _, row := range x.Rows {
			assert.Len(t, row, len(x.Columns), x.Title)
		}
	}
}

func TestWhatPresetsOfAStandInHoldHasALineEach(t *testing.T) {
	x := standin.Ready{Name: "Slap", By: &standin.Offer{
		Name: "Echo", Costs: []string{"+1 press"}, Also: []string{"It can be set by MIDI."},
		Knobs: []standin.Knob{{Name: "tone", At: 5, Clock: "12 o'clock"}},
		Held: []standin.Held{
			{Preset: "A", Knobs: []standin.Knob{{Name: "time", At: 300, Unit: "ms"}}},
			{Preset: "B", Knobs: []standin.Knob{{Name: "mix", At: 2}, {Name: "time", At: 450, Unit: "ms"}}},
		},
	}}
	part := knobsOf(x)
	assert.Equal(t, "Over the set: +1 press. It can be set by MIDI.", part.Note)
	assert.Equal(t, []string{"all night", "preset A", "preset B"}, cells(t, part, "set"))
	assert.Equal(t, []string{"", "300 ms", "450 ms"}, cells(t, part, "time"))
	assert.Equal(t, []string{"", "", "2"}, cells(t, part, "mix"))
	x.By.Knobs = nil
	assert.Equal(t, []string{"preset A", "preset B"}, cells(t, knobsOf(x), "set"))
}

func TestASoundThatIsOutWithAStandInSaysWhy(t *testing.T) {
	near := standin.Near{Checks: []signal.Check{{Words: "No delay is on."}, {Words: "Loud enough.", Met: true}}}
	assert.Equal(t, "No delay is on.", meets(near, standin.Sound{Within: true}))
	assert.Equal(t, "No delay is on. It is out of them now, too.", meets(near, standin.Sound{}))
	near.Within = true
	assert.Equal(t, "met", meets(near, standin.Sound{}))
}

func TestARigWithoutPedalsInUseHasAnEmptySheetOfStandIns(t *testing.T) {
	p := deck(t)
	r, _ := p.FindRig("carry")
	r.Recipes = nil
	s := sheet(t, p, "deck-13", StandInSheet)
	assert.Empty(t, s.Parts)
	assert.Equal(t, []string{"No sound of the rig has a pedal on."}, s.Assumed)
	assert.Empty(t, s.Cautions)
}
