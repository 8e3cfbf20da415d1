package guitars_test

import (
	"context"
	"maps"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/catalog"
	"envex/core/guitars"
	"envex/core/plan"
	"envex/core/signal"
	"envex/golden"
)

var kept = signal.NewKept()

// pair is a rig with a guitar and the same with pickups that give so many times as much, and a boost, a drive and an amp.
func pair(t require.TestingT, times float64, first ...string) *plan.Plan {
	p := &plan.Plan{}
	put := func(id plan.ID, kind string) *plan.Gear {
		k, ok := catalog.Find(kind)
		require.True(t, ok, kind)
		p.Put(k.In(p, id, string(id)))
		g, _ := p.FindGear(id)
		return g
	}
	put("usual", "three-single-coil")
	other := put("other", "three-single-coil")
	for i := range other.Pickups {
		x := 100 * times
		if now := other.Pickups[i].OutputMVRMS; now != nil {
			x = *now * times
		}
		other.Pickups[i].OutputMVRMS = &x
	}
	for _, s := range []struct {
		id   string
		role plan.Role
	}{{"home", plan.HomeRole}, {"crunch", plan.RhythmRole}} {
		p.Put(plan.Sound{ID: plan.ID(s.id), Name: s.id, Short: s.id[:2], Tape: "bone", Role: s.role})
	}
	var path []plan.Node
	for _, kind := range append(first, "mid-hump-overdrive", "combo-plain") {
		g := put(plan.ID(kind), kind)
		for _, b := range g.Blocks {
			path = append(path, plan.Node{Stop: plan.BlockKey(g.ID, b.ID)})
		}
	}
	drive, _ := p.FindGear("mid-hump-overdrive")
	p.Put(plan.Rig{
		ID: "rig", Name: "Rig", Guitars: []plan.ID{"usual", "other"}, Path: path,
		Recipes: []plan.Recipe{
			{ID: "r1", Sound: "home"},
			{
				ID:     "r2",
				Sound:  "crunch",
				Values: map[plan.Key]plan.Value{plan.OnKey(drive.ID, drive.Blocks[0].ID): plan.On(true)},
			},
		},
	})
	require.Empty(t, p.Validate())
	return p
}

// A boost gives 2 dB for each step of its level: half the output is 6.02 dB, which is 3.0 on it. It also loads the guitar
// where the drive did, which costs home, the amp alone, another 1.4 LU, and the drive none: between 3.0 and 3.9 they meet.
func TestAWeakerGuitarIsLevelledByTheBoostThatMakesUpForIt(t *testing.T) {
	p := pair(t, 0.5, "boost")
	got, err := guitars.Level(
		context.Background(), p, "rig", guitars.Options{Kept: kept, Progress: golden.Progress(t, 1)},
	)
	require.NoError(t, err)
	assert.Equal(t, plan.ID("usual"), got.Reference)
	require.Len(t, got.Guitars, 1)
	g := got.Guitars[0]
	assert.InDelta(t, -6.02, g.Input, 0.05)
	require.NotEmpty(t, g.Ways)
	way := g.Ways[0]
	boost, _ := p.FindGear("boost")
	level := way.Values[plan.BlockKey("boost", boost.Blocks[0].ID)+"/level"]
	assert.InDelta(t, 3.6, level.Float(), 0.6, way.Words)
	assert.True(t, way.Values[plan.OnKey("boost", boost.Blocks[0].ID)].IsOn(), "it is off else")
	assert.Less(t, way.Off, 0.5)
	assert.Greater(t, g.Off, 2.0)
	for _, s := range way.Sounds {
		assert.InDelta(t, 0, s.Loudness, 0.8, s.Name)
		assert.InDelta(t, s.Reference, s.Dirt, 2.5, s.Name)
	}
	// No place that is heard apart from it is nearer, rendered in full.
	for _, at := range []float64{-0.6, 0.6} {
		aside := way.Rig
		aside.PerGuitar = map[plan.ID]map[plan.Key]plan.Value{"other": maps.Clone(way.Values)}
		aside.PerGuitar["other"][plan.BlockKey("boost", boost.Blocks[0].ID)+"/level"] = plan.Number(level.Float() + at)
		q := *p
		q.Put(aside)
		near, err := guitars.Level(context.Background(), &q, "rig", guitars.Options{Kept: kept})
		require.NoError(t, err)
		assert.Greater(t, near.Guitars[0].Off, way.Off-0.02)
	}
	// It holds for that guitar alone, and what is said of it the meter says of the rig.
	p.Put(way.Rig)
	require.Empty(t, p.Validate())
	again, err := guitars.Level(context.Background(), p, "rig", guitars.Options{Kept: kept})
	require.NoError(t, err)
	assert.InDelta(t, way.Off, again.Guitars[0].Off, 0.01)
	assert.Empty(t, again.Guitars[0].Ways)
	assert.Equal(t, "It is level already.", again.Guitars[0].Words)
}

func TestAStrongerGuitarIsTurnedDown(t *testing.T) {
	p := pair(t, 2, "boost")
	got, err := guitars.Level(context.Background(), p, "rig", guitars.Options{Kept: kept})
	require.NoError(t, err)
	g := got.Guitars[0]
	assert.InDelta(t, 6.02, g.Input, 0.05)
	require.NotEmpty(t, g.Ways)
	assert.Contains(t, g.Ways[0].Values, plan.Key("other/volume"))
	assert.Less(t, g.Ways[0].Off, g.Off/2)

	// Seen from the stronger one, the usual guitar is the weaker.
	got, err = guitars.Level(context.Background(), p, "rig", guitars.Options{Reference: "other", Kept: kept})
	require.NoError(t, err)
	assert.Equal(t, plan.ID("usual"), got.Guitars[0].Guitar)
	assert.InDelta(t, -6.02, got.Guitars[0].Input, 0.05)
}

