package switching

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/plan"
	"envex/core/reason"
)

// School is how a controller is used.
type School string

// The schools of preset layout.
const (
	Page   School = "page"   // one page of sounds for the whole night
	Song   School = "song"   // a bank per song, in set-list order
	Direct School = "direct" // no programs: every switch takes one loop in and out
)

// Options say how a controller is to be laid out.
type Options struct {
	Controller  plan.ID // empty for the rig's only one with slots
	School      School
	ChooseLoops bool                // choose which blocks get loops too; else the loops stay as they are
	Memory      int                 // bytes the exact method may take; 0 for the usual 512 MiB
	Progress    func(share float64) // told how far the search is; may be nil
}

// Solution is which programs a controller needs and where each stands.
type Solution struct {
	Controller plan.ID   `json:"controller"`
	School     School    `json:"school" enum:"page,song,direct"`
	Cost       int       `json:"cost" doc:"Presses of the whole show, at its changes and at leisure: one for each recall, one for every bank between, and one for every switch of its own."`
	LowerBound int       `json:"lower_bound" doc:"No layout costs less."`
	Proven     bool      `json:"proven"`
	BankSteps  int       `json:"bank_steps" doc:"Of the cost."`
	OwnPresses int       `json:"own_presses" doc:"Of the cost: switches of boxes without a loop or a message."`
	Loops      []Loop    `json:"loops"`
	Programs   []Program `json:"programs"`
	Reach      Outcome   `json:"reach" doc:"With these programs."`
	Before     Outcome   `json:"before" doc:"As the rig stands."`
	Words      string    `json:"words" doc:"The presses of the night in a sentence."`
	Notes      []string  `json:"notes,omitempty"`

	Stored map[string]map[string]plan.Program `json:"stored" doc:"The programs as the rig keeps them, by bank and slot."`
	Rig    plan.Rig                           `json:"rig" doc:"The whole rig with everything taken."`
}

// Loop is a loop of the controller and what stands in it.
type Loop struct {
	Loop  int      `json:"loop"`
	Stops []string `json:"stops"`
	Held  bool     `json:"held,omitempty"`
	Was   []string `json:"was" doc:"What stands in it today."`
}

// Program is one slot and the sounds it serves.
type Program struct {
	Bank   string                  `json:"bank"`
	Slot   string                  `json:"slot"`
	Sound  string                  `json:"sound"`
	Sounds []plan.ID               `json:"sounds"`
	Pins   map[plan.Key]plan.Value `json:"pins" doc:"What it sets."`
	Was    string                  `json:"was,omitempty" doc:"What the slot holds today."`
	Pinned bool                    `json:"pinned,omitempty" doc:"The player keeps it there."`
}

// maxBanks is how many banks a controller is taken to have where nobody has said.
const maxBanks = 128

// Solve lays out the programs of a controller for a set list. The plan must be valid, and the
// rig as it stands where it is played. It fails when there is no controller with slots or there
// are several, when its slots cannot hold what the show needs, and with the context's error when
// that is cancelled.
func Solve(ctx context.Context, p *plan.Plan, rig, setList plan.ID, o Options) (*Solution, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("switching: %w", err)
	}
	l, err := p.SetListByID(setList)
	if err != nil {
		return nil, fmt.Errorf("switching: %w", err)
	}
	g, slots, banked, err := controllerOf(p, r, o.Controller)
	if err != nil {
		return nil, err
	}
	s := &solving{Options: o, plan: p, was: r, list: l, gear: g, slots: slots, banks: 1}
	if banked {
		if s.banks = g.Banks; s.banks == 0 {
			s.banks = maxBanks
		}
	}
	s.out = &Solution{
		Controller: g.ID, School: o.School, Programs: []Program{}, Stored: map[string]map[string]plan.Program{},
	}
	if err := s.solve(ctx); err != nil {
		return nil, err
	}
	return s.out, nil
}

// solving is one run of [Solve].
type solving struct {
	Options
	plan  *plan.Plan
	was   *plan.Rig
	list  *plan.SetList
	gear  *plan.Gear
	slots []slotSwitch
	banks int
	out   *Solution
}

