package tempo

import (
	"math"
	"slices"
	"strings"

	"envex/core/plan"
)

// uses are the timed effects of a song, each once for a sound.
func (n *night) uses(song *plan.Song, gap float64, first bool) []Use {
	list := []Use{}
	room := gap
	if first {
		room = math.Inf(1) // before the show there is all the time
	}
	type way struct {
		recipe plan.ID
		tempo  plan.Tempo
	}
	sets := map[way]plan.Setting{} // a song comes back to the same sounds
	for _, sec := range song.Sections {
		sound, ok := n.plan.FindSound(sec.Sound)
		rec := n.rig.RecipeFor(sec)
		if ok && rec != nil {
			tempo := sec.TempoIn(*song)
			set, known := sets[way{rec.ID, tempo}]
			if !known {
				set = n.sets.For(rec, sound, tempo)
				sets[way{rec.ID, tempo}] = set
			}
			for _, key := range n.rig.Stops() {
				n.use(&list, key, sound, rec, set, tempo, sec.Label, room)
			}
		}
		if sec.Bars != nil {
			room += *sec.Bars * sec.TempoIn(*song).BarSeconds(song.Meter)
		}
	}
	return list
}

func (n *night) use(
	list *[]Use, key plan.Key, sound *plan.Sound, rec *plan.Recipe, set plan.Setting, tempo plan.Tempo, section string,
	room float64,
) {
	g, ok := n.plan.FindGear(key.Gear())
	if !ok {
		return
	}
	b, ok := g.FindBlock(plan.ID(key.Rest()))
	if !ok || !b.Effect.Traits().Tempo || b.Bypass != plan.AlwaysOn && !set.At(plan.OnKey(g.ID, b.ID)).IsOn() {
		return
	}
	if i := slices.IndexFunc(
		*list, func(u Use) bool { return u.Stop == key && u.Recipe == rec.ID && sameTempo(u, tempo) },
	); i >= 0 {
		(*list)[i].Sections = append((*list)[i].Sections, section)
		return
	}
	u := Use{
		Stop: key, Name: g.StopName(b), Effect: b.Effect, Sound: sound.ID, SoundName: sound.Name, Recipe: rec.ID,
		Sections: []string{section}, Strict: sound.Targets.StrictTempo, Way: Fixed, EnergyDB: silent, tempo: tempo,
	}
	control := b.TimeControl()
	note := ""
	if i, ok := n.answers(rec, sound)[key]; ok {
		h := sound.Targets.Effects[i]
		note, u.Asked, u.AskedDB = h.Note, h.Repeats, h.LevelDB
	}
	if control != nil {
		u.Variable = key + "/" + plan.Key(control.ID)
		bound := n.rig.BoundNote(u.Variable, g, rec, set)
		if note == "" {
			note = bound
		}
		if ms, ok := control.TimeMS(set.At(u.Variable)); ok {
			u.SetMS = &ms
		}
		u.LongestMS = longest(control)
		u.Way = n.way(control, u.Variable, note)
		if from, ok := n.rig.ClockOf(g.ID); ok && bound != "" { // what is set in ms follows nothing
			u.Way, u.Clock = ByClock, n.nameOf(from)
		}
	}
	if control == nil && note == "" || b.Effect != plan.EffectDelay && note == "" {
		return // nothing of it follows the beat
	}
	u.Untimed = control == nil
	if ms, ok := tempo.Milliseconds(note); ok {
		u.Note, u.Words, u.WantedMS = note, Words(note), &ms
		u.TooLong = u.LongestMS != nil && ms > *u.LongestMS*1.001
		if control != nil && control.Unit == "" {
			if at, ok := control.PositionOf(ms); ok {
				u.Position = &at
			} else {
				u.TooLong = true
			}
		}
	}
	n.repeats(&u, b, set, tempo)
	if u.Way == ByTap && u.WantedMS != nil {
		f := n.rig.Profile.Filled()
		u.TapS = float64(f.Taps-1) * tempo.BeatSeconds()
		u.RoomS = math.Min(room, 3600)
		u.TapFits = room >= u.TapS
		d := DriftOf(Echo{MS: *u.WantedMS, Ratio: 1, Feedback: feedbackFor(max(1, u.Audible))}, TapPct(tempo, f.TapError))
		u.Drift = &d
	}
	*list = append(*list, u)
}

