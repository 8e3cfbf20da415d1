package play

import (
	"cmp"
	"slices"

	"envex/core/plan"
)

// Kept is a rehearsal of a song that was kept.
type Kept struct {
	ID      int64   `json:"id"`
	Day     string  `json:"day" doc:"Year-month-day."`
	Rig     plan.ID `json:"rig"`
	SetList plan.ID `json:"set_list"`
	Entry   plan.ID `json:"entry"`
	Song    plan.ID `json:"song"`
	Title   string  `json:"title"`
	Scores  []Score `json:"scores"`
	Made    int     `json:"made"`
	Total   int     `json:"total"`
}

// Progress is one change over the days it was rehearsed.
type Progress struct {
	Position int     `json:"position"`
	Section  plan.ID `json:"section"`
	Title    string  `json:"title"`
	Label    string  `json:"label"`
	From     string  `json:"from"`
	To       string  `json:"to"`
	Tries    int     `json:"tries"`
	Made     int     `json:"made"`
	Days     []Day   `json:"days"`
}

// Day is how a change went on one day.
type Day struct {
	Day   string `json:"day"`
	Tries int    `json:"tries"`
	Made  int    `json:"made"`
}

// Over sums rehearsals up by change, those that fail most first, then those tried most.
func Over(list []Kept) []Progress {
	out := []Progress{}
	for _, k := range list {
		for _, s := range k.Scores {
			i := slices.IndexFunc(out, func(p Progress) bool { return p.Section == s.Section && p.Position == s.Position })
			if i < 0 {
				out = append(
					out,
					Progress{
						Position: s.Position, Section: s.Section, Title: k.Title, Label: s.Label, From: s.From, To: s.To, Days: []Day{},
					},
				)
				i = len(out) - 1
			}
			p := &out[i]
			d := slices.IndexFunc(p.Days, func(d Day) bool { return d.Day == k.Day })
			if d < 0 {
				p.Days = append(p.Days, Day{Day: k.Day})
				d = len(p.Days) - 1
			}
			p.Tries++
			p.Days[d].Tries++
			if s.Outcome == Made {
				p.Made++
				p.Days[d].Made++
			}
		}
	}
	for i := range out {
		slices.SortFunc(out[i].Days, func(a, b Day) int { return cmp.Compare(a.Day, b.Day) })
	}
	slices.SortStableFunc(out, func(a, b Progress) int {
		return cmp.Or(cmp.Compare(a.share(), b.share()), cmp.Compare(b.Tries, a.Tries), cmp.Compare(a.Position, b.Position))
	})
	return out
}

func (p Progress) share() float64 { return float64(p.Made) / float64(max(1, p.Tries)) }

// drillOf is how many changes a drill has.
const drillOf = 5

// Drill is the changes that fail most, at most five: what is worth practising. One that was made every
// time is not in it.
func Drill(list []Kept) []Progress {
	out := []Progress{}
	for _, p := range Over(list) {
		if p.Made < p.Tries && len(out) < drillOf {
			out = append(out, p)
		}
	}
	return out
}
