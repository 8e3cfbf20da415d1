package tempo

import (
	"fmt"
	"slices"

	"envex/core/plan"
)

// steps is the fewest presses from one preset of the device to another, by switches that step or choose it; -1
// where none lead there.
func (m *meaning) steps(from, to string) int {
	seen := map[string]int{from: 0}
	for queue := []string{from}; len(queue) > 0; queue = queue[1:] {
		at := queue[0]
		if at == to {
			return seen[at]
		}
		for _, next := range m.pressedFrom(at) {
			if _, known := seen[next]; !known {
				seen[next] = seen[at] + 1
				queue = append(queue, next)
			}
		}
	}
	return -1
}

// pressedFrom are the presets that one press leads to.
func (m *meaning) pressedFrom(at string) []string {
	options := m.preset.Control.Options
	var list []string
	for _, id := range m.rig.GearIn() {
		g, ok := m.plan.FindGear(id)
		if !ok {
			continue
		}
		for i := range g.Footswitches {
			press, hold, double := m.rig.SwitchDoes(g, &g.Footswitches[i])
			for _, does := range []*plan.Press{press, hold, double} {
				if does == nil {
					continue
				}
				for _, a := range does.Actions {
					if a.Target == m.preset.Key {
						list = append(list, landed(options, at, a)...)
					}
				}
			}
		}
	}
	return list
}

// landed is where an action on presets leads.
func landed(options []string, at string, a plan.Action) []string {
	switch a.Kind {
	case plan.Set:
		if a.Value != nil {
			return []string{a.Value.Word()}
		}
	case plan.Step:
		for i, o := range options {
			if o != at {
				continue
			}
			to := i + a.Stride()
			if a.Wrap {
				to = ((to % len(options)) + len(options)) % len(options)
			}
			if to >= 0 && to < len(options) {
				return []string{options[to]}
			}
		}
	}
	return nil
}

// played are the sections of the set in which the device is on, in order.
func (m *meaning) played(
	visit func(entry int, song *plan.Song, sec plan.Section, rec *plan.Recipe, sound *plan.Sound),
) {
	l, ok := m.plan.FindSetList(m.list)
	if !ok {
		return
	}
	for i, e := range l.Entries {
		song, ok := m.plan.FindSong(e.Song)
		if !ok {
			continue
		}
		for _, sec := range song.Sections {
			rec := m.rig.RecipeFor(sec)
			sound, ok := m.plan.FindSound(sec.Sound)
			if ok && rec != nil && m.on(rec, sound) {
				visit(i, song, sec, rec, sound)
			}
		}
	}
}

// walk is how many presses a laying of the grid takes over the set. A preset that no switch leads to counts as
// many as there are.
func (m *meaning) walk(list []Meaning) int {
	n, at := 0, ""
	m.played(func(_ int, _ *plan.Song, _ plan.Section, rec *plan.Recipe, sound *plan.Sound) {
		i := m.nearest(list, rec, sound)
		if i < 0 {
			return
		}
		if to := list[i].Preset; at != "" && at != to {
			if d := m.steps(at, to); d >= 0 {
				n += d
			} else {
				n += len(m.preset.Control.Options)
			}
		}
		at = list[i].Preset
	})
	return n
}

// compare counts the schools over the set: presets by meaning, one for each song, and one page for the night.
func (m *meaning) compare() {
	have := len(m.preset.Control.Options)
	taps, follows := m.taps()
	meaning := MemorySchool{School: "meaning", Name: "By meaning", Presets: len(m.out.Meanings), Have: have, Fits: true,
		Presses: m.walk(m.out.Meanings), Taps: taps,
		Words: fmt.Sprintf(
			"The same presets all night; the tempo is tapped once for each song that changes it: %d taps.", taps,
		)}
	switch {
	case m.reverb:
		meaning.Taps, meaning.Words = 0, "The same presets all night; a reverb follows no tempo."
	case !follows:
		meaning.Taps, meaning.Fits, meaning.Presses = 0, false, 0
		meaning.Words = m.gear.Name +
			" gets no tempo from anything: give it a tap switch, a clock or a tempo by MIDI, or keep a preset for each song."
		m.out.Findings = append(
			m.out.Findings,
			Finding{ID: "meaning:tempo:" + string(m.gear.ID), Title: m.gear.Name + " hears no tempo", Words: meaning.Words},
		)
	}
	m.out.Schools = append(
		m.out.Schools, meaning,
		m.counted("song", "One for each song", "Nothing is tapped; each song has its own.", m.perSong()),
		m.counted("page", "One page", "Nothing is tapped; songs of nearly one tempo share.", m.onePage()),
	)
}

