package hire

import (
	"slices"

	"envex/core/plan"
)

// lacking takes something from an amp like the rig's own, and says so; "" where it has none of it.
func (w *answering) lacking(g, own *plan.Gear, what string, amps int) (string, bool) {
	switch what {
	case Loop:
		if g.Loop == nil {
			return "", true
		}
		g.Loop = nil
		return "no loop", true
	case Channels:
		c, key := channelOf(own)
		if c == nil {
			return "", true
		}
		w.oneChannel(g, key)
		return "one channel", true
	case Reverb:
		kept := slices.DeleteFunc(slices.Clone(g.Blocks), func(b plan.Block) bool {
			return b.Effect != plan.EffectPreamp && b.Effect != plan.EffectPower
		})
		if len(kept) == len(g.Blocks) {
			return "", true
		}
		g.Blocks = kept
		return "no effects of its own", true
	case SecondAmp:
		if amps < 2 {
			return "", true
		}
		return "one alone", true
	}
	return "", false
}

// oneChannel leaves an amp the channel on which the home sound, or else the first of the set, is played, with the knobs
// of that channel under the names that any amp has them by.
func (w *answering) oneChannel(g *plan.Gear, key plan.Key) {
	stays := ""
	for _, id := range w.played {
		sound, _ := w.plan.FindSound(id)
		rec := w.was.RecipeFor(plan.Section{Sound: id})
		if sound == nil || rec == nil || stays != "" && sound.Role != plan.HomeRole {
			continue
		}
		stays = w.plan.SetFor(w.was, rec, sound, w.plan.FirstTempo(id)).At(key).Word()
	}
	channel := plan.ID(lastOf(key))
	isIt := func(c plan.Control) bool { return c.ID == channel }
	g.Controls = slices.DeleteFunc(slices.Clone(g.Controls), isIt)
	g.Blocks = slices.Clone(g.Blocks)
	for i := range g.Blocks {
		b := &g.Blocks[i]
		if b.Effect != plan.EffectPreamp {
			continue
		}
		b.Controls = slices.DeleteFunc(slices.Clone(b.Controls), isIt)
		w.only(g, b, channel, stays)
	}
	g.Footswitches = slices.DeleteFunc(slices.Clone(g.Footswitches), func(s plan.Footswitch) bool {
		return s.Press != nil && slices.ContainsFunc(s.Press.Actions, func(a plan.Action) bool {
			return a.Target == plan.Key(key.Rest())
		})
	})
}

// only makes a preamp the one that it is in one position of a selector.
func (w *answering) only(g *plan.Gear, b *plan.Block, channel plan.ID, stays string) {
	var own plan.ModelAt
	for _, m := range b.ModelAt {
		if m.Control == channel && m.Is == stays {
			own = m
		}
	}
	if own.Model == "" {
		return
	}
	for _, m := range b.ModelAt {
		for _, id := range []plan.ID{m.Gain, m.Level} {
			if id != "" && id != own.Gain && id != own.Level {
				b.Controls = slices.DeleteFunc(b.Controls, func(c plan.Control) bool { return c.ID == id })
			}
		}
	}
	b.Model, b.ModelAt = own.Model, nil
	block := plan.BlockKey(g.ID, b.ID)
	for was, is := range map[plan.ID]plan.ID{own.Gain: "gain", own.Level: "level"} {
		for i := range b.Controls {
			if c := &b.Controls[i]; was != "" && c.ID == was {
				c.ID, c.Name = is, string(is)
				w.renamed[block+"/"+plan.Key(was)] = block + "/" + plan.Key(is)
			}
		}
	}
}

// known are settings of the amp by the names that its controls have now; what it has no control for is left out.
func (w *answering) known(g *plan.Gear, values map[plan.Key]plan.Value) map[plan.Key]plan.Value {
	have := map[plan.Key]bool{}
	for _, v := range g.Variables() {
		have[v.Key] = true
	}
	var out map[plan.Key]plan.Value
	for _, key := range plan.SortedKeys(values) {
		to := key
		if is, ok := w.renamed[key]; ok {
			to = is
		}
		if key.Gear() == g.ID && !have[to] {
			continue
		}
		out = with(out, to, values[key])
	}
	return out
}

func lastOf(k plan.Key) plan.Key {
	for i := len(k) - 1; i >= 0; i-- {
		if k[i] == '/' {
			return k[i+1:]
		}
	}
	return k
}
