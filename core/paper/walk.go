package paper

import (
	"fmt"
	"slices"
	"strings"

	"envex/core/path"
	"envex/core/plan"
)

// walk is the rig in words, in the order the signal takes: what it goes through, how it gets there, and
// in which sounds of the set each thing is on.
func (m *maker) walk() error {
	cables, err := path.DeriveCables(m.given, m.show.Rig, m.show.Destination)
	if err != nil {
		return err
	}
	w := &walker{maker: m, zones: m.plan.Zones(m.rig.Path), cables: cables, sounds: m.settings(), rows: []Row{}}
	if len(m.rig.Guitars) > 0 {
		var names []string
		for _, id := range m.rig.Guitars {
			names = append(names, m.name(id))
		}
		w.line("Guitar", plan.Listed(names), "", "", "")
	}
	w.nodes(m.plan.FromTheGuitar(m.rig.Path), "")
	m.sheet.Parts = append(m.sheet.Parts, Part{
		Title: "In the order of the signal",
		Columns: []Column{
			{"no.", true}, {"where", false}, {"what", false}, {"what it is", false}, {"by", false}, {"on in", false},
		},
		Rows: w.rows,
	})
	m.sheet.Assumed = append(m.sheet.Assumed, cables.Assumed...)
	return nil
}

type walker struct {
	*maker
	zones  map[plan.Key]plan.Zone
	cables *path.Cables
	sounds []plan.Used
	rows   []Row
}

func (w *walker) line(where, what, is, by, on string) {
	w.rows = append(w.rows, Row{text(fmt.Sprint(len(w.rows) + 1)), text(where), text(what), text(is), text(by), text(on)})
}

// nodes walks a line; lane names the lane it is, and is empty for the main one.
func (w *walker) nodes(list []plan.Node, lane string) {
	for _, n := range list {
		where := lane
		if where == "" {
			where = map[plan.Zone]string{
				plan.FrontOfAmp: "ahead of the amp", plan.InTheLoop: "in the amp's loop", plan.Out: "after the amp",
			}[w.zones[n.ID()]]
		}
		if n.Switcher != "" {
			where = fmt.Sprintf("%s loop %d", w.name(n.Switcher), n.Loop)
		}
		if n.Split == nil {
			w.stop(n.Stop, where)
			continue
		}
		w.split(n.Split, where)
	}
}

func (w *walker) stop(key plan.Key, where string) {
	g, ok := w.plan.FindGear(key.Gear())
	if !ok {
		return
	}
	b, ok := g.FindBlock(plan.ID(key.Rest()))
	if !ok {
		return
	}
	if g.Kind == plan.Amp {
		where = "amp"
	}
	is := string(b.Effect)
	if g.Colour != "" {
		is += ", " + g.Colour
	}
	w.line(where, g.StopName(b), is, w.into(key), w.onIn(g, b))
}

// into is the cables that come into a block.
func (w *walker) into(key plan.Key) string {
	var list []string
	for _, r := range w.cables.Runs {
		if r.To.Place == key {
			list = append(list, fmt.Sprintf("%s m from %s %s to %s", metres(r.LengthM), r.From.Name, r.From.Jack, r.To.Jack))
		}
	}
	return strings.Join(list, "; ")
}

// onIn is the sounds a block is on in.
func (w *walker) onIn(g *plan.Gear, b *plan.Block) string {
	if b.Bypass == plan.AlwaysOn {
		return "always"
	}
	var on []string
	for _, s := range w.sounds {
		if s.Values[plan.OnKey(g.ID, b.ID)] == plan.On(true) && !slices.Contains(on, s.Name) {
			on = append(on, s.Name)
		}
	}
	switch {
	case len(on) == 0:
		return "no sound"
	case len(on) == len(w.sounds):
		return "every sound"
	}
	return strings.Join(on, "; ")
}

func (w *walker) split(s *plan.Split, where string) {
	if s.Kind != plan.SplitTap && s.From != "" {
		w.stop(s.From, where)
	}
	for i, lane := range s.Lanes {
		name := w.plan.LaneName(s, i)
		if len(lane.Nodes) == 0 {
			w.line(name, "straight on", "", "", "")
		}
		w.nodes(lane.Nodes, name)
	}
	if s.To != "" && s.To != s.Divider() {
		w.stop(s.To, where)
	}
}
