package reach

import (
	"fmt"

	"pgregory.net/rapid"

	"envex/core/plan"
)

func ptr[T any](v T) *T { return &v }

// randomPlan draws a small rig with every kind of switch, and a short show that asks much
// of it.
func randomPlan(t *rapid.T) *plan.Plan {
	p := &plan.Plan{}
	pedals := rapid.SampledFrom([]int{1, 2, 2, 2, 2, 3}).Draw(t, "pedals")
	r := plan.Rig{ID: "rig", Name: "rig", Floor: plan.Floor{Places: map[plan.ID]plan.Placement{}}}
	for i := range pedals {
		g := randomPedal(t, plan.ID(fmt.Sprint("g", i)))
		p.Gear = append(p.Gear, g)
		for _, b := range g.Blocks {
			r.Path = append(r.Path, plan.Node{Stop: plan.BlockKey(g.ID, b.ID)})
		}
		r.Floor.Places[g.ID] = plan.Placement{
			X: float64(rapid.IntRange(0, 12).Draw(t, "x") * 50), Y: float64(rapid.IntRange(0, 2).Draw(t, "y") * 130),
		}
	}
	if pedals > 1 && rapid.IntRange(0, 3).Draw(t, "stomp") == 0 {
		r.Floor.DoubleStomps = []plan.DoubleStomp{{A: "g0/s0", B: "g1/s0"}}
		if pedals > 2 {
			r.Floor.DoubleStomps = append(r.Floor.DoubleStomps, plan.DoubleStomp{A: "g1/s0", B: "g2/s0"})
		}
	}
	if rapid.IntRange(0, 2).Draw(t, "programs") == 0 {
		randomPrograms(t, p, &r)
	}
	sounds := rapid.IntRange(2, 3).Draw(t, "sounds")
	for i := range sounds {
		id := plan.ID(fmt.Sprint("s", i))
		p.Sounds = append(
			p.Sounds, plan.Sound{ID: id, Name: string(id), Short: fmt.Sprint("S", i), Role: plan.RhythmRole, Tape: "bone"},
		)
		rec := plan.Recipe{ID: "r" + id, Sound: id, Values: map[plan.Key]plan.Value{}}
		for _, g := range p.Gear {
			for _, v := range g.Variables() {
				randomSetting(t, rec.Values, v)
			}
		}
		if i == 0 || rapid.IntRange(0, 9).Draw(t, "has recipe") > 0 {
			r.Recipes = append(r.Recipes, rec)
		}
	}
	r.Profile.Taps = ptr(2)
	p.Rigs = []plan.Rig{r}
	p.SetLists = []plan.SetList{{ID: "set", Name: "set", GapS: ptr(rapid.SampledFrom([]float64{1, 3, 15}).Draw(t, "gap"))}}
	parts := 0
	for i := range rapid.IntRange(1, 2).Draw(t, "songs") {
		song := plan.Song{ID: plan.ID(fmt.Sprint("t", i)), Title: "t", Meter: plan.Meter{Beats: 4, Unit: 4},
			Tempo: plan.Tempo{BPM: rapid.SampledFrom([]float64{70, 100, 160}).Draw(t, "bpm")}}
		for range rapid.IntRange(1, 4).Draw(t, "sections") {
			song.Sections = append(song.Sections, plan.Section{
				ID: plan.ID(fmt.Sprint("x", parts)), Label: "x",
				Sound:   plan.ID(fmt.Sprint("s", rapid.IntRange(0, sounds-1).Draw(t, "sound"))),
				Bars:    ptr(rapid.SampledFrom([]float64{0.5, 1, 1, 2}).Draw(t, "bars")),
				Singing: rapid.Bool().Draw(t, "singing"), Rest: float64(rapid.IntRange(0, 1).Draw(t, "rest")),
			})
			parts++
		}
		p.Songs = append(p.Songs, song)
		p.SetLists[0].Entries = append(p.SetLists[0].Entries, plan.SetEntry{
			ID: plan.ID(fmt.Sprint("e", i)), Song: song.ID, Segue: rapid.Bool().Draw(t, "segue"),
		})
	}
	return p
}

