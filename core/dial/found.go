package dial

import (
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
)

// Found is what was dialled on a rig and found good, beside how it stands now.
type Found struct {
	Rig  plan.ID                 `json:"rig"`
	Now  map[plan.Key]plan.Value `json:"now" doc:"Where each knob stands: what is kept when it sounds good now."`
	Sets []Set                   `json:"sets" doc:"In the order they were kept."`
	Amps []Average               `json:"amps" doc:"For each amp of the rig, where those of its family were found good."`
}

// Set is one set of positions against how the rig stands.
type Set struct {
	ID      plan.ID `json:"id"`
	Name    string  `json:"name"`
	Moved   []Moved `json:"moved" doc:"Knobs that stand elsewhere now, those that are furthest first."`
	Same    int     `json:"same" doc:"How many stand where they stood."`
	Gone    int     `json:"gone" doc:"How many are not in the rig any more."`
	Unnoted int     `json:"unnoted" doc:"How many of the rig it says nothing of."`
}

// Moved is a knob that stands elsewhere.
type Moved struct {
	Key  plan.Key `json:"key"`
	Name string   `json:"name"`
	Now  float64  `json:"now"`
	Then float64  `json:"then"`
}

// Average is where the knobs of amps of one family stood in all sets that were kept, on any rig: a place to start on an
// amp of the family that one does not know.
type Average struct {
	Amp    plan.ID                 `json:"amp"`
	Name   string                  `json:"name"`
	Family string                  `json:"family" doc:"What it has in common with the amps that were dialled."`
	Sets   int                     `json:"sets" doc:"How many were averaged."`
	Knobs  []Averaged              `json:"knobs"`
	Values map[plan.Key]plan.Value `json:"values" doc:"The averages, for the base settings of the rig."`
}

// Averaged is one knob over all sets.
type Averaged struct {
	Key  plan.Key `json:"key"`
	Name string   `json:"name"`
	Mean float64  `json:"mean"`
	Low  float64  `json:"low" doc:"Where it stood lowest."`
	High float64  `json:"high" doc:"Where it stood highest."`
}

// Positions are where every knob of a rig stands when no recipe says otherwise, those of the guitar that plugs in first
// among them.
func Positions(p *plan.Plan, r *plan.Rig) map[plan.Key]plan.Value {
	set := p.SetFor(r, nil, nil, plan.Tempo{})
	out := map[plan.Key]plan.Value{}
	boxes := r.GearIn()
	if set.Guitar != "" && !slices.Contains(boxes, set.Guitar) {
		boxes = append(slices.Clone(boxes), set.Guitar)
	}
	for _, id := range boxes {
		g, ok := p.FindGear(id)
		if !ok {
			continue
		}
		for _, v := range g.Variables() {
			if v.Control == nil || v.Control.Kind != plan.Knob {
				continue
			}
			x := set.At(v.Key)
			if x.Kind() != plan.NumberValue { // of the guitar
				x = v.Default
			}
			if x.Kind() == plan.NumberValue {
				out[v.Key] = x
			}
		}
	}
	return out
}

// FoundOn is what was dialled on a rig, beside how it stands at a destination where one is named, and what was found good
// on amps like its own. It fails when rig or destination are not there.
func FoundOn(own *plan.Plan, rig, destination plan.ID) (*Found, error) {
	p, r, kept, err := standing(own, rig, destination)
	if err != nil {
		return nil, err
	}
	out := &Found{Rig: rig, Now: Positions(p, r), Sets: []Set{}, Amps: []Average{}}
	for _, d := range kept.Dialled {
		out.Sets = append(out.Sets, setOf(p, d, out.Now))
	}
	for _, id := range r.GearIn() {
		if g, ok := p.FindGear(id); ok && g.Kind == plan.Amp {
			if a, ok := averageOf(p, g); ok {
				out.Amps = append(out.Amps, a)
			}
		}
	}
	return out, nil
}

func setOf(p *plan.Plan, d plan.Dialled, now map[plan.Key]plan.Value) Set {
	s := Set{ID: d.ID, Name: d.Name, Moved: []Moved{}}
	for _, key := range plan.SortedKeys(d.Values) {
		at, there := now[key]
		v, known := p.VariableOf(key)
		switch {
		case !there || !known:
			s.Gone++
		case math.Abs(at.Float()-d.Values[key].Float()) < 0.05:
			s.Same++
		default:
			s.Moved = append(s.Moved, Moved{Key: key, Name: v.Label, Now: at.Float(), Then: d.Values[key].Float()})
		}
	}
	for key := range now {
		if _, noted := d.Values[key]; !noted {
			s.Unnoted++
		}
	}
	slices.SortStableFunc(s.Moved, func(a, b Moved) int {
		return int(1000 * (math.Abs(b.Now-b.Then) - math.Abs(a.Now-a.Then)))
	})
	return s
}

