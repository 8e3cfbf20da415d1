package paper

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"envex/core/layers"
	"envex/core/plan"
	"envex/core/reach"
	"envex/core/reason"
)

// set is the songs of the night: a table for each, with what is pressed to come into every section.
func (m *maker) set() error {
	report, err := reach.Compute(m.plan, m.show.Rig, m.show.SetList)
	if err != nil {
		return err
	}
	l, err := m.plan.SetListByID(m.show.SetList)
	if err != nil {
		return fmt.Errorf("%w", err)
	}
	m.sheet.Facts = append(m.sheet.Facts, Fact{"Set", l.Name})
	looped, err := layers.Compute(m.plan, m.show.Rig, "", m.show.SetList) // the plan is as it stands there
	if err != nil {
		return err
	}
	at := 0
	for i, e := range l.Entries {
		song, ok := m.plan.FindSong(e.Song)
		if !ok {
			continue
		}
		part := Part{
			Title: fmt.Sprintf("%d. %s", i+1, song.Title), Note: m.heading(song, e, i > 0),
			Columns: []Column{
				{"section", false}, {"bars", true}, {"sound", false}, {"press", false}, {"by hand", false}, {"make ready", false},
			},
			Rows: []Row{},
		}
		for _, sec := range song.Sections {
			if at >= len(report.Sections) {
				return reason.Errorf("the set has more sections than were computed")
			}
			row := Row{text(sec.Label), text(bars(sec)), m.sound(sec.Sound), {}, {}, {}}
			pressed := looped.Looped(e.ID, sec.ID)
			if at > 0 {
				c := report.Changes[at-1]
				pressed = append(Pressed(c), pressed...)
				row[4] = text(byHand(report, at, c))
			}
			row[3] = text(strings.Join(pressed, ", "))
			row[5] = text(strings.Join(Early(report.Sections[at]), "; "))
			part.Rows = append(part.Rows, row)
			at++
		}
		m.sheet.Parts = append(m.sheet.Parts, part)
	}
	return nil
}

// heading is what a player wants to know before the count-in.
func (m *maker) heading(song *plan.Song, e plan.SetEntry, follows bool) string {
	list := CountIn(m.plan, song, song.Tempo)
	if e.Segue && follows {
		list = append([]string{"straight on"}, list...)
	}
	if song.Notes != "" {
		list = append(list, song.Notes)
	}
	return strings.Join(list, ", ")
}

// CountIn is what a player wants to know before a song is counted in at a tempo: that, the tuning, the
// capo and the guitar.
func CountIn(p *plan.Plan, song *plan.Song, tempo plan.Tempo) []string {
	list := []string{strconv.FormatFloat(tempo.BPM, 'f', -1, 64) + " bpm"}
	if note := tempo.BeatNote(); note != "1/4" {
		list[0] += " to the " + note
	}
	if song.Tuning != "" {
		list = append(list, song.Tuning)
	}
	if song.Capo > 0 {
		list = append(list, fmt.Sprintf("capo %d", song.Capo))
	}
	if g, ok := p.FindGear(song.Guitar); ok {
		list = append(list, g.Name)
	}
	return list
}

func bars(s plan.Section) string {
	if s.Bars == nil {
		return "open"
	}
	return strconv.FormatFloat(*s.Bars, 'f', -1, 64)
}

// Pressed is the presses of a change in order, by what each does. A switch that is pressed again and again
// stands once, by what comes of it, with how often.
func Pressed(c reach.Change) []string {
	var list []string
	count := 1
	for i, press := range c.Presses {
		if next := i + 1; next < len(c.Presses) && c.Presses[next].Switch == press.Switch &&
			c.Presses[next].Gesture == press.Gesture {
			count++
			continue
		}
		x := press.Act
		if count > 1 {
			x += fmt.Sprintf(" ×%d", count)
		}
		list, count = append(list, x), 1
	}
	return list
}

// byHand is what hands do at the change into a section: on paper where each control goes is enough, for
// where it stood is the line above. Why a change cannot be made is said at Step, not on the stand.
func byHand(r *reach.Report, at int, c reach.Change) string {
	var list []string
	for _, h := range c.Hands {
		if c.Verdict == reach.Impossible && h.Access != plan.QuickHand && h.Access != plan.SlowHand {
			continue // what no switch reaches is in the reason
		}
		words := h.Action
		i := slices.IndexFunc(r.Rows, func(x reach.Row) bool { return x.Variable == h.Variable })
		if i >= 0 && h.Variable != reach.GuitarKey { // what is done to a guitar is more than where it stands then
			words = r.Rows[i].Label + " to " + r.Rows[i].Cells[at].Value
		}
		list = append(list, words)
	}
	if r.Sections[at].Recipe == "" {
		list = append(list, "not set yet")
	}
	if c.Verdict == reach.Impossible {
		list = append(list, "cannot be made")
	}
	return strings.Join(list, ", ")
}

// Early is what is best done during a section for a change to come, and for which.
func Early(s reach.Section) []string {
	var list []string
	for _, x := range s.ReadyEarly {
		words := x.Action + " for " + x.For.Section
		if x.For.Entry != s.Entry {
			words += " of " + x.For.Song
		}
		list = append(list, words)
	}
	return list
}
