package paper

import (
	"cmp"
	"fmt"
	"slices"

	"envex/core/path"
)

// patch is every cable from jack to jack, and what there is to cut.
func (m *maker) patch() error {
	m.sheet.Title = "Patch list"
	cables, err := path.DeriveCables(m.given, m.show.Rig, m.show.Destination)
	if err != nil {
		return err
	}
	list := Part{Title: "From jack to jack", Columns: []Column{{"no.", true}, {"from", false}, {"jack", false}, {"to", false}, {"jack", false}, {"length m", true}, {"plugs", false}, {"channels", false}, {"level", false}, {"note", false}}, Rows: []Row{}}
	for i, r := range cables.Runs {
		list.Rows = append(list.Rows, Row{
			text(fmt.Sprint(i + 1)), text(r.From.Name), text(r.From.Jack), text(r.To.Name), text(r.To.Jack),
			text(metres(r.LengthM)), text(r.Plugs), text(channels(r)), text(r.Level), text(note(r)),
		})
	}
	m.sheet.Parts = append(m.sheet.Parts, list, m.cuts(cables))
	m.sheet.Assumed = append(m.sheet.Assumed, cables.Assumed...)
	for _, r := range cables.Runs {
		if r.Level == "speaker" {
			m.sheet.Cautions = append(m.sheet.Cautions, "Speaker leads are not instrument leads: use each for what it is made for, and never run a valve amp without its load.")
			break
		}
	}
	return nil
}

func metres(m float64) string { return fmt.Sprintf("%.2f", m) }

func channels(r path.Run) string {
	if r.Stereo {
		return "stereo"
	}
	return "mono"
}

func note(r path.Run) string {
	switch {
	case r.YLead && r.Assumed:
		return "Y lead; length assumed"
	case r.YLead:
		return "Y lead"
	case r.Assumed:
		return "length assumed"
	}
	return ""
}

// cut is cables that are alike: cut from one stock, as long and with the same plugs.
type cut struct {
	stock   string
	plugs   string
	level   string
	lengthM float64
	leads   int
}

// cuts counts the cables that are alike. A stereo run is two leads where its plugs have two poles;
// the list counts it as two, the longest first, as they are cut.
func (m *maker) cuts(c *path.Cables) Part {
	var list []cut
	for _, r := range c.Runs {
		x := cut{plugs: r.Plugs, level: r.Level, lengthM: r.LengthM, leads: leads(r)}
		if g, ok := m.plan.FindGear(r.Cable); ok {
			x.stock = g.Name
		}
		i := slices.IndexFunc(list, func(y cut) bool {
			return y.stock == x.stock && y.plugs == x.plugs && y.level == x.level && y.lengthM == x.lengthM
		})
		if i < 0 {
			list = append(list, x)
			continue
		}
		list[i].leads += x.leads
	}
	slices.SortStableFunc(list, func(a, b cut) int {
		return cmp.Or(cmp.Compare(a.stock, b.stock), cmp.Compare(a.level, b.level), cmp.Compare(b.lengthM, a.lengthM))
	})
	part := Part{Title: "To cut", Columns: []Column{{"stock", false}, {"level", false}, {"plugs", false}, {"length m", true}, {"leads", true}, {"in all m", true}}, Rows: []Row{}}
	leads, total := 0, 0.0
	for _, x := range list {
		inAll := x.lengthM * float64(x.leads)
		part.Rows = append(part.Rows, Row{text(x.stock), text(x.level), text(x.plugs), text(metres(x.lengthM)), text(fmt.Sprint(x.leads)), text(metres(inAll))})
		leads, total = leads+x.leads, total+inAll
	}
	part.Note = fmt.Sprintf("%d leads, %s m of cable in all. A stereo run is two leads.", leads, metres(total))
	return part
}

// leads is how many leads a run is: a stereo one is two.
func leads(r path.Run) int {
	if r.Stereo {
		return 2
	}
	return 1
}
