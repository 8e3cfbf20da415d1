package plan

import "fmt"

// GainStages are the names of the pedals with gain that a recipe has on at once. A preamp of an amp is none:
// it is always there.
func (p *Plan) GainStages(r *Rig, rec *Recipe) []string {
	sound, _ := p.FindSound(rec.Sound)
	set := p.SetFor(r, rec, sound, p.FirstTempo(rec.Sound))
	sounding := p.StopsSounding(r.Path, set)
	var list []string
	for _, key := range r.Stops() {
		g, b, ok := p.blockAt(key)
		if !ok || g.Kind == Amp || !b.Effect.IsGain() || !sounding[key] {
			continue
		}
		if b.Bypass == AlwaysOn || set.At(OnKey(g.ID, b.ID)).IsOn() {
			list = append(list, g.StopName(b))
		}
	}
	return list
}

// OverLimit is what the recipes of a rig have on beyond the limit that its player set, by recipe, in words.
func (p *Plan) OverLimit(r *Rig) map[ID]string {
	out := map[ID]string{}
	if r.MostGains == nil {
		return out
	}
	for i := range r.Recipes {
		if on := p.GainStages(r, &r.Recipes[i]); len(on) > *r.MostGains {
			out[r.Recipes[i].ID] = fmt.Sprintf("%s are on at once, and %d at most are allowed", Listed(on), *r.MostGains)
		}
	}
	return out
}