func (s *solving) solve(ctx context.Context) error {
	out := s.out
	r, memory, notes := remember(s.plan, s.was, s.list, s.gear.ID)
	out.Notes = append(out.Notes, notes...)
	if s.School == Direct {
		r, memory = s.was, nil
	}
	proven := true
	var wired *wiring
	if s.ChooseLoops {
		w, err := wire(ctx, s.plan, r, s.list, s.gear, memory, s.stepsOf(ctx, r, memory))
		if err != nil {
			return err
		}
		with := *r
		with.Path, with.Held = w.path, w.held
		r, proven, wired = &with, w.proven, w
		out.Notes = append(out.Notes, w.notes...)
	}
	out.Loops = loopsIn(s.plan, r, s.was, s.gear)
	out.Notes = append(out.Notes, s.shared(r, out.Loops)...)
	out.OwnPresses = ownPresses(s.plan, r, s.list, s.gear)
	n := needsOf(s.plan, r, s.list, s.gear.ID, memory)
	n.pins = s.pins(n)
	var placed [][]place
	var err error
	switch s.School {
	case Page:
		placed, err = s.page(ctx, n)
	case Song:
		placed, err = s.song(ctx, n)
	case Direct:
		var direct plan.Rig
		if direct, err = s.direct(r); err == nil {
			r = &direct
		}
	default:
		err = reason.Errorf("there is no school %q; there are page, song and direct", s.School)
	}
	if err != nil {
		return err
	}
	out.Cost += out.OwnPresses
	out.LowerBound += out.OwnPresses
	out.Proven = out.Proven && proven
	if s.ChooseLoops {
		bound := wired.bound
		if s.School == Song {
			bound += max(0, len(n.songs)-1) // a bank for each song whatever the loops are
		}
		out.LowerBound = min(out.LowerBound, bound)
		out.Proven = out.Proven && out.LowerBound == out.Cost
	}
	with := *r
	if s.School != Direct {
		s.write(n, placed)
		with.Programs = plan.ProgramMap{}
		for id, own := range r.Programs {
			with.Programs[id] = own
		}
		with.Programs[s.gear.ID] = out.Stored
	}
	out.Rig = with
	if out.Before, err = outcome(s.plan, s.was.ID, s.list.ID); err != nil {
		return err
	}
	q := *s.plan
	q.Put(with)
	if out.Reach, err = outcome(&q, s.was.ID, s.list.ID); err != nil {
		return err
	}
	// What was counted program by program may be more than the feet need, where settings are left free.
	if all := out.Reach.Presses + out.Reach.Leisure; out.Reach.Failed() == 0 && all < out.Cost {
		out.Cost = all
		out.Proven = out.LowerBound == all
		out.LowerBound = min(out.LowerBound, all)
	}
	out.Words = out.words()
	return nil
}

// shared says which loops hold several boxes that are not always on together: no program brings in one alone.
func (s *solving) shared(r *plan.Rig, loops []Loop) []string {
	if s.School == Direct {
		return nil
	}
	switched, programmed := r.SwitchedLoops(s.gear.ID), programLoops(s.plan, r, s.gear.ID, playedOn(s.plan, r, s.list))
	var notes []string
	for _, loop := range loops {
		for _, stop := range plan.SortedKeys(switched) {
			if _, ok := programmed[stop]; switched[stop] == loop.Loop && !ok {
				notes = append(
					notes,
					fmt.Sprintf(
						"%s share loop %d and are not always on together: no program brings in one without the other, so each keeps its own switch.",
						strings.Join(loop.Stops, " and "), loop.Loop,
					),
				)
				break
			}
		}
	}
	return notes
}

// words says how many presses the night takes. Those at leisure are apart: nothing waits for them.
func (s *Solution) words() string {
	proof := "no layout takes fewer, proven"
	if !s.Proven {
		proof = fmt.Sprintf("no layout takes fewer than %d", s.LowerBound)
	}
	return fmt.Sprintf(
		"%s at the changes of the night and %d at leisure. "+
			"The layout counts %d, %d of them bank steps and %d on switches of their own; %s.",
		plan.Counted(s.Reach.Presses, "press", "presses"), s.Reach.Leisure, s.Cost, s.BankSteps, s.OwnPresses, proof,
	)
}

// pagesFor is the problem of one page for some programs.
func (s *solving) pagesFor(n *needs) (*pages, error) {
	least := (len(n.list) + len(s.slots) - 1) / len(s.slots)
	if least > s.banks {
		return nil, reason.Errorf(
			"the set needs %d programs, and %d banks of %d slots hold %d", len(n.list), s.banks, len(s.slots),
			s.banks*len(s.slots),
		)
	}
	most := max(1, len(n.list)) // more banks than programs are of no use
	if len(n.list) > allBanks {
		most = least + 2
	}
	for _, pin := range n.pins {
		most = max(most, pin.bank+1)
	}
	return s.pagesIn(n, min(s.banks, most)), nil
}

