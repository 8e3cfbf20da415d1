package dial

import (
	"context"
	"fmt"
	"math"

	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
)

// Starts are where to begin on the amp of a rig with a guitar.
type Starts struct {
	Rig    plan.ID `json:"rig"`
	Amp    plan.ID `json:"amp"`
	Name   string  `json:"name" doc:"Of the amp."`
	Guitar string  `json:"guitar" doc:"That plays."`
	Ways   []Way   `json:"ways" doc:"Clean and loud, edge, pushed: those that the amp can do."`
	Words  string  `json:"words,omitempty" doc:"What it cannot do."`

	Tone *signal.ToneStack `json:"tone,omitempty" doc:"What its tone knobs do, as curves; absent where it has none."`
}

// Way is one way to set gain against master.
type Way struct {
	Name  string   `json:"name"`
	Knobs []Place  `json:"knobs"`
	Input string   `json:"input,omitempty" doc:"Which input to plug into, where it has more than one."`
	Dirt  float64  `json:"dirt_pct"`
	Over  float64  `json:"over_lu" doc:"Its loudness over that of the rig as it stands, pedals off."`
	Rig   plan.Rig `json:"rig" doc:"The rig with it in its base settings."`
}

// ways are what is looked for: a band of dirt, and whether as loud as it goes or as loud as it is now.
var ways = []struct {
	name      string
	low, high float64
	loud      bool
}{
	{"Clean and loud", 0, 3, true},
	{"Edge", 6, 14, false},
	{"Pushed", 22, 38, false},
}

// grid are the places of gain and master that are tried, in tenths of their turn.
var grid = []float64{1, 2, 3, 4, 5, 6, 7, 8, 9, 10}

// StartPoints looks for where gain and master of the first amp of a rig make it clean and loud, on the edge, and pushed,
// with the guitar that plugs in first and every pedal off: over a grid of both, at either input where it has a choice, at
// a destination where one is named; and what its tone knobs do there. It fails when the rig is not there, has no amp with
// a gain, or no recipe, and with the context's error when that is cancelled.
func StartPoints(ctx context.Context, own *plan.Plan, rig, destination plan.ID, o Options) (*Starts, error) {
	p, r, kept, err := standing(own, rig, destination)
	if err != nil {
		return nil, err
	}
	if len(r.Recipes) == 0 {
		return nil, reason.Errorf("%s makes no sound yet", r.Name)
	}
	out := &Starts{Rig: rig, Ways: []Way{}}
	bare := bareOf(r)
	set := p.SetFor(r, &bare, nil, plan.Tempo{})
	gain, master, ok := gainAndMaster(p, r, set, out)
	if !ok {
		return nil, reason.Errorf("no amp of %s has a gain to set", r.Name)
	}
	if g, ok := p.FindGear(set.Guitar); ok {
		out.Guitar = g.Name
	}
	if out.Tone, err = signal.ToneOf(p, rig, out.Amp, &bare); err != nil || len(out.Tone.Knobs) == 0 {
		out.Tone = nil // a preamp that is always on has one; what is not in the chain has none
	}
	input := inputOf(p, out.Amp, set)
	list := []plan.Recipe{bare}
	for _, in := range inputsOf(input) {
		for _, a := range placesIn(gain) {
			for _, b := range placesIn(master) {
				x := turned(bare, gain.Key, a)
				if master.Control != nil {
					x = turned(x, master.Key, b)
				}
				if input.Control != nil {
					x.Values[input.Key] = plan.Text(in)
				}
				list = append(list, x)
			}
		}
	}
	s, err := signal.NewSketcher(p, rig, o.Kept)
	if err != nil {
		return nil, fmt.Errorf("dial: %w", err)
	}
	got, err := s.Of(ctx, list)
	if err != nil {
		return nil, fmt.Errorf("dial: %w", err)
	}
	for _, w := range ways {
		best, score := -1, math.Inf(1)
		for i := 1; i < len(list); i++ {
			if got[i].Dirt < w.low || got[i].Dirt > w.high {
				continue
			}
			off := math.Abs(got[i].Loudness-got[0].Loudness) + math.Abs(got[i].Dirt-(w.low+w.high)/2)/5
			if w.loud {
				off = -got[i].Loudness
			}
			if off < score {
				best, score = i, off
			}
		}
		if best < 0 {
			out.Words += fmt.Sprintf("%s is not to be had with this guitar. ", w.name)
			continue
		}
		way := Way{Name: w.name, Dirt: got[best].Dirt, Over: got[best].Loudness - got[0].Loudness}
		values := map[plan.Key]plan.Value{gain.Key: list[best].Values[gain.Key]}
		if master.Control != nil {
			values[master.Key] = list[best].Values[master.Key]
		}
		if input.Control != nil {
			values[input.Key] = list[best].Values[input.Key]
			way.Input = values[input.Key].Word()
		}
		for _, v := range []plan.Variable{gain, master} {
			if x, set := values[v.Key]; set {
				low, high := v.Control.Range()
				way.Knobs = append(way.Knobs, Place{Key: v.Key, Name: v.Label, At: x.Float(), Low: low, High: high})
			}
		}
		way.Rig = kept.SetAt(destination, plan.Recipe{}, values)
		out.Ways = append(out.Ways, way)
	}
	return out, nil
}

