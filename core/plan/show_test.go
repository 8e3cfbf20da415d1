package plan_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

func TestANightIsWrittenDownSoundly(t *testing.T) {
	p := small()
	p.Shows[0].After = "Too loud by the rail."
	p.Shows[0].Faults = []plan.Fault{{Text: "Crackled", Gear: "amber", Lead: true, Cured: "other lead"}, {Text: "Hummed"}}
	p.Shows[0].Fixes = []plan.Fix{
		{Text: "Board moved"},
		{Text: "Slower", Key: "echo/delay/time", Value: ptr(plan.Number(410)), Preset: "A"},
		{Text: "In time", Key: "echo/delay/time", Value: ptr(plan.Sync("1/8.")), Sound: "home", Keep: plan.FixLeft},
	}
	p.Shows[0].Batteries = []plan.ID{"amber"}
	require.Empty(t, p.Validate())
	data, err := plan.Encode(&p)
	require.NoError(t, err)
	again, err := plan.Decode(data)
	require.NoError(t, err)
	assert.Equal(t, p.Shows[0], again.Shows[0])
}

func TestAFileFromBeforeTheLogHadPlacesIsStillRead(t *testing.T) {
	old := []byte(
		`{"id":"show","name":"Quay","set_list":"set","rig":"rig","faults":[{"text":"Crackled","gear":"amber"}],"fixes":[{"text":"Nudge down"}]}`,
	)
	a, err := plan.DecodeAggregate(plan.KindShow, old)
	require.NoError(t, err)
	p := small()
	p.Put(a)
	assert.Empty(t, p.Validate())
	show, _ := p.FindShow("show")
	assert.Equal(t, plan.Fault{Text: "Crackled", Gear: "amber"}, show.Faults[0])
}

func TestWhatIsWrongInALogIsNamedByItsPath(t *testing.T) {
	for path, edit := range map[string]func(s *plan.Show){
		"shows[0].faults[0].text": func(s *plan.Show) { s.Faults = []plan.Fault{{}} },
		"shows[0].faults[0].gear": func(s *plan.Show) { s.Faults = []plan.Fault{{Text: "x", Gear: "gone"}} },
		"shows[0].faults[1].gear": func(s *plan.Show) { s.Faults = []plan.Fault{{Text: "x"}, {Text: "y", Lead: true}} },
		"shows[0].fixes[0].text":  func(s *plan.Show) { s.Fixes = []plan.Fix{{Text: " "}} },
		"shows[0].fixes[0].gear":  func(s *plan.Show) { s.Fixes = []plan.Fix{{Text: "x", Gear: "gone"}} },
		"shows[0].fixes[0].sound": func(s *plan.Show) { s.Fixes = []plan.Fix{{Text: "x", Sound: "gone"}} },
		"shows[0].fixes[0].value": func(s *plan.Show) { s.Fixes = []plan.Fix{{Text: "x", Key: "amber/drive/gain"}} },
		"shows[0].fixes[0].key":   func(s *plan.Show) { s.Fixes = []plan.Fix{{Text: "x", Value: ptr(plan.Number(1))}} },
		"shows[0].fixes[1].key":   func(s *plan.Show) { s.Fixes = []plan.Fix{{Text: "x"}, {Text: "y", Preset: "A"}} },
		"shows[0].fixes[0].preset": func(s *plan.Show) {
			s.Fixes = []plan.Fix{{Text: "x", Key: "amber/drive/gain", Value: ptr(plan.Number(1)), Preset: "A"}}
		},
		"shows[0].fixes[1].preset": func(s *plan.Show) {
			s.Fixes = []plan.Fix{{Text: "x"}, {Text: "x", Key: "echo/delay/time", Value: ptr(plan.Number(90)), Preset: "Z"}}
		},
		"shows[0].fixes[2].preset": func(s *plan.Show) {
			s.Fixes = []plan.Fix{
				{Text: "x"}, {Text: "x"}, {Text: "x", Key: "echo/delay/preset", Value: ptr(plan.Text("A")), Preset: "A"},
			}
		},
		"shows[0].fixes[0].keep": func(s *plan.Show) { s.Fixes = []plan.Fix{{Text: "x", Keep: "maybe"}} },
		"shows[0].batteries[0]":  func(s *plan.Show) { s.Batteries = []plan.ID{"gone"} },
		"shows[0].destination":   func(s *plan.Show) { s.Destination = "nowhere" },
		"shows[0].set_list":      func(s *plan.Show) { s.SetList = "gone" },
		"shows[0].rig":           func(s *plan.Show) { s.Rig = "gone" },
		"shows[0].name":          func(s *plan.Show) { s.Name = "" },
		"shows[0].fixes[2].value": func(s *plan.Show) {
			s.Fixes = []plan.Fix{{Text: "x"}, {Text: "x"}, {Text: "x", Key: "amber/drive/gain", Value: ptr(plan.Number(11))}}
		},
		"shows[0].fixes[2].key": func(s *plan.Show) {
			s.Fixes = []plan.Fix{{Text: "x"}, {Text: "x"}, {Text: "x", Key: "amber/drive/shine", Value: ptr(plan.Number(1))}}
		},
	} {
		t.Run(path, func(t *testing.T) {
			p := small()
			edit(&p.Shows[0])
			problems := p.Validate()
			var paths []string
			for _, x := range problems {
				paths = append(paths, x.Path)
			}
			assert.Contains(t, paths, path)
		})
	}
}