// pagesIn is the problem with so many banks. Banks that the bank switch passes over while they are empty are a
// ring of those that are used.
func (s *solving) pagesIn(n *needs, banks int) *pages {
	p := &pages{weight: n.weight, slots: len(s.slots), banks: banks, memory: s.Memory}
	p.barred = n.barred(p.banks)
	around := banks
	if !s.gear.SkipsEmpty && s.gear.Banks > 0 {
		around = min(s.banks, 64)
	}
	if dist := s.presses(max(around, banks)); !inARow(dist) {
		p.dist, p.toward = dist, n.toward
	}
	return p
}

// presses are those from bank to bank, with so many banks that count from one on.
func (s *solving) presses(banks int) [][]int {
	r := *s.was
	r.Programs = plan.ProgramMap{s.gear.ID: {}}
	for _, name := range s.was.BankNames(s.gear, banks) {
		r.Programs[s.gear.ID][name] = map[string]plan.Program{}
	}
	return r.BankPresses(s.gear, banks)
}

// inARow reports whether as many presses lead from bank to bank as lie between them.
func inARow(dist [][]int) bool {
	for a := range dist {
		for b, d := range dist[a] {
			if d != max(a-b, b-a) {
				return false
			}
		}
	}
	return true
}

// maxLeafBranches bounds the search for the bank steps of one choice of loops, and maxAllBranches of all of
// them together, in steps, so that answers repeat.
const (
	maxLeafBranches = 50_000
	maxAllBranches  = 2_000_000
)

// stepsOf is the bank steps that go with a choice of loops, and the least they can be: nothing but for one
// page. Steps past those worth knowing are not counted further.
func (s *solving) stepsOf(ctx context.Context, r *plan.Rig, memory memories) func(*wiring, int) (int, int) {
	if s.School != Page {
		return nil
	}
	left := maxAllBranches
	type night struct{ steps, bound, most int }
	known := map[string]night{} // many choices of loops leave the same night
	return func(w *wiring, most int) (steps, bound int) {
		with := *r
		with.Path, with.Held = w.path, w.held
		n := needsOf(s.plan, &with, s.list, s.gear.ID, memory)
		n.pins = s.pins(n)
		p, err := s.pagesFor(n)
		if err != nil {
			return math.MaxInt32, math.MaxInt32 // the slots do not hold it
		}
		name := fmt.Sprint(n.toward, p.barred)
		was, seen := known[name]
		if !seen || was.bound < was.steps && was.bound <= most && was.most < most {
			was.steps, was.bound = s.leafSteps(ctx, n, p, most, &left)
			was.most = most
			known[name] = was
		}
		return was.steps, was.bound
	}
}

// leafSteps is the bank steps of one choice of loops, and the least they can be, so far as they are no more than
// those worth knowing.
func (s *solving) leafSteps(ctx context.Context, n *needs, p *pages, most int, left *int) (steps, bound int) {
	sizes := []int{p.banks}
	if p.dist != nil {
		sizes = s.sizes(n, p)
	}
	steps, bound = math.MaxInt32, math.MaxInt32
	for _, banks := range sizes {
		q, _ := s.pagesIn(n, banks).moving()
		if q.n() <= q.slots && q.barred == nil {
			return 0, 0
		}
		least := q.bound()
		if least > most {
			bound, steps = min(bound, least), min(steps, max(least, most+1))
			continue
		}
		if good := q.descend(); good.steps >= 0 {
			steps = min(steps, good.steps)
		}
		if worth := min(steps-1, most); least <= worth && *left > 0 {
			q.most = min(*left, maxLeafBranches)
			found, used, err := q.branchBelow(ctx, worth+1)
			*left -= used
			if err != nil {
				return math.MaxInt32, 0
			}
			if found.steps <= worth && found.bank != nil {
				steps = found.steps
			}
			least = found.bound
		}
		bound = min(bound, least)
	}
	return steps, min(bound, steps)
}

