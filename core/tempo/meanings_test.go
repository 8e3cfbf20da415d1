package tempo

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/demo"
)

// many gives the demo's Echo so many presets, and a switch that taps it.
func many(t require.TestingT, p *plan.Plan, n int, tap bool) *plan.Gear {
	for i := range p.Gear {
		g := &p.Gear[i]
		if g.ID != "echo" {
			continue
		}
		for k := range g.Blocks[0].Controls {
			if c := &g.Blocks[0].Controls[k]; c.ID == "preset" {
				c.Options = nil
				for o := range n {
					c.Options = append(c.Options, string(rune('A'+o)))
				}
			}
		}
		if tap {
			g.Footswitches = append(
				g.Footswitches,
				plan.Footswitch{
					ID: "tap", Label: "tap", X: 60, Y: 110,
					Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Tap, Target: "fx/time"}}},
				},
			)
		}
		return g
	}
	require.Fail(t, "no Echo")
	return nil
}

func meanings(t require.TestingT, p *plan.Plan, grid Grid) *Memories {
	m, err := MeaningsOf(p, "long", "quay-set", "echo", grid)
	require.NoError(t, err)
	return m
}

func TestPresetsByMeaningAreMadeAndNamed(t *testing.T) {
	p := demo.Plan()
	many(t, p, 8, true)
	require.Empty(t, p.Validate())
	m := meanings(t, p, Grid{})
	require.Len(t, m.Meanings, 6)
	seen := map[string]bool{}
	for _, x := range m.Meanings {
		seen[x.Name] = true
		note := map[int]string{0: "1/8", 1: "1/8."}[x.Column]
		assert.Equal(t, plan.Sync(note), x.Values["echo/fx/time"], x.Name)
		assert.Equal(t, x.Name, m.Rig.PresetNames["echo"][x.Preset])
		assert.Equal(t, x.Values, m.Rig.Presets["echo"][x.Preset])
	}
	assert.True(t, seen["long dotted 1/8"] && seen["short 1/8"], "%v", seen)
	// More repeats, longer: and each as many as were asked.
	for _, x := range m.Meanings {
		e := Echo{MS: 400, Ratio: 1, Feedback: 0.95 * x.Values["echo/fx/repeats"].Float() / 10}
		assert.InDelta(t, usualRepeats[x.Row], e.Audible(), 1, x.Name)
	}
	q := demo.Plan()
	many(t, q, 8, true)
	q.Put(m.Rig)
	require.Empty(t, q.Validate())
	after := nightOf2(t, q, "long")
	for _, s := range after.Songs {
		for _, u := range s.Uses {
			if u.Stop == "echo/fx" && u.Note == "1/8." {
				assert.Less(t, u.OffMS, 1.0, "%s in %s is in time without a preset of its own", u.SoundName, s.Title)
			}
		}
	}
	// Shimmer and Swell ask no note: the preset on which they stand is left alone.
	for _, x := range m.Meanings {
		assert.NotEqual(t, "C", x.Preset)
	}
	again := meanings(t, q, Grid{})
	for _, x := range again.Meanings {
		assert.Empty(t, x.Was, "made twice is made once")
	}
}

func nightOf2(t *testing.T, p *plan.Plan, rig plan.ID) *Night {
	n, err := Plan(p, rig, "", "quay-set")
	require.NoError(t, err)
	return n
}

// Steps go round, as the device's switch does; a switch back makes them fewer.
func TestStepsBetweenMeaningsAreCounted(t *testing.T) {
	p := demo.Plan()
	g := many(t, p, 6, true)
	for i := range p.Rigs { // nothing else stands on a preset
		for k := range p.Rigs[i].Recipes {
			delete(p.Rigs[i].Recipes[k].Values, "echo/fx/preset")
		}
	}
	m := meanings(t, p, Grid{})
	assert.Equal(t, 5, m.Farthest, "only upwards: from the second to the first")
	for i := range m.Steps {
		assert.Zero(t, m.Steps[i][i])
		assert.Equal(t, 1, m.Steps[i][(i+1)%6])
	}
	g.Footswitches = append(
		g.Footswitches,
		plan.Footswitch{
			ID: "back", Label: "back", X: 20, Y: 40,
			Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Step, Target: "fx/preset", By: -1, Wrap: true}}},
		},
	)
	require.Empty(t, p.Validate())
	assert.Equal(t, 3, meanings(t, p, Grid{}).Farthest)
}

// Where neither way takes fewer presses, meanings lie by their notes.
func TestMeaningsLieByTheirNotesWhereNothingIsPressed(t *testing.T) {
	p := demo.Plan()
	many(t, p, 6, true)
	r, _ := p.FindRig("long")
	r.Recipes = nil
	m := meanings(t, p, Grid{})
	var presets []string
	for column := range m.Columns {
		for row := range meaningRows {
			for _, x := range m.Meanings {
				if x.Row == row && x.Column == column {
					presets = append(presets, x.Preset)
				}
			}
		}
	}
	assert.Equal(t, []string{"A", "B", "C", "D", "E", "F"}, presets)
}

