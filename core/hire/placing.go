package hire

import (
	"fmt"
	"maps"
	"slices"

	"envex/core/path"
	"envex/core/plan"
	"envex/core/reason"
)

// place makes the amp and the destination. Where one amp has to do for several, the line to it is the one on which most
// sounds are made, and of these the one with which most are within their targets.
func (w *answering) place() error {
	amps := w.plan.AmpsIn(w.was.Path)
	if len(amps) == 0 {
		return reason.Errorf("%s has no amp in its chain", w.was.Name)
	}
	if !slices.Contains(w.o.Without, SecondAmp) {
		return w.placeIn(w.was.Path, len(amps))
	}
	type placed struct {
		plan    plan.Plan
		new     *plan.Gear
		renamed map[plan.Key]plan.Key
		held    map[string]map[plan.Key]plan.Value
	}
	before := w.plan
	w.id = w.o.NewID()
	var best *placed
	var most [2]int
	for _, line := range w.plan.OneAmp(w.was.Path) {
		w.plan, w.out.New, w.renamed, w.held = before, nil, map[plan.Key]plan.Key{}, nil
		if err := w.placeIn(line, len(amps)); err != nil {
			return err
		}
		n, err := w.within()
		if err != nil {
			return err
		}
		made, err := w.made()
		if err != nil {
			return err
		}
		if best == nil || made > most[0] || made == most[0] && n > most[1] {
			best, most = &placed{w.plan, w.out.New, w.renamed, w.held}, [2]int{made, n}
		}
	}
	w.plan, w.out.New, w.renamed, w.held = best.plan, best.new, best.renamed, best.held
	return nil
}

// placeIn makes the amp and the destination of a line, with the settings of the first amp of that to start from. Amps
// are how many the rig has.
func (w *answering) placeIn(line []plan.Node, amps int) error {
	own, _ := w.plan.FindGear(w.plan.AmpsIn(line)[0])
	amp, name, err := w.amp(own, amps)
	if err != nil {
		return err
	}
	if w.id == "" {
		w.id = w.o.NewID()
	}
	d := plan.Destination{ID: w.id, Name: name, Kind: plan.HiredAmp, Amp: amp.ID}
	if amp.ID != own.ID {
		like := amp
		if w.o.Amp == "" { // named as its own are, to begin with
			same := *own
			same.ID = amp.ID
			like = &same
		}
		d.Base, d.Recipes, w.held = w.plan.SetAs(w.was, own, like)
		d.Base = w.known(amp, d.Base)
		for name, values := range w.held {
			w.held[name] = w.known(amp, values)
		}
		for i := range d.Recipes {
			d.Recipes[i].Values = w.known(amp, d.Recipes[i].Values)
		}
	}
	if slices.Contains(w.o.Without, SecondAmp) {
		d.Path = w.plan.WithAmp(line, amp)
	}
	next := *w.was
	next.Destinations = append(slices.Clone(w.was.Destinations), d)
	if len(w.held) > 0 {
		next.Presets = maps.Clone(w.was.Presets)
		next.Presets[amp.ID] = w.held
		if names := w.was.PresetNames[own.ID]; w.o.Amp == "" && len(names) > 0 {
			next.PresetNames = maps.Clone(w.was.PresetNames)
			next.PresetNames[amp.ID] = names
		}
	}
	w.plan.Put(next)
	problems := w.plan.ValidateChange(next.ID)
	if amp.ID != own.ID && len(problems) == 0 && !names(w.was, amp.ID) {
		alike := w.plan.SwitchedAlike(&next, own, amp)
		alike.Destinations = slices.Clone(alike.Destinations)
		alike.Destinations[len(alike.Destinations)-1].Relays = w.plan.RelaysAlike(w.was, own, amp)
		w.plan.Put(alike)
		if len(w.plan.ValidateChange(next.ID)) > 0 {
			w.plan.Put(next) // its switching is for the player to say
		}
	}
	if len(problems) > 0 {
		return reason.Errorf("the chain does not go there: %s", problems[0].Message)
	}
	return nil
}

// names reports whether a rig says by itself what switches an amp.
func names(r *plan.Rig, amp plan.ID) bool {
	return slices.ContainsFunc(r.MIDI, func(l plan.MIDILink) bool { return l.Gear == amp }) ||
		slices.ContainsFunc(r.Assignments, func(a plan.Assignment) bool {
			for _, press := range []*plan.Press{a.Press, a.Hold, a.Double} {
				if press != nil && slices.ContainsFunc(press.Actions, func(x plan.Action) bool { return x.Target.Gear() == amp }) {
					return true
				}
			}
			return a.Gear == amp
		})
}

// amp is what stands there, and what the destination is called.
func (w *answering) amp(own *plan.Gear, amps int) (*plan.Gear, string, error) {
	if w.o.Amp != "" {
		g, err := w.plan.GearByID(w.o.Amp)
		if err != nil {
			return nil, "", fmt.Errorf("hire: %w", err)
		}
		if g.Kind != plan.Amp {
			return nil, "", reason.Errorf("%s is not an amp", g.Name)
		}
		return g, g.Name, nil
	}
	made, lacks := *own, []string{}
	made.ID = w.o.NewID()
	for _, x := range w.o.Without {
		words, ok := w.lacking(&made, own, x, amps)
		if !ok {
			return nil, "", reason.Errorf("an answer can say that there is no %s; not %q", plan.Listed(Lacking()), x)
		}
		if words != "" {
			lacks = append(lacks, words)
		}
	}
	if len(lacks) == 0 {
		return nil, "", reason.Errorf(
			"nothing is lacking that %s uses of %s: its own settings stand",
			w.was.Name,
			own.Name,
		)
	}
	name := "Hired amp, " + plan.Listed(lacks)
	made.Name = name
	w.plan.Put(made)
	w.out.New = &made
	return &made, name, nil
}

// destination is the one that is made, of the rig as it is.
func (w *answering) destination() (*plan.Rig, *plan.Destination) {
	r, _ := w.plan.FindRig(w.was.ID)
	d, _ := r.FindDestination(w.id)
	return r, d
}

// change writes the destination anew.
func (w *answering) change(update func(*plan.Destination)) {
	r, _ := w.destination()
	next := *r
	next.Destinations = slices.Clone(r.Destinations)
	for i := range next.Destinations {
		if next.Destinations[i].ID == w.id {
			update(&next.Destinations[i])
		}
	}
	w.plan.Put(next)
}

// arrange keeps the chain as it comes to stand there, or takes the best order there where more sounds are within their
// targets with it.
func (w *answering) arrange() error {
	now, err := w.within()
	if err != nil {
		return err
	}
	judged, err := path.Judge(w.ctx, &w.plan, w.was.ID, w.id)
	if err != nil {
		return fmt.Errorf("hire: %w", err)
	}
	if len(judged.Best.Moves) > 0 {
		kept := w.plan
		w.change(func(d *plan.Destination) { d.Path = judged.Best.Path })
		other, err := w.within()
		if err != nil {
			return err
		}
		if other <= now || len(w.plan.ValidateChange(w.was.ID)) > 0 {
			w.plan = kept
		}
	}
	there, err := w.plan.At(w.was.ID, w.id)
	if err != nil {
		return err
	}
	at, _ := there.FindRig(w.was.ID)
	w.moved(there, at.Path)
	w.stored(there)
	return nil
}
