package switching

import (
	"context"
	"fmt"
	"slices"
	"strconv"

	"envex/core/plan"
	"envex/core/reach"
)

// School is how programs are laid out over banks.
type School string

// The schools of preset layout.
const (
	Page School = "page" // one page of sounds for the whole night
	Song School = "song" // a bank per song, in set-list order
)

// Solution is which programs a controller needs and where each stands.
type Solution struct {
	Controller plan.ID   `json:"controller"`
	School     School    `json:"school" enum:"page,song"`
	Cost       int       `json:"cost" doc:"Presses at the changes from one program to another: one for the slot, and one for every bank between."`
	LowerBound int       `json:"lower_bound" doc:"No layout costs less."`
	Proven     bool      `json:"proven"`
	Loops      []Loop    `json:"loops"`
	Programs   []Program `json:"programs"`
	Reach      Outcome   `json:"reach" doc:"With these programs."`
	Before     Outcome   `json:"before" doc:"As the rig stands."`
	Notes      []string  `json:"notes,omitempty"`

	Stored map[string]map[string]plan.Program `json:"stored" doc:"The programs as the rig keeps them, by bank and slot."`
}

// Loop is a loop of the controller and what stands in it.
type Loop struct {
	Loop  int      `json:"loop"`
	Stops []string `json:"stops"`
	Held  bool     `json:"held,omitempty"`
}

// Program is one slot and the sounds it serves.
type Program struct {
	Bank   string                  `json:"bank"`
	Slot   string                  `json:"slot"`
	Sound  string                  `json:"sound"`
	Sounds []plan.ID               `json:"sounds"`
	Pins   map[plan.Key]plan.Value `json:"pins" doc:"What it sets."`
}

// Outcome is the reach of a rig over the set.
type Outcome struct {
	Reached    int  `json:"reached"`
	Total      int  `json:"total"`
	Tight      int  `json:"tight"`
	Late       int  `json:"late"`
	ByHand     int  `json:"by_hand"`
	Impossible int  `json:"impossible"`
	Exact      bool `json:"exact"`
}

// maxBanks is how many banks a controller is taken to have where nobody has said.
const maxBanks = 128

// Solve lays out the programs of a controller for a set list. The plan must be valid, and the
// rig as it stands where it is played. An empty controller is the rig's only one with slots. It
// fails when there is none or several, when its slots cannot hold what the show needs, and with
// the context's error when that is cancelled.
func Solve(ctx context.Context, p *plan.Plan, rig, setList, controller plan.ID, school School, progress func(share float64)) (*Solution, error) {
	r, ok := p.FindRig(rig)
	if !ok {
		return nil, fmt.Errorf("switching: there is no rig %q", rig)
	}
	l, ok := p.FindSetList(setList)
	if !ok {
		return nil, fmt.Errorf("switching: there is no set list %q", setList)
	}
	g, slots, banked, err := controllerOf(p, r, controller)
	if err != nil {
		return nil, err
	}
	s := &Solution{Controller: g.ID, School: school, Loops: loopsIn(p, r, g), Programs: []Program{}, Stored: map[string]map[string]plan.Program{}}
	n := needsOf(p, r, l, g.ID)
	banks := 1
	if banked {
		if banks = g.Banks; banks == 0 {
			banks = maxBanks
		}
	}
	var placed [][]place
	switch school {
	case Page:
		placed, err = s.page(ctx, n, slots, banks, progress)
	case Song:
		placed, err = s.song(n, slots, banks)
	default:
		err = fmt.Errorf("switching: there is no school %q; there are page and song", school)
	}
	if err != nil {
		return nil, err
	}
	s.write(p, n, placed)
	if s.Before, err = outcome(p, rig, setList); err != nil {
		return nil, err
	}
	with := *r
	with.Programs = plan.ProgramMap{}
	for id, own := range r.Programs {
		with.Programs[id] = own
	}
	with.Programs[g.ID] = s.Stored
	q := *p
	q.Put(with)
	if s.Reach, err = outcome(&q, rig, setList); err != nil {
		return nil, err
	}
	return s, nil
}

