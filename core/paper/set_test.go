package paper

import (
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/reach"
	"envex/demo"
)

func TestAChangeThatNoSwitchMakesSaysSoAndLeavesTheHandsTheirs(t *testing.T) {
	s := sheet(t, at(t, "switched", ""), "quay-12", SetSheet)
	first := s.Parts[0]
	assert.Equal(t, "Driftwood pickup to bridge, cannot be made", cells(t, first, "by hand")[2])
	assert.Empty(t, cells(t, first, "press")[2])
}

func TestPressesSayWhatTheyDo(t *testing.T) {
	press := func(key plan.Key, act, gesture string) reach.Press {
		return reach.Press{Switch: key, Act: act, Gesture: gesture}
	}
	for name, x := range map[string]struct {
		presses []reach.Press
		want    []string
	}{
		"nothing": {nil, nil},
		"one":     {[]reach.Press{press("mid/s", "Mid off", "press")}, []string{"Mid off"}},
		"again and again": {
			[]reach.Press{press("echo/p", "Echo preset B", "press"), press("echo/p", "Echo preset C", "press")},
			[]string{"Echo preset C ×2"},
		},
		"another between": {
			[]reach.Press{
				press("echo/p", "Echo preset B", "press"), press("amber/s", "Amber on", "press"),
				press("echo/p", "Echo preset C", "press"),
			},
			[]string{"Echo preset B", "Amber on", "Echo preset C"},
		},
		"held, then pressed": {
			[]reach.Press{press("amber/s", "hold Amber: Rust on", "hold"), press("amber/s", "Amber on", "press")},
			[]string{"hold Amber: Rust on", "Amber on"},
		},
	} {
		t.Run(name, func(t *testing.T) {
			assert.Equal(t, x.want, Pressed(reach.Change{Presses: x.presses}))
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
	p := demo.Plan()
	song := plan.Song{Title: "x", Tuning: "Drop D", Capo: 2, Guitar: "bulkhead"}
	assert.Equal(
		t, []string{"96 bpm to the 1/4.", "Drop D", "capo 2", "Bulkhead"},
		CountIn(p, &song, plan.Tempo{BPM: 96, Beat: "1/4."}),
	)
	assert.Equal(t, []string{"92.5 bpm"}, CountIn(p, &plan.Song{Guitar: "gone"}, plan.Tempo{BPM: 92.5}))
}

func TestTheSetSheetHasTheLoopersBars(t *testing.T) {
	data, err := os.ReadFile("../../testdata/rigs/looper/rig.envex.json")
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	sheet, err := Make(p, p.Shows[0].ID, SetSheet)
	require.NoError(t, err)
	assert.Contains(t, sheet.Parts[0].Rows[0][3].Text, "Record Bass with Round")
	assert.Contains(t, sheet.Parts[0].Rows[1][3].Text, "Close Bass, and at once")
}