// gainAndMaster are the two knobs of the first amp of a rig that make its dirt and its loudness as it is set: on the channel
// that it stands on. The master may be none.
func gainAndMaster(p *plan.Plan, r *plan.Rig, set plan.Setting, out *Starts) (gain, master plan.Variable, ok bool) {
	amps := []string{}
	for _, id := range r.GearIn() {
		g, there := p.FindGear(id)
		if !there || g.Kind != plan.Amp {
			continue
		}
		if amps = append(amps, g.Name); gain.Control != nil {
			continue
		}
		for _, v := range g.Variables() {
			if v.Control == nil || v.Control.Kind != plan.Knob || !set.Works(v) {
				continue
			}
			switch b, _ := g.FindBlock(v.Block); {
			case b != nil && b.Effect == plan.EffectPreamp && isGain(g, b, v, set) && gain.Control == nil:
				gain = v
			case v.Control.ID == "master":
				master = v
			}
		}
		if gain.Control != nil {
			out.Amp, out.Name = g.ID, g.Name
		} else {
			master = plan.Variable{}
		}
	}
	if len(amps) > 1 {
		out.Words = "All amps play: " + plan.Listed(amps) + ". "
	}
	return gain, master, gain.Control != nil
}

// inputOf is the choice of input of an amp; it has no control where there is none.
func inputOf(p *plan.Plan, amp plan.ID, set plan.Setting) plan.Variable {
	if g, ok := p.FindGear(amp); ok {
		for _, v := range g.Variables() {
			if v.Control != nil && v.Control.Kind == plan.Selector && v.Control.ID == "input" && set.Works(v) {
				return v
			}
		}
	}
	return plan.Variable{}
}

// inputsOf are those of a choice; one that says nothing where there is none.
func inputsOf(v plan.Variable) []string {
	if v.Control == nil {
		return []string{""}
	}
	return v.Control.Options
}

// isGain reports whether a knob is the gain of a preamp as it is set: the one its channel names, else the one that is called
// so.
func isGain(g *plan.Gear, b *plan.Block, v plan.Variable, set plan.Setting) bool {
	if m, _ := g.ModelIn(b, set.At); m.Gain != "" {
		return v.Control.ID == m.Gain
	}
	return v.Control.ID == "gain" || v.Control.ID == "drive" || v.Control.ID == "volume"
}

// placesIn are the places of a knob that are tried; one place for none.
func placesIn(v plan.Variable) []float64 {
	if v.Control == nil {
		return []float64{0}
	}
	low, high := v.Control.Range()
	list := make([]float64, len(grid))
	for i, x := range grid {
		list[i] = math.Round(10*(low+x*(high-low)/10)) / 10
	}
	return list
}
