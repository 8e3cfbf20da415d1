package paper

import (
	"fmt"
	"strconv"
	"strings"

	"envex/core/plan"
	"envex/core/reach"
)

// set is the songs of the night: a table for each, with what is pressed to come into every section.
func (m *maker) set() error {
	m.sheet.Title = "Set sheet"
	report, err := reach.Compute(m.plan, m.show.Rig, m.show.SetList)
	if err != nil {
		return err
	}
	l, ok := m.plan.FindSetList(m.show.SetList)
	if !ok {
		return fmt.Errorf("there is no set list %q", m.show.SetList)
	}
	m.sheet.Facts = append(m.sheet.Facts, Fact{"Set", l.Name})
	at := 0
	for i, e := range l.Entries {
		song, ok := m.plan.FindSong(e.Song)
		if !ok {
			continue
		}
		part := Part{Title: fmt.Sprintf("%d. %s", i+1, song.Title), Note: m.heading(song, e, i > 0), Columns: []Column{{"section", false}, {"bars", true}, {"sound", false}, {"press", false}, {"by hand", false}, {"make ready", false}}, Rows: []Row{}}
		for _, sec := range song.Sections {
			if at >= len(report.Sections) {
				return fmt.Errorf("the set has more sections than were computed")
			}
			row := Row{text(sec.Label), text(bars(sec)), m.sound(sec.Sound), {}, {}, {}}
			if at > 0 {
				c := report.Changes[at-1]
				row[3] = text(m.pressed(c))
				row[4] = text(byHand(c))
			}
			row[5] = text(early(report.Sections[at]))
			part.Rows = append(part.Rows, row)
			at++
		}
		m.sheet.Parts = append(m.sheet.Parts, part)
	}
	return nil
}

// heading is what a player wants to know before the count-in.
func (m *maker) heading(song *plan.Song, e plan.SetEntry, follows bool) string {
	var list []string
	if e.Segue && follows {
		list = append(list, "straight on")
	}
	tempo := strconv.FormatFloat(song.Tempo.BPM, 'f', -1, 64) + " bpm"
	if note := song.Tempo.BeatNote(); note != "1/4" {
		tempo += " to the " + note
	}
	list = append(list, tempo)
	if song.Tuning != "" {
		list = append(list, song.Tuning)
	}
	if song.Capo > 0 {
		list = append(list, fmt.Sprintf("capo %d", song.Capo))
	}
	if song.Guitar != "" {
		list = append(list, m.name(song.Guitar))
	}
	if song.Notes != "" {
		list = append(list, song.Notes)
	}
	return strings.Join(list, ", ")
}

func bars(s plan.Section) string {
	if s.Bars == nil {
		return "open"
	}
	return strconv.FormatFloat(*s.Bars, 'f', -1, 64)
}

// pressed is the presses of a change in order, by what is written on the floor: the switch, after its
// box where the two differ. One that is not a single press says so: hold, double.
func (m *maker) pressed(c reach.Change) string {
	var list []string
	for _, p := range c.Presses {
		x := p.Label
		if name := m.name(p.Switch.Gear()); !strings.Contains(strings.ToLower(x), strings.ToLower(name)) {
			x = name + " " + x
		}
		if p.Gesture != "press" {
			x += " (" + p.Gesture + ")"
		}
		list = append(list, x)
	}
	return strings.Join(list, ", ")
}

func byHand(c reach.Change) string {
	var list []string
	for _, h := range c.Hands {
		list = append(list, h.Action)
	}
	if c.Verdict == reach.Impossible {
		list = append(list, "cannot be made: "+c.Reason)
	}
	return strings.Join(list, ", ")
}

func early(s reach.Section) string {
	var list []string
	for _, x := range s.ReadyEarly {
		words := x.Action + " for " + x.For.Section
		if x.For.Entry != s.Entry {
			words += " of " + x.For.Song
		}
		list = append(list, words)
	}
	return strings.Join(list, "; ")
}
