// Package soundcheck says what is checked before a show in the minutes there are, and in which order: what would be
// missed most comes in first, and it is done in the order that a stage allows.
package soundcheck

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/failure"
	"envex/core/path"
	"envex/core/plan"
	"envex/core/reach"
	"envex/core/reason"
	"envex/core/signal"
)

// Report is a soundcheck that fits into some minutes.
type Report struct {
	Show    plan.ID `json:"show"`
	Rig     plan.ID `json:"rig"`
	Minutes float64 `json:"minutes" doc:"That there are."`
	Takes   float64 `json:"takes" doc:"Minutes that the checks take."`
	Checks  []Check `json:"checks" doc:"In the order they are done."`
	Left    []Check `json:"left" doc:"What there is no time for, what would be missed most first."`
	Assumed string  `json:"assumed"`
}

// Check is one thing to do.
type Check struct {
	ID      string  `json:"id" doc:"The same while the plan is."`
	Kind    Kind    `json:"kind" enum:"lines,levels,jump,mono,change,guitar,box"`
	Title   string  `json:"title"`
	Do      string  `json:"do" doc:"What is done, in words."`
	Why     string  `json:"why" doc:"The figure that it is done for."`
	Minutes float64 `json:"minutes"`

	rank int // what is missed most is lowest
}

// Kind is what sort of check it is.
type Kind string

// The kinds of checks, in the order they are done.
const (
	Lines  Kind = "lines"  // what the house gets
	Levels Kind = "levels" // the loudest and the quietest sound
	Jump   Kind = "jump"   // the steepest steps of level
	Mono   Kind = "mono"   // what a mono sum costs
	Change Kind = "change" // the fastest change
	Guitar Kind = "guitar" // a change of guitar or tuning for which time is short
	Box    Kind = "box"    // the riskiest box
)

var order = []Kind{Lines, Levels, Jump, Mono, Change, Guitar, Box}

// How long each kind of check takes, in minutes.
const (
	perLine   = 0.5
	perLevels = 1.5
	perJump   = 1
	perMono   = 1
	perChange = 1
	perGuitar = 1
	perBox    = 1.5
)

// mostJumps is how many steps of level are checked.
const mostJumps = 2

// mostMinutes is how long a soundcheck may be.
const mostMinutes = 240

// For is the soundcheck of a show on a rig of it, the show's own where that is "". Levels are modelled. It fails where
// show or rig are not in the plan, where the minutes are none, and when ctx ends.
func For(ctx context.Context, p *plan.Plan, show, on plan.ID, minutes float64, o signal.Options) (*Report, error) {
	if minutes <= 0 || minutes > mostMinutes || math.IsNaN(minutes) {
		return nil, reason.Errorf("a soundcheck takes between 0 and %d minutes", mostMinutes)
	}
	s, err := p.ShowByID(show)
	if err != nil {
		return nil, fmt.Errorf("soundcheck: %w", err)
	}
	s = s.On(on)
	given, err := p.AtShow(s)
	if err != nil {
		return nil, fmt.Errorf("soundcheck: %w", err)
	}
	rig, destination := s.Rig, s.Destination
	there, err := given.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("soundcheck: %w", err)
	}
	c := &checking{given: given, plan: there, show: s, rig: rig, destination: destination}
	for _, work := range []func(context.Context, signal.Options) error{c.lines, c.levels, c.mono, c.changes, c.box} {
		if err := work(ctx, o); err != nil {
			return nil, fmt.Errorf("soundcheck: %w", err)
		}
	}
	return c.report(minutes), nil
}

type checking struct {
	given, plan *plan.Plan
	show        *plan.Show
	rig         plan.ID
	destination plan.ID
	list        []Check
}

func (c *checking) add(rank int, x Check) {
	x.rank = rank
	c.list = append(c.list, x)
}

// report takes what fits, what would be missed most first.
func (c *checking) report(minutes float64) *Report {
	out := &Report{
		Show: c.show.ID, Rig: c.rig, Minutes: minutes, Checks: []Check{}, Left: []Check{},
		Assumed: "Levels are modelled; how long a check takes is a usual figure.",
	}
	slices.SortStableFunc(c.list, func(a, b Check) int { return cmp.Compare(a.rank, b.rank) })
	for _, x := range c.list {
		if out.Takes+x.Minutes > minutes+1e-9 {
			out.Left = append(out.Left, x)
			continue
		}
		out.Takes += x.Minutes
		out.Checks = append(out.Checks, x)
	}
	slices.SortStableFunc(out.Checks, func(a, b Check) int {
		return cmp.Compare(slices.Index(order, a.Kind), slices.Index(order, b.Kind))
	})
	return out
}

