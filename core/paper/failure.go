package paper

import (
	"fmt"
	"slices"
	"strings"

	"envex/core/path"
	"envex/core/plan"
	"envex/core/reach"
)

const loadCaution = "A valve amp always needs its speaker or a rated load. Inside work on it is for a qualified tech: it holds lethal voltage even when it is unplugged."

// failure is, for each box, which sounds of the set are there without it, and the quickest way round.
func (m *maker) failure() error {
	cables, err := path.DeriveCables(m.given, m.show.Rig, m.show.Destination)
	if err != nil {
		return err
	}
	f := &failing{maker: m, sounds: m.settings(), cables: cables, stops: map[plan.Key]bool{}}
	for _, key := range m.rig.Stops() {
		f.stops[key] = true
	}
	part := Part{
		Title: "If it dies",
		Columns: []Column{
			{"box", false}, {"still there", false}, {"changed", false}, {"lost", false}, {"kept", true}, {"changed of it", true},
			{"quickest way round", false}, {"owned, can stand in", false},
		},
		Rows: []Row{},
	}
	for _, id := range append(m.rig.GearIn(), m.supplies()...) {
		g, ok := m.plan.FindGear(id)
		if !ok {
			continue
		}
		row, err := f.box(g)
		if err != nil {
			return err
		}
		part.Rows = append(part.Rows, row)
		if g.SpeakerOut != nil && g.SpeakerOut.Valve {
			m.care(loadCaution)
		}
	}
	all := 0
	for _, s := range f.sounds {
		all += s.count
	}
	part.Note = fmt.Sprintf(
		"The set has %d sections: how many keep their sound, and how many of these have it changed.", all,
	)
	m.sheet.Parts = append(m.sheet.Parts, part)
	m.sheet.Assumed = append(m.sheet.Assumed,
		"Lost is a sound that must have an effect which only this box gives; changed is one the box is on in. It is judged from what the sounds ask for, not by listening.")
	return nil
}

// supplies are the supplies of the power plan, each once.
func (m *maker) supplies() []plan.ID {
	var list []plan.ID
	for _, f := range m.rig.PowerPlan {
		if !slices.Contains(list, f.Supply) {
			list = append(list, f.Supply)
		}
	}
	return list
}

type failing struct {
	*maker
	sounds []setting
	cables *path.Cables
	stops  map[plan.Key]bool
}

// fate is what becomes of the sounds of the set.
type fate struct {
	here, lost         []string
	changed            map[string][]string // by what they are without
	kept, thinner, all int                 // sections of the set
}

// changes are the sounds that are there and not as they were, together where they miss the same.
func (x fate) changes(of int) string {
	var list []string
	for _, words := range plan.SortedKeys(x.changed) {
		list = append(list, every(x.changed[words], of)+": "+words)
	}
	return strings.Join(list, ". ")
}

func (f *failing) box(g *plan.Gear) (Row, error) {
	out := f.dead(g)
	x := f.fateWithout(out, g)
	way, err := f.wayRound(g, out)
	if err != nil {
		return nil, err
	}
	return Row{
		text(g.Name), text(every(x.here, len(f.sounds))), text(x.changes(len(f.sounds))), text(every(x.lost, len(f.sounds))),
		text(fmt.Sprint(x.kept + x.thinner)), text(fmt.Sprint(x.thinner)), text(way), text(plan.Listed(f.spares(g))),
	}, nil
}

func every(names []string, of int) string {
	if len(names) == of && of > 1 {
		return "every sound"
	}
	return strings.Join(names, "; ")
}

// dead is what does nothing any more when a box dies: itself, and what a supply alone feeds.
func (f *failing) dead(g *plan.Gear) map[plan.ID]bool {
	out := map[plan.ID]bool{g.ID: true}
	for _, feed := range f.rig.PowerPlan {
		if feed.Supply == g.ID {
			for _, id := range feed.Gear {
				out[id] = true
			}
		}
	}
	return out
}

