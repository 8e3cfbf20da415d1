package paper

import (
	"cmp"
	"fmt"
	"slices"

	"envex/core/path"
)

// patch is every cable from jack to jack, and what there is to cut.
func (m *maker) patch() error {
	cables, err := path.DeriveCables(m.given, m.show.Rig, m.show.Destination)
	if err != nil {
		return err
	}
	list := Part{
		Title: "From jack to jack",
		Columns: []Column{
			{"no.", true}, {"from", false}, {"jack", false}, {"to", false}, {"jack", false}, {"length m", true},
			{"plugs", false}, {"channels", false}, {"level", false}, {"note", false},
		},
		Rows: []Row{},
	}
	for i, r := range cables.Runs {
		list.Rows = append(list.Rows, Row{
			text(fmt.Sprint(i + 1)), text(r.From.Name), text(r.From.Jack), text(r.To.Name), text(r.To.Jack),
			text(metres(r.LengthM)), text(r.Plugs), text(r.Channels()), text(r.Level), text(note(r)),
		})
	}
	m.sheet.Parts = append(m.sheet.Parts, list, controls(cables), m.cuts(cables))
	m.sheet.Assumed = append(m.sheet.Assumed, cables.Assumed...)
	for _, r := range cables.Runs {
		if r.Level == "speaker" {
			m.sheet.Cautions = append(
				m.sheet.Cautions,
				"Speaker leads are not instrument leads: use each for what it is made for, and never run a valve amp without its load.",
			)
			break
		}
	}
	return nil
}

// controls are the leads that carry no sound.
func controls(c *path.Cables) Part {
	part := Part{
		Title: "Control and power leads",
		Columns: []Column{
			{"no.", true}, {"kind", false}, {"from", false}, {"jack", false}, {"to", false}, {"jack", false}, {"length m", true},
			{"note", false},
		},
		Rows: []Row{},
	}
	for i, x := range c.Control {
		note := ""
		if x.Split {
			note = "one lead with several plugs"
		}
		if x.Assumed {
			note = joined(note, "length assumed")
		}
		part.Rows = append(
			part.Rows,
			Row{
				text(fmt.Sprint(i + 1)), text(leadKind(x.Kind)), text(x.From.Name), text(x.From.Jack), text(x.To.Name),
				text(x.To.Jack), text(metres(x.LengthM)), text(note),
			},
		)
	}
	return part
}

func leadKind(kind string) string {
	if kind == path.MIDILead {
		return "MIDI"
	}
	return kind
}

func metres(m float64) string { return fmt.Sprintf("%.2f", m) }

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

// lead is leads that are alike: from one stock, as long, and with the same plugs.
type lead struct {
	stock   string
	level   string
	plugs   string
	lengthM float64
	count   int
}

// counted counts the leads that are alike. What is cut from different stock is told apart where stock
// names it.
func counted(c *path.Cables, stock func(path.Run) string) []lead {
	var list []lead
	for _, r := range c.Runs {
		x := lead{stock: stock(r), level: r.Level, plugs: r.Plugs, lengthM: r.LengthM}
		i := slices.IndexFunc(list, func(y lead) bool {
			y.count = 0
			return x == y
		})
		if i < 0 {
			list = append(list, x)
			i = len(list) - 1
		}
		list[i].count += r.Leads()
	}
	for _, r := range c.Control {
		if r.Kind == path.PowerLead {
			continue
		}
		x := lead{level: leadKind(r.Kind), plugs: "its own", lengthM: r.LengthM}
		i := slices.IndexFunc(list, func(y lead) bool {
			y.count = 0
			return x == y
		})
		if i < 0 {
			list = append(list, x)
			i = len(list) - 1
		}
		list[i].count++
	}
	return list
}

// cuts are the leads in the order they are cut: by stock, the longest first.
func (m *maker) cuts(c *path.Cables) Part {
	list := counted(c, func(r path.Run) string {
		if g, ok := m.plan.FindGear(r.Cable); ok {
			return g.Name
		}
		return ""
	})
	slices.SortStableFunc(list, func(a, b lead) int {
		return cmp.Or(cmp.Compare(a.stock, b.stock), cmp.Compare(a.level, b.level), cmp.Compare(b.lengthM, a.lengthM))
	})
	part := Part{
		Title: "To cut",
		Columns: []Column{
			{"stock", false}, {"level", false}, {"plugs", false}, {"length m", true}, {"leads", true}, {"in all m", true},
		},
		Rows: []Row{},
	}
	for _, x := range list {
		inAll := x.lengthM * float64(x.count)
		part.Rows = append(
			part.Rows,
			Row{
				text(x.stock), text(x.level), text(x.plugs), text(metres(x.lengthM)), text(fmt.Sprint(x.count)),
				text(metres(inAll)),
			},
		)
	}
	part.Note = fmt.Sprintf(
		"%d leads, %s m of cable in all. A stereo run is two leads; leads for power come with the supply.", c.Leads,
		metres(c.TotalM),
	)
	return part
}
