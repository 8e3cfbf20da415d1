package electric

import (
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
)

// tried names the buffer that is tried and stands in no plan.
const tried plan.Key = "buffer"

// Buffer is one buffer at a place of the chain, and what it would come to.
type Buffer struct {
	Before     plan.Key `json:"before" doc:"The stop, or the id of the split, that it would stand before."`
	Name       string   `json:"name"`
	Words      string   `json:"words"`
	WorstDB    float64  `json:"worst_db" doc:"The most treble at 5 kHz that a sound of the set would lose."`
	JumpDB     float64  `json:"jump_db" doc:"The biggest jump of treble there would be."`
	WorstWas   float64  `json:"worst_was_db"`
	JumpWas    float64  `json:"jump_was_db"`
	BeforeFuzz string   `json:"before_fuzz,omitempty" doc:"A fuzz behind it that wants to see the pickup."`
}

// lowOhm is the input resistance under which an input loads a pickup down.
const lowOhm = 100e3

// leastGain is what a buffer has to gain to be worth its place, in dB.
const leastGain = 0.5

// placesFor are the places of the main line a buffer can be tried at: before each box, in or out of
// a switcher, and before each split.
func placesFor(p *plan.Plan, r *plan.Rig) []Buffer {
	var list []Buffer
	in := plan.ID("")
	before := plan.ID("")
	for _, n := range r.Path {
		key := n.Stop
		name := ""
		if n.Split != nil {
			key = n.Split.Divider()
			name = "the split"
			if n.Split.Kind == plan.SplitTap {
				continue
			}
		}
		g, known := p.FindGear(key.Gear())
		inside := n.Switcher != "" && n.Switcher == in || key != "" && key.Gear() == before
		in, before = n.Switcher, key.Gear()
		if known {
			b, ok := g.FindBlock(plan.ID(key.Rest()))
			if !ok || b.Effect == plan.EffectPower || b.Effect == plan.EffectSpeaker || b.Effect == plan.EffectLoad ||
				g.Kind == plan.Guitar {
				continue
			}
			if g.Kind == plan.Amp && b.Effect != plan.EffectPreamp {
				continue
			}
			if name = g.StopName(b); g.Kind == plan.Amp {
				name = g.Name
			}
		}
		if s, ok := p.FindGear(n.Switcher); ok {
			name = s.Name
		}
		if inside || n.ID() == "" {
			continue
		}
		list = append(list, Buffer{Before: n.ID(), Name: name, Words: fmt.Sprintf("Put a buffer before %s", name)})
	}
	return list
}

// weighed is what a rig comes to: the worst loss of treble and the biggest jump.
type weighed struct{ worst, jump float64 }

// heard is one sound with something tried, as far as its treble is asked for.
type heard struct {
	treble float64 // at 5 kHz over that at 100 Hz
	lost   float64 // of it
	fed    bool    // a fuzz of low input resistance has the pickup to itself
}

// heard is the sound in state i along some runs, each of which is a level at 100 Hz and one at 5 kHz.
func (s *solving) heard(i int, segs []segment, levels [][2]float64, guitar instrument) heard {
	low, high := 0.0, 0.0
	for _, x := range levels {
		low, high = low+x[0], high+x[1]
	}
	treble := math.Max(silentDB, high) - math.Max(silentDB, low)
	return heard{treble, s.reference(i, guitar) - treble, s.pickupOnFuzz(segs)}
}

// levelsOf are the levels of runs at 100 Hz and 5 kHz, in dB.
func levelsOf(segs []segment) [][2]float64 {
	list := make([][2]float64, len(segs))
	for i, x := range segs {
		list[i] = [2]float64{decibels(x.parts.transfer(angular(levelHz))), decibels(x.parts.transfer(angular(trebleHz)))}
	}
	return list
}

// weigh is what the sounds of the set come to. A sound in which a fuzz of low input resistance has the pickup to
// itself is left out: what it takes is meant.
func (s *solving) weigh(list []heard) weighed {
	used := s.used()
	w := weighed{worst: math.Inf(-1)}
	for i, x := range list {
		if used[i] && !x.fed {
			w.worst = math.Max(w.worst, x.lost)
		}
	}
	for _, n := range s.neighbours() {
		if a, b := list[n.from], list[n.to]; used[n.from] && used[n.to] && a.fed == b.fed {
			w.jump = math.Max(w.jump, math.Abs(b.treble-a.treble))
		}
	}
	if math.IsInf(w.worst, -1) {
		w.worst = 0
	}
	return w
}

