package shorthand

import (
	"fmt"
	"strings"

	"envex/core/catalog"
	"envex/core/plan"
)

// boxOf is the gear that a chip and the circuits beside it in one box stand for. What is not understood is a box of
// which only the name is known.
func boxOf(p *plan.Plan, kinds *Kinds, id plan.ID, chips []Chip) plan.Gear {
	first := chips[0]
	k, ok := kinds.byID[first.Kind]
	if !ok {
		g := plan.Gear{ID: id, Name: first.Name, Kind: plan.Pedal, Notes: fmt.Sprintf("Typed as %q.", first.Text)}
		return withChip(free(p, g), first)
	}
	name := first.Name
	g := k.In(p, id, name)
	if len(chips) > 1 {
		g = called(g, first.Name)
		for _, c := range chips[1:] {
			joined(&g, called(kinds.byID[c.Kind].Gear, c.Name))
		}
		named := make([]string, len(chips))
		for i, c := range chips {
			named[i] = c.Name
		}
		if strings.EqualFold(first.Name, titled(first.Text)) { // it has no name of its own
			g.Name = titled(strings.Join(named, " + "))
		}
		g.Circuit = strings.Join(kindsOf(chips), " + ")
		g = g.Assuming()
		g = free(p, g)
	}
	for _, c := range chips {
		g = withChip(g, c)
	}
	return g
}

// called is a box of one circuit whose circuit and switch go by a name, to be put into a box with others.
func called(g plan.Gear, name string) plan.Gear {
	if len(g.Blocks) != 1 {
		return g
	}
	g.Blocks = append([]plan.Block(nil), g.Blocks...)
	g.Blocks[0].Name = name
	g.Footswitches = append([]plan.Footswitch(nil), g.Footswitches...)
	if len(g.Footswitches) == 1 {
		g.Footswitches[0].Label = name
	}
	return g
}

func kindsOf(chips []Chip) []string {
	list := make([]string, len(chips))
	for i, c := range chips {
		list[i] = c.IsA
	}
	return list
}

// free gives gear a name that nothing in a plan has.
func free(p *plan.Plan, g plan.Gear) plan.Gear {
	return catalog.Kind{Name: g.Circuit, Gear: g}.In(p, g.ID, g.Name)
}

// withChip puts in what a chip says of its box.
func withChip(g plan.Gear, c Chip) plan.Gear {
	if c.Size != nil {
		height := c.Size.Height
		if height == nil && g.Size != nil {
			height = g.Size.Height
		}
		g.Footswitches = append([]plan.Footswitch(nil), g.Footswitches...)
		for i := range g.Footswitches {
			if f := &g.Footswitches[i]; g.Size != nil {
				f.X, f.Y = f.X*c.Size.Width/g.Size.Width, f.Y*c.Size.Depth/g.Size.Depth
			}
		}
		g.Size = &plan.Size{Width: c.Size.Width, Depth: c.Size.Depth, Height: height}
	}
	if c.WeightG != nil {
		g.WeightG = c.WeightG
	}
	if c.Colour != "" {
		g.Colour = c.Colour
	}
	if c.Volts != nil || c.MA != nil {
		draw := plan.PowerDraw{Voltage: 9, Polarity: "centre-negative", Connector: "2.1 mm barrel"}
		if g.Power != nil {
			draw = *g.Power
		}
		if c.Volts != nil {
			draw.Voltage = *c.Volts
		}
		if c.MA != nil {
			draw.Current = c.MA
		}
		g.Power = &draw
	}
	if c.Bypass != "" {
		g.Blocks = append([]plan.Block(nil), g.Blocks...)
		for i := range g.Blocks {
			if g.Blocks[i].Bypass != plan.AlwaysOn {
				g.Blocks[i].Bypass = c.Bypass
			}
		}
	}
	if c.Note != "" && !strings.EqualFold(c.Note, "one box") {
		g.Notes = strings.TrimSpace(g.Notes + "\n" + c.Note)
	}
	return g
}

// joined puts the circuits and switches of another box into one, side by side, under names that are free in it.
func joined(g *plan.Gear, other plan.Gear) {
	from := 0.0
	if g.Size != nil {
		from = g.Size.Width
	}
	if g.Size != nil && other.Size != nil {
		g.Size = &plan.Size{
			Width: g.Size.Width + other.Size.Width, Depth: max(g.Size.Depth, other.Size.Depth), Height: g.Size.Height,
		}
	}
	if g.WeightG != nil && other.WeightG != nil {
		sum := *g.WeightG + *other.WeightG
		g.WeightG = &sum
	}
	if g.Power != nil && other.Power != nil && g.Power.Current != nil && other.Power.Current != nil {
		draw, sum := *g.Power, *g.Power.Current+*other.Power.Current
		draw.Current, draw.Digital, draw.Battery = &sum, draw.Digital || other.Power.Digital, false
		g.Power = &draw
	} else if g.Power == nil {
		g.Power = other.Power
	}
	g.Blocks, g.Footswitches = append([]plan.Block(nil), g.Blocks...), append([]plan.Footswitch(nil), g.Footswitches...)
	now := map[plan.ID]plan.ID{}
	for _, b := range other.Blocks {
		was := b.ID
		for n := 2; ; n++ {
			if _, taken := g.FindBlock(b.ID); !taken {
				break
			}
			b.ID = plan.ID(fmt.Sprintf("%s-%d", was, n))
		}
		now[was] = b.ID
		g.Blocks = append(g.Blocks, b)
	}
	for _, f := range other.Footswitches {
		was := f.ID
		for n := 2; switchTaken(g, f.ID); n++ {
			f.ID = plan.ID(fmt.Sprintf("%s-%d", was, n))
		}
		f.X += from
		f.Press, f.Hold, f.Double = aimed(f.Press, now), aimed(f.Hold, now), aimed(f.Double, now)
		g.Footswitches = append(g.Footswitches, f)
	}
}

func switchTaken(g *plan.Gear, id plan.ID) bool {
	for _, f := range g.Footswitches {
		if f.ID == id {
			return true
		}
	}
	return false
}

// aimed is a press whose targets are blocks under their new ids.
func aimed(p *plan.Press, now map[plan.ID]plan.ID) *plan.Press {
	if p == nil {
		return nil
	}
	q := *p
	q.Actions = append([]plan.Action(nil), p.Actions...)
	for i, a := range q.Actions {
		block, rest, whole := strings.Cut(string(a.Target), "/")
		if id, ok := now[plan.ID(block)]; ok && whole {
			q.Actions[i].Target = plan.Key(string(id) + "/" + rest)
		}
	}
	return &q
}
