package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
)

func TestWhatLayersCannotBeIsRefused(t *testing.T) {
	four, nine := 4.0, 9.0
	for _, x := range []struct {
		name, path string
		change     func(s []plan.Section)
	}{
		{"sound", "", func([]plan.Section) {}},
		{"twice", "sections[1].looping.records", func(s []plan.Section) { s[1].Looping.Records = "Bass" }},
		{"blank", "sections[1].looping.records", func(s []plan.Section) { s[1].Looping.Records = " " }},
		{"of none", "sections[1].looping.bars", func(s []plan.Section) { s[1].Looping = &plan.Looping{Bars: &four} }},
		{"too long", "sections[0].looping.bars", func(s []plan.Section) { s[0].Looping.Bars = &nine }},
		{"open", "sections[0].looping.bars", func(s []plan.Section) { s[0].Bars = nil }},
		{
			"nobody records it", "sections[1].looping.plays[0]",
			func(s []plan.Section) { s[1].Looping.Plays = []string{"Gulls"} },
		},
		{
			"played twice", "sections[1].looping.plays[1]",
			func(s []plan.Section) { s[1].Looping.Plays = []string{"Bass", "Bass"} },
		},
	} {
		eight := 8.0
		p := &plan.Plan{
			Sounds: []plan.Sound{{ID: "bed", Name: "Bed", Short: "B", Role: plan.HomeRole, Tape: "bone"}},
			Songs: []plan.Song{{ID: "song", Title: "Ropewalk", Tempo: plan.Tempo{BPM: 100},
				Meter: plan.Meter{Beats: 4, Unit: 4}, Sections: []plan.Section{
					{ID: "a", Label: "A", Sound: "bed", Bars: &eight, Looping: &plan.Looping{Records: "Bass"}},
					{
						ID: "b", Label: "B", Sound: "bed", Bars: &eight,
						Looping: &plan.Looping{Records: "Chords", Plays: []string{"Bass"}},
					},
				}}},
		}
		x.change(p.Songs[0].Sections)
		problems := p.Validate()
		if x.path == "" {
			assert.Empty(t, problems)
			assert.Equal(t, []string{"Bass", "Chords"}, p.Songs[0].Layers())
			continue
		}
		found := false
		for _, problem := range problems {
			found = found || problem.Path == "songs[0]."+x.path
		}
		assert.True(t, found, "%s: %v", x.name, problems)
	}
}
