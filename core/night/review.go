package night

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/plan"
)

// Review is what a show tells, to be gone through after it: what is kept, and what is left as it was.
type Review struct {
	Show    plan.ID    `json:"show"`
	Order   *Reordered `json:"order,omitempty" doc:"Songs as they were played, where that is not the set."`
	Tempos  []Tempo    `json:"tempos" doc:"Songs that were played at another tempo than is written."`
	Gaps    []Gap      `json:"gaps" doc:"Gaps between songs that were others than are written."`
	Broken  []string   `json:"broken" doc:"What broke and is not cured."`
	Undone  int        `json:"undecided" doc:"Changes of the night of which it is not said whether they stay."`
	Checks  int        `json:"checks" doc:"Of the soundcheck, that were ticked off."`
	Next    plan.Show  `json:"next" doc:"The next show, as it would begin from this one; it has no id yet."`
	Assumed string     `json:"assumed"`
}

// Reordered is a set as it was played.
type Reordered struct {
	Entries []plan.SetEntry `json:"entries"`
	Titles  []string        `json:"titles"`
	Called  []string        `json:"called" doc:"Songs that were called."`
	Dropped []string        `json:"dropped" doc:"Songs of the set that were not played."`
}

// Tempo is the tempo that a song was played at.
type Tempo struct {
	Song    plan.ID `json:"song"`
	Title   string  `json:"title"`
	Written float64 `json:"written_bpm"`
	Played  float64 `json:"played_bpm"`
	OverS   float64 `json:"over_s" doc:"The time over which it was measured."`
}

// Gap is the time that passed before a song.
type Gap struct {
	Entry   plan.ID `json:"entry"`
	Title   string  `json:"title"`
	Written float64 `json:"written_s"`
	Passed  float64 `json:"passed_s"`
}

// What is measured by taps is worth saying from here on.
const (
	leastSpanS   = 30.0  // a tempo is measured over this time at least
	tempoDiffers = 0.02  // share of the tempo
	tempoMost    = 0.25  // a greater share is a page that was turned, and no song that was played
	gapDiffersS  = 5.0   // of a gap
	longestGapS  = 600.0 // a longer one is a break, or a page that was left
)

// AfterShow goes through what a show tells. The plan must be valid. It fails where the show is not in the plan, and as
// [On] does.
func AfterShow(p *plan.Plan, show plan.ID, events []Event) (*Review, error) {
	e, err := On(p, show, "", events)
	if err != nil {
		return nil, err
	}
	s, _ := p.FindShow(show)
	l, _ := p.FindSetList(s.SetList)
	list := happened(InOrder(events))
	r := &Review{
		Show: show, Tempos: []Tempo{}, Gaps: []Gap{}, Broken: []string{},
		Assumed: "Times are those at which a page was moved on: good to half a second or so.",
	}
	r.Order = reordered(p, l, e, list)
	r.measure(p, l, e, stepsTaken(list))
	for _, f := range s.Faults {
		if f.Cured == "" {
			r.Broken = append(r.Broken, f.Text)
		}
	}
	for _, f := range s.Fixes {
		if f.Key != "" && f.Keep == "" {
			r.Undone++
		}
	}
	for _, x := range list {
		if x.Kind == Check {
			r.Checks++
		}
	}
	r.Next = following(s, r.Broken)
	return r, nil
}

// reordered is a set as it was played: songs to which no page came were not. Nil where that is the set, or nobody followed.
func reordered(p *plan.Plan, l *plan.SetList, e *Evening, events []Event) *Reordered {
	came := map[plan.ID]bool{}
	for _, x := range events {
		if x.Kind == At {
			came[x.Entry] = true
		}
	}
	out := &Reordered{Entries: []plan.SetEntry{}, Titles: []string{}, Called: []string{}, Dropped: []string{}}
	var same []plan.ID
	for _, x := range e.Order {
		if !came[x.Entry] {
			continue
		}
		i := slices.IndexFunc(l.Entries, func(y plan.SetEntry) bool { return y.ID == x.Entry })
		entry := plan.SetEntry{ID: plan.ID(strings.TrimPrefix(string(x.Entry), calledMark)), Song: x.Song}
		if i >= 0 {
			entry = l.Entries[i]
			same = append(same, x.Entry)
		}
		if x.Called != "" {
			out.Called = append(out.Called, x.Title)
		}
		out.Entries, out.Titles = append(out.Entries, entry), append(out.Titles, x.Title)
	}
	for _, y := range l.Entries {
		if !came[y.ID] {
			if song, ok := p.FindSong(y.Song); ok {
				out.Dropped = append(out.Dropped, song.Title)
			}
		}
	}
	for i := range out.Entries { // a song goes straight on only from the one before it in the set
		k := slices.IndexFunc(l.Entries, func(y plan.SetEntry) bool { return y.ID == out.Entries[i].ID })
		if k >= 0 && (i == 0 || k == 0 || out.Entries[i-1].ID != l.Entries[k-1].ID) {
			out.Entries[i].Segue = false
		}
	}
	planned := slices.EqualFunc(l.Entries, same, func(y plan.SetEntry, id plan.ID) bool { return y.ID == id })
	if len(out.Entries) == 0 || (planned && len(out.Entries) == len(l.Entries)) {
		return nil
	}
	return out
}