func (c *checking) lines(context.Context, signal.Options) error {
	cables, err := path.DeriveCables(c.given, c.rig, c.destination)
	if err != nil {
		return err
	}
	var names []string
	for _, s := range cables.Sends {
		names = append(names, s.Name+" "+s.Jack)
	}
	if len(names) == 0 {
		return nil
	}
	c.add(0, Check{
		ID: "lines", Kind: Lines, Title: "Every line to the house", Minutes: perLine * float64(len(names)),
		Do:  "Play one note for each line and have the desk say that it comes: " + strings.Join(names, ", ") + ".",
		Why: plan.Counted(len(names), "line leaves", "lines leave") + " the rig.",
	})
	return nil
}

func (c *checking) levels(ctx context.Context, o signal.Options) error {
	ladder, err := signal.Level(ctx, c.plan, c.rig, c.show.SetList, o)
	if err != nil {
		return err
	}
	if n := len(ladder.Rungs); n > 1 {
		loud, quiet := ladder.Rungs[0], ladder.Rungs[n-1]
		c.add(1, Check{
			ID: fmt.Sprintf("levels:%s:%s", loud.Sound, quiet.Sound), Kind: Levels, Minutes: perLevels,
			Title: fmt.Sprintf("Loudest and quietest: %s, %s", loud.Title(), quiet.Title()),
			Do: fmt.Sprintf(
				"Play %s as hard as in the show, then %s as soft: neither is too much, and both are heard.",
				loud.Title(),
				quiet.Title(),
			),
			Why: fmt.Sprintf("They are %.1f LU apart.", loud.OverHome-quiet.OverHome),
		})
	}
	c.jumps(ladder.ByPosition())
	return nil
}

// jump is a step of level between two sections.
type jump struct {
	from, to      plan.ID
	song, section string
	lu            float64
}

// jumps adds the two steepest steps of level between sections that follow each other.
func (c *checking) jumps(at map[int]signal.Rung) {
	var list []jump
	l, _ := c.plan.FindSetList(c.show.SetList)
	position := -1
	for _, e := range l.Entries {
		song, ok := c.plan.FindSong(e.Song)
		if !ok {
			continue
		}
		for _, sec := range song.Sections {
			position++
			a, known := at[position-1]
			b, also := at[position]
			if known && also && a.Sound != b.Sound {
				list = append(list, jump{a.Sound, b.Sound, song.Title, sec.Label, b.OverHome - a.OverHome})
			}
		}
	}
	slices.SortStableFunc(list, func(a, b jump) int { return cmp.Compare(math.Abs(b.lu), math.Abs(a.lu)) })
	seen := map[[2]plan.ID]bool{}
	for _, x := range list {
		// The way back is as steep.
		if len(seen) == 2*mostJumps || seen[[2]plan.ID{x.from, x.to}] {
			continue
		}
		seen[[2]plan.ID{x.from, x.to}], seen[[2]plan.ID{x.to, x.from}] = true, true
		c.add(1+len(seen), Check{
			ID: fmt.Sprintf("jump:%s:%s", x.from, x.to), Kind: Jump, Minutes: perJump,
			Title: fmt.Sprintf("Steepest jump: %s to %s", c.sound(x.from), c.sound(x.to)),
			Do:    fmt.Sprintf("Play the bars around %s of %s, and listen from the front.", x.section, x.song),
			Why:   fmt.Sprintf("%+.1f LU from one section to the next.", x.lu),
		})
	}
}

func (c *checking) sound(id plan.ID) string {
	if s, ok := c.plan.FindSound(id); ok {
		return s.Name
	}
	return string(id)
}

