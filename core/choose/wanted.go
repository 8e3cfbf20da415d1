package choose

import (
	"context"
	"fmt"
	"slices"

	"envex/core/plan"
	"envex/core/signal"
)

// asMade is the plan with sounds that do not say enough judged as a rig makes them: the one whose amp is played, else
// the first that has a recipe. It gives the name of that rig for each.
func asMade(
	ctx context.Context, p *plan.Plan, sounds []*plan.Sound, o Options,
) (*plan.Plan, map[plan.ID]string, error) {
	from := map[plan.ID]string{}
	var rigs []plan.ID
	if o.Rig != "" {
		rigs = append(rigs, o.Rig)
	}
	for i := range p.Rigs {
		if id := p.Rigs[i].ID; id != o.Rig {
			rigs = append(rigs, id)
		}
	}
	q := p
	for _, rig := range rigs {
		var open []plan.ID
		for _, s := range sounds {
			if from[s.ID] == "" {
				open = append(open, s.ID)
			}
		}
		next, taken, err := signal.AsMade(ctx, q, rig, open, o.Kept)
		if err != nil {
			return nil, nil, fmt.Errorf("choose: %w", err)
		}
		q = next
		for _, id := range taken {
			r, _ := p.FindRig(rig)
			from[id] = r.Name
		}
	}
	return q, from, nil
}

// stated are the sounds as a plan has them, without those of which nothing says what they have to be. Home stays:
// nothing on is a home.
func stated(p *plan.Plan, sounds []*plan.Sound) (list, unsaid []*plan.Sound) {
	for i, s := range sounds {
		s, _ := p.FindSound(s.ID)
		if i > 0 && signal.SaysNothing(s.Targets) {
			unsaid = append(unsaid, s)
			continue
		}
		list = append(list, s)
	}
	return list, unsaid
}

// handsOf is how a rig's recipe sets what stays for a sound: the guitar's volume and switches, which amp plays.
// Channels are looked through by themselves, and what the sound says of the pickup goes before it.
func handsOf(p *plan.Plan, r *plan.Rig, sound plan.ID) (guitar plan.ID, values map[plan.Key]plan.Value) {
	rec := r.RecipeFor(plan.Section{Sound: sound})
	if rec == nil {
		return "", nil
	}
	values = map[plan.Key]plan.Value{}
	for key, v := range rec.Values {
		if g, ok := p.FindGear(key.Gear()); ok && stays(g) && !isChannel(p, key) && v.Kind() != plan.FreeValue {
			values[key] = v
		}
	}
	return rec.Guitar, values
}

// stays reports whether gear is no box that is chosen or left: no pedal, or one that no sound asks for and that is
// there for the others, such as a tuner or a buffer.
func stays(g *plan.Gear) bool {
	return g.Kind != plan.Pedal && g.Kind != plan.Controller || g.Kind == plan.Pedal && !useful(g)
}

// isChannel reports whether a key is the channel of an amp.
func isChannel(p *plan.Plan, key plan.Key) bool {
	v, ok := p.VariableOf(key)
	return ok && v.Control != nil && v.Control.ID == "channel"
}

// readSources reads how each sound is played: its guitar and how that is set. Those that are played alike share one.
func (m *metering) readSources() {
	for _, s := range m.sounds {
		p := playing{sound: s, guitar: s.Targets.Guitar}
		for i := range m.plan.Rigs {
			r := &m.plan.Rigs[i]
			if m.frame.ID != "choice" && r.ID != m.frame.ID {
				continue
			}
			guitar, values := handsOf(m.plan, r, s.ID)
			if p.guitar == "" {
				p.guitar = guitar
			}
			p.hands = values
			break
		}
		if p.guitar == "" && len(m.frame.Guitars) > 0 {
			p.guitar = m.frame.Guitars[0]
		}
		if s.Targets.Pickup != "" && p.guitar != "" {
			p.hands = withPickup(p.hands, plan.Key(p.guitar)+"/pickup", s.Targets.Pickup)
		}
		i := slices.IndexFunc(
			m.sources,
			func(x playing) bool { return x.guitar == p.guitar && sameValues(x.hands, p.hands) },
		)
		if i < 0 {
			i = len(m.sources)
			m.sources = append(m.sources, p)
		}
		m.of = append(m.of, i)
	}
}

func withPickup(values map[plan.Key]plan.Value, key plan.Key, is string) map[plan.Key]plan.Value {
	out := map[plan.Key]plan.Value{key: plan.Text(is)}
	for k, v := range values {
		if k != key {
			out[k] = v
		}
	}
	return out
}

func sameValues(a, b map[plan.Key]plan.Value) bool {
	if len(a) != len(b) {
		return false
	}
	for k, v := range a {
		if w, ok := b[k]; !ok || w.String() != v.String() {
			return false
		}
	}
	return true
}