// Back is a rig with its knobs where they stood in a set that was kept: in the base settings, those of a destination where
// one is named. What is gone is left out. It fails when rig, destination or set are not there. The rig is not changed.
func Back(own *plan.Plan, rig, destination, id plan.ID) (plan.Rig, error) {
	p, r, kept, err := standing(own, rig, destination)
	if err != nil {
		return plan.Rig{}, err
	}
	d, ok := kept.FindDialled(id)
	if !ok {
		return *kept, reason.Errorf("nothing was kept as %q on %s", id, kept.Name)
	}
	return based(kept, destination, d.Values, Positions(p, r)), nil
}

// based is a rig with base settings changed, as far as its knobs are there and stand elsewhere.
func based(kept *plan.Rig, destination plan.ID, values, now map[plan.Key]plan.Value) plan.Rig {
	moved := map[plan.Key]plan.Value{}
	for key, x := range values {
		if at, there := now[key]; there && math.Abs(at.Float()-x.Float()) >= 0.05 {
			moved[key] = x
		}
	}
	return kept.SetAt(destination, plan.Recipe{}, moved)
}

// Start is a rig with the knobs of an amp where those of its family were found good, at a destination where one is named.
// It fails when rig, destination or amp are not there, and when nothing was kept of any. The rig is not changed.
func Start(own *plan.Plan, rig, destination, amp plan.ID) (plan.Rig, error) {
	p, r, kept, err := standing(own, rig, destination)
	if err != nil {
		return plan.Rig{}, err
	}
	g, err := p.GearByID(amp)
	if err != nil {
		return *kept, fmt.Errorf("dial: %w", err)
	}
	a, ok := averageOf(p, g)
	if !ok {
		return *kept, reason.Errorf("nothing was kept of an amp like %s", g.Name)
	}
	return based(kept, destination, a.Values, Positions(p, r)), nil
}

// familyOf is what amps have in common that are dialled alike: the circuit of their preamp; "" for what is no amp.
func familyOf(g *plan.Gear) string {
	for i := range g.Blocks {
		if b := &g.Blocks[i]; b.Effect == plan.EffectPreamp {
			if b.Model != "" {
				return b.Model
			}
			if models := plan.ModelsOf(b.Effect); len(models) > 0 {
				return models[0].ID
			}
		}
	}
	return ""
}

// averageOf averages where the knobs of amps of a family stood, over all rigs and sets. Knobs go by what they are
// called.
func averageOf(p *plan.Plan, amp *plan.Gear) (Average, bool) {
	family := familyOf(amp)
	out := Average{Amp: amp.ID, Name: amp.Name, Family: family, Knobs: []Averaged{}, Values: map[plan.Key]plan.Value{}}
	if family == "" {
		return out, false
	}
	places := map[string][]float64{}
	for i := range p.Rigs {
		for _, d := range p.Rigs[i].Dialled {
			counted := false
			for _, key := range plan.SortedKeys(d.Values) {
				g, ok := p.FindGear(key.Gear())
				if ok && g.Kind == plan.Amp && familyOf(g) == family {
					places[key.Rest()] = append(places[key.Rest()], d.Values[key].Float())
					counted = true
				}
			}
			if counted {
				out.Sets++
			}
		}
	}
	for _, v := range amp.Variables() {
		list := places[v.Key.Rest()]
		if len(list) == 0 || v.Control == nil || v.Control.Kind != plan.Knob {
			continue
		}
		sum := 0.0
		for _, x := range list {
			sum += x
		}
		low, high := v.Control.Range()
		mean := math.Min(math.Max(math.Round(10*sum/float64(len(list)))/10, low), high)
		out.Knobs = append(out.Knobs, Averaged{
			Key: v.Key, Name: v.Label, Mean: mean, Low: slices.Min(list), High: slices.Max(list),
		})
		out.Values[v.Key] = plan.Number(mean)
	}
	return out, len(out.Knobs) > 0
}
