package plan

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Every limit holds at the limit and not beyond it.
func TestJSONIsReadAsDeepAsItMayBe(t *testing.T) {
	nested := func(depth int) []byte {
		return []byte(strings.Repeat("[", depth) + strings.Repeat("]", depth))
	}
	_, err := parseTree(nested(64))
	assert.NoError(t, err)
	_, err = parseTree(nested(65))
	assert.ErrorContains(t, err, "deeper than 64 levels")
}

func TestASplitHasEightLanesAndNoMore(t *testing.T) {
	lanes := func(n int) Problems {
		s := &Split{ID: "s", Kind: SplitCopy, Join: JoinSum, Lanes: make([]Lane, n)}
		p := &Plan{Rigs: []Rig{{ID: "r", Name: "R", Path: []Node{{Split: s}}}}}
		var found Problems
		for _, x := range p.Validate() {
			if strings.Contains(x.Message, "lanes: the limit is") {
				found = append(found, x)
			}
		}
		return found
	}
	assert.Empty(t, lanes(8))
	assert.NotEmpty(t, lanes(9))
}

func TestATimeIsThatOfANumberAlone(t *testing.T) {
	rate := Control{Kind: Knob, Unit: "Hz"}
	ms, ok := rate.TimeMS(Number(4))
	assert.True(t, ok)
	assert.Equal(t, 250.0, ms)
	for _, v := range []Value{Text("4"), Sync("1/8"), On(true), {}, Number(0)} {
		_, ok := rate.TimeMS(v)
		assert.False(t, ok, "%v", v)
	}
	measured := Control{Kind: Knob, Measured: []Rate{{At: 0, Hz: 1}, {At: 5, Hz: 2}, {At: 10, Hz: 8}}}
	for at, hz := range map[float64]float64{0: 1, 2.5: 1.41421356, 5: 2, 7.5: 4, 10: 8} {
		ms, ok := measured.TimeMS(Number(at))
		assert.True(t, ok)
		assert.InDelta(t, 1000/hz, ms, 1e-4, "at %g", at)
		back, ok := measured.PositionOf(ms)
		assert.True(t, ok)
		assert.InDelta(t, at, back, 1e-6)
	}
}

func TestASplitOfManyLanesNamesTheFirstTwo(t *testing.T) {
	name := func(n int) string {
		s := &Split{Kind: SplitCopy}
		for i := range n {
			s.Lanes = append(s.Lanes, Lane{Name: fmt.Sprint("L", i+1)})
		}
		return (&Plan{}).SplitName(s)
	}
	assert.Equal(t, "the split into L1, L2 and L3", name(3))
	assert.Equal(t, "the split into L1, L2 and 2 more", name(4))
	assert.Equal(t, "the split into L1, L2 and 3 more", name(5))
}

func TestBarsThatAreOpenAreMarkedOpenOnce(t *testing.T) {
	p := &Plan{Songs: []Song{{ID: "s", Sections: []Section{{ID: "a", Label: "Solo"}}}}}
	zero, one := 0.0, 1.0
	assert.Empty(t, p.MarkSections("", "Solo", Marking{Bars: &zero}), "it is open already")
	changed := p.MarkSections("", "Solo", Marking{Bars: &one})
	assert.Len(t, changed, 1, "one bar is not open")
	assert.Equal(t, &one, changed[0].Sections[0].Bars)
}

// Gear that has gone from the plan does not hide the gear after it.
func TestWhatOtherGearIsSetToIsKnownWithoutTheMissing(t *testing.T) {
	knob := Control{ID: "drive", Name: "drive", Kind: Knob, Access: SlowHand}
	p := &Plan{
		Gear: []Gear{{ID: "there", Kind: Pedal, Blocks: []Block{
			{ID: "fx", Effect: EffectOverdrive, Bypass: TrueBypass, Controls: []Control{knob}},
		}}},
		Rigs: []Rig{{
			ID: "r", Path: []Node{{Stop: "gone/fx"}, {Stop: "there/fx"}},
			Base: map[Key]Value{"there/fx/drive": Number(7)},
		}},
	}
	set := p.SettingsOf(&p.Rigs[0]).For(nil, nil, Tempo{BPM: 120})
	assert.Equal(t, Number(7), set.At("there/fx/drive"))
}

func TestADayIsOneOfTheCalendar(t *testing.T) {
	for day, want := range map[string]bool{
		"2026-01-31": true, "2026-01-32": false, "2026-03-31": true, "2026-04-30": true, "2026-04-31": false,
		"2026-05-31": true, "2026-06-31": false, "2026-07-31": true, "2026-08-31": true, "2026-09-31": false,
		"2026-10-31": true, "2026-11-31": false, "2026-12-31": true, "2026-02-28": true, "2026-02-29": false,
		"2024-02-29": true, "2024-02-30": false, "2000-02-29": true, "2100-02-29": false,
		"2026-00-10": false, "2026-13-10": false, "2026-01-00": false, "2026-1-1": false, "": false, "today": false,
		"2026-01-011": false,
	} {
		assert.Equal(t, want, isDate(day), day)
	}
}

