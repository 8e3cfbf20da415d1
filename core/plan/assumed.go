package plan

// A piece of gear that was made from a generic kind has the figures of that kind. They are remembered beside the gear,
// by path and as they were: a figure is assumed for as long as it stands as it was taken, and nobody said it is so.

// figure is one figure of a piece of gear, and its path in it: blocks and pickups go by their ids.
type figure struct {
	path  string
	value *float64
}

// figures lists what of a piece of gear can be measured or read off its label.
func (g *Gear) figures() []figure {
	list := []figure{{"weight_g", g.WeightG}}
	if s := g.Size; s != nil {
		list = append(list,
			figure{"size/width_mm", &s.Width}, figure{"size/depth_mm", &s.Depth}, figure{"size/height_mm", s.Height})
	}
	if d := g.Power; d != nil {
		list = append(list,
			figure{"power/voltage_v", &d.Voltage}, figure{"power/current_ma", d.Current}, figure{"power/highest_v", d.Highest})
	}
	if l := g.Loop; l != nil {
		list = append(list, figure{"loop/level_db", l.LevelDB})
	}
	for i := range g.Blocks {
		b := &g.Blocks[i]
		at := "blocks/" + string(b.ID) + "/"
		list = append(list,
			figure{at + "input_ohm", b.InputOhm}, figure{at + "input_pf", b.InputPF}, figure{at + "output_ohm", b.OutOhm},
			figure{at + "bypass_pf", b.BypassPF}, figure{at + "latency_ms", b.LatencyMS}, figure{at + "ring_s", b.RingS})
	}
	for i := range g.Pickups {
		p := &g.Pickups[i]
		at := "pickups/" + string(p.ID) + "/"
		list = append(list,
			figure{at + "resistance_ohm", p.ResistanceOhm}, figure{at + "inductance_h", p.InductanceH},
			figure{at + "capacitance_pf", p.CapacitancePF}, figure{at + "output_mv_rms", p.OutputMVRMS})
	}
	return list
}

// Assuming is the gear with every figure it has remembered as taken from its kind.
func (g Gear) Assuming() Gear {
	g.Assumed = nil
	for _, f := range g.figures() {
		if f.value == nil {
			continue
		}
		if g.Assumed == nil {
			g.Assumed = map[string]float64{}
		}
		g.Assumed[f.path] = *f.value
	}
	return g
}

// IsAssumed is whether the figure at a path, such as power/current_ma or blocks/drive/input_ohm, stands as it was taken
// from the gear's kind.
func (g *Gear) IsAssumed(path string) bool {
	was, ok := g.Assumed[path]
	if !ok {
		return false
	}
	for _, f := range g.figures() {
		if f.path == path {
			return f.value != nil && *f.value == was
		}
	}
	return false
}
