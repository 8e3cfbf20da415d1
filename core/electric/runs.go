package electric

import (
	"fmt"
	"math"
	"slices"

	"envex/core/path"
	"envex/core/plan"
)

// Wired is the passive side of a rig: what its pickups, pots, cables and switched-off boxes are, ready to
// be solved for any setting.
type Wired struct{ *wiring }

// Wire reads the passive side of a rig as it stands in a plan, which must be valid. It fails when the rig
// is not there.
func Wire(p *plan.Plan, rig plan.ID) (*Wired, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("electric: %w", err)
	}
	cables, err := path.DeriveCables(p, rig, "")
	if err != nil {
		return nil, fmt.Errorf("electric: %w", err)
	}
	return &Wired{wire(p, r, cables)}, nil
}

// Circuit is a rig's passive side as it is set for one moment.
type Circuit struct {
	Source  Source
	Runs    []Run             // of every lane, in signal order
	Solved  map[plan.Key]bool // passive boxes that are parts of a run: their pots are in its response
	Assumed []string          // what was taken where nobody has said
}

// Run is one passive run: from the pickups, or from an active output, to the next active input.
type Run struct {
	From   plan.Key // what drives it: the guitar, or what has the output
	To     plan.Key // what has the input
	Before plan.Key // the block it ends at; the node of the path that the input of a switcher stands before; [LaneEnd] of a lane that ends open, "" where the path does
	First  bool     // the pickups drive it
	Source Source   // of the first: the pickups that drive it
	parts  network
}

// Response is the voltage at the input over the open-circuit voltage of what drives the run, at a
// frequency in Hz.
func (r Run) Response(hz float64) complex128 { return r.parts.transfer(angular(hz)) }

// Name is the same for runs that do the same.
func (r Run) Name() string { return fmt.Sprint(r.parts) }

// Circuit solves a setting. It changes nothing in what was read, so that several may be solved at a time.
func (w *Wired) Circuit(set plan.Setting) Circuit {
	var guitar *plan.Gear
	if g, ok := w.plan.FindGear(set.Guitar); ok {
		guitar = g
	}
	own := *w.wiring
	own.assumed = slices.Clone(w.assumed)
	out := Circuit{Solved: map[plan.Key]bool{}}
	x := &walker{wiring: &own, set: set, all: &out}
	_, source := x.follow(instrumentOf(guitar, set, own.assume))
	out.Source, out.Assumed = Source{source}, own.assumed
	return out
}

// note keeps the run that has just ended, where every one is asked for.
func (x *walker) note(before plan.Key) {
	if x.all == nil {
		return
	}
	s := x.now()
	x.all.Runs = append(
		x.all.Runs, Run{From: s.from, To: s.to, Before: before, First: s.first, Source: Source{x.source}, parts: s.parts},
	)
}

// LaneEnd names the open end of a lane that meets no other.
func LaneEnd(split plan.ID, lane int) plan.Key {
	return plan.Key(fmt.Sprintf("end of lane %d of %s", lane+1, split))
}

// open keeps the pickups' run where nothing active ends it: what hangs there is heard all the same.
func (x *walker) open(end plan.Key) {
	if !x.ended && !x.now().ended && x.now().first {
		x.note(end)
	}
}

// solved says that a passive box is part of a run.
func (x *walker) solved(key plan.Key) {
	if x.all != nil {
		x.all.Solved[key] = true
	}
}

// Source is the pickups that sound.
type Source struct{ instrument }

// Sounding is one pickup that sounds.
type Sounding struct {
	Pickup   plan.Pickup
	Reversed bool
	Pair     bool    // it is taken to be two coils side by side
	OutputMV float64 // on strummed chords through the reference run
}

// Pickups are those that sound; one of which nothing is known where a guitar has none.
func (s Source) Pickups() []Sounding {
	list := make([]Sounding, len(s.sounding))
	for i, p := range s.sounding {
		list[i] = Sounding{p, s.reversed[i], hot(p), or(p.OutputMVRMS, UsualOutputMV)}
	}
	return list
}

// Share is what part of the voltage of pickup i is in what they give together, over what the response
// of a run counts from, at a frequency in Hz.
func (s Source) Share(i int, hz float64) complex128 {
	_, shares, part := s.coils().source(angular(hz))
	if part == 0 {
		return 0
	}
	return shares[i] / part
}

// Reference is the response of all that sound on full into 1 Mohm through 3 m of 100 pF a metre, at a
// frequency in Hz.
func (s Source) Reference(hz float64) complex128 { return s.reference(s.instrument, hz) }

// Alone is that of pickup i by itself.
func (s Source) Alone(i int, hz float64) complex128 {
	one := s.instrument
	one.sounding, one.reversed, one.series = one.sounding[i:i+1], one.reversed[i:i+1], false
	return s.reference(one, hz)
}

func (Source) reference(g instrument, hz float64) complex128 {
	n := append(g.ladder(fullOn), across{referenceOhm, referencePF * 1e-12})
	return n.transfer(angular(math.Max(hz, 0)))
}

// Name is the same for sources that do the same on full.
func (s Source) Name() string {
	g := s.instrument
	g.knobs = fullOn
	outputs := make([]float64, len(g.sounding))
	places := make([]string, len(g.sounding))
	for i, p := range g.sounding {
		outputs[i], places[i] = or(p.OutputMVRMS, UsualOutputMV), fmt.Sprint(p.ID, " ", p.Name, hot(p))
	}
	return fmt.Sprint(g.ladder(fullOn), g.reversed, outputs, places)
}
