package plan

import (
	"slices"
	"strings"
	"unicode"
)

// SectionGroup is every section of some songs that goes by one name, the numbers behind it left out: Verse and Verse 2
// are verses.
type SectionGroup struct {
	Label    string   `json:"label"`
	Sections int      `json:"sections"`
	Songs    int      `json:"songs" doc:"How many songs have one."`
	Singing  int      `json:"singing" doc:"In how many of them the player sings."`
	Bars     *float64 `json:"bars,omitempty" doc:"Where they all have the same."`
	Rest     *float64 `json:"rest_beats,omitempty" doc:"Where they all have the same."`
	Open     int      `json:"open" doc:"How many have no number of bars."`
}

// Marking is what is said of many sections at once. What is nil stays as it is.
type Marking struct {
	Singing *bool    `json:"singing,omitempty"`
	Bars    *float64 `json:"bars,omitempty" minimum:"0" maximum:"1000" doc:"0 for open."`
	Rest    *float64 `json:"rest_beats,omitempty" minimum:"0" maximum:"256"`
}

// SectionName is the name of a section without the number behind it, so that what a song has several of
// goes by one name.
func SectionName(label string) string {
	name := strings.TrimRightFunc(label, func(r rune) bool { return unicode.IsDigit(r) || unicode.IsSpace(r) })
	if name == "" {
		return label
	}
	return name
}

func sameName(a, b string) bool { return strings.EqualFold(SectionName(a), SectionName(b)) }

// songsIn are the songs of a set list, each once, in the plan's order; all songs where there is none.
func (p *Plan) songsIn(setList ID) []*Song {
	l, limited := p.FindSetList(setList)
	var list []*Song
	for i := range p.Songs {
		s := &p.Songs[i]
		if !limited || slices.ContainsFunc(l.Entries, func(e SetEntry) bool { return e.Song == s.ID }) {
			list = append(list, s)
		}
	}
	return list
}

// SectionGroups are the sections of the songs of a set list by name, the commonest first; of all songs where
// no set list is named.
func (p *Plan) SectionGroups(setList ID) []SectionGroup {
	groups := []SectionGroup{}
	last := map[int]ID{}
	for _, song := range p.songsIn(setList) {
		for _, x := range song.Sections {
			i := slices.IndexFunc(groups, func(g SectionGroup) bool { return sameName(g.Label, x.Label) })
			if i < 0 {
				i = len(groups)
				rest := x.Rest
				groups = append(groups, SectionGroup{Label: SectionName(x.Label), Bars: x.Bars, Rest: &rest})
			}
			g := &groups[i]
			g.Sections++
			if last[i] != song.ID {
				g.Songs, last[i] = g.Songs+1, song.ID
			}
			if x.Singing {
				g.Singing++
			}
			if x.Bars == nil {
				g.Open++
			}
			if g.Bars != nil && (x.Bars == nil || *x.Bars != *g.Bars) {
				g.Bars = nil
			}
			if g.Rest != nil && *g.Rest != x.Rest {
				g.Rest = nil
			}
		}
	}
	slices.SortStableFunc(groups, func(a, b SectionGroup) int { return b.Sections - a.Sections })
	return groups
}

// MarkSections is the songs of a set list, or of the plan where none is named, whose sections of a name change by a
// marking, as they are then. The plan stays as it is.
func (p *Plan) MarkSections(setList ID, label string, m Marking) []Song {
	var changed []Song
	for _, song := range p.songsIn(setList) {
		next := *song
		next.Sections = slices.Clone(song.Sections)
		differs := false
		for i := range next.Sections {
			x := &next.Sections[i]
			if !sameName(x.Label, label) {
				continue
			}
			differs = m.mark(x) || differs
		}
		if differs {
			changed = append(changed, next)
		}
	}
	return changed
}

// mark says whether it changed a section.
func (m Marking) mark(x *Section) bool {
	was := *x
	if m.Singing != nil {
		x.Singing = *m.Singing
	}
	if m.Rest != nil {
		x.Rest = *m.Rest
	}
	bars := func(v *float64) float64 {
		if v == nil {
			return 0
		}
		return *v
	}
	if m.Bars != nil && *m.Bars != bars(was.Bars) {
		if x.Bars = nil; *m.Bars > 0 {
			n := *m.Bars
			x.Bars = &n
		}
	}
	return x.Singing != was.Singing || x.Rest != was.Rest || bars(x.Bars) != bars(was.Bars)
}
