package tempo

import (
	"cmp"
	"math"
	"slices"

	"envex/core/plan"
)

// PresetPlan is the presets a device needs for one sound over the set.
type PresetPlan struct {
	Gear      plan.ID   `json:"gear"`
	Name      string    `json:"name"`
	Sound     plan.ID   `json:"sound"`
	SoundName string    `json:"sound_name"`
	Variable  plan.Key  `json:"variable"`
	Note      string    `json:"note"`
	Strict    bool      `json:"strict"`
	Times     []Serving `json:"times" doc:"The fewest times that serve every song, the shortest first."`
}

// Serving is one time, and the songs it serves.
type Serving struct {
	MS    float64  `json:"ms"`
	Songs []string `json:"songs"`
	Worst float64  `json:"worst_ms" doc:"How far off the last repeat is in the worst of them."`
}

// need is what one song needs of a device: a time, and how far it may be off.
type need struct {
	song    string
	ms, tol float64
	repeats int
}

// presets finds the fewest stored times for each device and sound. A time serves every song whose note
// is within what may be off: in a sound that must lock, the last repeat by 30 ms; in one that need not,
// the time by a tenth. Intervals on a line are pierced by fewest points by taking, time and again, the
// earliest end.
func (n *night) presets() []PresetPlan {
	list := []PresetPlan{}
	needs := map[plan.Key][]need{}
	for _, s := range n.out.Songs {
		for _, u := range s.Uses {
			if u.Way != Stored || u.WantedMS == nil || u.TooLong {
				continue
			}
			id := u.Variable + "|" + plan.Key(u.Sound) + "|" + plan.Key(u.Note)
			if _, ok := needs[id]; !ok {
				list = append(list, PresetPlan{Gear: u.Stop.Gear(), Name: u.Name, Sound: u.Sound, SoundName: u.SoundName, Variable: u.Variable, Note: u.Note, Strict: u.Strict})
			}
			last := max(1, u.Audible)
			if u.Asked != nil {
				last = *u.Asked
			}
			tol := apartMS / float64(last)
			if !u.Strict {
				tol = math.Max(tol, LooseShare**u.WantedMS)
			}
			if !slices.ContainsFunc(needs[id], func(x need) bool { return x.song == s.Title }) {
				needs[id] = append(needs[id], need{s.Title, *u.WantedMS, tol, last})
			}
		}
	}
	for i := range list {
		x := &list[i]
		x.Times = pierce(needs[x.Variable+"|"+plan.Key(x.Sound)+"|"+plan.Key(x.Note)])
	}
	return list
}

// pierce is the fewest times that are within every need, each as far in the middle of what it serves as
// it can be.
func pierce(needs []need) []Serving {
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
		s := Serving{MS: math.Round((low+high)/2*10) / 10}
		if s.MS < low || s.MS > high { // rounding is not to put it outside
			s.MS = (low + high) / 2
		}
		for _, x := range served {
			s.Songs = append(s.Songs, x.song)
			s.Worst = math.Max(s.Worst, float64(x.repeats)*math.Abs(s.MS-x.ms))
		}
		out = append(out, s)
		list = rest
	}
	return out
}
