package plan

import (
	"math"
	"slices"
)

// mostMatched is how many effects of one kind are matched with what is asked in the best way there is; more
// are matched one after the other.
const mostMatched = 6

// Answers says which of the effects that a sound asks each block that a recipe has on answers for: its place
// among the sound's targets. One that several blocks could answer for is answered for by the one that the
// recipe says, else by one whose time is bound to that note, else by the one nearest to it at the tempo of
// the first song that uses the sound. A block that is left over answers for nothing.
func (p *Plan) Answers(r *Rig, rec *Recipe, sound *Sound) map[Key]int {
	out := map[Key]int{}
	if sound == nil {
		return out
	}
	tempo := p.FirstTempo(sound.ID)
	set := p.SetFor(r, rec, sound, tempo)
	wanted, order := map[Effect][]int{}, []Effect{}
	for i, h := range sound.Targets.Effects {
		if wanted[h.Effect] == nil {
			order = append(order, h.Effect)
		}
		wanted[h.Effect] = append(wanted[h.Effect], i)
	}
	for _, effect := range order {
		m := matching{plan: p, rig: r, rec: rec, set: set, tempo: tempo, sound: sound, wanted: wanted[effect], out: out}
		for _, key := range r.Stops() {
			if g, b, ok := p.blockAt(key); ok && b.Effect == effect &&
				(b.Bypass == AlwaysOn || set.At(OnKey(g.ID, b.ID)).IsOn()) {
				m.stops = append(m.stops, key)
			}
		}
		m.run()
	}
	return out
}

// heardApart is the share by which two times, or two turns of a knob, have to differ for anybody to hear it.
const heardApart = 0.01

// SameTime reports whether two times cannot be told apart: one per cent, as everywhere.
func SameTime(a, b float64) bool {
	return math.Abs(a-b) <= heardApart*math.Max(math.Abs(a), math.Abs(b))
}

// Clocked is the gear of the rig whose tempo comes from another box's clock.
func (r *Rig) Clocked() map[ID]bool {
	list := map[ID]bool{}
	for _, c := range r.Clocks {
		for _, id := range c.To {
			list[id] = true
		}
	}
	return list
}

// ClockOf is the box whose clock a piece of gear follows.
func (r *Rig) ClockOf(id ID) (ID, bool) {
	i := slices.IndexFunc(r.Clocks, func(c Clock) bool { return slices.Contains(c.To, id) })
	if i < 0 {
		return "", false
	}
	return r.Clocks[i].From, true
}

// FirstTempo is that of the first section that asks for a sound, 120 where none does.
func (p *Plan) FirstTempo(sound ID) Tempo {
	for _, song := range p.Songs {
		for _, sec := range song.Sections {
			if sec.Sound == sound {
				return sec.TempoIn(song)
			}
		}
	}
	return Tempo{BPM: 120}
}

func (p *Plan) blockAt(key Key) (*Gear, *Block, bool) {
	g, ok := p.FindGear(key.Gear())
	if !ok {
		return nil, nil, false
	}
	b, ok := g.FindBlock(ID(key.Rest()))
	return g, b, ok
}

// TimeControl is the control of a block that holds a time in ms, or a rate in Hz, or of which somebody has
// measured the rates; nil where it has none.
func (b *Block) TimeControl() *Control {
	for i := range b.Controls {
		if c := &b.Controls[i]; c.Timed() {
			return c
		}
	}
	return nil
}

// Timed reports whether a control holds a time in ms or a rate that is known.
func (c *Control) Timed() bool {
	return c.Kind == Knob && (c.Unit == "ms" || c.Unit == "Hz" || len(c.Measured) > 1)
}

// TimeMS is the time of a position: of a rate, one cycle. It is false where there is none.
func (c *Control) TimeMS(v Value) (float64, bool) {
	if v.Kind() != NumberValue {
		return 0, false
	}
	x := v.Float()
	switch {
	case c.Unit == "ms":
		return x, true
	case c.Unit != "Hz":
		x = c.measuredHz(x)
	}
	if x <= 0 {
		return 0, false
	}
	return 1000 / x, true
}

// measuredHz is the rate at a position of a knob whose rates were measured: even to the ear between two
// positions, and beyond the last as between the last two.
func (c *Control) measuredHz(at float64) float64 {
	a, b := c.around(func(m Rate) bool { return m.At < at })
	t := (at - a.At) / (b.At - a.At)
	return a.Hz * math.Pow(b.Hz/a.Hz, t)
}

// around are the two measured rates between which something is.
func (c *Control) around(below func(Rate) bool) (a, b Rate) {
	i := 1
	for i < len(c.Measured)-1 && below(c.Measured[i]) {
		i++
	}
	return c.Measured[i-1], c.Measured[i]
}

