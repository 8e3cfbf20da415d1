package reach

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// bigPlan is a night of many songs of nine sections each on a rig of thirty stops: every
// pedal with its own switch, two stepped delays with trails, a tapped one, and knobs.
func bigPlan(songs int) *plan.Plan {
	p := &plan.Plan{}
	r := plan.Rig{ID: "rig", Name: "rig", Base: map[plan.Key]plan.Value{}}
	knob := func(id, name string) plan.Control {
		return plan.Control{ID: plan.ID(id), Name: name, Kind: plan.Knob, Access: plan.SlowHand}
	}
	for i := range 30 {
		id := plan.ID(fmt.Sprint("g", i))
		b := plan.Block{ID: "b", Name: "b", Effect: plan.EffectOverdrive, Bypass: plan.TrueBypass,
			Controls: []plan.Control{knob("drive", "drive"), knob("tone", "tone"), knob("level", "level")}}
		g := plan.Gear{ID: id, Name: string(id), Kind: plan.Pedal, Size: &plan.Size{Width: 70, Depth: 120},
			Footswitches: []plan.Footswitch{
				{
					ID: "s", Label: string(id), X: 35, Y: 100,
					Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Toggle, Target: "b/on"}}},
				},
			}}
		switch {
		case i%10 == 7:
			b.Effect, b.Trails = plan.EffectDelay, true
			b.Controls = append(
				b.Controls,
				plan.Control{ID: "p", Name: "preset", Kind: plan.Preset, Access: plan.Foot, Options: []string{"A", "B", "C"}},
			)
			g.Footswitches[0].Hold = &plan.Press{Actions: []plan.Action{{Kind: plan.Step, Target: "b/p", Wrap: true}}}
		case i == 12:
			b.Controls = append(
				b.Controls,
				plan.Control{ID: "time", Name: "time", Kind: plan.Knob, Access: plan.Foot, Unit: "ms", Max: ptr(4000.0)},
			)
			g.Footswitches = append(
				g.Footswitches,
				plan.Footswitch{
					ID: "tap", Label: "tap", X: 60, Y: 60,
					Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Tap, Target: "b/time"}}},
				},
			)
		}
		g.Blocks = []plan.Block{b}
		p.Gear = append(p.Gear, g)
		r.Path = append(r.Path, plan.Node{Stop: plan.BlockKey(id, "b")})
	}
	for i := range 8 {
		id := plan.ID(fmt.Sprint("s", i))
		p.Sounds = append(
			p.Sounds, plan.Sound{ID: id, Name: string(id), Short: fmt.Sprint(i), Role: plan.RhythmRole, Tape: "bone"},
		)
		rec := plan.Recipe{ID: "r" + id, Sound: id, Values: map[plan.Key]plan.Value{}}
		for j, g := range p.Gear {
			rec.Values[plan.OnKey(g.ID, "b")] = plan.On((i*5+j)%11 == 0 || j < 3)
			if j%10 == 7 {
				rec.Values[plan.BlockKey(g.ID, "b")+"/p"] = plan.Text([]string{"A", "B", "C"}[(i+j)%3])
			}
			if j == 12 {
				rec.Values[plan.BlockKey(g.ID, "b")+"/time"] = plan.Sync("1/8.")
			}
			if j == 5 {
				rec.Values[plan.BlockKey(g.ID, "b")+"/drive"] = plan.Number(float64(i % 2))
			}
		}
		r.Recipes = append(r.Recipes, rec)
	}
	p.SetLists = []plan.SetList{{ID: "set", Name: "set"}}
	for i := range songs {
		song := plan.Song{
			ID: plan.ID(fmt.Sprint("t", i)), Title: "t", Tempo: plan.Tempo{BPM: float64(76 + 7*i%90)},
			Meter: plan.Meter{Beats: 4, Unit: 4},
		}
		for j := range 9 {
			song.Sections = append(
				song.Sections,
				plan.Section{
					ID: plan.ID(fmt.Sprint("x", j)), Label: "x", Sound: plan.ID(fmt.Sprint("s", (i*3+j*j)%8)), Bars: ptr(8.0),
					Singing: j%2 == 0,
				},
			)
		}
		p.Songs = append(p.Songs, song)
		p.SetLists[0].Entries = append(
			p.SetLists[0].Entries, plan.SetEntry{ID: plan.ID(fmt.Sprint("e", i)), Song: song.ID, Segue: i%9 == 4},
		)
	}
	p.Rigs = []plan.Rig{r}
	return p
}

func BenchmarkReach(b *testing.B) {
	for _, songs := range []int{40, 80} {
		p := bigPlan(songs)
		require.Empty(b, p.Validate())
		b.Run(fmt.Sprintf("%d songs", songs), func(b *testing.B) {
			for b.Loop() {
				r, err := Compute(p, "rig", "set")
				if err != nil || !r.Exact {
					b.Fatal(err, "not exact")
				}
			}
		})
	}
}

// withPrograms puts eight of the pedals into loops of a switcher and gives each sound a
// program, five to a bank.
func withPrograms(p *plan.Plan) *plan.Plan {
	press := func(a plan.Action) *plan.Press { return &plan.Press{Actions: []plan.Action{a}} }
	c := plan.Gear{
		ID: "c", Name: "Turntable", Kind: plan.Controller, Size: &plan.Size{Width: 400, Depth: 110},
		Switcher: &plan.Switcher{Loops: make([]plan.SwitcherLoop, 8)},
	}
	for k := range 5 {
		slot := plan.Text(fmt.Sprint(k + 1))
		c.Footswitches = append(
			c.Footswitches,
			plan.Footswitch{
				ID: plan.ID(fmt.Sprint("s", k)), Label: fmt.Sprint(k + 1), X: float64(40 + 70*k), Y: 60,
				Press: press(plan.Action{Kind: plan.Recall, Value: &slot}),
			},
		)
	}
	c.Footswitches = append(
		c.Footswitches,
		plan.Footswitch{ID: "up", Label: "bank", X: 390, Y: 60, Press: press(plan.Action{Kind: plan.Bank, Wrap: true})},
	)
	p.Gear = append(p.Gear, c)
	r := &p.Rigs[0]
	r.Programs = plan.ProgramMap{"c": {"1": {}, "2": {}}}
	for i := range 8 {
		r.Path[i].Switcher, r.Path[i].Loop = "c", i+1
	}
	for i, rec := range r.Recipes {
		program := plan.Program{Sound: rec.Sound, Values: map[plan.Key]plan.Value{}}
		for k := range 8 {
			on := plan.OnKey(plan.ID(fmt.Sprint("g", k)), "b")
			program.Values[on] = rec.Values[on]
		}
		r.Programs["c"][fmt.Sprint(i/5+1)][fmt.Sprint(i%5+1)] = program
	}
	return p
}

func BenchmarkReachWithPrograms(b *testing.B) {
	p := withPrograms(bigPlan(40))
	require.Empty(b, p.Validate())
	for b.Loop() {
		r, err := Compute(p, "rig", "set")
		if err != nil || !r.Exact {
			b.Fatal(err, "not exact")
		}
	}
}

func BenchmarkAnyOrder(b *testing.B) {
	p := bigPlan(1000)
	require.Empty(b, p.Validate())
	for b.Loop() {
		if _, err := ComputeAnyOrder(b.Context(), p, "rig", "set", nil); err != nil {
			b.Fatal(err)
		}
	}
}
