package tempo

import (
	"fmt"
	"maps"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
)

// SetOrder is the presets of a device in the order in which a set first calls for them.
type SetOrder struct {
	Gear  plan.ID      `json:"gear"`
	Name  string       `json:"name"`
	Moves []PresetMove `json:"moves" doc:"What is copied where, by preset; none where they stand so already."`
	Words string       `json:"words"`
	Rig   plan.Rig     `json:"rig" doc:"The whole rig with the presets in that order."`
}

// PresetMove is what one preset holds, copied to another.
type PresetMove struct {
	From string `json:"from"`
	To   string `json:"to"`
	Name string `json:"name,omitempty" doc:"What the player calls it."`
	Song string `json:"song,omitempty" doc:"The song that first calls for it; absent where the set never does."`
}

// InSetOrder puts what the presets of a device hold into the order in which a set first calls for it: what it never
// calls for follows, as it stood. Recipes, programs and names go along; switches stay on the presets they are for. It
// fails when rig, set list or gear are not there, or the gear has no presets.
func InSetOrder(p *plan.Plan, rig, setList, gear plan.ID) (*SetOrder, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("tempo: %w", err)
	}
	l, err := p.SetListByID(setList)
	if err != nil {
		return nil, fmt.Errorf("tempo: %w", err)
	}
	g, ok := p.FindGear(gear)
	if !ok || !slices.Contains(r.GearIn(), gear) {
		return nil, reason.Errorf("%s is not in %s", gear, r.Name)
	}
	preset, ok := g.PresetControl()
	if !ok {
		return nil, reason.Errorf("%s has no presets", g.Name)
	}
	called, songs := calledFor(p, r, l, preset)
	options := preset.Control.Options
	order := slices.Clone(called)
	for _, o := range options {
		if !slices.Contains(order, o) {
			order = append(order, o)
		}
	}
	to := map[string]string{}
	out := &SetOrder{
		Gear: gear, Name: g.Name, Moves: []PresetMove{}, Rig: *r,
		Words: fmt.Sprintf("The presets of %s stand in the order of the set.", g.Name),
	}
	for i, from := range order {
		to[from] = options[i]
		if from != options[i] {
			m := PresetMove{From: from, To: options[i], Name: r.PresetNames[gear][from], Song: songs[from]}
			out.Moves = append(out.Moves, m)
		}
	}
	if len(out.Moves) > 0 {
		out.Rig = moved(r, gear, preset.Key, to)
		out.Words = fmt.Sprintf("%d presets of %s change places; copy them in the device too.", len(out.Moves), g.Name)
	}
	return out, nil
}

// calledFor is the presets of a device in the order in which a set first stands on them, and the song of each.
func calledFor(p *plan.Plan, r *plan.Rig, l *plan.SetList, preset plan.Variable) ([]string, map[string]string) {
	var order []string
	songs := map[string]string{}
	for _, e := range l.Entries {
		song, ok := p.FindSong(e.Song)
		if !ok {
			continue
		}
		for _, section := range song.Sections {
			rec := r.RecipeFor(section)
			if rec == nil {
				continue
			}
			v, said := rec.Values[preset.Key]
			if !said {
				v = r.Base[preset.Key]
			}
			at := v.Word()
			if v.Kind() != plan.TextValue || !slices.Contains(preset.Control.Options, at) || slices.Contains(order, at) {
				continue
			}
			order, songs[at] = append(order, at), song.Title
		}
	}
	return order, songs
}

// moved is a rig with what the presets of a gear hold copied to others, one for one, and everything that stands on one
// standing on where it went.
func moved(r *plan.Rig, gear plan.ID, key plan.Key, to map[string]string) plan.Rig {
	out := *r
	out.Presets = rekeyed(r.Presets, gear, to)
	out.PresetNames = rekeyed(r.PresetNames, gear, to)
	out.Snapshots = rekeyed(r.Snapshots, gear, to)
	out.Base = standing(r.Base, key, to)
	out.Recipes = recipesOn(r.Recipes, key, to)
	out.Destinations = slices.Clone(r.Destinations)
	for i := range out.Destinations {
		d := &out.Destinations[i]
		d.Base, d.Recipes = standing(d.Base, key, to), recipesOn(d.Recipes, key, to)
	}
	out.Programs = maps.Clone(r.Programs)
	for controller, banks := range out.Programs {
		banks = maps.Clone(banks)
		for bank, slots := range banks {
			slots = maps.Clone(slots)
			for slot, program := range slots {
				program.Values = standing(program.Values, key, to)
				slots[slot] = program
			}
			banks[bank] = slots
		}
		out.Programs[controller] = banks
	}
	return out
}

func recipesOn(list []plan.Recipe, key plan.Key, to map[string]string) []plan.Recipe {
	out := slices.Clone(list)
	for i := range out {
		out[i].Values = standing(out[i].Values, key, to)
	}
	return out
}

// standing is settings with one of them on where its preset went.
func standing(values map[plan.Key]plan.Value, key plan.Key, to map[string]string) map[plan.Key]plan.Value {
	v, ok := values[key]
	if !ok || v.Kind() != plan.TextValue || to[v.Word()] == "" {
		return values
	}
	out := maps.Clone(values)
	out[key] = plan.Text(to[v.Word()])
	return out
}

func rekeyed[M ~map[plan.ID]map[string]V, V any](held M, gear plan.ID, to map[string]string) M {
	mine, ok := held[gear]
	if !ok {
		return held
	}
	next := make(map[string]V, len(mine))
	for preset, x := range mine {
		if there, ok := to[preset]; ok {
			preset = there
		}
		next[preset] = x
	}
	out := maps.Clone(held)
	out[gear] = next
	return out
}