// PositionOf is where a knob stands for a time in ms; it is false where its range does not go there.
func (c *Control) PositionOf(ms float64) (float64, bool) {
	low, high := c.Range()
	x := ms
	if c.Unit != "ms" {
		if ms <= 0 {
			return 0, false
		}
		x = 1000 / ms
	}
	if c.Unit == "" {
		if len(c.Measured) < 2 {
			return 0, false
		}
		rising := c.Measured[1].Hz > c.Measured[0].Hz
		a, b := c.around(func(m Rate) bool { return (m.Hz < x) == rising })
		x = a.At + (b.At-a.At)*math.Log(x/a.Hz)/math.Log(b.Hz/a.Hz)
	}
	return x, x >= low-1e-9 && x <= high+1e-9
}

// BoundNote is the note that a variable is bound to in a recipe, in the preset it stands on, or in the base;
// "" where it is bound to none.
func (r *Rig) BoundNote(key Key, g *Gear, rec *Recipe, set Setting) string {
	note := func(v Value) string {
		if v.Kind() == SyncValue {
			return v.Word()
		}
		return ""
	}
	if rec != nil {
		if v, ok := rec.Values[key]; ok {
			return note(v)
		}
	}
	if preset, ok := g.PresetControl(); ok {
		shot := ""
		if x, ok := g.SnapshotControl(); ok {
			shot = set.At(x.Key).Word()
		}
		if v, ok := r.Remembered(g.ID, set.At(preset.Key).Word(), shot, key); ok {
			return note(v)
		}
	}
	return note(r.Base[key])
}

// matching is of the effects of one kind.
type matching struct {
	plan   *Plan
	rig    *Rig
	rec    *Recipe
	set    Setting
	tempo  Tempo
	sound  *Sound
	stops  []Key
	wanted []int
	out    map[Key]int
}

func (m *matching) run() {
	m.take(func(stop Key, note string) bool { return m.rec != nil && note != "" && m.rec.Notes[stop] == note })
	m.take(func(stop Key, note string) bool { return note != "" && m.bound(stop) == note })
	if len(m.stops) > mostMatched || len(m.wanted) > mostMatched {
		m.take(func(Key, string) bool { return true })
		return
	}
	best := math.Inf(1)
	var found map[Key]int
	m.try(0, map[Key]int{}, 0, func(so map[Key]int, cost float64) {
		if cost < best-1e-12 {
			best, found = cost, so
		}
	})
	for stop, i := range found {
		m.out[stop] = i
	}
}

// take matches what is sure, in the order of the chain and of what is asked.
func (m *matching) take(sure func(stop Key, note string) bool) {
	var left []Key
	for _, stop := range m.stops {
		k := slices.IndexFunc(m.wanted, func(i int) bool { return sure(stop, m.sound.Targets.Effects[i].Note) })
		if k < 0 {
			left = append(left, stop)
			continue
		}
		m.out[stop] = m.wanted[k]
		m.wanted = slices.Delete(slices.Clone(m.wanted), k, k+1)
	}
	m.stops = left
}

// try matches the stops from one on in every way that leaves as few as can be.
func (m *matching) try(from int, so map[Key]int, cost float64, found func(map[Key]int, float64)) {
	if from == len(m.stops) {
		if len(so) == min(len(m.stops), len(m.wanted)) {
			kept := make(map[Key]int, len(so))
			for k, v := range so {
				kept[k] = v
			}
			found(kept, cost)
		}
		return
	}
	stop := m.stops[from]
	for _, i := range m.wanted {
		taken := false
		for _, v := range so {
			taken = taken || v == i
		}
		if taken {
			continue
		}
		so[stop] = i
		m.try(from+1, so, cost+m.apart(stop, m.sound.Targets.Effects[i].Note), found)
		delete(so, stop)
	}
	m.try(from+1, so, cost, found)
}

// What it counts that nobody knows whether a block is near a note: as much as a minor third, or an octave, in
// time.
const (
	anyNote     = 0.2
	unknownTime = 0.7
)

// apart is how far a block's time is from a note, as the logarithm of their ratio.
func (m *matching) apart(stop Key, note string) float64 {
	want, ok := m.tempo.Milliseconds(note)
	if !ok {
		return anyNote
	}
	_, b, _ := m.plan.blockAt(stop)
	c := b.TimeControl()
	if c == nil {
		return unknownTime
	}
	ms, ok := c.TimeMS(m.set.At(stop + "/" + Key(c.ID)))
	if !ok || ms <= 0 {
		return unknownTime
	}
	return math.Abs(math.Log(ms / want))
}

func (m *matching) bound(stop Key) string {
	g, b, _ := m.plan.blockAt(stop)
	c := b.TimeControl()
	if c == nil {
		return ""
	}
	return m.rig.BoundNote(stop+"/"+Key(c.ID), g, m.rec, m.set)
}
