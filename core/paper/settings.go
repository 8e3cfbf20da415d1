package paper

import (
	"fmt"
	"slices"
	"strings"

	"envex/core/plan"
)

// settings are the rig's settings for the sounds of the show's set.
func (m *maker) settings() []plan.Used {
	if m.known == nil {
		m.known = m.plan.UsedIn(m.rig, m.show.SetList)
	}
	return m.known
}

// settingSheet is where every knob stands: for each box how it stands for most of the night, and for
// each sound only what differs from that.
func (m *maker) settingSheet() error {
	sounds := m.settings()
	for _, id := range m.rig.GearIn() {
		g, ok := m.plan.FindGear(id)
		if !ok || len(g.Variables()) == 0 {
			continue
		}
		m.sheet.Parts = append(m.sheet.Parts, m.boxSettings(g, sounds))
	}
	m.sheet.Assumed = append(
		m.sheet.Assumed,
		"A line for all night is how the box stands in most of the sounds; a sound's line shows only what is different in it.",
	)
	return nil
}

func (m *maker) boxSettings(g *plan.Gear, sounds []plan.Used) Part {
	b := &boxSheet{maker: m, gear: g, list: g.Variables()}
	for _, s := range sounds {
		if g.Kind != plan.Guitar || s.On[g.ID] > 0 {
			b.sounds = append(b.sounds, s)
		}
	}
	part := Part{Title: g.Name, Note: kindWords(g), Columns: []Column{{"for", false}}, Rows: []Row{}}
	if g.Colour != "" {
		part.Note += ", " + g.Colour
	}
	for _, v := range b.list {
		name := strings.TrimSpace(strings.TrimPrefix(v.Label, g.Name))
		if v.IsOn() {
			name = strings.TrimSpace(name + " on or off")
		}
		part.Columns = append(part.Columns, Column{name, false})
	}
	usual := b.usual()
	part.Rows = append(part.Rows, b.row(text("all night"), usual))
	for _, s := range b.sounds {
		differs := map[plan.Key]plan.Value{}
		for _, v := range b.list {
			if x := s.Values[v.Key]; b.matters(s, v) && x != usual[v.Key] {
				differs[v.Key] = x
			}
		}
		if len(differs) > 0 {
			first := m.sound(s.Sound.ID)
			if s.Recipe.Name != "" {
				first.Text += " (" + s.Recipe.Name + ")"
			}
			part.Rows = append(part.Rows, b.row(first, differs))
		}
	}
	for _, guitar := range b.rig.Guitars {
		own := map[plan.Key]plan.Value{}
		for key, v := range b.rig.PerGuitar[guitar] {
			if key.Gear() == g.ID {
				own[key] = v
			}
		}
		if len(own) > 0 {
			part.Rows = append(part.Rows, b.row(text("with "+b.name(guitar)), own))
		}
	}
	part.Rows = append(part.Rows, b.memories()...)
	if len(b.sounds) == 0 {
		part.Note += "; no sound of the set is played on it"
	}
	return part
}

type boxSheet struct {
	*maker
	gear   *plan.Gear
	list   []plan.Variable
	sounds []plan.Used
}

// matters reports whether a variable does anything in a sound and is set there, not in a memory of
// the box.
func (b *boxSheet) matters(s plan.Used, v plan.Variable) bool {
	for _, c := range v.When {
		if !c.Holds(s.Values[c.Key]) {
			return false
		}
	}
	return !b.held(s, v)
}

// held reports whether a preset of the box brings the value, so that no hand sets it.
func (b *boxSheet) held(s plan.Used, v plan.Variable) bool {
	preset, ok := b.gear.PresetControl()
	if !ok || v.Access != plan.Memory {
		return false
	}
	shot := ""
	if x, ok := b.gear.SnapshotControl(); ok {
		shot = s.Values[x.Key].Word()
	}
	_, ok = b.rig.Remembered(b.gear.ID, s.Values[preset.Key].Word(), shot, v.Key)
	return ok
}

// usual is where each control stands in most of the sounds in which it does anything; where it does
// nothing in any, at its base.
func (b *boxSheet) usual() map[plan.Key]plan.Value {
	out := map[plan.Key]plan.Value{}
	for _, v := range b.list {
		counts := map[plan.Value]int{}
		var best plan.Value
		for _, s := range b.sounds {
			if x := s.Values[v.Key]; b.matters(s, v) {
				counts[x]++
				if best.IsZero() || counts[x] > counts[best] {
					best = x
				}
			}
		}
		inMemory := slices.ContainsFunc(b.sounds, func(s plan.Used) bool { return b.held(s, v) })
		if best.IsZero() && !inMemory {
			best = b.rig.BaseValue(v)
		}
		out[v.Key] = best
	}
	return out
}

func (b *boxSheet) row(first Cell, values map[plan.Key]plan.Value) Row {
	row := Row{first}
	for _, v := range b.list {
		row = append(row, setTo(v, values[v.Key]))
	}
	return row
}

// memories are what the presets of the box hold, and the snapshots within them.
func (b *boxSheet) memories() []Row {
	var rows []Row
	for _, n := range numbered(b.rig.Presets[b.gear.ID]) {
		rows = append(
			rows,
			b.row(text(strings.TrimSuffix("preset "+n+", "+b.rig.PresetNames[b.gear.ID][n], ", ")), b.rig.Presets[b.gear.ID][n]),
		)
	}
	for _, n := range numbered(b.rig.Snapshots[b.gear.ID]) {
		for _, shot := range numbered(b.rig.Snapshots[b.gear.ID][n]) {
			rows = append(rows, b.row(text("preset "+n+", snapshot "+shot), b.rig.Snapshots[b.gear.ID][n][shot]))
		}
	}
	return rows
}

// numbered are names in order: numbers by size, then words.
func numbered[V any](m map[string]V) []string {
	keys := plan.SortedKeys(m)
	slices.SortStableFunc(keys, plan.CompareSlots)
	return keys
}

// setTo is a value as it is set by hand: a plain knob by the clock with its figure, and its hand.
func setTo(v plan.Variable, x plan.Value) Cell {
	if x.Kind() == plan.UnchangedValue || x.IsZero() {
		return Cell{}
	}
	if v.Control == nil || x.Kind() != plan.NumberValue {
		return text(x.String())
	}
	low, high := v.Control.Range()
	if v.Control.Unit != "" || high <= low {
		return text(strings.TrimSpace(x.String() + " " + v.Control.Unit))
	}
	turn := min(1, max(0, (x.Float()-low)/(high-low)))
	return Cell{Text: fmt.Sprintf("%s (%s)", plan.ClockFace(turn), x), Hand: &turn}
}
