package reach

import (
	"context"
	"encoding/binary"
	"fmt"

	"envex/core/plan"
)

// Calls are the ways from each section of a course to the beginning of each song that can be called. Sections that leave
// the rig alike share a row, and songs that ask the same of it a column, so that all of it is small enough to carry.
type Calls struct {
	Rows  []int    `json:"rows" doc:"By section of what is played, the row of the ways from it; -1 where the rig has no sound in it."`
	Songs []Callee `json:"songs"`
	Ways  [][]Call `json:"ways"`
}

// Callee is a song that can be called.
type Callee struct {
	Song   plan.ID `json:"song"`
	Title  string  `json:"title"`
	Sound  string  `json:"sound" doc:"That it begins with."`
	Column int     `json:"column" doc:"Of the ways to it; -1 where the rig cannot make its first sound."`
}

// Call is how a song is begun from where the rig stands, within the usual gap between songs.
type Call struct {
	Verdict Verdict `json:"verdict" enum:"in_time,tight,late,by_hand,impossible,not_set"`
	NeededS float64 `json:"needed_s"`
	FreeS   float64 `json:"free_s"`
	Presses []Press `json:"presses"`
	Hands   []Hand  `json:"hands"`
	Reason  string  `json:"reason"`
}

// Calls works out how each song of a set list of the plan, which may be any, can be begun from where the rig stands as
// the end of each section of the course. It is judged by the usual gap of the list. It fails when ctx ends, or as
// [Compute] does.
func (c *Course) Calls(ctx context.Context, p *plan.Plan, songs plan.ID) (*Calls, error) {
	r, l, err := lookUp(p, c.s.rig.ID, songs)
	if err != nil {
		return nil, err
	}
	out := &Calls{Rows: []int{}, Songs: []Callee{}, Ways: [][]Call{}}
	s, err := prepare(p, r, l, Start{})
	if err != nil {
		return nil, err
	}
	if len(s.parts) == 0 {
		return out, nil
	}
	s.solve()
	s.said = newPhrases(s.vars)
	var starts []int // by column: a part that begins so
	columns, seen := map[string]int{}, map[plan.ID]bool{}
	for i, x := range s.parts {
		if !x.starts || seen[x.song.ID] {
			continue
		}
		seen[x.song.ID] = true
		callee := Callee{Song: x.song.ID, Title: x.song.Title, Sound: soundName(x.sound), Column: -1}
		if !x.unset() {
			callee.Column = numbered(columns, s.arriving(i), func() { starts = append(starts, i) })
		}
		out.Songs = append(out.Songs, callee)
	}
	gap := plan.SetList{GapS: l.GapS}.GapBefore(plan.SetEntry{})
	rows := map[string]int{}
	for position := range c.Report.Sections {
		from := c.s.parts[position+c.skip]
		if from.unset() {
			out.Rows = append(out.Rows, -1)
			continue
		}
		stands := c.Stands(position)
		states, away := s.statesOf(stands), putAway(stands)
		out.Rows = append(out.Rows, numbered(rows, stateKey(states)+fmt.Sprint(away), func() {
			ways := make([]Call, len(starts))
			for k, part := range starts {
				ways[k] = s.call(from, states, away, part, gap)
			}
			out.Ways = append(out.Ways, ways)
		}))
		if err := ctx.Err(); err != nil {
			return nil, fmt.Errorf("reach: calls: %w", err)
		}
	}
	return out, nil
}

// numbered is the number of a key among those that came before; a new one is made first.
func numbered(known map[string]int, key string, make func()) int {
	n, ok := known[key]
	if !ok {
		n = len(known)
		known[key] = n
		make()
	}
	return n
}

func stateKey(states []int) string {
	var key []byte
	for _, x := range states {
		key = binary.AppendUvarint(key, uint64(x))
	}
	return string(key)
}

// statesOf is the state of every machine where a rig stands. A variable of which nothing is said, or that stands as
// nothing in the songs asks, is where it begins the first of them.
func (s *solver) statesOf(stands map[plan.Key]plan.Value) []int {
	states := make([]int, len(s.machines))
	for mi, m := range s.machines {
		state := s.courses[mi].arrive[0]
		for j, v := range m.vars {
			if at, ok := s.vars[v].index[stands[s.vars[v].Key]]; ok {
				state = m.with(state, j, at)
			}
		}
		states[mi] = state
	}
	return states
}

// call is the way from a part, with the machines in some states and guitars put away so, to a part that begins a song.
func (s *solver) call(from *part, states []int, away map[plan.ID]plan.InHand, to int, gap float64) Call {
	a, b := *from, *s.parts[to]
	stood, known := away[b.guitar]
	if !known {
		stood = b.song.InHand(b.guitar) // it is set up for what it is taken up for first
	}
	s.settings.guitars[b.position] = stood
	b.starts, b.segue, b.gap = true, false, gap
	was := s.parts[to]
	s.parts[to] = &b
	var motions []motion
	for mi, m := range s.machines {
		if !m.allows(to, states[mi]) {
			mo, _ := s.motion(mi, states[mi], s.courses[mi].arrive[to], to)
			motions = append(motions, mo)
		}
	}
	s.parts[to] = was
	pair := *s
	pair.parts = []*part{&a, &b}
	var best *outcome
	for _, o := range pair.through(1, motions, nil, false) {
		if best == nil || o.cost.less(best.cost) {
			best = o
		}
	}
	c := Change{Presses: []Press{}, Hands: pair.handsOf(best, s.parts[to])}
	pair.presses(best, &c)
	return Call{
		Verdict: best.verdict, NeededS: round(best.needed), FreeS: round(best.free), Presses: c.Presses, Hands: c.Hands,
		Reason: pair.reason(1, best, &c),
	}
}
