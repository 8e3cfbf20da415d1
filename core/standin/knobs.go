package standin

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"envex/core/plan"
)

// Knob is a knob and where it stands.
type Knob struct {
	Key   plan.Key `json:"key"`
	Name  string   `json:"name"`
	At    float64  `json:"at"`
	Unit  string   `json:"unit,omitempty"`
	Clock string   `json:"clock,omitempty"`
	Turn  *float64 `json:"turn,omitempty" doc:"Where the hand of its clock face stands: 0 at 7 o'clock, 1 at 5 o'clock."`
}

// Where says where a knob stands.
func (k Knob) Where() string {
	at := strings.TrimSpace(fmt.Sprintf("%g %s", k.At, k.Unit))
	if k.Clock != "" {
		at += ", " + k.Clock
	}
	return at
}

// Held is what a preset of the box that stands in has to hold.
type Held struct {
	Preset string `json:"preset"`
	Knobs  []Knob `json:"knobs"`
}

func knob(key plan.Key, c *plan.Control, at float64) Knob {
	k := Knob{Key: key, Name: c.Name, At: at, Unit: c.Unit}
	if low, high := c.Range(); c.Unit == "" {
		share := (at - low) / (high - low)
		k.Clock, k.Turn = plan.ClockFace(share), &share
	}
	return k
}

// eachKnob visits the knobs of the blocks that stand in. Where there are several, each knob is named with its effect.
func eachKnob(q *plan.Plan, blocks map[plan.Key]plan.Key, visit func(from, key plan.Key, c *plan.Control)) {
	for _, from := range plan.SortedKeys(blocks) {
		to := blocks[from]
		g, _ := q.FindGear(to.Gear())
		b, _ := g.FindBlock(plan.ID(to.Rest()))
		for i := range b.Controls {
			c := b.Controls[i]
			if c.Kind != plan.Knob {
				continue
			}
			if len(blocks) > 1 {
				c.Name = b.Effect.Traits().Name + " " + c.Name
			}
			visit(from, to+"/"+plan.Key(c.ID), &c)
		}
	}
}

// knobs are where the knobs of the box stand then, for all sounds, and what its presets hold.
func knobs(q *plan.Plan, r *plan.Rig, gear plan.ID, blocks map[plan.Key]plan.Key) ([]Knob, []Held) {
	list, held := []Knob{}, []Held{}
	presets := r.Presets[gear]
	for _, name := range plan.SortedKeys(presets) {
		held = append(held, Held{Preset: name, Knobs: []Knob{}})
	}
	eachKnob(q, blocks, func(_, key plan.Key, c *plan.Control) {
		remembered := false
		for i := range held {
			if v, ok := presets[held[i].Preset][key]; ok && v.Kind() == plan.NumberValue {
				held[i].Knobs, remembered = append(held[i].Knobs, knob(key, c, v.Float())), true
			}
		}
		v, ok := r.Base[key]
		if !ok {
			v = c.Initial()
		}
		followed := slices.ContainsFunc(
			r.Recipes,
			func(rec plan.Recipe) bool { return rec.Values[key].Kind() == plan.SyncValue },
		)
		if !remembered && !followed && v.Kind() == plan.NumberValue {
			list = append(list, knob(key, c, v.Float()))
		}
	})
	return list, held
}

// carried sets what the missing box was set to. What its presets set, and the one that stands in has to be turned for
// by hand, stands as most sections of the set have it. It says which sounds had something else.
func (s *search) carried(q *plan.Plan, next *plan.Rig, blocks map[plan.Key]plan.Key) []string {
	words := []string{}
	eachKnob(q, blocks, func(from, key plan.Key, c *plan.Control) {
		was := s.control(from, c)
		if was == nil {
			return
		}
		if was.Access == plan.Memory && c.Access == plan.Foot && c.Timed() {
			words = append(words, s.tapped(q, next, from, key)...)
			return
		}
		if was.Access == plan.Memory && (c.Access == plan.SlowHand || c.Access == plan.QuickHand) {
			s.oneForAll(q, next, key)
		}
		if b, _ := s.box.FindBlock(plan.ID(from.Rest())); b.Effect.IsGain() || b.Effect.Traits().Pushes {
			return // it is tuned to what is heard
		}
		if text := s.had(q, next, from+"/"+plan.Key(was.ID), key, c); text != "" {
			words = append(words, text)
		}
	})
	return words
}

