package reach

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
)

// inTime is a delay that both sounds ask at a quarter, with a second section at half the tempo.
func inTime() *stage {
	s := newStage()
	s.plan.Gear[2].Blocks[0].Controls = []plan.Control{
		{ID: "time", Name: "time", Kind: plan.Knob, Access: plan.Remote, Unit: "ms", Max: ptr(2000.0)},
	}
	s.plan.Gear[2].Footswitches = s.plan.Gear[2].Footswitches[:1]
	for i := range 2 {
		s.rig().Recipes[i].Values = map[plan.Key]plan.Value{"delay/b/on": plan.On(true), "delay/b/time": plan.Sync("1/4")}
	}
	s.plan.Songs[0].Sections[1].Tempo = &plan.Tempo{BPM: 60}
	return s
}

func TestWhatAClockBringsAboutNeedsNoPress(t *testing.T) {
	s := inTime()
	assert.Equal(t, Impossible, s.report(t).Changes[0].Verdict, "nothing moves the time")
	s.plan.Gear = append(s.plan.Gear, plan.Gear{ID: "click", Name: "Click", Kind: plan.Controller})
	s.rig().Clocks = []plan.Clock{{From: "click", To: []plan.ID{"delay"}}}
	c := s.report(t).Changes[0]
	assert.Equal(t, InTime, c.Verdict, c.Reason)
	assert.Empty(t, c.Presses)
}

func TestTimesThatNobodyCanTellApartAreOne(t *testing.T) {
	s := inTime()
	s.plan.Songs[0].Sections[1].Tempo = nil
	s.plan.Songs[0].Tempo = plan.Tempo{BPM: 136}
	s.rig().Recipes[0].Values["delay/b/time"], s.rig().Recipes[1].Values["delay/b/time"] = plan.Number(110), plan.Sync("1/16")
	c := s.report(t).Changes[0]
	assert.Equal(t, InTime, c.Verdict, "110 ms and 110.3: %s", c.Reason)
	s.rig().Recipes[0].Values["delay/b/time"] = plan.Number(114)
	assert.Equal(t, Impossible, s.report(t).Changes[0].Verdict)
}

func TestAProgramRecallsATimeWithTheTempo(t *testing.T) {
	s := inTime().switched(map[string]map[string][]plan.Key{"A": {"1": {"delay/b"}, "2": {"delay/b"}}})
	for i := range s.plan.Gear {
		if id := s.plan.Gear[i].ID; id == "delay" || id == "ctrl" {
			s.plan.Gear[i].MIDI = &plan.MIDIPort{Channel: i + 1}
		}
	}
	rig := s.rig()
	for id, banks := range rig.Programs {
		for bank, slots := range banks {
			for slot, program := range slots {
				program.Values["delay/b/time"] = plan.Sync("1/4")
				rig.Programs[id][bank][slot] = program
			}
		}
	}
	c := s.report(t).Changes[0]
	assert.Equal(t, InTime, c.Verdict, c.Reason)
	assert.Len(t, c.Presses, 1, "the other program recalls the quarter of the new tempo")
}