func outcome(p *plan.Plan, rig, setList plan.ID) (Outcome, error) {
	report, err := reach.Compute(p, rig, setList)
	if err != nil {
		return Outcome{}, fmt.Errorf("switching: %w", err)
	}
	t := report.Reach
	return Outcome{t.Reached, t.Total, t.Tight, t.Late, t.ByHand, t.Impossible, report.Exact}, nil
}

// controllerOf finds the controller whose programs are laid out, and its slots.
func controllerOf(p *plan.Plan, r *plan.Rig, id plan.ID) (*plan.Gear, []slotSwitch, bool, error) {
	var found []*plan.Gear
	for _, x := range r.GearIn() {
		g, ok := p.FindGear(x)
		if !ok || (id != "" && x != id) {
			continue
		}
		if slots, _ := slotsOf(p, r, g); len(slots) > 0 {
			found = append(found, g)
		}
	}
	switch {
	case len(found) == 0 && id != "":
		return nil, nil, false, fmt.Errorf("switching: %q is no controller of this rig with slots to recall", id)
	case len(found) == 0:
		return nil, nil, false, fmt.Errorf("switching: %s has no controller with slots to recall: give one a place in the rig, and its footswitches something to recall", r.Name)
	case len(found) > 1:
		return nil, nil, false, fmt.Errorf("switching: %s has several controllers with slots: say which", r.Name)
	}
	slots, banked := slotsOf(p, r, found[0])
	return found[0], slots, banked, nil
}

func loopsIn(p *plan.Plan, r *plan.Rig, g *plan.Gear) []Loop {
	list := []Loop{}
	if g.Switcher == nil {
		return list
	}
	in := r.LoopsOf(g.ID)
	for k := range g.Switcher.Loops {
		x := Loop{Loop: k + 1, Stops: []string{}, Held: r.IsHeld(g.ID, k+1)}
		for _, key := range r.Stops() {
			if in[key] != k+1 {
				continue
			}
			if box, ok := p.FindGear(key.Gear()); ok {
				if b, ok := box.FindBlock(plan.ID(key.Rest())); ok {
					x.Stops = append(x.Stops, box.StopName(b))
				}
			}
		}
		list = append(list, x)
	}
	return list
}

// allBanks is the most programs for which every useful number of banks is tried; for more, two
// beyond the fewest.
const allBanks = 16

// place is a program in a slot.
type place struct {
	need int
	slot string
}

// page lays out one page for the whole night.
func (s *Solution) page(ctx context.Context, n *needs, slots []slotSwitch, banks int, progress func(float64)) ([][]place, error) {
	least := (len(n.list) + len(slots) - 1) / len(slots)
	if least > banks {
		return nil, fmt.Errorf("switching: the set needs %d programs, and %d banks of %d slots hold %d", len(n.list), banks, len(slots), banks*len(slots))
	}
	most := max(1, len(n.list)) // more banks than programs are of no use
	if len(n.list) > allBanks {
		most = least + 2
	}
	p := &pages{weight: n.weight, slots: len(slots), banks: min(banks, most)}
	found, err := p.solve(ctx, progress)
	if err != nil {
		return nil, fmt.Errorf("switching: %w", err)
	}
	if p.banks < banks && !found.proven {
		s.Notes = append(s.Notes, fmt.Sprintf("At most %d banks were tried.", p.banks))
	}
	s.Cost, s.LowerBound = n.moves+found.steps, n.moves+found.bound
	// With more banks than were tried a layout could be better still, unless nothing is left to save.
	s.Proven = found.proven && (found.steps == 0 || p.banks == banks || p.banks >= len(n.list))
	if found.proven && !s.Proven {
		s.LowerBound = n.moves + min(found.bound, p.bound())
		s.Notes = append(s.Notes, fmt.Sprintf("Proven the least with up to %d banks.", p.banks))
	}
	placed := make([][]place, p.banks)
	for b := range placed {
		var in []int
		for i, at := range found.bank {
			if at == b {
				in = append(in, i)
			}
		}
		placed[b] = n.seat(in, slots, nil)
	}
	return placed, nil
}

