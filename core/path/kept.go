package path

import (
	"fmt"
	"slices"

	"envex/core/plan"
)

// compare sets an order that was kept beside the present one.
func (j *judge) compare(o plan.KeptOrder, present []Finding) Kept {
	other := newJudge(j.plan, j.rig, j.dest, o.Path, j.driven)
	there := other.findings()
	k := Kept{
		Name: o.Name, Cost: other.cost(), Mends: missing(present, there), Brings: missing(there, present),
		Moves: j.leadTo(o.Path),
	}
	k.Cables = cablesOf(j.plan, other.rig).TotalM
	return k
}

// missing are the titles of findings that another list does not have.
func missing(of, in []Finding) []string {
	titles := []string{}
	for _, f := range of {
		if !slices.ContainsFunc(in, func(x Finding) bool { return x.ID == f.ID }) && !slices.Contains(titles, f.Title) {
			titles = append(titles, f.Title)
		}
	}
	return titles
}

// leadTo says what is moved, put in or left out between the present path and another: the
// fewest stops that have to change places.
func (j *judge) leadTo(path []plan.Node) []string {
	words := []string{}
	from, to := plan.StopsIn(j.path), plan.StopsIn(path)
	number := map[plan.Key]int{}
	var common []plan.Key
	for _, k := range from {
		if slices.Contains(to, k) {
			number[k] = len(common)
			common = append(common, k)
		} else {
			words = append(words, nameOf(j.plan, k)+" is not in it")
		}
	}
	var a, b []int
	for _, k := range to {
		if n, ok := number[k]; ok {
			b = append(b, n)
		} else {
			words = append(words, nameOf(j.plan, k)+" is in it")
		}
	}
	for i := range common {
		a = append(a, i)
	}
	for _, st := range steps(a, b) {
		at := slices.Index(st.after, st.item)
		if at+1 < len(st.after) {
			words = append(
				words, fmt.Sprintf("%s goes before %s", nameOf(j.plan, common[st.item]), nameOf(j.plan, common[st.after[at+1]])),
			)
		} else {
			words = append(words, nameOf(j.plan, common[st.item])+" goes to the end")
		}
	}
	return words
}

func nameOf(p *plan.Plan, k plan.Key) string {
	if g, ok := p.FindGear(k.Gear()); ok {
		if b, ok := g.FindBlock(plan.ID(k.Rest())); ok {
			return g.StopName(b)
		}
	}
	return string(k)
}

// differences says what stands in one path and not in the other.
func differences(p *plan.Plan, own, there []plan.Node) []string {
	var words []string
	a, b := plan.StopsIn(own), plan.StopsIn(there)
	for _, k := range a {
		if !slices.Contains(b, k) {
			words = append(words, "without "+nameOf(p, k))
		}
	}
	for _, k := range b {
		if !slices.Contains(a, k) {
			words = append(words, "with "+nameOf(p, k))
		}
	}
	return words
}
