package night

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"envex/core/plan"
)

// Logged is a show with an event written into its log, and what that is called; false where the log says nothing of
// such an event, or says it already. The words are those of the way round what broke. The plan is not changed.
func Logged(p *plan.Plan, show plan.ID, e Event, words string) (plan.Show, string, bool) {
	s, ok := p.FindShow(show)
	if !ok {
		return plan.Show{}, "", false
	}
	next := *s
	next.Faults = slices.Clone(s.Faults)
	where := placeWords(p, s, e)
	fault := slices.IndexFunc(
		next.Faults,
		func(f plan.Fault) bool { return f.Event != "" && f.Event == cmp.Or(e.Of, string(e.ID)) },
	)
	switch e.Kind {
	case Broke:
		g, known := p.FindGear(e.Gear)
		if !known || fault >= 0 {
			return plan.Show{}, "", false
		}
		text := fmt.Sprintf("%s failed%s. Gone round: %s.", g.Name, where, strings.TrimSuffix(words, "."))
		next.Faults = append(next.Faults, plan.Fault{Text: text, Gear: e.Gear, Event: string(e.ID)})
		return next, g.Name + " failed", true
	case Mended:
		if fault < 0 || next.Faults[fault].Cured != "" {
			return plan.Show{}, "", false
		}
		next.Faults[fault].Cured = "Works again" + where + "."
		return next, "Mended", true
	case Undone:
		if fault < 0 {
			return plan.Show{}, "", false
		}
		next.Faults = slices.Delete(next.Faults, fault, fault+1)
		return next, "Strike out a fault", true
	case Note:
		line := strings.TrimSpace(strings.TrimPrefix(where, " in ") + ": " + e.Text)
		line = strings.TrimPrefix(line, ": ")
		if slices.Contains(strings.Split(s.After, "\n"), line) {
			return plan.Show{}, "", false
		}
		next.After = strings.TrimPrefix(s.After+"\n"+line, "\n")
		return next, "Note of the night", true
	}
	return plan.Show{}, "", false
}

// placeWords is where an event happened, as the end of a sentence; "" before the first song.
func placeWords(p *plan.Plan, s *plan.Show, e Event) string {
	song, ok := songOf(p, s, e.Entry)
	if !ok {
		return ""
	}
	for _, sec := range song.Sections {
		if sec.ID == e.Section {
			return " in " + song.Title + ", " + sec.Label
		}
	}
	return " in " + song.Title
}

// songOf is the song of an entry of the set; false for one that was called.
func songOf(p *plan.Plan, s *plan.Show, entry plan.ID) (*plan.Song, bool) {
	l, ok := p.FindSetList(s.SetList)
	if !ok {
		return nil, false
	}
	for _, x := range l.Entries {
		if x.ID == entry {
			return p.FindSong(x.Song)
		}
	}
	return nil, false
}