func TestALineOfALogMayBeLongButMustSaySomething(t *testing.T) {
	p := small()
	p.Shows[0].Faults = []plan.Fault{{Text: strings.Repeat("It crackled. ", 100)}}
	assert.Empty(t, p.Validate())
	p.Shows[0].Faults[0].Text = "\n\t "
	require.Len(t, p.Validate(), 1)
	assert.Equal(t, "say what went wrong", p.Validate()[0].Message)
	p.Shows[0].Faults = nil
	p.Shows[0].Fixes = []plan.Fix{{}}
	assert.Equal(t, "say what was changed", p.Validate()[0].Message)
	p.Shows[0].Fixes[0].Text = strings.Repeat("x", 20001)
	assert.NotEmpty(t, p.Validate(), "and not without end")
}

func TestADecidedChangeNeverStandsInTheWayOfTheGear(t *testing.T) {
	p := small()
	p.Shows[0].Fixes = []plan.Fix{{Text: "x", Key: "amber/drive/tone", Value: ptr(plan.Number(3)), Keep: plan.FixKept}}
	assert.Empty(t, p.Validate(), "the control is no more, the record is")
	p.Shows[0].Fixes[0].Keep = ""
	assert.NotEmpty(t, p.Validate(), "what is not decided has to be something that can be kept")
}

func TestALogMentionsItsGearAndSounds(t *testing.T) {
	p := small()
	p.Sounds = append(p.Sounds, plan.Sound{ID: "lead", Name: "Lead", Short: "LD", Role: plan.LeadRole, Tape: "sky"})
	p.Gear = append(p.Gear, plan.Gear{ID: "spare", Name: "Spare", Kind: plan.Pedal})
	p.Shows[0].Faults = []plan.Fault{{Text: "x", Gear: "spare"}}
	p.Shows[0].Fixes = []plan.Fix{{Text: "y", Key: "amber/drive/gain", Value: ptr(plan.Number(1)), Sound: "lead"}}
	p.Shows[0].Batteries = []plan.ID{"spare"}
	require.Empty(t, p.Validate())
	assert.Equal(t, []plan.Use{{Kind: plan.KindShow, ID: "show", Name: "Quay", Where: "its log"}}, p.Uses("spare"))
	assert.Equal(t, []plan.Use{{Kind: plan.KindShow, ID: "show", Name: "Quay", Where: "its log"}}, p.Uses("lead"))
	bundle, err := p.Bundle("show")
	require.NoError(t, err)
	_, ok := bundle.FindGear("spare")
	assert.True(t, ok, "a show goes out with what its log speaks of")
}
