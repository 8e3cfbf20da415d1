package plan

import (
	"slices"
	"strings"
)

// plainLabels say nothing of what a switch is for.
var plainLabels = []string{"", "on", "off", "on/off", "bypass", "switch", "footswitch"}

// SwitchName is what a player calls a footswitch on a rig: a box with one switch by the box's name; one whose
// label says nothing by what it works there; else by the label, after the box where that does not name it.
func (p *Plan) SwitchName(r *Rig, g *Gear, sw *Footswitch) string {
	plain := slices.Contains(plainLabels, strings.ToLower(strings.TrimSpace(sw.Label)))
	if plain {
		if works := p.worksOne(r, g, sw); works != "" && (len(g.Footswitches) > 1 || works != g.Name) {
			return works
		}
	}
	switch {
	case len(g.Footswitches) == 1 || plain:
		return g.Name
	case strings.Contains(strings.ToLower(sw.Label), strings.ToLower(g.Name)):
		return sw.Label
	}
	return g.Name + " " + sw.Label
}

// worksOne is the block that a switch turns on and off, where that is all it does: a block of another box is
// named with the box the switch is on.
func (p *Plan) worksOne(r *Rig, g *Gear, sw *Footswitch) string {
	press, hold, double := r.SwitchDoes(g, sw)
	if press == nil || hold != nil || double != nil || len(press.Actions) != 1 || press.Actions[0].Kind != Toggle {
		return ""
	}
	v, ok := p.VariableOf(press.Actions[0].Target)
	if !ok {
		return ""
	}
	if v.Gear != g.ID {
		return g.Name + " for " + v.Label
	}
	return v.Label
}
