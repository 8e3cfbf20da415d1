package path

import (
	"math"

	"envex/core/plan"
)

// Lengths that are taken where a place is not known: guitar to board and board to amp, and
// between two boxes.
const (
	longRunM  = 6.0
	shortRunM = 0.3
)

// applyLeads lays what the player says of a cable over what was derived. Between boxes the rig's patch
// cable is used where nobody says more; a lead of a length of its own is that long.
func (w *wiring) applyLeads(x *Run, long bool) {
	rig := w.judge.rig
	if !long && x.Level != speaker {
		x.Cable = rig.PatchCable
	}
	for _, l := range rig.Leads {
		if !w.isLead(l, x) {
			continue
		}
		length := l.LengthM
		if l.Cable != "" {
			x.Cable = l.Cable
			if g, ok := w.plan.FindGear(l.Cable); ok && g.Cable != nil && length == nil {
				length = g.Cable.LengthM
			}
		}
		if length != nil {
			x.LengthM, x.Assumed = *length, false
		}
	}
	if g, ok := w.plan.FindGear(x.Cable); ok && g.Cable != nil && g.Cable.Plugs != "" && x.Level != speaker {
		x.Plugs = g.Cable.Plugs
	}
}

// isLead reports whether a lead is this cable. The lead of one guitar is that of all: it stays on
// the floor when guitars are changed.
func (w *wiring) isLead(l plan.Lead, x *Run) bool {
	if l.To != x.To.Place {
		return false
	}
	if l.From == x.From.Place {
		return true
	}
	said, ok := w.plan.FindGear(l.From.Gear())
	is, ok2 := w.plan.FindGear(x.From.Gear)
	return ok && ok2 && said.Kind == plan.Guitar && is.Kind == plan.Guitar && string(l.From) == string(said.ID)
}

// cut is the length to cut for a run of so many mm, in m: 20 mm for each of two plugs, a
// tenth in hand, rounded up to 5 cm.
func cut(mm float64) float64 {
	return math.Ceil((mm+2*20)*1.1/50-1e-9) * 5 / 100
}

// place is where a jack is: where its side of the box says, or else the middle of the box. Only boxes
// that the player has placed on the floor count.
func (w *wiring) place(e end) (x, y float64, ok bool) {
	for _, b := range w.floor.Boxes {
		if b.Gear == e.gear.ID && b.Placed && !b.Off {
			x, y = b.JackAt(e.gear, e.id)
			return x, y, true
		}
	}
	return 0, 0, false
}