// song gives each song of the set a bank in its order; one with more programs than slots takes
// the next bank too. A program keeps the slot it had where that is free.
func (s *Solution) song(n *needs, slots []slotSwitch, banks int) ([][]place, error) {
	usual := map[int]string{}
	for _, x := range n.seat(byUse(n), slots, nil) {
		usual[x.need] = x.slot
	}
	var placed [][]place
	fits := true
	for _, song := range n.songs {
		rest := song
		for len(rest) > 0 {
			take := min(len(rest), len(slots))
			fits = fits && take == len(rest)
			placed = append(placed, n.seat(rest[:take], slots, usual))
			rest = rest[take:]
		}
		if len(song) == 0 {
			placed = append(placed, nil) // a bank all the same, so that banks count as the songs do
		}
	}
	if len(placed) > banks {
		return nil, fmt.Errorf("switching: the set needs %d banks, one for each song and more for long ones, and there are %d", len(placed), banks)
	}
	s.Cost, s.LowerBound, s.Proven = n.songCost(placed), n.moves, fits
	return placed, nil
}

// songCost counts a press for every change to another program and one for every bank stepped to.
func (n *needs) songCost(placed [][]place) int {
	return n.moves + max(0, len(placed)-1)
}

func byUse(n *needs) []int {
	list := make([]int, len(n.list))
	for i := range list {
		list[i] = i
	}
	slices.SortStableFunc(list, func(a, b int) int { return n.list[b].uses - n.list[a].uses })
	return list
}

// seat gives programs of one bank their slots: those that had one before keep it, a lead stands
// at the far end, and the most used are under the readiest foot, nearest to the middle.
func (n *needs) seat(in []int, slots []slotSwitch, usual map[int]string) []place {
	free := map[string]bool{}
	middle := 0.0
	for _, s := range slots {
		free[s.slot] = true
		middle += s.x / float64(len(slots))
	}
	ready := slices.Clone(slots)
	slices.SortStableFunc(ready, func(a, b slotSwitch) int {
		x, y := abs(a.x-middle), abs(b.x-middle)
		switch {
		case x < y:
			return -1
		case x > y:
			return 1
		}
		return 0
	})
	var list []place
	sit := func(i int, slot string) {
		free[slot] = false
		list = append(list, place{i, slot})
	}
	order := slices.Clone(in)
	slices.SortStableFunc(order, func(a, b int) int { return n.list[b].uses - n.list[a].uses })
	var rest []int
	for _, i := range order {
		end := slots[len(slots)-1].slot
		switch {
		case usual[i] != "" && free[usual[i]]:
			sit(i, usual[i])
		case usual[i] == "" && n.list[i].lead && free[end] && len(in) > 1:
			sit(i, end)
		default:
			rest = append(rest, i)
		}
	}
	for _, i := range rest {
		for _, s := range ready {
			if free[s.slot] {
				sit(i, s.slot)
				break
			}
		}
	}
	slices.SortFunc(list, func(a, b place) int { return plan.CompareSlots(a.slot, b.slot) })
	return list
}

func abs(x float64) float64 { return max(x, -x) }

// write puts what was placed into the solution, banks numbered from 1.
func (s *Solution) write(p *plan.Plan, n *needs, placed [][]place) {
	for b, list := range placed {
		if len(list) == 0 && s.School == Page {
			continue
		}
		bank := strconv.Itoa(b + 1)
		s.Stored[bank] = map[string]plan.Program{}
		for _, x := range list {
			need := n.list[x.need]
			program := plan.Program{Values: need.values, Sound: need.sounds[0]}
			label := ""
			for _, id := range need.sounds {
				if sound, ok := p.FindSound(id); ok {
					if label != "" {
						label += ", "
					}
					label += sound.Name
				}
			}
			program.Label = label
			s.Stored[bank][x.slot] = program
			s.Programs = append(s.Programs, Program{Bank: bank, Slot: x.slot, Sound: label, Sounds: need.sounds, Pins: need.values})
		}
	}
}
