package layers

import (
	"fmt"
	"maps"
	"math"
	"slices"

	"envex/core/plan"
)

// looping is a looper as it goes through a song.
type looping struct {
	*work
	song    *plan.Song
	out     Song
	atS     float64
	loop    []string // the layers that are in it
	running bool
	length  float64 // of the loop, in seconds
	bars    float64
}

func (s *looping) run() {
	for _, sec := range s.song.Sections {
		s.section(sec)
		if sec.Bars != nil {
			s.atS += *sec.Bars * sec.TempoIn(*s.song).BarSeconds(s.song.Meter)
		}
	}
	if n := len(s.song.Sections); s.running && n > 0 {
		last := s.song.Sections[n-1]
		bars := 1.0
		if last.Bars != nil {
			bars += *last.Bars
		}
		s.add(last, bars, Stop, "")
	}
}

func (s *looping) section(sec plan.Section) {
	x := sec.Looping
	if x == nil {
		x = &plan.Looping{}
	}
	s.asked(sec, x.Plays)
	if len(x.Plays) > 0 {
		s.heard(sec, x)
	}
	switch {
	case len(x.Plays) > 0 && !s.running && len(s.loop) > 0:
		s.add(sec, 1, Play, "")
		s.running = true
	case len(x.Plays) == 0 && s.running && x.Records == "":
		s.add(sec, 1, Stop, "")
		s.running = false
	}
	if x.Records != "" {
		s.record(sec, x)
	}
}

// asked says which of the layers that a section has running cannot be as it asks.
func (s *looping) asked(sec plan.Section, plays []string) {
	where := s.out.Title + ", " + sec.Label
	for _, name := range plays {
		if !slices.Contains(s.loop, name) {
			s.find(s.out.Entry, fmt.Sprintf("layers:early:%s:%s:%s", s.song.ID, sec.ID, name), where+": "+name+" is not there",
				name+" is recorded later, or a new loop has taken its place.")
		}
	}
	if len(plays) == 0 {
		return
	}
	for _, name := range s.loop {
		if !slices.Contains(plays, name) {
			s.find(s.out.Entry, fmt.Sprintf("layers:apart:%s:%s:%s", s.song.ID, sec.ID, name), where+": "+name+" plays too",
				"A loop plays all of its layers: "+name+" cannot be silent alone.")
		}
	}
}

// record begins a layer where a section does, and closes it after its bars.
func (s *looping) record(sec plan.Section, x *plan.Looping) {
	tempo := sec.TempoIn(*s.song)
	bar := tempo.BarSeconds(s.song.Meter)
	bars := 0.0
	switch {
	case x.Bars != nil:
		bars = *x.Bars
	case sec.Bars != nil:
		bars = *sec.Bars
	}
	layer := Layer{
		Name: x.Records, Section: sec.ID, Label: sec.Label, Sound: sec.Sound, SoundName: string(sec.Sound), Bars: bars,
		LengthS: bars * bar, Over: s.running, tempo: tempo,
	}
	if sound, ok := s.plan.FindSound(sec.Sound); ok {
		layer.SoundName = sound.Name
	}
	if rec := s.rig.RecipeFor(sec); rec != nil {
		layer.Recipe = rec.ID
	}
	act := Record
	if s.running {
		act = Overdub
		if whole := layer.LengthS / s.length; whole > 1+1e-6 || math.Abs(1/whole-math.Round(1/whole)) > 1e-6 {
			s.find(s.out.Entry, fmt.Sprintf("layers:length:%s:%s", s.song.ID, sec.ID),
				fmt.Sprintf("%s, %s: %s does not fit the loop", s.out.Title, sec.Label, layer.Name),
				fmt.Sprintf(
					"%s is %g bars and the loop goes round every %g: what is played longer is laid over its own beginning, and what does not go into it shifts.",
					layer.Name, bars, s.bars,
				))
		}
		s.loop = append(s.loop, layer.Name)
	} else {
		s.loop, s.length, s.bars = []string{layer.Name}, layer.LengthS, bars
	}
	s.add(sec, 1, act, layer.Name)
	s.add(sec, 1+bars, Close, layer.Name)
	s.out.Layers = append(s.out.Layers, layer)
	s.running = true
}

func (s *looping) add(sec plan.Section, bar float64, act Act, layer string) {
	p := Press{
		Section: sec.ID, Label: sec.Label, Bar: bar, AtS: s.atS + (bar-1)*sec.TempoIn(*s.song).BarSeconds(s.song.Meter),
		Act: act, Layer: layer, Switch: s.press,
	}
	if act == Stop {
		p.Switch = s.work.stop
	}
	p.Words = s.words(p)
	if n := len(s.out.Presses); n > 0 {
		if last := s.out.Presses[n-1]; last.Act == Close && math.Abs(last.AtS-p.AtS) < 1e-6 &&
			(act == Overdub || act == Stop) {
			p.Words = fmt.Sprintf("Close %s, and at once: %s", last.Layer, p.Words)
			s.assume(s.work.out.Name + " goes from recording straight to laying over, or stops, in one press.")
			s.out.Presses = s.out.Presses[:n-1] // one press does both
		}
	}
	s.out.Presses = append(s.out.Presses, p)
}