func TestSchoolsOfMemoriesAreCounted(t *testing.T) {
	p := demo.Plan()
	many(t, p, 26, true)
	m := meanings(t, p, Grid{})
	by := map[string]MemorySchool{}
	for _, s := range m.Schools {
		by[s.School] = s
	}
	assert.Equal(t, 6, by["meaning"].Presets)
	assert.Positive(t, by["meaning"].Taps)
	assert.Zero(t, by["song"].Taps)
	assert.GreaterOrEqual(t, by["song"].Presets, by["page"].Presets, "what is shared is not stored twice")
	assert.True(t, by["page"].Fits)
	few := demo.Plan()
	many(t, few, 6, false)
	n := meanings(t, few, Grid{})
	assert.False(t, n.Schools[0].Fits, "nothing tells it the tempo")
	assert.Zero(t, n.Schools[0].Taps)
	assert.NotEmpty(t, n.Findings)
	assert.False(t, n.Schools[1].Fits)
	assert.Contains(t, n.Schools[1].Words, "Echo has 6")
}

func TestWhatHoldsNoGridIsSaid(t *testing.T) {
	p := demo.Plan()
	for _, x := range []struct {
		gear plan.ID
		grid Grid
		says string
	}{
		{"echo", Grid{}, "3 presets, and the grid needs 6"},
		{"amber", Grid{}, "has no presets"},
		{"nope", Grid{}, "is not in"},
		{"echo", Grid{Notes: []string{"1/3"}}, "is not a note"},
		{"echo", Grid{Notes: []string{"1/8", "1/8"}}, "appears twice"},
		{"echo", Grid{Notes: []string{"1/8"}, Repeats: []int{3}}, "long, a medium and a short"},
		{"echo", Grid{Notes: []string{"1/8"}, Repeats: []int{3, 2, 0}}, "outside 1 to 100"},
	} {
		_, err := MeaningsOf(p, "long", "quay-set", x.gear, x.grid)
		assert.ErrorContains(t, err, x.says)
	}
	_, err := MeaningsOf(p, "nope", "quay-set", "echo", Grid{})
	require.Error(t, err)
	one := meanings(t, p, Grid{Notes: []string{"1/8."}})
	require.Len(t, one.Meanings, 3)
	assert.Contains(t, one.Findings[0].Words, "its preset C becomes short")
	assert.NotEmpty(t, one.Meanings[0].Was+one.Meanings[1].Was+one.Meanings[2].Was, "what is lost is said")
}

// A reverb has a row alone, and two delays have a column for both.
func TestAReverbHasSizesAndTwoDelaysHaveBoth(t *testing.T) {
	p := demo.Plan()
	g := many(t, p, 9, true)
	second := g.Blocks[0]
	second.ID, second.Name = "two", "Second"
	second.Controls = append([]plan.Control{}, second.Controls[1:]...)
	g.Blocks = append(g.Blocks, second)
	r, _ := p.FindRig("long")
	for i := range p.Rigs {
		if p.Rigs[i].ID == r.ID {
			for k, n := range p.Rigs[i].Path {
				if n.Stop == "echo/fx" {
					p.Rigs[i].Path = append(
						p.Rigs[i].Path[:k+1:k+1], append([]plan.Node{{Stop: "echo/two"}}, p.Rigs[i].Path[k+1:]...)...,
					)
					break
				}
			}
		}
	}
	require.Empty(t, p.Validate())
	m := meanings(t, p, Grid{})
	require.Equal(t, []string{"1/8", "dotted 1/8", "both"}, m.Columns)
	for _, x := range m.Meanings {
		if x.Column == 2 {
			assert.Equal(t, plan.Sync("1/8"), x.Values["echo/fx/time"])
			assert.Equal(t, plan.Sync("1/8."), x.Values["echo/two/time"])
		} else {
			assert.Contains(t, x.Values, plan.Key("echo/fx/time"))
			assert.NotContains(t, x.Values, plan.Key("echo/two/time"), "it stands as it is")
		}
	}
	g.Blocks = g.Blocks[:1]
	g.Blocks[0].Effect, g.Blocks[0].Model = plan.EffectReverb, plan.Hall
	for i := range g.Blocks[0].Controls {
		if c := &g.Blocks[0].Controls[i]; c.ID == "repeats" {
			c.ID, c.Name = "size", "size"
		}
	}
	q := &plan.Plan{
		Gear: p.Gear, Sounds: p.Sounds, Songs: p.Songs, SetLists: p.SetLists,
		Rigs: []plan.Rig{{ID: "long", Name: "Rig", Path: []plan.Node{{Stop: "echo/fx"}}}},
	}
	hall := meanings(t, q, Grid{})
	assert.Equal(t, []string{""}, hall.Columns)
	require.Len(t, hall.Meanings, 3)
	assert.Greater(t, hall.Meanings[0].Values["echo/fx/size"].Float(), hall.Meanings[2].Values["echo/fx/size"].Float())
	assert.True(t, hall.Schools[0].Fits, "a reverb follows no tempo")
}

// Whatever is asked, a meaning has a preset of its own, and the rig that comes of it is sound.
func TestAGridIsAlwaysSound(t *testing.T) {
	notes := []string{"1/16", "1/8", "1/8.", "1/8t", "1/4"}
	rapid.Check(t, func(t *rapid.T) {
		p := demo.Plan()
		many(t, p, 15, rapid.Bool().Draw(t, "tap"))
		n := rapid.IntRange(1, 5).Draw(t, "notes")
		r := rapid.IntRange(1, 20)
		m := meanings(
			t, p,
			Grid{
				Notes:   rapid.Permutation(notes).Draw(t, "which")[:n],
				Repeats: []int{r.Draw(t, "long"), r.Draw(t, "medium"), r.Draw(t, "short")},
			},
		)
		taken := map[string]bool{}
		for _, x := range m.Meanings {
			require.False(t, taken[x.Preset])
			taken[x.Preset] = true
		}
		require.Len(t, m.Meanings, 3*n)
		p.Put(m.Rig)
		require.Empty(t, p.Validate())
	})
}
