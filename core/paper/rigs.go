package paper

import (
	"fmt"
	"strings"

	"envex/core/electric"
	"envex/core/plan"
)

// otherRigs adds to what the house gets the lines of the other rigs at the show, numbered on from those there are, and
// what each rig needs of the mains.
func (m *maker) otherRigs(lines int) error {
	if len(m.show.Others) == 0 {
		return nil
	}
	power := Part{
		Title: "Mains on stage",
		Columns: []Column{
			{"rig", false}, {"player", false}, {"sockets", true}, {"boxes draw W", true}, {"what plugs in", false},
		},
		Rows: []Row{},
	}
	for i, rig := range m.show.Rigs() {
		there, err := m.given.ShowOn(m.show.ID, rig)
		if err != nil {
			return err
		}
		s, err := there.ShowByID(m.show.ID)
		if err != nil {
			return err
		}
		if i > 0 {
			own := *s
			own.Others = nil
			alone := *there
			alone.Put(own)
			sheet, err := Make(&alone, own.ID, House)
			if err != nil {
				return err
			}
			part := sheet.Parts[0]
			part.Title = "Lines of " + m.whose(rig)
			for k := range part.Rows {
				lines++
				part.Rows[k][0] = text(fmt.Sprint(lines))
			}
			m.sheet.Parts = append(m.sheet.Parts, part)
		}
		row, err := m.mains(there, s)
		if err != nil {
			return err
		}
		power.Rows = append(power.Rows, row)
	}
	m.sheet.Parts = append(m.sheet.Parts, power)
	m.sheet.Assumed = append(
		m.sheet.Assumed,
		"Boxes draw from their supplies; amps draw what is on their plates, which is not counted here.",
	)
	return nil
}

// whose is a rig by its name, and by its player where that is said.
func (m *maker) whose(rig plan.ID) string {
	r, ok := m.given.FindRig(rig)
	if !ok {
		return string(rig)
	}
	if name := m.given.Player(r); name != "" {
		return fmt.Sprintf("%s, %s", name, r.Name)
	}
	return r.Name
}

// mains is what a rig needs of the mains: a socket for each supply that is used and for each amp.
func (m *maker) mains(p *plan.Plan, s *plan.Show) (Row, error) {
	p, err := p.AtShow(s)
	if err != nil {
		return nil, err
	}
	there, err := p.At(s.Rig, s.Destination)
	if err != nil {
		return nil, err
	}
	r, err := there.RigByID(s.Rig)
	if err != nil {
		return nil, err
	}
	report, err := electric.FeedRig(p, r.ID, s.Destination)
	if err != nil {
		return nil, err
	}
	var plugs []string
	for _, x := range report.Supplies {
		if x.Used {
			plugs = append(plugs, x.Name)
		}
	}
	for _, id := range r.GearIn() {
		if g, ok := there.FindGear(id); ok && g.Kind == plan.Amp {
			plugs = append(plugs, g.Name)
		}
	}
	return Row{
		text(r.Name), text(there.Player(r)), text(fmt.Sprint(len(plugs))), text(fmt.Sprintf("%.1f", report.DrawnW)),
		text(strings.Join(plugs, ", ")),
	}, nil
}
