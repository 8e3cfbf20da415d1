package paper

import (
	"fmt"
	"slices"
	"strings"

	"envex/core/path"
	"envex/core/plan"
)

const (
	phantomCaution = "Phantom power stays off unbalanced outputs: it can damage what drives them."
	earthCaution   = "Hum on a line is cured by an isolated DI or a transformer. Never lift the mains safety earth: stage mains follow the local code and the venue's licensed electrician."
)

// house is what front-of-house gets: each line, and what to expect of it.
func (m *maker) house() error {
	cables, err := path.DeriveCables(m.given, m.show.Rig, m.show.Destination)
	if err != nil {
		return err
	}
	lines := Part{
		Title: "Lines",
		Columns: []Column{
			{"line", true}, {"from", false}, {"take it", false}, {"channels", false}, {"level", false}, {"phantom power", false},
			{"note", false},
		},
		Rows: []Row{},
	}
	for _, s := range cables.Sends {
		m.lines(&lines, s)
	}
	switch {
	case m.goesTo(plan.Headphones):
		lines = Part{Title: "Lines", Note: "Headphones: nothing goes to the house.", Columns: lines.Columns, Rows: []Row{}}
	case len(lines.Rows) == 0:
		lines.Note = "The rig has no output yet."
	}
	m.sheet.Parts = append(m.sheet.Parts, lines)
	if err := m.otherRigs(len(lines.Rows)); err != nil {
		return err
	}
	m.sheet.Parts = append(m.sheet.Parts, m.expected(), m.forward())
	m.sheet.Assumed = append(
		m.sheet.Assumed,
		"Loudness is what each sound is meant to be over the home sound, in LU, not what was measured at the desk.",
	)
	m.sheet.Cautions = append(m.sheet.Cautions, phantomCaution, earthCaution)
	return nil
}

func (m *maker) goesTo(kinds ...plan.DestinationKind) bool {
	d, ok := m.rig.FindDestination(m.show.Destination)
	return ok && slices.Contains(kinds, d.Kind)
}

// lines are the lines of one output: both sides of a stereo one are two, unless the house has one line.
func (m *maker) lines(part *Part, s path.Send) {
	take, level, phantom, note := m.taken(s)
	sides := []string{"mono"}
	jacks := []string{s.Jack}
	d, placed := m.rig.FindDestination(m.show.Destination)
	mono := placed && d.Kind == plan.MonoDI
	switch {
	case mono && (s.Stereo || d.MonoLine != ""):
		note = joined(note, map[string]string{
			plan.ExternalSum: "one line: both sides are summed outside the last stereo box",
			plan.LeftSums:    "one line, from the left jack, which sums both sides",
			plan.LeftAlone:   "one line, from the left jack: the right side is not heard",
			"":               "one line: nobody has said what it carries of the two sides",
		}[d.MonoLine])
	case s.Stereo:
		sides = []string{"left", "right"}
		jack := strings.TrimSuffix(s.Jack, " left")
		jacks = []string{jack + " left", jack + " right"}
		note = joined(note, "hard left and hard right")
	}
	for i, side := range sides {
		from := s.Name + " " + jacks[i]
		if s.Lane != "" {
			from += " (" + s.Lane + ")"
		}
		part.Rows = append(
			part.Rows,
			Row{
				text(fmt.Sprint(len(part.Rows) + 1)), text(from), text(take), text(side), text(level), text(phantom), text(note),
			},
		)
	}
}

func joined(a, b string) string {
	if a == "" {
		return b
	}
	return a + "; " + b
}

// taken is how the house takes an output: by a microphone, by the DI of the rig, or by one it has to bring.
func (m *maker) taken(s path.Send) (take, level, phantom, note string) {
	g, ok := m.plan.FindGear(s.Gear)
	if !ok {
		return "", s.Level, "", ""
	}
	b, _ := g.FindBlock(plan.ID(s.Place.Rest()))
	switch {
	case b != nil && b.Effect == plan.EffectDI && b.Passive:
		return "balanced, from the rig's DI", "microphone", "off", "a passive DI needs none"
	case b != nil && b.Effect == plan.EffectDI && m.isFed(g.ID):
		return "balanced, from the rig's DI", "microphone", "not needed", "the DI has power of its own"
	case b != nil && b.Effect == plan.EffectDI:
		return "balanced, from the rig's DI", "microphone", "on, for this line alone", "an active DI that nothing else feeds"
	case s.Level == "speaker" || b != nil && (b.Effect == plan.EffectPower || b.Effect == plan.EffectSpeaker):
		return "a microphone in front of the speaker", "microphone", "off, unless the microphone is made for it", ""
	}
	return "an isolated DI from the house", s.Level, "off, unless the house's DI runs on it",
		"unbalanced: no DI of the rig's own stands there"
}

// isFed reports whether the power plan or a battery feeds a box.
func (m *maker) isFed(id plan.ID) bool {
	return slices.ContainsFunc(m.rig.PowerPlan, func(f plan.PowerFeed) bool { return slices.Contains(f.Gear, id) }) ||
		slices.ContainsFunc(m.rig.Batteries, func(b plan.BatteryUse) bool { return b.Gear == id })
}

// expected is what the desk will hear, sound by sound.
func (m *maker) expected() Part {
	part := Part{
		Title: "What to expect",
		Columns: []Column{
			{"sound", false}, {"what it is for", false}, {"over home LU", true}, {"heard in it", false}, {"width", false},
			{"sections", true},
		},
		Rows: []Row{},
	}
	counts := map[plan.ID]int{}
	settings := m.settings()
	for _, s := range settings {
		counts[s.Sound.ID] += s.Sections
	}
	seen := map[plan.ID]bool{}
	for _, x := range settings {
		s := x.Sound
		if seen[s.ID] {
			continue
		}
		seen[s.ID] = true
		loud := ""
		if s.Targets.LoudnessLU != nil {
			loud = fmt.Sprintf("%+.1f", *s.Targets.LoudnessLU)
			if *s.Targets.LoudnessLU == 0 {
				loud = "0.0"
			}
		}
		var heard []string
		for _, h := range s.Targets.Effects {
			heard = append(heard, string(h.Effect))
		}
		width := "mono is fine"
		if s.Targets.Width == "stereo" {
			width = "must be stereo"
		}
		part.Rows = append(
			part.Rows,
			Row{
				m.sound(s.ID), text(string(s.Role)), text(loud), text(strings.Join(heard, ", ")), text(width),
				text(fmt.Sprint(counts[s.ID])),
			},
		)
	}
	return part
}

// forward lists the sections in which the guitar leads, in the order of the set.
func (m *maker) forward() Part {
	part := Part{
		Title:   "Guitar leads",
		Columns: []Column{{"no.", true}, {"song", false}, {"section", false}, {"sound", false}}, Rows: []Row{},
	}
	l, ok := m.plan.FindSetList(m.show.SetList)
	if !ok {
		return part
	}
	for i, e := range l.Entries {
		song, ok := m.plan.FindSong(e.Song)
		if !ok {
			continue
		}
		for _, sec := range song.Sections {
			if s, ok := m.plan.FindSound(sec.Sound); ok && s.Role == plan.LeadRole {
				part.Rows = append(part.Rows, Row{text(fmt.Sprint(i + 1)), text(song.Title), text(sec.Label), m.sound(s.ID)})
			}
		}
	}
	return part
}
