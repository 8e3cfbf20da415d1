package night

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"envex/core/plan"
	"envex/core/reach"
)

// Evening is a show as one of its rigs plays it, as far as it has gone and on to its end.
type Evening struct {
	Show     reach.Named   `json:"show"`
	Rig      reach.Named   `json:"rig"`
	Player   string        `json:"player,omitempty" doc:"Who plays it, where that is said."`
	Rigs     []reach.Named `json:"rigs" doc:"All that are at the show, the show's own first."`
	Steps    []Step        `json:"steps" doc:"Every section in the order it is played."`
	Order    []Entry       `json:"order" doc:"The songs in the order they are played."`
	Troubles []Trouble     `json:"troubles" doc:"What broke and is not mended."`
	From     int           `json:"from" doc:"The step from which on it was last planned anew: what it says to press is pressed then."`
	Reach    reach.Totals  `json:"reach" doc:"Of the changes from there on."`
	Calls    *reach.Calls  `json:"calls,omitempty" doc:"The ways to every song from each step."`
	Switches []Switch      `json:"switches" doc:"The floor, for a picture of it."`
	Ignored  []string      `json:"ignored,omitempty" doc:"What was sent and cannot be taken up, because the plan has changed since."`
	Ended    bool          `json:"ended,omitempty"`

	course  *reach.Course   // the last
	courses []*reach.Course // by step: which it is of
	at      []int           // by step: its position there
	given   *plan.Plan      // before anything broke
	plan    *plan.Plan      // as it is played
	rig     *plan.Rig
}

// Entry is a song in the order it is played.
type Entry struct {
	Entry  plan.ID `json:"entry"`
	Song   plan.ID `json:"song"`
	Title  string  `json:"title"`
	Called plan.ID `json:"called,omitempty" doc:"The event that brought it here."`
}

// nightSet is the set list of what is left; it stands in no file.
const nightSet plan.ID = "tonight~"

// songbook is every song there is, for those that are called; it stands in no file.
const songbook plan.ID = "songbook~"

// calledMark begins the id of an entry that was called: no id in a file has it.
const calledMark = "~"

// stage is a show while its events are gone through.
type stage struct {
	given    *plan.Plan // with what the show picks
	show     *plan.Show
	rig      plan.ID
	order    []plan.SetEntry // from the song that is played on
	follows  map[plan.ID]plan.ID
	troubles []Event
	called   map[plan.ID]plan.ID
	courses  []*reach.Course // by step: which it is of
	at       []int           // by step: its position there
	out      *Evening
	played   []plan.SetEntry // what came before the order
}

// On is a show as a rig of it plays it after some events; the show's own rig where that is "". The plan must be valid.
// Same input, same answer, in whatever order the events come. It fails where show or rig are not in the plan, and as
// [reach.Compute] does.
func On(p *plan.Plan, show, rig plan.ID, events []Event) (*Evening, error) {
	s, err := p.ShowByID(show)
	if err != nil {
		return nil, fmt.Errorf("night: %w", err)
	}
	own := s.Rig
	s = s.On(rig)
	given, err := p.AtShow(s)
	if err != nil {
		return nil, fmt.Errorf("night: %w", err)
	}
	r, err := given.RigByID(s.Rig)
	if err != nil {
		return nil, fmt.Errorf("night: %w", err)
	}
	l, err := given.SetListByID(s.SetList)
	if err != nil {
		return nil, fmt.Errorf("night: %w", err)
	}
	g := &stage{
		given: given, show: s, rig: r.ID, order: slices.Clone(l.Entries), follows: map[plan.ID]plan.ID{},
		called: map[plan.ID]plan.ID{},
		out: &Evening{
			given: given,
			Show:  reach.Named{ID: s.ID, Name: s.Name}, Rig: reach.Named{ID: r.ID, Name: r.Name}, Steps: []Step{},
			Order: []Entry{}, Troubles: []Trouble{}, Switches: []Switch{},
		},
	}
	g.out.Player = given.Player(r)
	was, _ := p.FindShow(show)
	for _, id := range was.Rigs() {
		if x, ok := p.FindRig(id); ok {
			g.out.Rigs = append(g.out.Rigs, reach.Named{ID: x.ID, Name: x.Name})
		}
	}
	for i := 1; i < len(g.order); i++ {
		g.follows[g.order[i].ID] = g.order[i-1].ID
	}
	if err := g.planned(reach.Start{}); err != nil {
		return nil, err
	}
	for _, e := range happened(InOrder(events)) {
		switch {
		case e.Kind == Over:
			g.out.Ended = true
		case !e.replans(), e.ofRig() && cmp.Or(e.Rig, own) != r.ID:
		default:
			if err := g.take(e); err != nil {
				return nil, err
			}
		}
	}
	g.finish()
	return g.out, nil
}