// taps is how many taps the set takes, and whether the device follows a tempo at all.
func (m *meaning) taps() (int, bool) {
	if m.reverb {
		return 0, true
	}
	key := m.key(m.blocks[0], m.time(m.blocks[0]))
	if _, ok := m.rig.ClockOf(m.gear.ID); ok {
		return 0, true
	}
	if !tappedIn(m.plan, m.rig)[key] {
		return 0, false
	}
	each, n, last := m.rig.Profile.Filled().Taps, 0, plan.Tempo{}
	m.played(func(_ int, song *plan.Song, sec plan.Section, _ *plan.Recipe, _ *plan.Sound) {
		if t := sec.TempoIn(*song); t.BeatSeconds() != last.BeatSeconds() || last.BPM == 0 {
			n, last = n+each, t
		}
	})
	return n, true
}

// needed is what a part of the set needs of a device that follows no tempo: a time, or a size, and a length.
type needed struct {
	entry int
	what  string
	ms    float64 // of a delay that is meant; 0 else
}

func (m *meaning) needs() []needed {
	var list []needed
	m.played(func(entry int, song *plan.Song, sec plan.Section, rec *plan.Recipe, sound *plan.Sound) {
		i := m.nearest(m.out.Meanings, rec, sound)
		n := needed{entry: entry, what: "as it is " + m.standsOn(rec)}
		if i >= 0 {
			x := m.out.Meanings[i]
			n.what = x.Name
			if ms, ok := sec.TempoIn(*song).Milliseconds(m.timeNote(x)); ok {
				n.what, n.ms = meaningRows[x.Row], ms
				if x.note == both {
					n.what += ", both"
				}
			}
		}
		list = append(list, n)
	})
	return list
}

// perSong numbers what each song needs, with presets of its own, in the order of the set.
func (m *meaning) perSong() []int {
	index := map[needed]int{}
	var walk []int
	for _, x := range m.needs() {
		if _, ok := index[x]; !ok {
			index[x] = len(index)
		}
		walk = append(walk, index[x])
	}
	return walk
}

// onePage numbers what the night needs, where what is alike is one: times within a hundredth are.
func (m *meaning) onePage() []int {
	var kinds []needed
	var walk []int
	for _, x := range m.needs() {
		at := slices.IndexFunc(kinds, func(k needed) bool { return k.what == x.what && plan.SameTime(k.ms, x.ms) })
		if at < 0 {
			at, kinds = len(kinds), append(kinds, x)
		}
		walk = append(walk, at)
	}
	return walk
}

// timeNote is the note of a meaning's first delay.
func (m *meaning) timeNote(x Meaning) string {
	if x.note == both {
		return m.grid.Notes[0]
	}
	return x.note
}

// counted counts a school whose presets are walked through by number.
func (m *meaning) counted(school, name, words string, walk []int) MemorySchool {
	options := m.preset.Control.Options
	x := MemorySchool{School: school, Name: name, Have: len(options), Words: words}
	for _, n := range walk {
		x.Presets = max(x.Presets, n+1)
	}
	if x.Fits = x.Presets <= x.Have; !x.Fits {
		x.Words = fmt.Sprintf("It takes %d presets, and %s has %d.", x.Presets, m.gear.Name, x.Have)
		return x
	}
	for i := 1; i < len(walk); i++ {
		if walk[i] == walk[i-1] {
			continue
		}
		if d := m.steps(options[walk[i-1]], options[walk[i]]); d >= 0 {
			x.Presses += d
		} else {
			x.Presses, x.Fits, x.Words = 0, false, "No switch leads from one of its presets to another."
			return x
		}
	}
	return x
}
