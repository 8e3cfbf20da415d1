package path

import (
	"fmt"
	"math"

	"envex/core/floor"
	"envex/core/plan"
)

// Cables is every cable of a rig, derived from its path.
type Cables struct {
	Runs    []Run    `json:"runs"`
	TotalM  float64  `json:"total_m"`
	Assumed []string `json:"assumed,omitempty" doc:"What was assumed, in words."`
}

// Run is one cable from a jack to a jack.
type Run struct {
	From    End     `json:"from"`
	To      End     `json:"to"`
	LengthM float64 `json:"length_m"`
	Assumed bool    `json:"assumed,omitempty" doc:"The length is the usual one, because where the ends are is not known."`
	Plugs   string  `json:"plugs"`
	Stereo  bool    `json:"stereo,omitempty" doc:"Two leads, or one with three poles."`
	Level   string  `json:"level" enum:"instrument,line,speaker"`
}

// End is a jack of a piece of gear.
type End struct {
	Gear plan.ID `json:"gear"`
	Name string  `json:"name"`
	Jack string  `json:"jack"`
}

// Lengths that are taken where a place is not known: guitar to board and board to amp, and
// between two boxes.
const (
	longRunM  = 6.0
	shortRunM = 0.3
)

// DeriveCables lists the cables of a rig in signal order: from the first guitar through the
// chain. Blocks of one box that follow each other need none between them. The plan must be
// valid.
//
// A cable's length is the Manhattan run between the jacks' sides of the boxes as they stand,
// with 20 mm for each plug and a tenth in hand, rounded up to 5 cm.
func DeriveCables(p *plan.Plan, rig plan.ID) (*Cables, error) {
	r, ok := p.FindRig(rig)
	if !ok {
		return nil, fmt.Errorf("path: there is no rig %q", rig)
	}
	lay := floor.Lay(p, r)
	w := &wiring{floor: &lay, out: &Cables{Runs: []Run{}}}
	stops := stopsOf(p, r)
	if len(stops) > 0 && len(r.Guitars) > 0 {
		if g, ok := p.FindGear(r.Guitars[0]); ok {
			first := stops[0]
			w.run(end{gear: g, jack: "output", long: true}, w.input(nil, first), false, "instrument")
		}
	}
	for i := 1; i < len(stops); i++ {
		a, b := stops[i-1], stops[i]
		if a.gear == b.gear {
			continue
		}
		w.run(w.output(a, b), w.input(a, b), a.stereoOut() && b.block.Inputs == "stereo", w.level(a, b))
	}
	for _, x := range w.out.Runs {
		w.out.TotalM += x.LengthM
	}
	w.out.TotalM = math.Round(w.out.TotalM*100) / 100
	return w.out, nil
}

type wiring struct {
	floor *floor.Plan
	out   *Cables
	said  map[string]bool
}

// end is a jack with what its length depends on.
type end struct {
	gear *plan.Gear
	jack string
	side string
	long bool // it is away from the board: a guitar, an amp
}

// output is where the signal leaves a for b: an amp's preamp sends it out of its loop's send.
func (w *wiring) output(a, b *stop) end {
	if a.isAmp() {
		jack := "send"
		if a.is(plan.EffectPower) {
			jack = "line out"
		}
		return end{gear: a.gear, jack: jack, long: true}
	}
	return w.jack(a, "out", "output")
}

func (w *wiring) input(a, b *stop) end {
	if b.isAmp() {
		jack := "input"
		if !b.is(plan.EffectPreamp) {
			jack = "return"
		}
		return end{gear: b.gear, jack: jack, long: true}
	}
	return w.jack(b, "in", "input")
}

// jack is a box's jack by the usual ids, else by the usual name.
func (w *wiring) jack(s *stop, id, name string) end {
	for _, want := range []string{id, id + "-l"} {
		for _, j := range s.gear.Jacks {
			if string(j.ID) != want {
				continue
			}
			if j.Name != "" {
				name = j.Name
			}
			return end{gear: s.gear, jack: name, side: j.Side}
		}
	}
	return end{gear: s.gear, jack: name}
}

// level is what the signal is at between two stops: an amp's loop may be at line level.
func (w *wiring) level(a, b *stop) string {
	for _, s := range []*stop{a, b} {
		if !s.isAmp() || s.gear.Loop == nil || (s == b && s.is(plan.EffectPreamp)) {
			continue
		}
		if s.gear.Loop.LevelDB == nil {
			w.assume(fmt.Sprintf("The level of %s's loop is not known; instrument level is assumed.", s.gear.Name))
			continue
		}
		if *s.gear.Loop.LevelDB >= 0 {
			return "line"
		}
	}
	if a.block.Level == "line" {
		return "line"
	}
	return "instrument"
}

func (w *wiring) assume(text string) {
	if w.said == nil {
		w.said = map[string]bool{}
	}
	if !w.said[text] {
		w.said[text] = true
		w.out.Assumed = append(w.out.Assumed, text)
	}
}

func (w *wiring) run(from, to end, stereo bool, level string) {
	x := Run{
		From: End{from.gear.ID, from.gear.Name, from.jack}, To: End{to.gear.ID, to.gear.Name, to.jack},
		Plugs: "straight", Stereo: stereo, Level: level,
	}
	ax, ay, ok := w.place(from)
	bx, by, ok2 := w.place(to)
	switch {
	case from.long || to.long:
		x.LengthM, x.Assumed = longRunM, true
	case ok && ok2:
		x.LengthM = cut(math.Abs(ax-bx) + math.Abs(ay-by))
	default:
		x.LengthM, x.Assumed = shortRunM, true
	}
	w.out.Runs = append(w.out.Runs, x)
}

// cut is the length to cut for a run of so many mm, in m: 20 mm for each of two plugs, a
// tenth in hand, rounded up to 5 cm.
func cut(mm float64) float64 {
	return math.Ceil((mm+2*20)*1.1/50-1e-9) * 0.05
}

// place is where a jack is: the middle of its side of the box, or of the box. Only boxes
// that the player has placed count.
func (w *wiring) place(e end) (x, y float64, ok bool) {
	for _, b := range w.floor.Boxes {
		if b.Gear != e.gear.ID || !b.Placed {
			continue
		}
		x, y = b.X+b.Width/2, b.Y+b.Depth/2
		sides := []string{"top", "right", "front", "left"} // clockwise, as the player sees them
		side := -1
		for i, s := range sides {
			if s == e.side || (s == "top" && e.side == "back") {
				side = (i + b.Rotation/90) % 4
			}
		}
		switch side {
		case 0:
			y = b.Y
		case 1:
			x = b.X + b.Width
		case 2:
			y = b.Y + b.Depth
		case 3:
			x = b.X
		}
		return x, y, true
	}
	return 0, 0, false
}