// silent stands for no energy at all.
const silent = -120.0

// sameTempo reports whether a use was made for the tempo that a section has.
func sameTempo(u Use, t plan.Tempo) bool {
	if u.WantedMS == nil {
		return true
	}
	ms, ok := t.Milliseconds(u.Note)
	return ok && math.Abs(ms-*u.WantedMS) < 1e-9
}

func longest(c *plan.Control) *float64 {
	low, high := c.Range()
	switch c.Unit {
	case "ms":
	case "Hz":
		if low <= 0 {
			return nil
		}
		high = 1000 / low
	default:
		return nil // its ends are known by its positions
	}
	return &high
}

// answers are what each block of a recipe answers for, worked out once.
func (n *night) answers(rec *plan.Recipe, sound *plan.Sound) map[plan.Key]int {
	id := rec.ID + "|" + sound.ID
	if n.answered[id] == nil {
		n.answered[id] = n.plan.Answers(n.rig, rec, sound)
	}
	return n.answered[id]
}

func (n *night) nameOf(id plan.ID) string {
	if g, ok := n.plan.FindGear(id); ok {
		return g.Name
	}
	return string(id)
}

// way is how a time follows the tempo on this rig.
func (n *night) way(c *plan.Control, key plan.Key, note string) Way {
	switch {
	case note == "":
		return Fixed
	case n.tapped[key]:
		return ByTap
	case c.Access == plan.Memory:
		return Stored
	case c.Access == plan.Remote:
		return ByRemote
	}
	return ByHand
}

// repeats works out what a delay's repeats come to as it is set. Its mix knob is taken for a crossfade
// and its repeats knob for feedback up to 0.95, as the models of level and dirt take them.
func (n *night) repeats(u *Use, b *plan.Block, set plan.Setting, tempo plan.Tempo) {
	e := Echo{}
	switch {
	case u.SetMS != nil:
		e.MS = *u.SetMS
	case u.WantedMS != nil:
		e.MS = *u.WantedMS
	}
	if near, ok := Nearest(tempo, e.MS); ok && u.SetMS != nil {
		u.Nearest = &near
	}
	if u.WantedMS != nil && u.SetMS != nil {
		u.OffMS = *u.SetMS - *u.WantedMS
	}
	if b.Effect != plan.EffectDelay {
		u.LastOffMS = math.Abs(u.OffMS)
		u.Heard = u.Strict && u.LastOffMS > apartMS
		return
	}
	e.Ratio = RatioOfMix(knobOf(b, u.Stop, set, 0.4, "mix", "level"))
	e.Feedback = 0.95 * knobOf(b, u.Stop, set, 0.3, "repeats", "feedback")
	u.Echo, u.FirstDB = &e, math.Max(silent, e.RepeatDB(1))
	u.Audible, u.TailMS, u.EnergyDB = e.Audible(), e.TailMS(), math.Max(silent, e.EnergyDB())
	u.Clutter, u.Slapback = e.Clutters(tempo), e.IsSlapback()
	last := max(1, u.Audible)
	if u.Asked != nil {
		last = *u.Asked
	}
	u.LastOffMS = float64(last) * math.Abs(u.OffMS)
	u.Heard = u.Strict && u.LastOffMS > apartMS
}

// knobOf is how far a knob of a block is turned, 0 to 1.
func knobOf(b *plan.Block, key plan.Key, set plan.Setting, usual float64, names ...string) float64 {
	for _, c := range b.Controls {
		if c.Kind != plan.Knob || !slices.Contains(names, strings.ToLower(c.Name)) && !slices.Contains(names, string(c.ID)) {
			continue
		}
		if v := set.At(key + "/" + plan.Key(c.ID)); v.Kind() == plan.NumberValue {
			low, high := c.Range()
			return (v.Float() - low) / (high - low)
		}
	}
	return usual
}

// feedbackFor is the feedback at which so many repeats of a delay as loud as the note are audible.
func feedbackFor(n int) float64 {
	if n < 2 {
		return 0
	}
	return math.Pow(10, audibleDB/20/float64(n-1))
}