// stepsTaken are the places of the page that tells most: one that leads before others.
func stepsTaken(events []Event) []Event {
	count, leads := map[string]int{}, map[string]int{}
	for _, e := range events {
		if e.Kind == At {
			count[e.Page]++
			if e.Leads {
				leads[e.Page]++
			}
		}
	}
	best := ""
	for _, page := range plan.SortedKeys(count) {
		if best == "" || leads[page] > leads[best] || (leads[page] == leads[best] && count[page] > count[best]) {
			best = page
		}
	}
	return slices.DeleteFunc(slices.Clone(events), func(e Event) bool { return e.Kind != At || e.Page != best })
}

// measure finds the tempos and gaps in the times at which a page was moved on.
func (r *Review) measure(p *plan.Plan, l *plan.SetList, e *Evening, taken []Event) {
	at := func(x Event) int {
		return slices.IndexFunc(e.Steps, func(s Step) bool { return s.Entry == x.Entry && s.Section == x.Section })
	}
	for i := 0; i < len(taken); {
		first := at(taken[i])
		last := i
		for last+1 < len(taken) && first >= 0 && at(taken[last+1]) == first+last+1-i && taken[last+1].Entry == taken[i].Entry {
			last++ // section by section, in order
		}
		if first >= 0 {
			r.tempo(p, e.Steps[first:first+last-i+1], float64(taken[last].AtMS-taken[i].AtMS)/1000)
			if last+1 < len(taken) && taken[last+1].Entry != taken[i].Entry {
				r.gap(l, e, e.Steps[first+last-i], taken[last], taken[last+1])
			}
		}
		i = last + 1
	}
}

// tempo compares the time from the first of some steps to the last with what is written.
func (r *Review) tempo(p *plan.Plan, steps []Step, took float64) {
	written := 0.0
	for _, s := range steps[:len(steps)-1] {
		if s.LengthS == nil {
			return
		}
		written += *s.LengthS
	}
	song, ok := p.FindSong(steps[0].Song)
	if !ok || written < leastSpanS || took <= 0 {
		return
	}
	if differs := math.Abs(written/took - 1); differs < tempoDiffers || differs > tempoMost {
		return
	}
	played := song.Tempo.BPM * written / took
	r.Tempos = append(r.Tempos, Tempo{
		Song: song.ID, Title: song.Title, Written: song.Tempo.BPM, Played: math.Round(played*2) / 2, OverS: math.Round(took),
	})
}

// gap compares the time between two songs with what is written.
func (r *Review) gap(l *plan.SetList, e *Evening, end Step, from, to Event) {
	i := slices.IndexFunc(l.Entries, func(x plan.SetEntry) bool { return x.ID == to.Entry })
	next := slices.IndexFunc(e.Steps, func(s Step) bool { return s.Entry == to.Entry })
	if end.LengthS == nil || i < 0 || next < 0 || e.Steps[next].Segue || !e.Steps[next].Starts {
		return
	}
	passed := float64(to.AtMS-from.AtMS)/1000 - *end.LengthS
	written := l.GapBefore(l.Entries[i])
	if passed < 0 || passed > longestGapS || math.Abs(passed-written) < gapDiffersS {
		return
	}
	r.Gaps = append(
		r.Gaps,
		Gap{Entry: to.Entry, Title: e.Steps[next].Title, Written: written, Passed: math.Round(passed)},
	)
}

// following is the show after one: on the same rig, with what is to be known from it.
func following(s *plan.Show, broken []string) plan.Show {
	next := plan.Show{
		Name:        "After " + s.Name,
		SetList:     s.SetList,
		Rig:         s.Rig,
		Destination: s.Destination,
		Picks:       s.Picks,
	}
	var notes []string
	for _, text := range broken {
		notes = append(notes, "Not cured: "+text)
	}
	if after := strings.TrimSpace(s.After); after != "" {
		notes = append(notes, fmt.Sprintf("From %s: %s", s.Name, after))
	}
	next.Notes = strings.Join(notes, "\n")
	return next
}