func TestNotesLastByTheBeatOfTheSong(t *testing.T) {
	for _, x := range []struct {
		tempo Tempo
		note  string
		ms    float64
	}{
		{Tempo{BPM: 120}, "1/4", 500}, {Tempo{BPM: 120}, "1/8.", 375}, {Tempo{BPM: 120}, "1/8t", 1000.0 / 6},
		{Tempo{BPM: 60, Beat: "1/8"}, "1/4", 2000}, {Tempo{BPM: 80, Beat: "1/4."}, "1/8", 250},
	} {
		ms, ok := x.tempo.Milliseconds(x.note)
		assert.True(t, ok)
		assert.InDelta(t, x.ms, ms, 1e-9, "%v of %s", x.tempo, x.note)
	}
	for _, tempo := range []Tempo{{}, {BPM: 0}, {BPM: -60}, {BPM: 120, Beat: "1/3"}} {
		_, ok := tempo.Milliseconds("1/4")
		assert.False(t, ok, "%v", tempo)
	}
	_, ok := Tempo{BPM: 120}.Milliseconds("3/7")
	assert.False(t, ok)
}

func TestTextsAndKeysAreAsLongAsTheyMayBe(t *testing.T) {
	long := func(n int) Problems {
		p := &Plan{Shows: []Show{{ID: "s", Notes: strings.Repeat("a", n)}}}
		var found Problems
		for _, x := range p.Validate() {
			if strings.Contains(x.Message, "longer than") {
				found = append(found, x)
			}
		}
		return found
	}
	assert.Empty(t, long(MaxText))
	assert.NotEmpty(t, long(MaxText+1))
}

func TestAsManyProblemsAreToldAsCanBeRead(t *testing.T) {
	var ps Problems
	for i := range mostProblems + 5 {
		ps.add("gear", "problem %d", i)
	}
	assert.Len(t, ps, 200)
	assert.Equal(t, "problem 199", ps[199].Message)
}

// split is a chain with a choice by a switcher's selector, a mixer behind it, and a pedal in each lane.
func split(kind string) *Plan {
	pedal := func(id ID) Gear {
		return Gear{
			ID:     id,
			Name:   string(id),
			Kind:   Pedal,
			Blocks: []Block{{ID: "fx", Effect: EffectChorus, Bypass: TrueBypass}},
		}
	}
	chooser := pedal("aby")
	chooser.Blocks[0].Controls = []Control{
		{ID: "to", Name: "to", Kind: Selector, Access: Foot, Options: []string{"one", "two", "both"}},
	}
	return &Plan{
		Gear: []Gear{chooser, pedal("one"), pedal("two"), pedal("mixer")},
		Rigs: []Rig{{
			ID: "r", Base: map[Key]Value{},
			Path: []Node{{
				Split: &Split{
					ID: "s", Kind: kind, From: "aby/fx", To: "mixer/fx", Join: JoinSum,
					Lanes: []Lane{{Nodes: []Node{{Stop: "one/fx"}}}, {Nodes: []Node{{Stop: "two/fx"}}}},
				},
			}},
		}},
	}
}

func TestLanesSoundAsTheirSwitchStands(t *testing.T) {
	for position, want := range map[string][]bool{
		"one": {true, false}, "two": {false, true}, "both": {true, true},
	} {
		p := split(SplitAB)
		r := &p.Rigs[0]
		r.Base["aby/fx/to"] = Text(position)
		set := p.SettingsOf(r).For(nil, nil, Tempo{BPM: 120})
		lanes, main := p.Sounding(r.Path[0].Split, set)
		assert.Equal(t, want, lanes, position)
		assert.True(t, main)
		sounding := p.StopsSounding(r.Path, set)
		assert.Equal(
			t, []bool{true, want[0], want[1], true},
			[]bool{sounding["aby/fx"], sounding["one/fx"], sounding["two/fx"], sounding["mixer/fx"]},
			"%s: what divides and what joins always sounds", position,
		)
	}
	p := split(SplitCopy)
	_, chosen := p.ChoiceOf(p.Rigs[0].Path[0].Split)
	assert.False(t, chosen, "a copy is chosen by nothing that it does not name")
	lanes, _ := p.Sounding(p.Rigs[0].Path[0].Split, p.SettingsOf(&p.Rigs[0]).For(nil, nil, Tempo{BPM: 120}))
	assert.Equal(t, []bool{true, true}, lanes)
}

func TestALaneAsksForItsPosition(t *testing.T) {
	p := split(SplitAB)
	asked := p.LaneConditions(p.Rigs[0].Path)
	assert.Equal(t, []KeyCondition{{Key: "aby/fx/to", Is: []Value{Text("one"), Text("both")}}}, asked["one/fx"])
	assert.Len(t, asked, 2, "what divides and what joins asks for nothing")
	assert.Empty(t, p.LaneConditions([]Node{{Stop: "one/fx"}}), "nor does what stands in no lane")
}

func TestBanksAreAsFarApartAsTheirSwitchesSay(t *testing.T) {
	g := Gear{ID: "c", Kind: Controller, Footswitches: []Footswitch{
		{ID: "up", Press: &Press{Actions: []Action{{Kind: Bank}}}},
		{ID: "down", Press: &Press{Actions: []Action{{Kind: Bank, By: -1}}}},
	}}
	r := &Rig{}
	assert.Equal(t, [][]int{{0, 1, 2}, {1, 0, 1}, {2, 1, 0}}, r.BankPresses(&g, 3))
	g.Footswitches = g.Footswitches[:1]
	assert.Equal(t, [][]int{{0, 1, 2}, {Far, 0, 1}, {Far, Far, 0}}, r.BankPresses(&g, 3), "no way back")
	g.Footswitches[0].Press.Actions[0].Wrap = true
	assert.Equal(t, [][]int{{0, 1, 2}, {2, 0, 1}, {1, 2, 0}}, r.BankPresses(&g, 3), "round and round")
}