// control is the control of the missing box that one stands for; nil where there is none.
func (s *search) control(from plan.Key, c *plan.Control) *plan.Control {
	b, _ := s.box.FindBlock(plan.ID(from.Rest()))
	i := slices.IndexFunc(b.Controls, func(was plan.Control) bool { return was.ID == c.ID && was.Unit == c.Unit })
	if i < 0 && c.Timed() {
		i = slices.IndexFunc(b.Controls, func(was plan.Control) bool { return was.Timed() })
	}
	if i < 0 {
		return nil
	}
	return &b.Controls[i]
}

// placeIn is where a knob stands in a sound of a rig.
func placeIn(p *plan.Plan, r *plan.Rig, id plan.ID, key plan.Key) (float64, bool) {
	sound, _ := p.FindSound(id)
	v := p.SetFor(r, r.RecipeFor(plan.Section{Sound: id}), sound, p.FirstTempo(id)).At(key)
	return v.Float(), v.Kind() == plan.NumberValue
}

// oneForAll has a knob stand for every sound as it does for most sections of the set.
func (s *search) oneForAll(q *plan.Plan, next *plan.Rig, key plan.Key) {
	weights := map[float64]int{}
	for _, id := range s.uses {
		if x, ok := placeIn(q, next, id, key); ok {
			weights[x] += s.sections(id)
		}
	}
	places := slices.Sorted(maps.Keys(weights))
	if len(places) == 0 {
		return
	}
	most := slices.MaxFunc(places, func(a, b float64) int { return cmp.Compare(weights[a], weights[b]) })
	*next = Set(*next, map[plan.Key]plan.Value{key: plan.Number(most)})
	q.Put(*next)
}

// had says which sounds had a knob elsewhere than it is now; nothing where none had.
func (s *search) had(q *plan.Plan, next *plan.Rig, old, key plan.Key, c *plan.Control) string {
	var now, others []string
	names := map[float64][]string{}
	for _, id := range s.uses {
		was, ok := placeIn(s.plan, s.rig, id, old)
		is, there := placeIn(q, next, id, key)
		if !ok || !there || math.Abs(was-is) < 1e-9 {
			continue
		}
		sound, _ := q.FindSound(id)
		names[was] = append(names[was], sound.Name)
		if text := placed(is, c); !slices.Contains(now, text) {
			now = append(now, text)
		}
	}
	for _, x := range slices.Sorted(maps.Keys(names)) {
		others = append(others, fmt.Sprintf("%s had %s", plan.Listed(names[x]), placed(x, c)))
	}
	if len(others) == 0 {
		return ""
	}
	return fmt.Sprintf("With %s at %s: %s.", c.Name, plan.Listed(now), strings.Join(others, ", "))
}

// tapped has a time tapped that presets of the missing box held: for each sound the note that was held, else the one that
// it asks for, and nothing where there is none. It says which notes these are.
func (s *search) tapped(q *plan.Plan, next *plan.Rig, from, key plan.Key) []string {
	names := map[string][]string{}
	b, _ := s.box.FindBlock(plan.ID(from.Rest()))
	next.Recipes = slices.Clone(next.Recipes)
	for i := range next.Recipes {
		rec := &next.Recipes[i]
		held, there := rec.Values[key]
		sound, ok := q.FindSound(rec.Sound)
		if !there || !ok {
			continue
		}
		note := ""
		if held.Kind() == plan.SyncValue {
			note = held.Word()
		}
		for _, heard := range sound.Targets.Effects {
			if note == "" && heard.Effect == b.Effect {
				note = heard.Note
			}
		}
		rec.Values = maps.Clone(rec.Values)
		delete(rec.Values, key)
		if note == "" {
			continue
		}
		rec.Values[key] = plan.Sync(note)
		if !slices.Contains(names[note], sound.Name) {
			names[note] = append(names[note], sound.Name)
		}
	}
	q.Put(*next)
	var list []string
	for _, note := range plan.SortedKeys(names) {
		list = append(list, note+" for "+plan.Listed(names[note]))
	}
	if len(list) == 0 {
		return nil
	}
	return []string{"Its time is tapped: " + strings.Join(list, ", ") + "."}
}

// placed is a place of a knob in words.
func placed(x float64, c *plan.Control) string {
	return strings.TrimSpace(fmt.Sprintf("%g %s", x, c.Unit))
}

// sections are how many sections of the set have a sound; 1 without a set.
func (s *search) sections(sound plan.ID) int {
	if s.before == nil {
		return 1
	}
	n := 0
	for _, x := range s.before.Sections {
		if x.Sound == sound {
			n++
		}
	}
	return n
}
