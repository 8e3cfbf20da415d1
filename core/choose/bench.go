package choose

import (
	"context"
	"fmt"
	"maps"
	"slices"

	"envex/core/plan"
	"envex/core/signal"
)

// bench meters settings with some boxes that cannot be off.
type bench struct {
	*metering
	always boxes
	rig    plan.Rig
	meter  *signal.Sketcher
	got    map[string]signal.Sketch
	usable []int // stages that can be on in it
}

func (m *metering) bench(ctx context.Context, always boxes, o Options) (*bench, error) {
	stageBoxes := boxes(0)
	b := &bench{metering: m, always: always, got: map[string]signal.Sketch{}}
	for i, s := range m.stages {
		if m.only.has(s.box) && (!m.always.has(s.box) || always.has(s.box)) {
			b.usable = append(b.usable, i)
			stageBoxes |= 1 << s.box
		}
	}
	if m.whole() {
		b.rig = m.pile.rig(func(id plan.ID) bool { i := m.place(id); return (stageBoxes | always).has(i) })
	} else { // everything else of a choice is there too, in the order that its rig will have
		rig, _, err := m.chain(ctx, m.only|always)
		if err != nil {
			return nil, err
		}
		b.rig = rig
	}
	q := *m.plan
	q.Put(b.rig)
	meter, err := signal.NewSketcher(&q, b.rig.ID, o.Kept)
	if err != nil {
		return nil, fmt.Errorf("choose: %w", err)
	}
	meter.Quick = m.whole() // there are many settings of a pile, and few of a choice
	b.meter = meter
	return b, nil
}

// chain is the rig of a choice in its best order, and whether that is proven.
func (m *metering) chain(ctx context.Context, taken boxes) (plan.Rig, bool, error) {
	r := m.rig(func(id plan.ID) bool { return taken.has(m.place(id)) })
	for _, from := range m.sources {
		if id := from.guitar; id != "" && !slices.Contains(r.Guitars, id) {
			r.Guitars = append(slices.Clone(r.Guitars), id)
		}
	}
	return m.bestOrder(ctx, r)
}

// values are what a recipe sets for what is on.
func (m *metering) values(c config, from playing) map[plan.Key]plan.Value {
	values := map[plan.Key]plan.Value{}
	maps.Copy(values, from.hands)
	maps.Copy(values, m.channels[c.channel])
	for _, s := range m.stages {
		values[s.key+"/on"] = plan.On(false)
	}
	for _, on := range c.on {
		s := m.stages[on.stage]
		values[s.key+"/on"] = plan.On(true)
		maps.Copy(values, s.knobs(on.at))
	}
	return values
}

// knobs are the knobs of a stage at a place.
func (s stage) knobs(at place) map[plan.Key]plan.Value {
	values := map[plan.Key]plan.Value{}
	if s.drive != nil {
		values[s.key+"/"+plan.Key(s.drive.ID)] = plan.Number(at.drive)
	}
	if s.level != nil {
		values[s.key+"/"+plan.Key(s.level.ID)] = plan.Number(at.level)
	}
	return values
}

func name(c config, source int) string { return fmt.Sprint(source, c.channel, c.on) }

// played are the sources by which some sound may be made with so much on, and that of the first sound, against which
// all others are measured.
func (m *metering) played(on []standing) []int {
	list := []int{m.of[0]}
	for sound, source := range m.of {
		if !slices.Contains(list, source) && m.asks(sound, on) {
			list = append(list, source)
		}
	}
	return list
}

// sketch meters configs by the sources whose sounds they may make, those that were not yet.
func (b *bench) sketch(ctx context.Context, list []config) error {
	var recipes []plan.Recipe
	var names []string
	for _, c := range list {
		for _, source := range b.played(c.on) {
			from := b.sources[source]
			n := name(c, source)
			if _, ok := b.got[n]; ok {
				continue
			}
			names = append(names, n)
			recipes = append(recipes, plan.Recipe{Sound: from.sound.ID, Guitar: from.guitar, Values: b.values(c, from)})
		}
	}
	got, err := b.meter.Of(ctx, recipes)
	if err != nil {
		return fmt.Errorf("choose: %w", err)
	}
	for i, n := range names {
		b.got[n] = got[i]
	}
	return nil
}
