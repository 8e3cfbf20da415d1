package switching

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
)

// allBanks is the most programs for which every useful number of banks is tried; for more, two
// beyond the fewest.
const allBanks = 16

// place is a program in a slot.
type place struct {
	need int
	slot string
}

// page lays out one page for the whole night.
func (s *solving) page(ctx context.Context, n *needs) ([][]place, error) {
	out := s.out
	p, err := s.pagesFor(n)
	if err != nil {
		return nil, err
	}
	tried := p.banks
	found, p, err := s.bestPage(ctx, n, p)
	if err != nil {
		return nil, fmt.Errorf("switching: %w", err)
	}
	tried = max(tried, p.banks)
	if tried < s.banks && !found.proven {
		out.Notes = append(out.Notes, fmt.Sprintf("At most %d banks were tried.", tried))
	}
	out.BankSteps = found.steps
	out.Cost, out.LowerBound = n.moves+found.steps, n.moves+found.bound
	// With more banks than were tried a layout could be better still, unless nothing is left to save.
	out.Proven = found.proven && (found.steps == 0 || tried == s.banks || tried >= len(n.list))
	if found.proven && !out.Proven {
		out.LowerBound = n.moves + min(found.bound, p.bound())
		out.Notes = append(out.Notes, fmt.Sprintf("Proven the least with up to %d banks.", tried))
	}
	s.honest(n)
	s.unreachable(found.steps)
	placed := make([][]place, p.banks)
	for b := range placed {
		var in []int
		for i, at := range found.bank {
			if at == b {
				in = append(in, i)
			}
		}
		placed[b] = n.seat(in, s.slots, nil, b)
	}
	return placed, nil
}

// bestPage is the best layout of one page. Where presses from bank to bank depend on how many banks are used,
// as they do around a ring, each number of banks is a problem of its own.
func (s *solving) bestPage(ctx context.Context, n *needs, p *pages) (layout, *pages, error) {
	if p.dist == nil {
		found, err := p.solve(ctx, s.Progress)
		if err != nil || len(n.list) <= allBanks {
			return found, p, err
		}
		// More banks than were searched whole are tried by descent.
		wide := s.pagesIn(n, min(s.banks, len(n.list)))
		if more := wide.descend(); more.steps >= 0 && more.steps < found.steps {
			more.bound = min(found.bound, more.steps)
			return more, wide, nil
		}
		return found, p, nil
	}
	best, at, bound, proven := layout{steps: -1}, p, -1, true
	for _, banks := range s.sizes(n, p) {
		q := s.pagesIn(n, banks)
		found, err := q.solve(ctx, s.Progress)
		if errors.Is(err, errNoRoom) && banks < p.banks {
			continue
		}
		if err != nil {
			return layout{}, nil, err
		}
		if best.steps < 0 || found.steps < best.steps {
			best, at = found, q
		}
		if bound < 0 || found.bound < bound {
			bound = found.bound
		}
		proven = proven && found.proven
		if best.steps == 0 {
			break
		}
	}
	if best.steps < 0 {
		return layout{}, nil, errNoRoom
	}
	best.bound, best.proven = min(bound, best.steps), proven || bound >= best.steps
	return best, at, nil
}

// sizes are the numbers of banks worth trying where presses depend on them. An optimal layout on a ring has no
// two neighbours that would fit into one bank, as long as making one bank of two brings no two banks further
// apart: so its programs fill every pair of neighbours to more than one bank's worth.
func (s *solving) sizes(n *needs, p *pages) []int {
	if !s.gear.SkipsEmpty && s.gear.Banks > 0 {
		return []int{p.banks} // all of them are there, used or not
	}
	least := max(1, (len(n.list)+len(s.slots)-1)/len(s.slots))
	most := p.banks
	for full := max(least, 2*len(n.list)/(len(s.slots)+1)); p.barred == nil && most > full &&
		joins(s.presses(most), s.presses(most-1)); {
		most--
	}
	var list []int
	for banks := least; banks <= most; banks++ {
		list = append(list, banks)
	}
	return list
}

// joins reports whether making one bank of any two neighbours brings no two banks further apart.
func joins(apart, joined [][]int) bool {
	n := len(apart)
	for at := range n {
		to := func(b int) int { // neighbours at and at+1 become one; of the last and the first, the first
			switch {
			case at == n-1:
				return b % (n - 1)
			case b > at:
				return b - 1
			}
			return b
		}
		for a := range n {
			for b := range n {
				if joined[to(a)][to(b)] > apart[a][b] {
					return false
				}
			}
		}
	}
	return true
}

// honest takes back what is claimed of a layout where settings are left free: other programs could serve too,
// and then only the recalls that no programs do without are proven.
func (s *solving) honest(n *needs) {
	if n.free {
		s.out.LowerBound = min(s.out.LowerBound, n.least)
		s.out.Proven = s.out.LowerBound == s.out.Cost
	}
}

// unreachable says of a layout in which some bank cannot be stepped to that it is none: no search makes up for
// a switch that is not there.
func (s *solving) unreachable(steps int) {
	if steps < plan.Far {
		return
	}
	changes := steps / plan.Far
	s.out.BankSteps -= changes * plan.Far
	s.out.Cost -= changes * plan.Far
	s.out.LowerBound = min(s.out.LowerBound, s.out.Cost)
	s.out.Proven = false
	s.out.Notes = append(
		s.out.Notes,
		fmt.Sprintf(
			"%d changes go to a bank that no bank switch of %s gets to. Give it a switch that steps the other way, or one that goes around.",
			changes, s.gear.Name,
		),
	)
}