// controllerOf finds the controller whose programs are laid out, and its slots. One that is named
// need not be in the rig yet.
func controllerOf(p *plan.Plan, r *plan.Rig, id plan.ID) (*plan.Gear, []slotSwitch, bool, error) {
	var found []*plan.Gear
	from := r.GearIn()
	if id != "" {
		from = []plan.ID{id}
	}
	for _, x := range from {
		g, ok := p.FindGear(x)
		if !ok {
			continue
		}
		if slots, _ := slotsOf(p, r, g); len(slots) > 0 {
			found = append(found, g)
		}
	}
	switch {
	case len(found) == 0 && id != "":
		return nil, nil, false, reason.Errorf("%q is not a controller of this rig with slots to recall", id)
	case len(found) == 0:
		return nil, nil, false, reason.Errorf(
			"%s has no controller with slots to recall: give one a place in the rig, and its footswitches something to recall",
			r.Name,
		)
	case len(found) > 1:
		return nil, nil, false, reason.Errorf("%s has several controllers with slots: say which", r.Name)
	}
	slots, banked := slotsOf(p, r, found[0])
	return found[0], slots, banked, nil
}

func loopsIn(p *plan.Plan, r, was *plan.Rig, g *plan.Gear) []Loop {
	list := []Loop{}
	for k := range g.LoopCount() {
		list = append(
			list, Loop{Loop: k + 1, Stops: stopsIn(p, r, g.ID, k+1), Held: r.IsHeld(g.ID, k+1), Was: stopsIn(p, was, g.ID, k+1)},
		)
	}
	return list
}

func stopsIn(p *plan.Plan, r *plan.Rig, switcher plan.ID, loop int) []string {
	names := []string{}
	in := r.LoopsOf(switcher)
	for _, key := range r.Stops() {
		if in[key] != loop {
			continue
		}
		if box, ok := p.FindGear(key.Gear()); ok {
			if b, ok := box.FindBlock(plan.ID(key.Rest())); ok {
				names = append(names, box.StopName(b))
			}
		}
	}
	return names
}

// ownPresses counts how often, at the changes of the show, a box is moved by its own switch
// because neither a loop nor a message of the controller moves it.
func ownPresses(p *plan.Plan, r *plan.Rig, l *plan.SetList, g *plan.Gear) int {
	w := &wirer{p: p, rig: r, g: g, played: playedOn(p, r, l)}
	loops := programLoops(p, r, g.ID, w.played)
	n := 0
	wants := w.wantsOf()
	for _, key := range plan.SortedKeys(wants) {
		if loops[key] > 0 || w.sent(key) {
			continue
		}
		stands := plan.Value{}
		for _, x := range wants[key] {
			if x.Kind() != plan.SwitchValue {
				continue
			}
			if !stands.IsZero() && stands != x {
				n++
			}
			stands = x
		}
	}
	return n
}

// direct has every switch with a slot take one loop in and out instead, in the order of both.
func (s *solving) direct(r *plan.Rig) (plan.Rig, error) {
	with := *r
	with.Programs = plan.ProgramMap{}
	for id, own := range r.Programs {
		if id != s.gear.ID {
			with.Programs[id] = own
		}
	}
	with.Assignments = slices.DeleteFunc(
		slices.Clone(r.Assignments), func(a plan.Assignment) bool { return a.Gear == s.gear.ID },
	)
	loops := r.SwitchedLoops(s.gear.ID)
	next := 0
	for k := range s.gear.LoopCount() {
		press := &plan.Press{}
		for _, key := range r.Stops() {
			if loops[key] == k+1 {
				press.Actions = append(press.Actions, plan.Action{Kind: plan.Toggle, Target: key + "/on"})
			}
		}
		if len(press.Actions) == 0 {
			continue
		}
		if next == len(s.slots) {
			s.out.Notes = append(
				s.out.Notes,
				fmt.Sprintf("%s has %d switches; loop %d and those after it have none.", s.gear.Name, len(s.slots), k+1),
			)
			break
		}
		with.Assignments = append(
			with.Assignments, plan.Assignment{Gear: s.gear.ID, Switch: plan.ID(s.slots[next].sw.Rest()), Press: press},
		)
		next++
	}
	if next == 0 {
		return with, reason.Errorf("the loops of %s are empty", s.gear.Name)
	}
	wired := &wirer{p: s.plan, rig: r, g: s.gear, played: playedOn(s.plan, r, s.list)}
	wired.wants = wired.wantsOf()
	wired.units = wired.unitsOf()
	s.out.Cost = 0
	for _, m := range wired.movesOf() {
		for u := range wired.units {
			if m.units&(1<<u) != 0 && loops[wired.units[u].blocks[0]] > 0 {
				s.out.Cost += m.times
			}
		}
	}
	s.out.LowerBound, s.out.Proven = s.out.Cost, true
	return with, nil
}