// randomPrograms puts the pedals into loops of a switcher with two slots in one or two banks.
func randomPrograms(t *rapid.T, p *plan.Plan, r *plan.Rig) {
	recall := func(slot string) *plan.Press {
		return &plan.Press{Actions: []plan.Action{{Kind: plan.Recall, Value: ptr(plan.Text(slot))}}}
	}
	c := plan.Gear{ID: "c", Name: "c", Kind: plan.Controller, Size: &plan.Size{Width: 300, Depth: 120},
		Switcher: &plan.Switcher{Loops: make([]plan.SwitcherLoop, len(r.Path))},
		Footswitches: []plan.Footswitch{
			{ID: "s0", Label: "1", X: 40, Y: 60, Press: recall("1")}, {ID: "s1", Label: "2", X: 120, Y: 60, Press: recall("2")},
		}}
	banks := []string{"A", "B"}[:rapid.IntRange(1, 2).Draw(t, "banks")]
	if len(banks) > 1 {
		step := &plan.Press{Actions: []plan.Action{{Kind: plan.Bank, Wrap: rapid.Bool().Draw(t, "bank wraps")}}}
		if rapid.Bool().Draw(t, "absolute") {
			step = recall("B/2")
		}
		c.Footswitches = append(c.Footswitches, plan.Footswitch{ID: "s2", Label: "bank", X: 200, Y: 60, Press: step})
	}
	if rapid.Bool().Draw(t, "direct") {
		r.Assignments = []plan.Assignment{
			{
				Gear: "c", Switch: "s1", Press: recall("2"),
				Hold: &plan.Press{Actions: []plan.Action{{Kind: plan.Toggle, Target: r.Path[0].Stop + "/on"}}},
			},
		}
	}
	p.Gear = append(p.Gear, c)
	r.Floor.Places["c"] = plan.Placement{X: 100, Y: 300}
	r.Programs = plan.ProgramMap{"c": {}}
	for _, bank := range banks {
		r.Programs["c"][bank] = map[string]plan.Program{}
		for _, slot := range []string{"1", "2"} {
			program := plan.Program{Values: map[plan.Key]plan.Value{}}
			for _, n := range r.Path {
				switch rapid.IntRange(0, 2).Draw(t, "recalls") {
				case 0:
					program.Values[n.Stop+"/on"] = plan.On(false)
				case 1:
					program.Values[n.Stop+"/on"] = plan.On(true)
				}
			}
			r.Programs["c"][bank][slot] = program
		}
	}
	for i := range r.Path {
		r.Path[i].Switcher, r.Path[i].Loop = "c", i+1
	}
}

func randomPedal(t *rapid.T, id plan.ID) plan.Gear {
	b := plan.Block{
		ID: "b", Name: "b", Effect: plan.EffectDelay, Bypass: plan.TrueBypass, Trails: rapid.Bool().Draw(t, "trails"),
		RingS: ptr(1.0),
	}
	press := func(kind plan.ActionKind, target plan.Key, by int) *plan.Press {
		return &plan.Press{
			Actions: []plan.Action{{Kind: kind, Target: target, By: by, Wrap: by != 0 && rapid.Bool().Draw(t, "wrap")}},
		}
	}
	s := plan.Footswitch{ID: "s0", Label: "on", X: 20, Y: 60, Press: press(plan.Toggle, "b/on", 0)}
	g := plan.Gear{ID: id, Name: string(id), Kind: plan.Pedal, Size: &plan.Size{Width: 100, Depth: 120}}
	switch rapid.SampledFrom([]int{0, 1, 1, 2, 3, 4, 4}).Draw(t, "kind") {
	case 1: // presets stepped by a hold, or by a switch of their own
		b.Controls = []plan.Control{
			{ID: "p", Name: "p", Kind: plan.Preset, Access: plan.Foot, Options: []string{"A", "B", "C"}},
		}
		if rapid.Bool().Draw(t, "hold") {
			s.Hold = press(plan.Step, "b/p", 1)
		} else {
			g.Footswitches = append(
				g.Footswitches, plan.Footswitch{ID: "s1", Label: "step", X: 70, Y: 60, Press: press(plan.Step, "b/p", 1)},
			)
			s.Double = press(plan.Step, "b/p", -1)
		}
	case 2: // a knob
		b.Controls = []plan.Control{
			{
				ID: "k", Name: "k", Kind: plan.Knob,
				Access: rapid.SampledFrom([]plan.Access{plan.SlowHand, plan.QuickHand, plan.Remote}).Draw(t, "access"),
			},
		}
	case 3: // one switch that moves two things
		b.Controls = []plan.Control{{ID: "p", Name: "p", Kind: plan.Selector, Access: plan.Foot, Options: []string{"A", "B"}}}
		s.Press.Actions = append(s.Press.Actions, plan.Action{Kind: plan.Step, Target: "b/p", Wrap: true})
		g.Footswitches = append(
			g.Footswitches, plan.Footswitch{ID: "s1", Label: "p", X: 70, Y: 60, Press: press(plan.Step, "b/p", 1)},
		)
		g.Footswitches[0].Press.Actions[0].Wrap = true
	case 4: // a tapped time
		b.Controls = []plan.Control{{ID: "t", Name: "t", Kind: plan.Knob, Access: plan.Foot, Unit: "ms", Max: ptr(4000.0)}}
		g.Footswitches = append(
			g.Footswitches, plan.Footswitch{ID: "s1", Label: "tap", X: 70, Y: 60, Press: press(plan.Tap, "b/t", 0)},
		)
	}
	g.Footswitches = append([]plan.Footswitch{s}, g.Footswitches...)
	g.Blocks = []plan.Block{b}
	return g
}

func randomSetting(t *rapid.T, values map[plan.Key]plan.Value, v plan.Variable) {
	dice := rapid.IntRange(0, 9).Draw(t, string(v.Key))
	switch {
	case dice == 0:
		values[v.Key] = plan.Free()
	case v.IsOn():
		values[v.Key] = plan.On(dice > 4)
	case v.Control.ID == "t":
		values[v.Key] = plan.Sync(rapid.SampledFrom([]string{"1/4", "1/8"}).Draw(t, "note"))
	case v.Control.Kind == plan.Knob:
		values[v.Key] = plan.Number(float64(dice % 3))
	default:
		values[v.Key] = plan.Text(v.Control.Options[dice%len(v.Control.Options)])
	}
}
