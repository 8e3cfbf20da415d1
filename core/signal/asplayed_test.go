package signal_test

import (
	"context"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/catalog"
	"envex/core/plan"
	"envex/core/signal"
	"envex/golden"
)

// otherwise is the demo on which one song is played with a fuzz in the place of Amber, and one section by a recipe of
// its own, which is softer.
func otherwise(t *testing.T) (p *plan.Plan, song *plan.Song, own plan.ID) {
	t.Helper()
	p = night(t)
	kind, ok := catalog.Find("fuzz")
	require.True(t, ok)
	p.Put(kind.In(p, "reed", "Reed"))
	r, _ := p.FindRig("long")
	song, _ = p.FindSong("ferry-lights")
	r.Swaps = append(r.Swaps, plan.Swap{ID: "slot", Name: "Amber or Reed", Boxes: []plan.SwapBox{
		{Gear: "amber"}, {Gear: "reed", Songs: []plan.ID{song.ID}},
	}})
	crunch := r.RecipeFor(plan.Section{Sound: "crunch"})
	soft := *crunch
	soft.ID, soft.Name, soft.Values = "soft", "soft", map[plan.Key]plan.Value{}
	for k, v := range crunch.Values {
		soft.Values[k] = v
	}
	soft.Values["amber/fx/level"] = plan.Number(1)
	r.Recipes = append(r.Recipes, soft)
	require.Empty(t, p.Validate())
	return p, song, soft.ID
}

// Every section stands on the ladder as it is played: by its own recipe, and with the box that its song picks.
func TestTheLadderHasSectionsAsTheyArePlayed(t *testing.T) {
	p, song, own := otherwise(t)
	other, _ := p.FindSong("nine-gulls")
	at := slices.IndexFunc(other.Sections, func(s plan.Section) bool { return s.Sound == "crunch" })
	require.GreaterOrEqual(t, at, 0)
	other.Sections[at].Recipe = own
	level := func(p *plan.Plan) *signal.Ladder {
		l, err := signal.Level(
			context.Background(), p, "long", "quay-set", signal.Options{Kept: kept, Progress: golden.Progress(t, 1)},
		)
		require.NoError(t, err)
		return l
	}
	l := level(p)
	find := func(l *signal.Ladder, sound plan.ID, way string) signal.Rung {
		i := slices.IndexFunc(l.Rungs, func(x signal.Rung) bool { return x.Sound == sound && x.Way == way })
		require.GreaterOrEqual(t, i, 0, "%s %s", sound, way)
		return l.Rungs[i]
	}
	crunch, soft, reed := find(l, "crunch", ""), find(l, "crunch", "soft"), find(l, "crunch", "with Reed")
	assert.True(t, crunch.First)
	assert.False(t, soft.First || reed.First)
	assert.Less(t, soft.OverHome, crunch.OverHome-3)
	assert.Equal(t, "Crunch (soft)", soft.Title())
	assert.Equal(t, own, soft.Recipe)

	// As the rig would be with the box in the chain.
	there, err := p.WithPicks("long", []plan.Pick{{Swap: "slot", Gear: "reed"}})
	require.NoError(t, err)
	for i := range there.Rigs {
		there.Rigs[i].Swaps = nil
	}
	assert.InDelta(t, find(level(there), "crunch", "").OverHome, reed.OverHome, 1e-9)

	// What the fuzz is too dirty for is said; of the first recipes the map says it.
	sound, _ := p.FindSound("crunch")
	_, high, _ := signal.DirtBand(sound.Targets)
	require.Greater(t, reed.Dirt, high)
	assert.InDelta(t, reed.Dirt-high, reed.DirtBy, 1e-9)
	dirty := slices.DeleteFunc(slices.Clone(l.Findings), func(f signal.Finding) bool {
		return f.Title != "Crunch (with Reed) is dirtier than it asks"
	})
	require.Len(t, dirty, 1)
	assert.Contains(t, dirty[0].Words, "over")
	full, err := signal.Measure(
		context.Background(), p, "long", signal.Options{Only: []plan.ID{"crunch"}, Want: signal.ForTargets, Kept: kept},
	)
	require.NoError(t, err)
	assert.InDelta(t, full.Sounds[0].Figures.Dirt, crunch.Dirt, 1e-9)
	assert.InDelta(t, full.Sounds[0].OverHome, crunch.OverHome, 1e-9)

	// Each section has one rung, and its own.
	position, seen := 0, l.ByPosition()
	set, _ := p.FindSetList("quay-set")
	for _, e := range set.Entries {
		s, _ := p.FindSong(e.Song)
		for _, sec := range s.Sections {
			rung, on := seen[position]
			require.True(t, on, position)
			assert.Equal(t, sec.Sound, rung.Sound)
			assert.Equal(t, s.ID == song.ID, rung.Way == "with Reed", "%s %s", s.Title, sec.Label)
			assert.Equal(t, sec.Recipe == own, rung.Recipe == own)
			position++
		}
	}
	count := 0
	for _, x := range l.Rungs {
		count += len(x.Positions)
	}
	assert.Equal(t, position, count)

	// What is not at its level says which it is, and knobs are offered for the rig as it stands alone.
	for _, f := range l.Findings {
		if f.Title == "Crunch (soft) is not at its level" {
			assert.False(t, f.Tunes)
			assert.Equal(t, plan.ID("crunch"), f.Sound)
			assert.NotEqual(t, "level:target:crunch", f.ID)
			return
		}
	}
	assert.Fail(t, "the soft one is a finding")
}