// song gives each song of the set a bank in its order; one with more programs than slots takes
// the next bank too. A program keeps the slot it had where that is free. Where the banks do not suffice, a song
// whose programs stand in a bank already, or fit into it, is played from that.
func (s *solving) song(ctx context.Context, n *needs) ([][]place, error) {
	usual := map[int]string{}
	for _, x := range n.seat(byUse(n), s.slots, nil, -1) {
		usual[x.need] = x.slot
	}
	chunks, fits := s.chunks(n)
	shared := false
	if len(chunks) > s.banks {
		needed := len(chunks)
		chunks = sharing(chunks, len(s.slots))
		shared = true
		if len(chunks) > s.banks { // each program once is the least room they take
			p, err := s.pagesFor(n)
			if err != nil {
				return nil, reason.Errorf("%w; a bank for each song would take %d banks", err, needed)
			}
			found, p, err := s.bestPage(ctx, n, p)
			if err != nil {
				return nil, fmt.Errorf("switching: %w", err)
			}
			chunks = make([][]int, p.banks)
			for i, b := range found.bank {
				chunks[b] = append(chunks[b], i)
			}
		}
	}
	var placed [][]place
	for _, in := range chunks {
		placed = append(placed, n.seat(in, s.slots, usual, len(placed)))
	}
	if shared {
		s.out.Notes = append(
			s.out.Notes,
			fmt.Sprintf("%s has fewer banks than the set has songs; songs share those their programs fit into.", s.gear.Name),
		)
	}
	s.out.BankSteps = s.stepsThrough(n, chunks)
	s.out.Cost = n.moves + s.out.BankSteps
	s.out.LowerBound, s.out.Proven = s.out.Cost, fits && !shared
	if !s.out.Proven {
		s.out.LowerBound = n.moves
	}
	s.honest(n)
	s.unreachable(s.out.BankSteps)
	if !fits {
		s.out.Notes = append(
			s.out.Notes,
			"A song needs more programs than a bank has slots; the banks it takes beyond the first are not proven needed.",
		)
	}
	return placed, nil
}

// chunks are the programs of each song, in as many banks as they need, and whether each song fits into one.
func (s *solving) chunks(n *needs) (list [][]int, fits bool) {
	fits = true
	for _, rest := range n.songs {
		if len(rest) == 0 {
			list = append(list, nil) // a bank all the same, so that banks count as the songs do
		}
		for len(rest) > 0 {
			take := min(len(rest), len(s.slots))
			fits = fits && take == len(rest)
			list = append(list, rest[:take])
			rest = rest[take:]
		}
	}
	return list, fits
}

// sharing puts what stands in a bank already, or fits into it beside what does, into that: the largest first.
func sharing(chunks [][]int, slots int) [][]int {
	order := make([]int, len(chunks))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return len(chunks[b]) - len(chunks[a]) })
	type bank struct {
		first int
		in    []int
	}
	var banks []bank
	for _, c := range order {
		at, most := -1, -1
		for k := range banks {
			common := 0
			for _, i := range chunks[c] {
				if slices.Contains(banks[k].in, i) {
					common++
				}
			}
			if len(banks[k].in)+len(chunks[c])-common <= slots && common > most {
				at, most = k, common
			}
		}
		if at < 0 {
			banks = append(banks, bank{first: c})
			at = len(banks) - 1
		}
		banks[at].first = min(banks[at].first, c)
		for _, i := range chunks[c] {
			if !slices.Contains(banks[at].in, i) {
				banks[at].in = append(banks[at].in, i)
			}
		}
	}
	slices.SortFunc(banks, func(a, b bank) int { return a.first - b.first })
	var list [][]int
	for _, b := range banks {
		list = append(list, b.in)
	}
	return list
}

// stepsThrough are the bank steps of a night in which each song is played from a bank that holds its programs:
// the nearest one that has what is asked next.
func (s *solving) stepsThrough(n *needs, chunks [][]int) int {
	around := len(chunks)
	if !s.gear.SkipsEmpty && s.gear.Banks > 0 {
		around = max(around, min(s.banks, 64))
	}
	dist := s.presses(around)
	// By bank the fewest steps to stand there; the night may begin in any.
	at := make([]int, len(chunks))
	for _, program := range n.order {
		next := slices.Repeat([]int{-1}, len(chunks))
		for b, in := range chunks {
			if !slices.Contains(in, program) {
				continue
			}
			for from, sum := range at {
				if sum >= 0 && (next[b] < 0 || sum+dist[from][b] < next[b]) {
					next[b] = sum + dist[from][b]
				}
			}
		}
		at = next
	}
	best := -1
	for _, sum := range at {
		if sum >= 0 && (best < 0 || sum < best) {
			best = sum
		}
	}
	return max(best, 0)
}

// write puts what was placed into the solution, banks numbered from 1.
func (s *solving) write(n *needs, placed [][]place) {
	out := s.out
	names := s.was.BankNames(s.gear, len(placed))
	for b, list := range placed {
		if len(list) == 0 && s.School == Page {
			continue
		}
		bank := names[b]
		out.Stored[bank] = map[string]plan.Program{}
		for _, x := range list {
			need := n.list[x.need]
			label := s.label(need)
			out.Stored[bank][x.slot] = plan.Program{Values: need.values, Sound: need.sounds[0], Label: label}
			pin, pinned := n.pins[x.need]
			out.Programs = append(out.Programs, Program{
				Bank: bank, Slot: x.slot, Sound: label, Sounds: need.sounds, Pins: need.values,
				Was: s.was.Programs[s.gear.ID][bank][x.slot].Label, Pinned: pinned && pin.slot == x.slot,
			})
		}
	}
}

func (s *solving) label(x need) string {
	label := ""
	for _, id := range x.sounds {
		if sound, ok := s.plan.FindSound(id); ok {
			if label != "" {
				label += ", "
			}
			label += sound.Name
		}
	}
	return label
}
