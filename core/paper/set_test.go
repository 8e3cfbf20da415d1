package paper

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
	"envex/core/reach"
)

func TestAChangeThatNoSwitchMakesSaysSoAndLeavesTheHandsTheirs(t *testing.T) {
	s := sheet(t, at(t, "switched", ""), "quay-12", SetSheet)
	first := s.Parts[0]
	assert.Equal(t, "Driftwood pickup to bridge, cannot be made", cells(t, first, "by hand")[2])
	assert.Empty(t, cells(t, first, "press")[2])
}

func TestPressesAreNamedByWhatIsOnTheFloor(t *testing.T) {
	p := demo(t)
	press := func(key plan.Key, label, gesture string) reach.Press {
		return reach.Press{Switch: key, Label: label, Gesture: gesture}
	}
	for name, x := range map[string]struct {
		presses []reach.Press
		want    []string
	}{
		"nothing":               {nil, nil},
		"a box of one switch":   {[]reach.Press{press("amber/s", "Amber", "press")}, []string{"Amber"}},
		"a switch of several":   {[]reach.Press{press("echo/p", "preset", "press")}, []string{"Echo preset"}},
		"again and again":       {[]reach.Press{press("echo/p", "preset", "press"), press("echo/p", "preset", "press"), press("echo/p", "preset", "press")}, []string{"Echo preset ×3"}},
		"another between":       {[]reach.Press{press("echo/p", "preset", "press"), press("amber/s", "Amber", "press"), press("echo/p", "preset", "press")}, []string{"Echo preset", "Amber", "Echo preset"}},
		"held, then pressed":    {[]reach.Press{press("amber/s", "Amber", "hold"), press("amber/s", "Amber", "press")}, []string{"Amber (hold)", "Amber"}},
		"a double press":        {[]reach.Press{press("amber/s", "AMBER", "double")}, []string{"AMBER (double)"}},
		"a box that is no more": {[]reach.Press{press("gone/s", "Gone", "press")}, []string{"Gone"}},
	} {
		t.Run(name, func(t *testing.T) {
			assert.Equal(t, x.want, Pressed(p, reach.Change{Presses: x.presses}))
		})
	}
}

func TestWhatIsMadeReadyNamesAnotherSongOnly(t *testing.T) {
	here := reach.Place{Entry: "e1", Song: "One"}
	section := reach.Section{Place: here, ReadyEarly: []reach.Leisure{
		{For: reach.Place{Entry: "e1", Song: "One", Section: "Solo"}, Action: "Echo preset B"},
		{For: reach.Place{Entry: "e2", Song: "Two", Section: "Intro"}, Action: "Echo preset C"},
	}}
	assert.Equal(t, []string{"Echo preset B for Solo", "Echo preset C for Intro of Two"}, Early(section))
	assert.Empty(t, Early(reach.Section{}))
}

func TestTheCountInSaysWhatASongIsPlayedIn(t *testing.T) {
	p := demo(t)
	song := plan.Song{Title: "x", Tuning: "Drop D", Capo: 2, Guitar: "bulkhead"}
	assert.Equal(t, []string{"96 bpm to the 1/4.", "Drop D", "capo 2", "Bulkhead"}, CountIn(p, &song, plan.Tempo{BPM: 96, Beat: "1/4."}))
	assert.Equal(t, []string{"92.5 bpm"}, CountIn(p, &plan.Song{Guitar: "gone"}, plan.Tempo{BPM: 92.5}))
}