// Where every recipe has the guitar's volume in the same place, that place becomes the setting of the guitar; where one
// has it elsewhere, the volume is what tells sounds apart and stays.
func TestTheVolumeThatAllRecipesShareIsTurned(t *testing.T) {
	p := pair(t, 2, "boost")
	r, _ := p.FindRig("rig")
	for i := range r.Recipes {
		values := map[plan.Key]plan.Value{"other/volume": plan.Number(9), "usual/volume": plan.Number(10)}
		maps.Copy(values, r.Recipes[i].Values)
		r.Recipes[i].Values = values
	}
	got, err := guitars.Level(context.Background(), p, "rig", guitars.Options{Kept: kept})
	require.NoError(t, err)
	require.NotEmpty(t, got.Guitars[0].Ways)
	way := got.Guitars[0].Ways[0]
	require.Contains(t, way.Values, plan.Key("other/volume"))
	assert.Less(t, way.Off, got.Guitars[0].Off)
	for _, rec := range way.Rig.Recipes {
		assert.NotContains(t, rec.Values, plan.Key("other/volume"))
		assert.Equal(t, plan.Number(10), rec.Values["usual/volume"])
	}
	assert.Contains(t, r.Recipes[0].Values, plan.Key("other/volume"), "the plan itself stays as it is")
	assert.Equal(t, plan.Number(9), way.Rig.Base["other/volume"], "without the setting it stands where it stood")
	assert.NotContains(t, r.Base, plan.Key("other/volume"))
	assert.Equal(t, way.Rig, got.Levelled(*r), "one guitar, one way")
	q := *p
	q.Put(way.Rig)
	require.Empty(t, q.Validate())
	again, err := guitars.Level(context.Background(), &q, "rig", guitars.Options{Kept: kept})
	require.NoError(t, err)
	assert.InDelta(t, way.Off, again.Guitars[0].Off, 0.01)

	left := func() {
		got, err := guitars.Level(context.Background(), p, "rig", guitars.Options{Kept: kept})
		require.NoError(t, err)
		for _, way := range got.Guitars[0].Ways {
			assert.NotContains(t, way.Values, plan.Key("other/volume"))
			assert.Contains(t, way.Rig.Recipes[len(way.Rig.Recipes)-1].Values, plan.Key("other/volume"))
		}
	}
	r.Recipes = append(r.Recipes, plan.Recipe{
		ID: "r3", Sound: "crunch", Name: "soft", Values: map[plan.Key]plan.Value{"other/volume": plan.Number(7)},
	})
	left() // a recipe of a section of its own has it elsewhere
	r.Recipes[2].Values["other/volume"] = plan.Free()
	left() // the player turns it
}

func TestWithNothingInFrontItIsSaidWhatWouldLiftIt(t *testing.T) {
	p := pair(t, 0.5)
	got, err := guitars.Level(context.Background(), p, "rig", guitars.Options{Kept: kept})
	require.NoError(t, err)
	assert.Empty(t, got.Guitars[0].Ways)
	assert.Equal(
		t,
		"Nothing ahead of the first stage that clips lifts it: a boost first in the chain would, by 6.0 dB.",
		got.Guitars[0].Words,
	)
}

func TestWhatARecipeNamesGoesBeforeTheGuitar(t *testing.T) {
	p := pair(t, 0.5, "boost")
	boost, _ := p.FindGear("boost")
	level := plan.BlockKey("boost", boost.Blocks[0].ID) + "/level"
	r, _ := p.FindRig("rig")
	r.Guitars = []plan.ID{"usual", "other"}
	r.PerGuitar = map[plan.ID]map[plan.Key]plan.Value{"other": {level: plan.Number(7)}}
	r.Recipes[1].Values[level] = plan.Number(2)
	rec := r.Recipes[0]
	rec.Guitar = "other"
	home, _ := p.FindSound("home")
	assert.Equal(t, plan.Number(7), p.SetFor(r, &rec, home, plan.Tempo{BPM: 100}).At(level))
	rec.Guitar = "usual"
	assert.NotEqual(t, plan.Number(7), p.SetFor(r, &rec, home, plan.Tempo{BPM: 100}).At(level))
	rec = r.Recipes[1]
	rec.Guitar = "other"
	crunch, _ := p.FindSound("crunch")
	assert.Equal(t, plan.Number(2), p.SetFor(r, &rec, crunch, plan.Tempo{BPM: 100}).At(level))
}

func TestWhatCannotBeLevelled(t *testing.T) {
	p := pair(t, 0.5)
	level := func(rig plan.ID, o guitars.Options) error {
		o.Kept = kept
		_, err := guitars.Level(context.Background(), p, rig, o)
		return err
	}
	require.Error(t, level("nope", guitars.Options{}))
	require.ErrorContains(t, level("rig", guitars.Options{Reference: "nope"}), `no guitar "nope"`)
	r, _ := p.FindRig("rig")
	all := *r
	r.Recipes = nil
	require.ErrorContains(t, level("rig", guitars.Options{}), "no recipes")
	*r = all
	r.Guitars = r.Guitars[:1]
	require.ErrorContains(t, level("rig", guitars.Options{}), "nothing to level")
	*r = all
	ctx, stop := context.WithCancel(context.Background())
	stop()
	_, err := guitars.Level(ctx, p, "rig", guitars.Options{})
	require.ErrorIs(t, err, context.Canceled)
}