func (s *looping) assume(words string) {
	if !slices.Contains(s.work.out.Assumed, words) {
		s.work.out.Assumed = append(s.work.out.Assumed, words)
	}
}

func (s *looping) words(p Press) string {
	name := s.name
	if name == "" {
		name = "the looper"
	}
	switch p.Act {
	case Record:
		return fmt.Sprintf("Record %s with %s", p.Layer, name)
	case Overdub:
		return fmt.Sprintf("Lay %s over it with %s", p.Layer, name)
	case Close:
		return fmt.Sprintf("Close %s with %s: it plays", p.Layer, name)
	case Play:
		return "Play the loop with " + name
	}
	if s.stops == "double press" {
		return "Stop the loop: " + name + ", double press"
	}
	return "Stop the loop"
}

// heard says what of a section changes layers that run in it: its tempo, and what stands after the looper.
func (s *looping) heard(sec plan.Section, x *plan.Looping) {
	here := s.rig.RecipeFor(sec)
	for _, name := range x.Plays {
		i := slices.IndexFunc(s.out.Layers, func(l Layer) bool { return l.Name == name })
		if i < 0 || !slices.Contains(s.loop, name) {
			continue
		}
		layer := s.out.Layers[i]
		if a, b := layer.tempo.BeatSeconds(), sec.TempoIn(*s.song).BeatSeconds(); math.Abs(a-b) > 1e-9 {
			s.find(s.out.Entry, fmt.Sprintf("layers:tempo:%s:%s:%s", s.song.ID, sec.ID, name),
				fmt.Sprintf("%s, %s: %s is at another tempo", s.out.Title, sec.Label, name),
				fmt.Sprintf(
					"It was recorded at %.4g beats a minute, and the section is at %.4g: they part by %.0f ms a bar.", 60/a, 60/b,
					1000*math.Abs(a-b)*float64(max(1, s.song.Meter.Beats)),
				))
		}
		if here == nil || layer.Recipe == "" || s.work.out.Looper == "" {
			continue
		}
		s.under(sec, layer, here)
	}
}

// under compares what stands after the looper where a layer runs with how it stood when it was recorded.
func (s *looping) under(sec plan.Section, layer Layer, here *plan.Recipe) {
	was := slices.IndexFunc(s.rig.Recipes, func(r plan.Recipe) bool { return r.ID == layer.Recipe })
	if was < 0 || layer.Recipe == here.ID {
		return
	}
	then, _ := s.plan.FindSound(layer.Sound)
	now, _ := s.plan.FindSound(sec.Sound)
	a := s.plan.SetFor(s.rig, &s.rig.Recipes[was], then, layer.tempo)
	b := s.plan.SetFor(s.rig, here, now, sec.TempoIn(*s.song))
	u := Under{
		Layer: layer.Name, Section: sec.ID, Label: sec.Label, Recorded: layer.Sound, Recipe: layer.Recipe, Sound: sec.Sound,
		Changes: []string{}, Over: map[plan.Key]plan.Value{},
	}
	for _, id := range s.rig.GearIn() {
		g, ok := s.plan.FindGear(id)
		if !ok {
			continue
		}
		for _, v := range g.Variables() {
			if x, y := a.At(v.Key), b.At(v.Key); x != y && s.isAfter(g, v.Key) {
				u.Over[v.Key] = y
				if a.Works(v) || b.Works(v) {
					u.Changes = append(u.Changes, v.Label)
				}
			}
		}
	}
	if len(u.Changes) == 0 {
		return
	}
	name := string(sec.Sound)
	if now != nil {
		name = now.Name
	}
	u.Words = fmt.Sprintf(
		"%s changes %s, recorded in %s: %s stands after %s.", name, layer.Name, layer.SoundName, plan.Listed(u.Changes),
		s.work.out.Name,
	)
	u.Over = maps.Clone(u.Over)
	s.out.Under = append(s.out.Under, u)
}

// isAfter reports whether a variable belongs to what stands after the looper: to a block there, or to a piece of
// gear that has no block before it.
func (s *looping) isAfter(g *plan.Gear, key plan.Key) bool {
	for _, stop := range s.after {
		if stop.Gear() != g.ID {
			continue
		}
		if rest := plan.Key(key.Rest()); len(g.Blocks) > 1 && s.before[g.ID] {
			block := plan.Key(stop.Rest())
			if len(rest) > len(block) && rest[:len(block)+1] == block+"/" {
				return true
			}
			continue
		}
		return true
	}
	return false
}
