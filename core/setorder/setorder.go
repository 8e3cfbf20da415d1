// Package setorder puts the songs of a set in an order with the fewest changes of guitar, tuning and capo.
//
// What may not move stays: a song that is pinned, a song that goes straight on from the one before it, and every song
// within the places that are wished for it. Of the orders that are left, the one is found that has the fewest changes
// between songs, then the least time for them, then the least distance from the order there is: by dynamic programming
// over which songs were played, as Held and Karp (1962) solve the travelling salesman. Songs that are alike are taken as
// one kind, of which only the number counts.
package setorder

import (
	"context"
	"fmt"

	"envex/core/plan"
	"envex/core/reach"
	"envex/core/reason"
)

// Report is a set as it is, and in the order that is offered.
type Report struct {
	SetList plan.ID  `json:"set_list"`
	Now     Evening  `json:"now"`
	Offered *Evening `json:"offered,omitempty" doc:"Absent where no order is better."`
	Exact   bool     `json:"exact" doc:"It is proven that no order is better. False where there are more ways than are searched."`
}

// Evening is a set in some order.
type Evening struct {
	Order   []plan.ID    `json:"order" doc:"The entries."`
	Changes []Change     `json:"changes" doc:"Between songs, in their order."`
	Seconds float64      `json:"seconds" doc:"What they take together."`
	Late    int          `json:"late" doc:"Those for which there is no time."`
	Reach   reach.Totals `json:"reach" doc:"Of all changes, feet and hands."`
}

// Change is a change of guitar, tuning or capo before a song.
type Change struct {
	Entry   plan.ID `json:"entry" doc:"The song that it is before."`
	Title   string  `json:"title"`
	Words   string  `json:"words"`
	Seconds float64 `json:"seconds"`
	GapS    float64 `json:"gap_s" doc:"How long there is; 0 where the song goes straight on."`
	Segue   bool    `json:"segue,omitempty"`
	Fits    bool    `json:"fits"`
}

// Find looks for a better order of a set as a rig plays it. The plan must be valid, with the rig where it plugs in. It
// fails where rig or set list are not in the plan, where the wished places leave no order, and when ctx ends.
func Find(ctx context.Context, p *plan.Plan, rig, setList plan.ID) (*Report, error) {
	s, err := read(p, rig, setList)
	if err != nil {
		return nil, err
	}
	out := &Report{SetList: setList}
	if out.Now, err = s.evening(s.list.Entries); err != nil {
		return nil, err
	}
	best, exact, err := s.search(ctx)
	if err != nil {
		return nil, err
	}
	out.Exact = exact
	if best == nil {
		return nil, reason.Errorf("no order keeps every song of %s within its wished places", s.list.Name)
	}
	if !best.less(s.costOf(s.units)) && s.inPlace(s.units) {
		return out, nil
	}
	offered, err := s.evening(s.entriesOf(best))
	if err != nil {
		return nil, err
	}
	out.Offered = &offered
	return out, nil
}

// maxUnits is how many songs an order is looked for of.
const maxUnits = 120

// set is a set of songs as a rig plays it.
type set struct {
	plan   *plan.Plan
	rig    *plan.Rig
	list   *plan.SetList
	units  []*unit
	kinds  []*kind
	prices *prices
}

// unit is songs that stay together.
type unit struct {
	index   int // in the order there is
	at      int // the place of its first song, from 0
	entries []plan.SetEntry
	hands   []plan.InHand // by song, as it begins and as it ends
	numbers []byte        // the same, as the prices call them
	from    int           // the first place at which it may begin
	to      int           // the last
}

func read(p *plan.Plan, rig, setList plan.ID) (*set, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("setorder: %w", err)
	}
	l, err := p.SetListByID(setList)
	if err != nil {
		return nil, fmt.Errorf("setorder: %w", err)
	}
	s := &set{plan: p, rig: r, list: l}
	for i, e := range l.Entries {
		if i == 0 || !e.Segue {
			s.units = append(s.units, &unit{index: len(s.units), at: i, to: len(l.Entries)})
		}
		u := s.units[len(s.units)-1]
		if i == 0 && e.Segue {
			u.to = 0 // moved, it would go straight on from another song
		}
		u.entries = append(u.entries, e)
		u.hands = append(u.hands, s.handsIn(e)...)
	}
	for _, u := range s.units {
		for k, e := range u.entries {
			from, to := e.Places(u.at+k, len(l.Entries))
			u.from, u.to = max(u.from, from-k), min(u.to, to-k)
		}
	}
	if len(s.units) > maxUnits {
		return nil, reason.Errorf("%s has more than %d songs: no order is looked for", l.Name, maxUnits)
	}
	s.prices = pricesOf(r, s.units)
	s.kinds = kindsOf(s.units)
	return s, nil
}

// handsIn is the guitar in hand as a song begins and as it ends.
func (s *set) handsIn(e plan.SetEntry) []plan.InHand {
	song, ok := s.plan.FindSong(e.Song)
	if !ok || len(song.Sections) == 0 {
		return []plan.InHand{{}, {}}
	}
	in := func(sec plan.Section) plan.InHand {
		sound, _ := s.plan.FindSound(sec.Sound)
		return song.InHand(s.rig.GuitarOf(song, s.rig.RecipeFor(sec), sound))
	}
	return []plan.InHand{in(song.Sections[0]), in(song.Sections[len(song.Sections)-1])}
}

// inPlace reports whether every unit of an order begins where it may.
func (s *set) inPlace(order []*unit) bool {
	at := 0
	for _, u := range order {
		if at < u.from || at > u.to {
			return false
		}
		at += len(u.entries)
	}
	return true
}

// evening is the set in some order of its entries.
func (s *set) evening(entries []plan.SetEntry) (Evening, error) {
	out := Evening{Order: []plan.ID{}, Changes: []Change{}}
	away := map[plan.ID]plan.InHand{}
	var in plan.InHand
	for i, e := range entries {
		out.Order = append(out.Order, e.ID)
		hands := s.handsIn(e)
		stood, known := away[hands[0].Guitar]
		if !known {
			stood = hands[0]
		}
		seconds, words := s.rig.TakenUp(in, hands[0], stood, s.named)
		in = hands[1]
		away[hands[0].Guitar], away[in.Guitar] = hands[0], in
		if i == 0 || words == "" {
			continue
		}
		gap := s.list.GapBefore(e)
		c := Change{Entry: e.ID, Words: words, Seconds: seconds, GapS: gap, Segue: e.Segue, Fits: seconds <= gap}
		if song, ok := s.plan.FindSong(e.Song); ok {
			c.Title = song.Title
		}
		out.Changes = append(out.Changes, c)
		out.Seconds += seconds
		if !c.Fits {
			out.Late++
		}
	}
	q := *s.plan
	l := *s.list
	l.Entries = entries
	q.Put(l)
	r, err := reach.Compute(&q, s.rig.ID, l.ID)
	if err != nil {
		return Evening{}, fmt.Errorf("setorder: %w", err)
	}
	out.Reach = r.Reach
	return out, nil
}

func (s *set) named(id plan.ID) string {
	if g, ok := s.plan.FindGear(id); ok {
		return g.Name
	}
	return string(id)
}