func (f *failing) fateWithout(out map[plan.ID]bool, g *plan.Gear) fate {
	x := fate{changed: map[string][]string{}}
	for _, s := range f.sounds {
		x.all += s.count
		missing, gone := f.missing(s, out, g)
		if len(missing) == 0 {
			x.here = append(x.here, s.name)
			x.kept += s.count
			continue
		}
		switch other := f.other(s, out, g); {
		case other != "":
			x.here = append(x.here, s.name+" by its recipe "+other)
			x.kept += s.count
		case gone:
			x.lost = append(x.lost, s.name)
			if g.Kind == plan.Guitar {
				x.kept += s.count - s.on[g.ID]
			}
		default:
			words := strings.Join(missing, ", ")
			x.changed[words] = append(x.changed[words], s.name)
			thinner := s.count
			if g.Kind == plan.Guitar {
				thinner = s.on[g.ID]
			}
			x.thinner += thinner
			x.kept += s.count - thinner
		}
	}
	return x
}

// other is another recipe of the rig that makes the sound without the boxes that are out; "" where there is none.
func (f *failing) other(s setting, out map[plan.ID]bool, g *plan.Gear) string {
	for i := range f.rig.Recipes {
		rec := &f.rig.Recipes[i]
		if rec.Sound != s.sound.ID || rec.ID == s.recipe.ID || rec.Name == "" {
			continue
		}
		set := f.plan.SetFor(f.rig, rec, s.sound, plan.Tempo{})
		try := setting{name: s.name, sound: s.sound, recipe: rec, count: s.count, on: s.on, values: set.Values}
		if missing, _ := f.missing(try, out, g); len(missing) == 0 {
			return rec.Name
		}
	}
	return ""
}

// missing is what a sound is without, in words, and whether it is no longer that sound: it has to be
// heard with an effect that nothing else which is on gives, or there is nothing to play it on.
func (f *failing) missing(s setting, out map[plan.ID]bool, g *plan.Gear) (words []string, gone bool) {
	if g.Kind == plan.Guitar {
		return f.onAnother(s, g)
	}
	if words := f.noWayOut(s, out); words != "" {
		return []string{words}, true
	}
	sounding := f.plan.StopsSounding(f.rig.Path, s.set())
	given := map[plan.Effect]bool{}
	for _, key := range f.rig.Stops() {
		if !sounding[key] {
			continue
		}
		b, on := f.isOn(s, key)
		// A preamp in a pedal is an effect, and stands in for no amp, where there is one.
		if stage := b.Effect == plan.EffectPreamp || b.Effect == plan.EffectPower; on && !out[key.Gear()] &&
			(!stage || f.isAmp(key) || !f.hasAmp()) {
			given[b.Effect] = true
		}
	}
	for _, key := range f.rig.Stops() {
		b, on := f.isOn(s, key)
		if !on || !out[key.Gear()] || !sounding[key] {
			continue
		}
		needed := slices.ContainsFunc(s.sound.Targets.Effects, func(h plan.Heard) bool { return h.Effect == b.Effect })
		switch {
		case f.isAmp(key) && (b.Effect == plan.EffectPreamp || b.Effect == plan.EffectPower):
			if given[b.Effect] {
				words = appendNew(words, "on the other amp alone")
			} else {
				words = appendNew(words, "without "+f.name(key.Gear()))
			}
		case b.Effect == plan.EffectPreamp && !f.hasAmp() && !given[b.Effect]:
			words, gone = appendNew(words, "no preamp"), true
		case b.Effect == plan.EffectDI:
			words = appendNew(words, "without the line from "+f.name(key.Gear()))
		case needed && !given[b.Effect]:
			words, gone = appendNew(words, "no "+b.Effect.Traits().Name), true
		case b.Effect.Traits().Unheard: // a sound is the same sound without it
		default:
			words = appendNew(words, "without its "+b.Effect.Traits().Name)
		}
	}
	return words, gone
}

// noWayOut says what a sound ends at where nothing of it comes out of the rig any more; "" where something
// does. A box that dies in the middle of a line is gone past; one at its end is not.
func (f *failing) noWayOut(s setting, out map[plan.ID]bool) string {
	said := ""
	carried := f.plan.Carries(f.rig.Path, s.set(), func(key plan.Key) bool {
		b, _ := f.isOn(s, key)
		switch {
		case !out[key.Gear()]:
			return false
		case f.isAmp(key) && (b.Effect == plan.EffectPreamp || b.Effect == plan.EffectPower):
			said = "no amp"
			return true
		case b.Effect.Traits().Ends:
			said = "no " + b.Effect.Traits().Name
			return true
		}
		return false
	})
	if carried {
		return ""
	}
	return said
}

