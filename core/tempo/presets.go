package tempo

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/plan"
)

// PresetPlan is the times a device needs over the set for sounds that can share its presets: those whose
// presets hold the same beside the time.
type PresetPlan struct {
	Gear     plan.ID   `json:"gear"`
	Name     string    `json:"name"`
	Variable plan.Key  `json:"variable"`
	Sounds   []string  `json:"sounds"`
	Times    []Serving `json:"times" doc:"The fewest times that serve every song, the shortest first."`
}

// Serving is one time, and what it serves.
type Serving struct {
	MS    float64  `json:"ms"`
	Kept  bool     `json:"kept" doc:"A preset holds it already."`
	Songs []string `json:"songs"`
	Worst float64  `json:"worst_ms" doc:"How far off the last repeat is in the worst of them."`
	For   []Served `json:"for"`
}

// Served is one sound in one song that a stored time serves.
type Served struct {
	Sound     plan.ID `json:"sound"`
	SoundName string  `json:"sound_name"`
	Recipe    plan.ID `json:"recipe"`
	Entry     plan.ID `json:"entry"`
	Song      string  `json:"song"`

	tempo plan.Tempo // of the sections it is in
}

// need is what one sound in one song needs of a device: a time, and how far it may be off.
type need struct {
	Served
	preset  string // that its recipe stands on
	ms, tol float64
	repeats int
}

// presets finds the fewest stored times for each device over all sounds of the set together. A time serves
// every sound in every song whose note is within what may be off: where repeats must lock, the last by 30 ms;
// where they need not, the time by a tenth. Two sounds share a time where their presets hold the same beside
// it. Intervals on a line are pierced by fewest points by taking, time and again, the earliest end: no fewer
// would do.
func (n *night) presets() []PresetPlan {
	list := []PresetPlan{}
	groups := map[string]int{}
	var needs [][]need
	for _, s := range n.out.Songs {
		for _, u := range s.Uses {
			if u.Way != Stored || u.WantedMS == nil || u.TooLong {
				continue
			}
			preset, beside := n.holds(u)
			id := string(u.Variable) + beside
			i, ok := groups[id]
			if !ok {
				i = len(list)
				groups[id] = i
				list = append(list, PresetPlan{Gear: u.Stop.Gear(), Name: u.Name, Variable: u.Variable})
				needs = append(needs, nil)
			}
			if x := &list[i]; !slices.Contains(x.Sounds, u.SoundName) {
				x.Sounds = append(x.Sounds, u.SoundName)
			}
			needs[i] = append(
				needs[i],
				need{
					Served{u.Sound, u.SoundName, u.Recipe, s.Entry, s.Title, u.tempo}, preset, *u.WantedMS, u.mayBeOff(), u.last(),
				},
			)
		}
	}
	for i := range list {
		list[i].Times = pierce(needs[i], n.stored(&list[i], needs[i]))
	}
	return list
}

// last is the repeat by which a use is judged.
func (u *Use) last() int {
	if u.Asked != nil {
		return *u.Asked
	}
	return max(1, u.Audible)
}

// mayBeOff is how far the time of a use may be from its note, in ms.
func (u *Use) mayBeOff() float64 {
	tol := apartMS / float64(u.last())
	if !u.Strict {
		tol = math.Max(tol, LooseShare**u.WantedMS)
	}
	return tol
}

// holds is the preset that the recipe of a use stands on, and what it holds beside the time.
func (n *night) holds(u Use) (preset, beside string) {
	g, ok := n.plan.FindGear(u.Stop.Gear())
	if !ok {
		return "", ""
	}
	control, ok := g.PresetControl()
	if !ok {
		return "", ""
	}
	for i := range n.rig.Recipes {
		if rec := &n.rig.Recipes[i]; rec.ID == u.Recipe {
			v, own := rec.Values[control.Key]
			if !own || v.Kind() != plan.TextValue {
				v = n.rig.BaseValue(control)
			}
			preset = v.Word()
		}
	}
	held := n.rig.Presets[g.ID][preset]
	var b strings.Builder
	for _, key := range plan.SortedKeys(held) {
		if key != u.Variable {
			fmt.Fprintf(&b, "|%s=%s", key, held[key])
		}
	}
	return preset, b.String()
}

// stored are the times that presets which needs stand on hold already: what serves need not be changed.
func (n *night) stored(x *PresetPlan, needs []need) []float64 {
	var list []float64
	for _, need := range needs {
		if v := n.rig.Presets[x.Gear][need.preset][x.Variable]; v.Kind() == plan.NumberValue &&
			!slices.Contains(list, v.Float()) {
			list = append(list, v.Float())
		}
	}
	return list
}

// pierce is the fewest times that are within every need: one that is stored already where it can be, else as
// far in the middle of what it serves as it can be.
func pierce(needs []need, stored []float64) []Serving {
	list := slices.Clone(needs)
	slices.SortStableFunc(list, func(a, b need) int { return cmp.Compare(a.ms+a.tol, b.ms+b.tol) })
	out := []Serving{}
	for len(list) > 0 {
		at := list[0].ms + list[0].tol
		low, high := math.Inf(-1), at
		var rest []need
		var served []need
		for _, x := range list {
			if x.ms-x.tol <= at+1e-9 {
				served = append(served, x)
				low = math.Max(low, x.ms-x.tol)
			} else {
				rest = append(rest, x)
			}
		}
		s := Serving{MS: math.Round((low+high)/2*10) / 10, Songs: []string{}, For: []Served{}}
		if s.MS < low || s.MS > high { // rounding is not to put it outside
			s.MS = (low + high) / 2
		}
		for _, ms := range stored {
			if ms >= low && ms <= high && !s.Kept {
				s.MS, s.Kept = ms, true
			}
		}
		for _, x := range served {
			if !slices.Contains(s.Songs, x.Song) {
				s.Songs = append(s.Songs, x.Song)
			}
			if !slices.Contains(s.For, x.Served) {
				s.For = append(s.For, x.Served)
			}
			s.Worst = math.Max(s.Worst, float64(x.repeats)*math.Abs(s.MS-x.ms))
		}
		out = append(out, s)
		list = rest
	}
	return out
}