// reference is the treble that the loss of a state is counted from; nothing that is tried changes it.
func (s *solving) reference(i int, guitar instrument) float64 {
	if s.references == nil {
		s.references = map[int]float64{}
	}
	if _, ok := s.references[i]; !ok {
		s.references[i] = referenceOf(guitar).treble()
	}
	return s.references[i]
}

// used says which states the set plays; all where there is no set.
func (s *solving) used() []bool {
	used := make([]bool, len(s.states))
	for i := range used {
		used[i] = len(s.order) == 0
	}
	for _, x := range s.order {
		if x.state >= 0 {
			used[x.state] = true
		}
	}
	return used
}

// tried weighs a buffer at every place, and the chain as it stands.
func (s *solving) tried() ([]Buffer, weighed) {
	s.trying = true
	defer func() { s.trying = false }()
	list := slices.Clone(s.places)
	if list == nil {
		list = []Buffer{}
	}
	now, then := make([]heard, len(s.states)), make([][]heard, len(list))
	for k := range then {
		then[k] = make([]heard, len(s.states))
	}
	for i := range s.states {
		segs, guitar, parted := s.partings(s.states[i].set, trial{volume: s.o.Volume}, list)
		levels := levelsOf(segs)
		now[i] = s.heard(i, segs, levels, guitar)
		for k := range list {
			then[k][i] = now[i]
			if p, ok := parted[list[k].Before]; ok {
				then[k][i] = s.heard(i, with(p, p.runs, segs), with(p, levelsOf(p.runs), levels), guitar)
			}
		}
	}
	was, fed := s.weigh(now), s.fuzzFed()
	for k := range list {
		b, w := &list[k], s.weigh(then[k])
		b.WorstDB, b.JumpDB = w.worst, w.jump
		b.WorstWas, b.JumpWas = was.worst, was.jump
		b.BeforeFuzz = s.fuzzBehind(fed, b.Before)
	}
	return list, was
}

// fuzzBehind is a fuzz of low input resistance that a buffer before a node would part from the
// pickup: one that something buffers already is parted from it anyway.
func (s *solving) fuzzBehind(fed []int, before plan.Key) string {
	for _, i := range fed {
		with, _ := s.walk(s.states[i].set, trial{buffer: before})
		if with[0].to == tried {
			plain, _ := s.plain(i)
			return s.nameOf(plain[0].to)
		}
	}
	return ""
}

// plain is the chain in one state with nothing tried, which many ask for.
func (s *solving) plain(i int) ([]segment, instrument) {
	if s.plains == nil {
		s.plains = make([]walked, len(s.states))
	}
	w := &s.plains[i]
	if w.segs == nil {
		trying := s.trying
		s.trying = false // the cables are asked for
		w.segs, w.guitar = s.walk(s.states[i].set, trial{})
		s.trying = trying
	}
	return w.segs, w.guitar
}

// walked is a chain as it was found.
type walked struct {
	segs   []segment
	guitar instrument
}

// fuzzFed are the states in which a fuzz of low input resistance has the pickup to itself.
func (s *solving) fuzzFed() []int {
	var list []int
	for i := range s.states {
		plain, _ := s.plain(i)
		if s.pickupOnFuzz(plain) {
			list = append(list, i)
		}
	}
	return list
}

func (s *wiring) pickupOnFuzz(segs []segment) bool {
	return segs[0].ended && segs[0].toOhm < lowOhm && s.isFuzz(segs[0].to)
}

func (s *wiring) isFuzz(key plan.Key) bool {
	_, b, ok := s.block(key)
	return ok && b.Effect == plan.EffectFuzz
}

// bestOf is the place that leaves the least treble lost in the worst sound, then the smallest jump,
// to a tenth of a decibel, then the first; none before a fuzz that it would part from the pickup, and
// none that gains nothing worth its place.
func bestOf(places []Buffer, now weighed) *Buffer {
	tenths := func(x float64) float64 { return math.Round(math.Max(0, x) * 10) }
	better := func(a, b *Buffer) bool {
		if x, y := tenths(a.WorstDB), tenths(b.WorstDB); x != y {
			return x < y
		}
		if x, y := tenths(a.JumpDB), tenths(b.JumpDB); x != y {
			return x < y
		}
		return false
	}
	var best *Buffer
	for i := range places {
		if b := &places[i]; b.BeforeFuzz == "" && (best == nil || better(b, best)) {
			best = b
		}
	}
	if best == nil || now.worst-best.WorstDB < leastGain && now.jump-best.JumpDB < leastGain {
		return nil
	}
	return best
}
