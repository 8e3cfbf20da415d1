package switching

import (
	"fmt"
	"maps"
	"slices"

	"envex/core/plan"
)

// memories is, by recipe, the preset and snapshot chosen to hold what it asks of settings that a
// device keeps in its memory.
type memories map[plan.ID]map[plan.Key]plan.Value

// remember finds, for every recipe that is played, a preset of each governed device that holds
// what the recipe asks of its memory: one that is there, or a free one that is written. An amp with
// dozens of stored combinations of channel, gain and loop is laid out so. It gives the rig with the
// presets written, and says what it wrote.
func remember(p *plan.Plan, r *plan.Rig, l *plan.SetList, controller plan.ID) (*plan.Rig, memories, []string) {
	out := *r
	chosen := memories{}
	var notes []string
	loops := programLoops(p, r, controller, playedOn(p, r, l))
	for _, id := range r.GearIn() {
		g, ok := p.FindGear(id)
		if !ok {
			continue
		}
		preset, ok := g.PresetControl()
		if !ok || !p.Governs(r, controller, loops, preset) {
			continue
		}
		b := &bank{plan: p, rig: &out, gear: g, preset: preset, named: map[string]bool{}}
		b.snapshot, b.snaps = g.SnapshotControl()
		b.note(r)
		for _, rec := range playedOn(p, r, l) {
			if rec == nil || chosen[rec.ID][preset.Key] != (plan.Value{}) {
				continue
			}
			values, note := b.hold(rec)
			if note != "" && !slices.Contains(notes, note) {
				notes = append(notes, note)
			}
			if len(values) > 0 {
				if chosen[rec.ID] == nil {
					chosen[rec.ID] = map[plan.Key]plan.Value{}
				}
				maps.Copy(chosen[rec.ID], values)
			}
		}
	}
	return &out, chosen, notes
}

// bank is the presets of one device.
type bank struct {
	plan     *plan.Plan
	rig      *plan.Rig
	gear     *plan.Gear
	preset   plan.Variable
	snapshot plan.Variable
	snaps    bool
	named    map[string]bool // presets that are written, or that something asks for by name
}

func (b *bank) note(r *plan.Rig) {
	for n := range r.Presets[b.gear.ID] {
		b.named[n] = true
	}
	for n := range r.Snapshots[b.gear.ID] {
		b.named[n] = true
	}
	b.named[r.BaseValue(b.preset).Word()] = true
	for _, rec := range r.Recipes {
		b.named[rec.Values[b.preset.Key].Word()] = true
	}
}

// hold is the preset, and the snapshot where there are any, that hold what a recipe asks.
func (b *bank) hold(rec *plan.Recipe) (map[plan.Key]plan.Value, string) {
	want := map[plan.Key]plan.Value{}
	for _, v := range b.gear.Variables() {
		x, named := rec.Values[v.Key]
		if v.Access != plan.Memory || !named || x.Kind() == plan.FreeValue {
			continue
		}
		if x.Kind() == plan.SyncValue {
			return nil, fmt.Sprintf("%s follows the tempo, which no preset of %s is written for.", v.Label, b.gear.Name)
		}
		want[v.Key] = x
	}
	if len(want) == 0 {
		return nil, ""
	}
	if x, named := rec.Values[b.preset.Key]; named && x.Kind() != plan.FreeValue {
		return nil, "" // the recipe chooses
	}
	shots := []string{""}
	if b.snaps {
		shots = b.snapshot.Control.Options
	}
	for _, n := range b.preset.Control.Options {
		for _, s := range shots {
			if b.holds(n, s, want) {
				return b.position(n, s), ""
			}
		}
	}
	for _, n := range b.preset.Control.Options {
		if b.named[n] {
			continue
		}
		b.named[n] = true
		b.write(n, want)
		return b.position(n, shots[0]), fmt.Sprintf("%s preset %s is written.", b.gear.Name, n)
	}
	return nil, fmt.Sprintf("%s has no preset left for what %s asks.", b.gear.Name, b.soundOf(rec))
}

func (b *bank) holds(preset, snapshot string, want map[plan.Key]plan.Value) bool {
	for key, x := range want {
		if held, ok := b.rig.Remembered(b.gear.ID, preset, snapshot, key); !ok || held != x {
			return false
		}
	}
	return true
}

func (b *bank) position(preset, snapshot string) map[plan.Key]plan.Value {
	at := map[plan.Key]plan.Value{b.preset.Key: plan.Text(preset)}
	if b.snaps {
		at[b.snapshot.Key] = plan.Text(snapshot)
	}
	return at
}

func (b *bank) write(preset string, values map[plan.Key]plan.Value) {
	all := plan.PresetMap{}
	maps.Copy(all, b.rig.Presets)
	own := map[string]map[plan.Key]plan.Value{}
	maps.Copy(own, all[b.gear.ID])
	own[preset] = values
	all[b.gear.ID] = own
	b.rig.Presets = all
}

func (b *bank) soundOf(rec *plan.Recipe) string {
	if s, ok := b.plan.FindSound(rec.Sound); ok {
		return s.Name
	}
	return string(rec.Sound)
}
