package choose

import (
	"context"
	"fmt"
	"maps"
	"runtime"
	"slices"

	"golang.org/x/sync/errgroup"

	"envex/core/plan"
	"envex/core/signal"
)

// This file finds where effects beside gain have to stand: so many repeats, so loud a first one, so large a room.

// giving is a block that gives an effect, and where its knobs have to stand for a sound; as they stand where it is -1.
type giving struct {
	key plan.Key
	at  int
}

// knobsAt are knobs of a block, where they are turned.
type knobsAt map[plan.Key]plan.Value

// turnsAt are the places that a knob is tried in, as shares of its turn.
var turnsAt = []float64{0.1, 0.25, 0.4, 0.5, 0.6, 0.75, 0.9}

// knobsFor are the knobs by which an effect comes to what a sound asks of it.
func knobsFor(h plan.Heard, b *plan.Block) []*plan.Control {
	var list []*plan.Control
	find := func(asked bool, names ...plan.ID) {
		if !asked {
			return
		}
		for _, name := range names {
			i := slices.IndexFunc(b.Controls, func(c plan.Control) bool {
				return c.ID == name && c.Kind == plan.Knob && c.Access != plan.Memory
			})
			if i >= 0 {
				list = append(list, &b.Controls[i])
				return
			}
		}
	}
	find(h.Repeats != nil, "repeats", "feedback")
	find(h.LevelDB != nil, "mix", "level")
	find(h.Size != "", "size", "decay")
	return list
}

// specific reports whether a sound asks more of an effect than that it is heard.
func specific(h plan.Heard) bool { return h.Repeats != nil || h.LevelDB != nil || h.Size != "" }

// asking is one block that is looked at for one effect of a sound.
type asking struct {
	sound, effect int
	by            provider
	works         []knobsAt // where it comes to what is asked; nothing turned in the first place, where that will do
}

// settleGiven finds, for each sound and each block that could give what it asks, where the block has to stand: as it
// does, or with one knob turned. What cannot come to it is left out.
func (m *metering) settleGiven(ctx context.Context, o Options) error {
	m.gives = make([]map[int]map[plan.Key][]giving, len(m.sounds))
	m.turned = map[plan.Key][]knobsAt{}
	var list []*asking
	for i, s := range m.sounds {
		m.gives[i] = map[int]map[plan.Key][]giving{}
		for k, h := range s.Targets.Effects {
			if m.byStage(h.Effect) {
				continue
			}
			m.gives[i][k] = map[plan.Key][]giving{}
			for _, p := range m.giving[h.Effect] {
				if specific(h) {
					list = append(list, &asking{sound: i, effect: k, by: p})
				} else {
					m.gives[i][k][p.key] = []giving{{p.key, -1}}
				}
			}
		}
	}
	group, within := errgroup.WithContext(ctx)
	group.SetLimit(runtime.GOMAXPROCS(0))
	for _, x := range list {
		group.Go(func() error { return m.settleOne(within, x, o) })
	}
	if err := group.Wait(); err != nil {
		return err
	}
	for _, x := range list {
		places := []giving{}
		for _, at := range x.works {
			places = append(places, giving{x.by.key, m.turnedTo(x.by.key, at)})
		}
		m.gives[x.sound][x.effect][x.by.key] = places
	}
	return nil
}

// settleOne tries a block for one effect of a sound.
func (m *metering) settleOne(ctx context.Context, x *asking, o Options) error {
	s := m.sounds[x.sound]
	h := s.Targets.Effects[x.effect]
	g, ok := m.plan.FindGear(x.by.key.Gear())
	if !ok {
		return nil
	}
	b, ok := g.FindBlock(plan.ID(x.by.key.Rest()))
	if !ok {
		return nil
	}
	tries := []knobsAt{}
	for _, c := range knobsFor(h, b) {
		for _, share := range turnsAt {
			tries = append(tries, knobsAt{x.by.key + "/" + plan.Key(c.ID): plan.Number(turned(c, share))})
		}
	}
	meets, err := m.meets(ctx, s, h, x.by, nil, o)
	if err != nil {
		return err
	}
	if meets {
		x.works = []knobsAt{{}}
		return nil
	}
	for _, at := range tries {
		if meets, err = m.meets(ctx, s, h, x.by, at, o); err != nil {
			return err
		}
		if meets {
			x.works = append(x.works, at)
		}
	}
	return nil
}

// turnedTo is the number of a place of a block that gives an effect.
func (m *metering) turnedTo(key plan.Key, at knobsAt) int {
	i := slices.IndexFunc(m.turned[key], func(x knobsAt) bool { return maps.Equal(x, at) })
	if i < 0 {
		i = len(m.turned[key])
		m.turned[key] = append(m.turned[key], at)
	}
	return i
}

// meets reports whether a block comes to what a sound asks of one effect, with guitar and amp and nothing else.
func (m *metering) meets(
	ctx context.Context, s *plan.Sound, h plan.Heard, p provider, at knobsAt, o Options,
) (bool, error) {
	alone := *s
	alone.Targets.Effects = []plan.Heard{h}
	alone.Targets.DirtMin, alone.Targets.DirtMax, alone.Targets.LoudnessLU, alone.Targets.Width = nil, nil, nil, ""
	q := *m.plan
	q.Put(alone)
	r := m.rig(func(id plan.ID) bool { return id == p.key.Gear() })
	r.Base = maps.Clone(r.Base)
	if r.Base == nil {
		r.Base = map[plan.Key]plan.Value{}
	}
	maps.Copy(r.Base, at)
	q.Put(r)
	values, _, err := signal.EffectsOf(&q, r.ID, s.ID, func(key plan.Key) bool { return key == p.key })
	if err != nil {
		return false, fmt.Errorf("choose: %w", err)
	}
	for _, st := range m.stages {
		if st.key.Gear() == p.key.Gear() {
			values[st.key+"/on"] = plan.On(false)
		}
	}
	r.Recipes = []plan.Recipe{{ID: "alone", Sound: s.ID, Guitar: s.Targets.Guitar, Values: values}}
	q.Put(r)
	report, err := signal.Measure(ctx, &q, r.ID, signal.Options{Kept: o.Kept, Want: signal.ForEffects})
	if err != nil {
		return false, fmt.Errorf("choose: %w", err)
	}
	return len(report.Sounds) == 1 && report.Sounds[0].Met(), nil
}