// take has an event change what is left of the show.
func (g *stage) take(e Event) error {
	if err := Valid(g.given, g.show.ID, e); err != nil {
		g.out.Ignored = append(g.out.Ignored, err.Error())
		return nil //nolint:nilerr // what no longer is in the plan is said, and the show goes on
	}
	here := g.stepOf(e)
	order := slices.Concat(g.played, g.order)
	at := -1 // the entry that is being played
	if here >= 0 {
		at = slices.IndexFunc(order, func(x plan.SetEntry) bool { return x.ID == g.out.Steps[here].Entry })
	}
	rest := slices.Clone(order[at+1:])
	switch e.Kind {
	case Called:
		rest = g.calling(rest, e)
	case Dropped:
		rest = slices.DeleteFunc(rest, func(x plan.SetEntry) bool { return x.ID == e.Drops })
	case Broke:
		g.troubles = append(g.troubles, e)
	case Mended:
		g.troubles = slices.DeleteFunc(g.troubles, func(x Event) bool { return string(x.ID) == e.Of })
	}
	start := reach.Start{}
	g.played, g.order = nil, rest
	if at >= 0 {
		g.played, g.order = slices.Clone(order[:at]), append([]plan.SetEntry{order[at]}, rest...)
		start.Section, start.Stands = g.out.Steps[here].Section, g.courses[here].Stands(g.at[here])
		start.Alone = e.Kind == Called && e.Now
	}
	g.cutTo(max(here, 0))
	return g.planned(start)
}

// cutTo keeps what was played before a step.
func (g *stage) cutTo(step int) {
	g.out.Steps, g.courses, g.at = g.out.Steps[:step], g.courses[:step], g.at[:step]
}

// stepOf is the step in which an event happened; -1 before the first. An entry that is no longer played is passed over:
// it happened in the last step that was planned anew.
func (g *stage) stepOf(e Event) int {
	if e.Entry == "" {
		return -1
	}
	entry := -1
	for i, s := range g.out.Steps {
		if s.Entry == e.Entry && (entry < 0 || s.Section == e.Section) {
			entry = i
		}
	}
	if entry < 0 {
		return g.out.From
	}
	return entry
}

// calling puts a song next: that of the rest, or one more.
func (g *stage) calling(rest []plan.SetEntry, e Event) []plan.SetEntry {
	next := plan.SetEntry{ID: calledMark + e.ID, Song: e.Song}
	if i := slices.IndexFunc(rest, func(x plan.SetEntry) bool { return x.Song == e.Song }); i >= 0 {
		next = rest[i]
		rest = slices.Delete(rest, i, i+1)
	}
	g.called[next.ID] = e.ID
	return append([]plan.SetEntry{next}, rest...)
}

// planned follows what is left of the show from a start.
func (g *stage) planned(start reach.Start) error {
	p, marks, err := g.asItIs()
	if err != nil {
		return err
	}
	l, _ := p.FindSetList(g.show.SetList)
	tonight := *l
	tonight.ID, tonight.Entries = nightSet, g.unbroken()
	book := plan.SetList{ID: songbook, Name: l.Name, GapS: l.GapS, Entries: g.everySong(p)}
	q := *p
	q.SetLists = append(slices.Clone(p.SetLists), tonight, book)
	c, err := reach.Follow(&q, g.rig, nightSet, start)
	if err != nil {
		return fmt.Errorf("night: %w", err)
	}
	g.out.course, g.out.From, g.out.plan = c, len(g.out.Steps), &q
	g.out.rig, _ = q.FindRig(g.rig)
	g.out.Reach = c.Report.Reach
	for i := range c.Report.Sections {
		g.out.Steps = append(g.out.Steps, stepAt(&q, c.Report, i, marks))
		g.courses, g.at = append(g.courses, c), append(g.at, i)
	}
	return nil
}

// unbroken is what is left, where a song goes straight on only from the song that it follows in the set.
func (g *stage) unbroken() []plan.SetEntry {
	list := slices.Clone(g.order)
	for i := range list {
		if i > 0 && list[i].Segue && g.follows[list[i].ID] != list[i-1].ID {
			list[i].Segue = false
		}
	}
	return list
}

// everySong are those of the set in its order, and then all others.
func (g *stage) everySong(p *plan.Plan) []plan.SetEntry {
	var list []plan.SetEntry
	seen := map[plan.ID]bool{}
	add := func(song plan.ID) {
		if !seen[song] {
			seen[song] = true
			list = append(list, plan.SetEntry{ID: song, Song: song})
		}
	}
	l, _ := p.FindSetList(g.show.SetList)
	for _, e := range l.Entries {
		add(e.Song)
	}
	for _, s := range p.Songs {
		add(s.ID)
	}
	return list
}

// finish puts down what follows from the show as it has come out.
func (g *stage) finish() {
	g.out.courses, g.out.at = g.courses, g.at
	for _, x := range slices.Concat(g.played, g.order) {
		e := Entry{Entry: x.ID, Song: x.Song, Called: g.called[x.ID]}
		if s, ok := g.given.FindSong(x.Song); ok {
			e.Title = s.Title
		}
		g.out.Order = append(g.out.Order, e)
	}
	g.out.Switches = floorOf(g.out.plan, g.out.course.Report)
}

// WithCalls works out the ways from each step to every song there is. It fails when ctx ends.
func (e *Evening) WithCalls(ctx context.Context) error {
	calls, err := e.course.Calls(ctx, e.plan, songbook)
	if err != nil {
		return fmt.Errorf("night: %w", err)
	}
	// What was played before is not gone back to: nothing is called from there.
	calls.Rows = append(slices.Repeat([]int{-1}, e.From), calls.Rows...)
	e.Calls = calls
	return nil
}

// WordsOf is what is done about something that broke, by its event; "" where that is not so.
func (e *Evening) WordsOf(event plan.ID) string {
	for _, t := range e.Troubles {
		if t.Event == event {
			return t.Words
		}
	}
	return ""
}
