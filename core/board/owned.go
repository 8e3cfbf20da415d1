package board

import (
	"cmp"
	"slices"

	"envex/core/path"
	"envex/core/plan"
)

// longestPatchM is the longest made-up lead that is looked at for a run between boxes; longer ones lead to the
// guitar and to the amp.
const longestPatchM = 1.5

// OwnedLead is a made-up lead that one owns and a run that it is long enough for.
type OwnedLead struct {
	Cable   plan.ID  `json:"cable"`
	Name    string   `json:"name"`
	From    plan.Key `json:"from" doc:"As a lead of the rig has it."`
	To      plan.Key `json:"to"`
	Words   string   `json:"words" doc:"The run, in words."`
	LengthM float64  `json:"length_m"`
	NeedsM  float64  `json:"needs_m" doc:"What would have to be cut for the run."`
}

// owned matches made-up leads that are in no use to runs between boxes that are still to be cut, so that the least is
// cut and none is too short.
func (x *rigOn) owned() []OwnedLead {
	var runs []path.Run
	for _, r := range x.cables.Runs {
		told := slices.ContainsFunc(
			x.rig.Leads, func(l plan.Lead) bool { return l.From == r.From.Place && l.To == r.To.Place },
		)
		if !told && !r.Assumed && r.Leads() == 1 && r.Level != "speaker" && x.onBoards(r.From.Gear) && x.onBoards(r.To.Gear) {
			runs = append(runs, r)
		}
	}
	var leads []*plan.Gear
	for i := range x.plan.Gear {
		g := &x.plan.Gear[i]
		used := slices.ContainsFunc(x.rig.Leads, func(l plan.Lead) bool { return l.Cable == g.ID })
		if g.Kind == plan.CableStock && g.Cable != nil && g.Cable.LengthM != nil && *g.Cable.LengthM <= longestPatchM &&
			!used {
			leads = append(leads, g)
		}
	}
	needs, lengths := make([]float64, len(runs)), make([]float64, len(leads))
	for i, r := range runs {
		needs[i] = r.LengthM
	}
	for i, g := range leads {
		lengths[i] = *g.Cable.LengthM
	}
	list := []OwnedLead{}
	for i, k := range matched(needs, lengths) {
		if k >= 0 {
			r, g := runs[i], leads[k]
			list = append(
				list, OwnedLead{g.ID, g.Name, r.From.Place, r.To.Place, r.From.Name + " to " + r.To.Name, lengths[k], needs[i]},
			)
		}
	}
	return list
}

// matched gives each run the shortest lead that is left and long enough, the longest run first; -1 for none. A lead
// serves every run that is no longer than it, so the runs that can be served together are a matroid, and to take the
// heaviest that still can be is to cut the least (Edmonds 1971).
func matched(needs, lengths []float64) []int {
	const tolerance = 1e-9
	order := make([]int, len(needs))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(needs[b], needs[a]) })
	out := slices.Repeat([]int{-1}, len(needs))
	used := make([]bool, len(lengths))
	for _, i := range order {
		best := -1
		for k, l := range lengths {
			if !used[k] && l >= needs[i]-tolerance && (best < 0 || l < lengths[best]) {
				best = k
			}
		}
		if best >= 0 {
			out[i], used[best] = best, true
		}
	}
	return out
}
