package reach

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
)

// Finding is what is to be said of one failed change, or of several that fail for the same reason.
type Finding struct {
	ID        string   `json:"id" doc:"A stable name."`
	Title     string   `json:"title"`
	Reason    string   `json:"reason"`
	Verdict   Verdict  `json:"verdict" enum:"late,by_hand,impossible,not_set"`
	Positions []int    `json:"positions" doc:"The changes it is of, in the order of the night."`
	Findings  []string `json:"findings" doc:"Their names, by which they are settled."`
	Settled   string   `json:"settled,omitempty" doc:"The player's reason for leaving it so."`
}

// findings are the failed changes of a report, worst first. Those of one sound that cannot be made for the same
// reason, or that wait for its recipe, are one.
func findings(changes []Change) []Finding {
	type group struct {
		worst *Change
		Finding
	}
	var list []*group
	byKey := map[string]*group{}
	for i := range changes {
		c := &changes[i]
		if c.Finding == "" {
			continue
		}
		key := c.Finding
		if c.Verdict == Impossible || c.Verdict == NotSet {
			key = fmt.Sprint(c.Verdict, c.Reason, c.Settled)
		}
		g := byKey[key]
		if g == nil {
			g = &group{worst: c, Finding: Finding{ID: c.Finding, Reason: c.Reason, Verdict: c.Verdict, Settled: c.Settled}}
			byKey[key] = g
			list = append(list, g)
		}
		g.Positions, g.Findings = append(g.Positions, c.Position), append(g.Findings, c.Finding)
	}
	slices.SortStableFunc(list, func(a, b *group) int {
		return cmp.Or(cmp.Compare(a.Verdict.rank(), b.Verdict.rank()), cmp.Compare(a.worst.SlackS, b.worst.SlackS))
	})
	out := []Finding{}
	for _, g := range list {
		g.Title = title(g.worst, len(g.Positions))
		out = append(out, g.Finding)
	}
	return out
}

// rank orders verdicts, the worst first.
func (v Verdict) rank() int {
	return slices.Index([]Verdict{Impossible, ByHand, Late, NotSet, Tight, InTime}, v)
}

// Words is a verdict as a person says it.
func (v Verdict) Words() string { return strings.ReplaceAll(string(v), "_", " ") }

func title(c *Change, n int) string {
	switch {
	case c.Verdict == NotSet && n > 1:
		return fmt.Sprintf("%s is not set yet: %d changes wait for its recipe", c.unset, n)
	case c.Verdict == NotSet:
		return c.unset + " is not set yet"
	case n > 1:
		return fmt.Sprintf("%s: %d changes %s", c.To.Name, n, c.Verdict.Words())
	case c.Verdict == Late:
		return fmt.Sprintf("%s, %s: late by %.2f s", c.Song, c.Section, -c.SlackS)
	}
	return fmt.Sprintf("%s, %s: %s", c.Song, c.Section, c.Verdict.Words())
}