func appendNew(list []string, x string) []string {
	if slices.Contains(list, x) {
		return list
	}
	return append(list, x)
}

func (f *failing) isOn(s setting, key plan.Key) (plan.Block, bool) {
	g, ok := f.plan.FindGear(key.Gear())
	if !ok {
		return plan.Block{}, false
	}
	b, ok := g.FindBlock(plan.ID(key.Rest()))
	if !ok {
		return plan.Block{}, false
	}
	return *b, b.Bypass == plan.AlwaysOn || s.values[plan.OnKey(g.ID, b.ID)] == plan.On(true)
}

// hasAmp reports whether an amp stands in the chain: without one its preamps are all the amp there is.
func (f *failing) hasAmp() bool { return slices.ContainsFunc(f.rig.Stops(), f.isAmp) }

func (f *failing) isAmp(key plan.Key) bool {
	g, ok := f.plan.FindGear(key.Gear())
	return ok && g.Kind == plan.Amp
}

func (f *failing) onAnother(s setting, g *plan.Gear) ([]string, bool) {
	if s.on[g.ID] == 0 {
		return nil, false
	}
	if id := f.otherGuitar(g.ID); id != "" {
		return []string{"on " + f.name(id)}, false
	}
	return []string{"no guitar"}, true
}

func (f *failing) otherGuitar(id plan.ID) plan.ID {
	for _, other := range f.rig.Guitars {
		if other != id {
			return other
		}
	}
	return ""
}

// wayRound is the least that gets the signal past a box.
func (f *failing) wayRound(g *plan.Gear, out map[plan.ID]bool) (string, error) {
	switch {
	case g.Kind == plan.Guitar:
		if id := f.otherGuitar(g.ID); id != "" {
			return "take " + f.name(id), nil
		}
		return "none in this rig: have a guitar to spare", nil
	case g.Kind == plan.Amp && !f.otherAmp(g.ID):
		for _, d := range f.given.Rigs[f.rigAt()].Destinations {
			if d.TakesNoAmp() && d.Kind != plan.Headphones {
				return "to the house, as at " + d.Name, nil
			}
		}
		return "none in this rig: have an amp or a DI to spare", nil
	}
	leads, err := f.leadsPast(out)
	if err != nil {
		return "", err
	}
	switch {
	case g.Kind == plan.Supply:
		return f.pastSupply(out, leads)
	case f.rig.Programs[g.ID] != nil || g.LoopCount() > 0 || g.Kind == plan.Controller:
		return f.pastController(g, leads)
	case g.Kind == plan.Amp:
		return "play on over the other amp, turned up", nil
	case f.loopOf(g.ID) != "":
		return f.loopOf(g.ID), nil
	case f.leavesByItself(g):
		return "leave it off: true bypass passes the signal; if it does not, " + leads, nil
	}
	return leads, nil
}

// loopOf is leaving off the loops of a switcher that a box stands in; "" where it also stands
// elsewhere, or a loop cannot be left off.
func (f *failing) loopOf(id plan.ID) string {
	var list []string
	loops := f.rig.SwitchedLoops("")
	for _, key := range f.rig.Stops() {
		if key.Gear() != id {
			continue
		}
		loop, ok := loops[key]
		if !ok {
			return ""
		}
		list = appendNew(list, fmt.Sprint(loop))
	}
	if len(list) == 0 {
		return ""
	}
	return "leave loop " + plan.Listed(list) + " off"
}

func (f *failing) rigAt() int {
	return slices.IndexFunc(f.given.Rigs, func(r plan.Rig) bool { return r.ID == f.rig.ID })
}

func (f *failing) otherAmp(id plan.ID) bool {
	return slices.ContainsFunc(f.rig.Stops(), func(k plan.Key) bool { return k.Gear() != id && f.isAmp(k) })
}

// leavesByItself reports whether every block of the box in the chain passes the signal by a plain
// contact while it is off, power or not.
func (f *failing) leavesByItself(g *plan.Gear) bool {
	stands := false
	for _, b := range g.Blocks {
		if f.stops[plan.BlockKey(g.ID, b.ID)] {
			stands = true
			if b.Bypass != plan.TrueBypass {
				return false
			}
		}
	}
	return stands
}