func (c *checking) mono(ctx context.Context, o signal.Options) error {
	o.Want = signal.AsHeard
	r, err := signal.Measure(ctx, c.plan, c.rig, o)
	if err != nil {
		return err
	}
	var worst *signal.Sound
	for i := range r.Sounds {
		s := &r.Sounds[i]
		if s.Figures.FoldDown != nil && (worst == nil || *s.Figures.FoldDown > *worst.Figures.FoldDown) {
			worst = s
		}
	}
	if worst == nil {
		return nil
	}
	c.add(4, Check{
		ID: "mono:" + string(worst.Sound), Kind: Mono, Title: "Mono sum: " + worst.Name, Minutes: perMono,
		Do: fmt.Sprintf("Play %s, have the desk sum both sides to mono, and listen for what goes.", worst.Name),
		Why: fmt.Sprintf(
			"A mono sum takes %.1f LU from it, more than from any other sound.",
			max(*worst.Figures.FoldDown, 0),
		),
	})
	return nil
}

func (c *checking) changes(context.Context, signal.Options) error {
	r, err := reach.Compute(c.plan, c.rig, c.show.SetList)
	if err != nil {
		return err
	}
	var fastest, guitar *reach.Change
	for i := range r.Changes {
		x := &r.Changes[i]
		if x.Verdict == reach.NotSet || x.Verdict == reach.Impossible {
			continue
		}
		if len(x.Presses) > 0 && !x.BetweenSet && x.Verdict != reach.ByHand &&
			(fastest == nil || x.SlackS < fastest.SlackS) {
			fastest = x
		}
		if slices.ContainsFunc(x.Hands, func(h reach.Hand) bool { return h.Variable == reach.GuitarKey }) &&
			(guitar == nil || x.SlackS < guitar.SlackS) {
			guitar = x
		}
	}
	if fastest != nil {
		c.add(2, c.change(Change, "Fastest change", fastest, perChange))
	}
	if guitar != nil {
		c.add(6, c.change(Guitar, "Guitar change", guitar, perGuitar))
	}
	return nil
}

func (c *checking) change(kind Kind, title string, x *reach.Change, minutes float64) Check {
	var acts []string
	for _, p := range x.Presses {
		acts = append(acts, p.Act)
	}
	for _, h := range x.Hands {
		acts = append(acts, h.Action)
	}
	why := fmt.Sprintf("%.1f s to spare.", x.SlackS)
	if x.SlackS < 0 {
		why = fmt.Sprintf("Late by %.1f s.", -x.SlackS)
	}
	return Check{
		ID: fmt.Sprintf("%s:%s:%s", kind, x.Entry, x.SectionID), Kind: kind, Minutes: minutes,
		Title: fmt.Sprintf("%s: %s, %s", title, x.Song, x.Section),
		Do:    "Do it three times in a row: " + strings.Join(acts, ", ") + ".",
		Why:   why,
	}
}

// box is the box that would be missed in most of the set, those first that have failed at shows before.
func (c *checking) box(ctx context.Context, _ signal.Options) error {
	f, err := failure.On(c.given, c.rig, c.destination, c.show.SetList)
	if err != nil {
		return err
	}
	failed := map[plan.ID]int{}
	for _, s := range c.plan.Shows {
		for _, x := range s.Faults {
			failed[x.Gear]++
		}
	}
	var worst *failure.Fate
	most, missed := 0, 0
	for _, id := range f.Boxes() {
		if err := ctx.Err(); err != nil {
			return err
		}
		g, ok := c.plan.FindGear(id)
		if !ok || g.Kind == plan.Guitar || g.Kind == plan.Amp {
			continue
		}
		fate, err := f.Without(id)
		if err != nil {
			return err
		}
		hit := 0
		for _, s := range fate.Sounds {
			hit += s.Hit
		}
		if score := hit * (1 + failed[id]); score > most {
			worst, most, missed = fate, score, hit
		}
	}
	if worst == nil {
		return nil
	}
	why := fmt.Sprintf("Without it %d of %d sections lose or change their sound", missed, f.Sections())
	if n := failed[worst.Gear]; n > 0 {
		why += fmt.Sprintf("; it has failed %s before", plan.Counted(n, "time", "times"))
	}
	c.add(7, Check{
		ID: "box:" + string(worst.Gear), Kind: Box, Title: "Riskiest box: " + worst.Name, Minutes: perBox,
		Do: "Move its leads and its power lead while it sounds. If it fails: " + strings.TrimSuffix(
			worst.Round,
			".",
		) + ".",
		Why: why + ".",
	})
	return nil
}
