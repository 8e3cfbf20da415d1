package switching

import (
	"context"
	"fmt"
	"strconv"

	"envex/core/plan"
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
	found, err := p.solve(ctx, s.Progress)
	if err != nil {
		return nil, fmt.Errorf("switching: %w", err)
	}
	if p.banks < s.banks && !found.proven {
		out.Notes = append(out.Notes, fmt.Sprintf("At most %d banks were tried.", p.banks))
	}
	out.BankSteps = found.steps
	out.Cost, out.LowerBound = n.moves+found.steps, n.moves+found.bound
	// With more banks than were tried a layout could be better still, unless nothing is left to save.
	out.Proven = found.proven && (found.steps == 0 || p.banks == s.banks || p.banks >= len(n.list))
	if found.proven && !out.Proven {
		out.LowerBound = n.moves + min(found.bound, p.bound())
		out.Notes = append(out.Notes, fmt.Sprintf("Proven the least with up to %d banks.", p.banks))
	}
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

// song gives each song of the set a bank in its order; one with more programs than slots takes
// the next bank too. A program keeps the slot it had where that is free.
func (s *solving) song(n *needs) ([][]place, error) {
	usual := map[int]string{}
	for _, x := range n.seat(byUse(n), s.slots, nil, -1) {
		usual[x.need] = x.slot
	}
	var placed [][]place
	fits := true
	for _, song := range n.songs {
		rest := song
		for len(rest) > 0 {
			take := min(len(rest), len(s.slots))
			fits = fits && take == len(rest)
			placed = append(placed, n.seat(rest[:take], s.slots, usual, len(placed)))
			rest = rest[take:]
		}
		if len(song) == 0 {
			placed = append(placed, nil) // a bank all the same, so that banks count as the songs do
		}
	}
	if len(placed) > s.banks {
		return nil, fmt.Errorf("switching: the set needs %d banks, one for each song and more for long ones, and there are %d", len(placed), s.banks)
	}
	s.out.BankSteps = max(0, len(placed)-1)
	s.out.Cost, s.out.LowerBound, s.out.Proven = n.moves+s.out.BankSteps, n.moves+s.out.BankSteps, fits
	if !fits {
		s.out.LowerBound = n.moves + max(0, len(n.songs)-1)
		s.out.Notes = append(s.out.Notes, "A song needs more programs than a bank has slots; the banks it takes beyond the first are not proven needed.")
	}
	return placed, nil
}

// write puts what was placed into the solution, banks numbered from 1.
func (s *solving) write(n *needs, placed [][]place) {
	out := s.out
	for b, list := range placed {
		if len(list) == 0 && s.School == Page {
			continue
		}
		bank := strconv.Itoa(b + 1)
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