// leadsPast is what is plugged otherwise when boxes are out: what the rig's cables and outputs without
// them have that they do not have now.
func (f *failing) leadsPast(out map[plan.ID]bool) (string, error) {
	cables, err := f.cablesWithout(out)
	if err != nil {
		return "", err
	}
	var list []string
	for _, r := range cables.Runs {
		if !slices.ContainsFunc(f.cables.Runs, func(x path.Run) bool { return sameJacks(x, r) }) {
			list = append(list, fmt.Sprintf("from %s %s to %s %s", r.From.Name, r.From.Jack, r.To.Name, r.To.Jack))
		}
	}
	for _, s := range cables.Sends {
		if !slices.ContainsFunc(f.cables.Sends, func(x path.Send) bool { return x.Gear == s.Gear && x.Jack == s.Jack }) {
			list = append(list, fmt.Sprintf("from %s %s to the house, by a DI of its own", s.Name, s.Jack))
		}
	}
	if len(list) > 0 {
		return "lead " + strings.Join(list, ", and "), nil
	}
	for _, r := range f.cables.Runs {
		if out[r.From.Gear] && !out[r.To.Gear] {
			return fmt.Sprintf("pull both its leads: %s passes the signal by itself", r.To.Name), nil
		}
	}
	return "unplug it: nothing comes after it", nil
}

func (f *failing) cablesWithout(out map[plan.ID]bool) (*path.Cables, error) {
	r := *f.rig
	r.Path = f.without(f.rig.Path, out)
	p := *f.plan
	p.Put(r)
	return path.DeriveCables(&p, r.ID, "")
}

func sameJacks(a, b path.Run) bool {
	return a.From.Gear == b.From.Gear && a.From.Jack == b.From.Jack && a.To.Gear == b.To.Gear && a.To.Jack == b.To.Jack
}

func (f *failing) pastSupply(out map[plan.ID]bool, leads string) (string, error) {
	var cells []string
	for _, id := range f.rig.GearIn() {
		if g, ok := f.plan.FindGear(id); ok && out[id] && g.Power != nil && g.Power.Battery {
			cells = append(cells, g.Name)
		}
	}
	words := leads
	if len(cells) > 0 {
		words = "batteries into " + plan.Listed(cells) + "; past all it feeds, " + leads
	}
	for _, id := range f.rig.GearIn() {
		g, ok := f.plan.FindGear(id)
		if !ok || !out[id] || f.rig.Programs[id] == nil {
			continue
		}
		way, err := f.pastController(g, "")
		if err != nil {
			return "", err
		}
		words += "; without " + g.Name + ", " + way
	}
	return words, nil
}

// pastController is how a set is played without what switches it: on the boxes' own switches.
func (f *failing) pastController(g *plan.Gear, leads string) (string, error) {
	r := *f.rig
	r.Path = f.without(f.rig.Path, map[plan.ID]bool{g.ID: true})
	r.Programs = plan.ProgramMap{}
	for id, banks := range f.rig.Programs {
		if id != g.ID {
			r.Programs[id] = banks
		}
	}
	r.Assignments = slices.DeleteFunc(slices.Clone(r.Assignments), func(a plan.Assignment) bool { return a.Gear == g.ID })
	r.MIDI = slices.DeleteFunc(slices.Clone(r.MIDI), func(l plan.MIDILink) bool { return l.Controller == g.ID })
	r.Relays = slices.DeleteFunc(slices.Clone(r.Relays), func(l plan.RelayLink) bool { return l.Controller == g.ID })
	p := *f.plan
	p.Put(r)
	before, err := reach.Compute(f.plan, f.rig.ID, f.show.SetList)
	if err != nil {
		return "", err
	}
	after, err := reach.Compute(&p, r.ID, f.show.SetList)
	if err != nil {
		return "", err
	}
	words := fmt.Sprintf(
		"each box by its own switch: %d of %d changes in time, with it %d", after.Reach.Reached, after.Reach.Total,
		before.Reach.Reached,
	)
	if g.LoopCount() > 0 && leads != "" {
		words += "; " + leads
	}
	return words, nil
}
