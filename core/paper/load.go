package paper

import (
	"cmp"
	"fmt"
	"slices"

	"envex/core/path"
	"envex/core/plan"
)

// heavyKG is from where two people lift: a usual rule of thumb, below the limits that are set for work
// in most places. Local rules go before it.
const heavyKG = 20.0

const liftCaution = "Lift with straight back and bent knees, and two people for what is 20 kg or more. Local rules for lifting go before this."

// load is what is carried, with weights, the leads to bring and what to have to spare.
func (m *maker) load() error {
	cables, err := path.DeriveCables(m.given, m.show.Rig, m.show.Destination)
	if err != nil {
		return err
	}
	m.sheet.Parts = append(m.sheet.Parts, m.things(), m.bring(cables), m.spares(cables))
	m.sheet.Assumed = append(m.sheet.Assumed, cables.Assumed...)
	m.sheet.Cautions = append(m.sheet.Cautions, liftCaution)
	return nil
}

// carried is the gear of the rig at the show, the board and the supplies with it, apart from an amp that is
// hired in.
func (m *maker) carried() []*plan.Gear {
	var list []*plan.Gear
	seen := map[plan.ID]bool{}
	add := func(id plan.ID) {
		g, ok := m.plan.FindGear(id)
		if ok && !seen[id] && id != m.hired() {
			seen[id] = true
			list = append(list, g)
		}
	}
	for _, id := range m.rig.GearIn() {
		add(id)
	}
	for _, id := range m.changedIn() {
		add(id)
	}
	for _, s := range m.settings() {
		for _, id := range plan.SortedKeys(s.On) {
			add(id)
		}
	}
	add(m.rig.Floor.Board)
	for _, f := range m.rig.PowerPlan {
		add(f.Supply)
	}
	return list
}

// changedIn are the boxes that songs of the show ask for in the place of what stands in a swap slot.
func (m *maker) changedIn() []plan.ID {
	var list []plan.ID
	l, _ := m.plan.FindSetList(m.show.SetList)
	for i := range m.rig.Swaps {
		s := &m.rig.Swaps[i]
		for _, b := range s.Boxes {
			if b.Gear != m.rig.InSlot(s) && slices.ContainsFunc(l.Entries, func(e plan.SetEntry) bool {
				return slices.Contains(b.Songs, e.Song)
			}) {
				list = append(list, b.Gear)
			}
		}
	}
	return list
}

// hired is the amp that stands there already.
func (m *maker) hired() plan.ID {
	d, ok := m.rig.FindDestination(m.show.Destination)
	if ok && d.Kind == plan.AnyAmp {
		return plan.AnyAmpID
	}
	if !ok || d.Kind != plan.HiredAmp {
		return ""
	}
	return d.Amp
}

func (m *maker) things() Part {
	part := Part{
		Title:   "To carry",
		Columns: []Column{{"thing", false}, {"kind", false}, {"colour", false}, {"weight kg", true}, {"note", false}},
		Rows:    []Row{},
	}
	total, unknown := 0.0, 0
	for _, g := range m.carried() {
		weight, note := "", ""
		if g.WeightG == nil {
			unknown++
		} else {
			kg := *g.WeightG / 1000
			total += kg
			weight = fmt.Sprintf("%.2f", kg)
			if kg >= heavyKG {
				note = "two people"
			}
		}
		part.Rows = append(part.Rows, Row{text(g.Name), text(kindWords(g)), text(g.Colour), text(weight), text(note)})
	}
	part.Note = fmt.Sprintf("%d things, %.1f kg", len(part.Rows), total)
	if unknown > 0 {
		part.Note += fmt.Sprintf(", and %d whose weight is not known", unknown)
	}
	part.Note += "."
	if id := m.hired(); id != "" {
		part.Note += fmt.Sprintf(" %s is there already.", m.name(id))
	}
	return part
}

func kindWords(g *plan.Gear) string {
	if g.Circuit != "" {
		return g.Circuit
	}
	return string(g.Kind)
}

// bagged is the leads as they lie in the bag: whatever they were cut from, the longest first.
func bagged(c *path.Cables) []lead {
	list := counted(c, func(path.Run) string { return "" })
	slices.SortStableFunc(list, func(a, b lead) int { return cmp.Compare(b.lengthM, a.lengthM) })
	return list
}

// bring is every lead there is to bring, those that are on the board with them.
func (m *maker) bring(c *path.Cables) Part {
	part := Part{
		Title: "Leads", Columns: []Column{{"count", true}, {"length m", true}, {"level", false}, {"plugs", false}},
		Rows: []Row{},
	}
	for _, x := range bagged(c) {
		part.Rows = append(part.Rows, Row{text(fmt.Sprint(x.count)), text(metres(x.lengthM)), text(x.level), text(x.plugs)})
	}
	return part
}

// spares are the least to have twice: the longest lead of each sort, which can stand in for any shorter
// one, and what is used up.
func (m *maker) spares(c *path.Cables) Part {
	part := Part{Title: "To spare", Columns: []Column{{"count", true}, {"what", false}, {"for", false}}, Rows: []Row{}}
	add := func(count int, what, use string) {
		part.Rows = append(part.Rows, Row{text(fmt.Sprint(count)), text(what), text(use)})
	}
	sorts := map[[2]string]bool{}
	for _, x := range bagged(c) {
		if sort := [2]string{x.level, x.plugs}; !sorts[sort] {
			sorts[sort] = true
			add(1, fmt.Sprintf("%s lead, %s m, %s", x.level, metres(x.lengthM), x.plugs), "any shorter one of its sort")
		}
	}
	for _, g := range m.carried() {
		switch {
		case g.Kind == plan.Guitar:
			add(1, "set of strings", g.Name)
		case slices.ContainsFunc(m.rig.Batteries, func(b plan.BatteryUse) bool { return b.Gear == g.ID }):
			add(1, "battery", g.Name)
		case g.SpeakerOut != nil && g.SpeakerOut.Valve:
			add(1, "fuse of the rating on the amp", g.Name)
			m.sheet.Cautions = append(
				m.sheet.Cautions,
				"A fuse is replaced only by one of the rating printed on the amp, with the mains unplugged. One that blows again is for a qualified tech: valve amps hold lethal voltage even when they are unplugged.",
			)
		}
	}
	return part
}