// The figures and the map of a song are of the box that it picks and of the recipe that it names, as its rungs are.
func TestFiguresAreThoseOfTheSongThatIsPlayed(t *testing.T) {
	p, song, own := otherwise(t)
	other, _ := p.FindSong("nine-gulls")
	at := slices.IndexFunc(other.Sections, func(s plan.Section) bool { return s.Sound == "crunch" })
	other.Sections[at].Recipe = own
	l, err := signal.Level(context.Background(), p, "long", "quay-set", signal.Options{Kept: kept})
	require.NoError(t, err)
	for _, x := range []struct {
		song plan.ID
		way  string
		box  plan.Key
	}{{song.ID, "with Reed", "reed/fx"}, {other.ID, "soft", ""}} {
		there, err := p.PlayedIn("long", x.song)
		require.NoError(t, err)
		full, err := signal.Measure(
			context.Background(), there, "long", signal.Options{Only: []plan.ID{"crunch"}, Want: signal.ForTargets, Kept: kept},
		)
		require.NoError(t, err)
		i := slices.IndexFunc(l.Rungs, func(r signal.Rung) bool { return r.Sound == "crunch" && r.Way == x.way })
		require.GreaterOrEqual(t, i, 0, x.way)
		assert.InDelta(t, l.Rungs[i].Dirt, full.Sounds[0].Figures.Dirt, 1e-9, x.way)
		assert.Equal(t, l.Rungs[i].Recipe, full.Sounds[0].Recipe)
		if x.box != "" {
			assertMapped(t, there, x.box, full.Sounds[0].Figures.Dirt)
		}
	}
}

// assertMapped finds the sound on the gain map of a rig as it is played, as dirty as it is, with a box in its letters.
func assertMapped(t *testing.T, there *plan.Plan, box plan.Key, dirt float64) {
	t.Helper()
	m, err := signal.MapGain(context.Background(), there, "long", signal.Options{Kept: kept})
	require.NoError(t, err)
	var blocks []plan.Key
	for _, letter := range m.Letters {
		blocks = append(blocks, letter.Block)
	}
	assert.Contains(t, blocks, box)
	i := slices.IndexFunc(m.Points, func(g signal.Point) bool { return slices.Contains(g.Sounds, "crunch") })
	require.GreaterOrEqual(t, i, 0)
	assert.InDelta(t, dirt, m.Points[i].Dirt, 1e-9)
}
