package plan_test

import (
	"encoding/json"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// Songs that pick alike share a rig, positions count the sections of songs that are there, and nothing is copied where
// nothing is picked.
func TestASetAsPlayedHasTheRigOfEachSong(t *testing.T) {
	p := slotPlan()
	picking, _ := p.FindSong("song")
	plain, twin := *picking, *picking
	plain.ID, twin.ID = "plain", "twin"
	picking.Sections = append(slices.Clone(picking.Sections), picking.Sections[0])
	p.Songs = append(p.Songs, plain, twin)
	p.Rigs[0].Swaps[0].Boxes[1].Songs = []plan.ID{"song", "twin"}
	set, _ := p.FindSetList("set")
	set.Entries = []plan.SetEntry{{Song: "plain"}, {Song: "gone"}, {Song: "song"}, {Song: "twin"}}

	songs, err := p.AsPlayed("rig", "set")
	require.NoError(t, err)
	require.Len(t, songs, 3, "a song that is gone is not played")
	assert.Equal(t, plan.ID("plain"), songs[0].Song.ID)
	assert.Same(t, p, songs[0].On.Plan)
	assert.Empty(t, songs[0].On.Name)
	assert.Empty(t, songs[0].On.Boxes())
	assert.Equal(t, []int{0, 1, 3}, []int{songs[0].Begin, songs[1].Begin, songs[2].Begin})
	assert.Same(t, songs[1].On, songs[2].On)
	assert.NotEmpty(t, songs[1].On.Name)
	trem, _ := p.FindGear("trem")
	assert.Equal(t, []string{trem.Name}, songs[1].On.Boxes())
	assert.Contains(t, songs[1].On.Rig.Stops(), plan.Key("trem/fx"))
	assert.NotContains(t, songs[1].On.Rig.Stops(), plan.Key("chorus/fx"))
	assert.Contains(t, songs[0].On.Rig.Stops(), plan.Key("chorus/fx"))

	_, err = p.AsPlayed("rig", "nope")
	require.Error(t, err)
	_, err = p.AsPlayed("nope", "set")
	require.Error(t, err)
}

// A song's rig has the boxes that it picks, the recipes that it names come first, and sounds have its tempo.
func TestARigAsOneSongIsPlayedOnIt(t *testing.T) {
	p := slotPlan()
	picking, _ := p.FindSong("song")
	plain, named := *picking, *picking
	plain.ID, named.ID, named.Tempo.BPM = "plain", "named", 160
	named.Sections = []plan.Section{
		{ID: "v", Label: "Verse", Sound: "s"}, {ID: "c", Label: "Chorus", Sound: "s", Recipe: "own"},
	}
	p.Songs = []plan.Song{plain, *picking, named}
	p.Rigs[0].Recipes = append(p.Rigs[0].Recipes, plan.Recipe{ID: "other", Sound: "s"}, plan.Recipe{ID: "own", Sound: "s"})
	before, err := json.Marshal(p)
	require.NoError(t, err)
	in := func(song plan.ID) (*plan.Plan, *plan.Rig) {
		there, err := p.PlayedIn("rig", song)
		require.NoError(t, err)
		r, ok := there.FindRig("rig")
		require.True(t, ok)
		return there, r
	}
	recipes := func(r *plan.Rig) (ids []plan.ID) {
		for _, rec := range r.Recipes {
			ids = append(ids, rec.ID)
		}
		return ids
	}

	_, r := in("plain")
	assert.Equal(t, []plan.Key{"drive/fx", "chorus/fx"}, r.Stops())
	assert.Equal(t, []plan.ID{"r", "other", "own"}, recipes(r))

	there, r := in("song")
	assert.Equal(t, []plan.Key{"drive/fx", "trem/fx"}, r.Stops())
	assert.Equal(t, []plan.ID{"r", "other", "own"}, recipes(r))
	assert.Equal(t, 100.0, there.FirstTempo("s").BPM)

	there, r = in("named")
	assert.Equal(t, []plan.Key{"drive/fx", "chorus/fx"}, r.Stops())
	assert.Equal(t, []plan.ID{"own", "r", "other"}, recipes(r))
	assert.Equal(t, 160.0, there.FirstTempo("s").BPM)
	var songs []plan.ID
	for _, s := range there.Songs {
		songs = append(songs, s.ID)
	}
	assert.Equal(t, []plan.ID{"named", "plain", "song"}, songs)

	after, err := json.Marshal(p)
	require.NoError(t, err)
	assert.JSONEq(t, string(before), string(after))
	_, err = p.PlayedIn("nope", "song")
	require.ErrorContains(t, err, "rig")
	_, err = p.PlayedIn("rig", "nope")
	require.ErrorContains(t, err, "song")
	trem, _ := p.FindGear("trem")
	trem.Blocks = nil // it can stand for nothing
	_, err = p.PlayedIn("rig", "song")
	require.Error(t, err)
}

// What is other in songs of a set is said once for those that are played alike; a song that is played as the rig stands
// is not among them.
func TestSongsThatArePlayedOtherwise(t *testing.T) {
	p := slotPlan()
	picking, _ := p.FindSong("song")
	plain, twin, both := *picking, *picking, *picking
	plain.ID, twin.ID, both.ID = "plain", "twin", "both"
	both.Sections = []plan.Section{
		{ID: "v", Sound: "s", Recipe: "own"}, {ID: "c", Sound: "s", Recipe: "own"}, {ID: "b", Sound: "s", Recipe: "third"},
		{ID: "n", Sound: "gone"}, {ID: "f", Sound: "s", Recipe: "r"},
	}
	p.Songs = append(p.Songs, plain, twin, both)
	p.Rigs[0].Recipes = append(
		p.Rigs[0].Recipes, plan.Recipe{ID: "own", Sound: "s", Name: "soft"}, plan.Recipe{ID: "third", Sound: "s"},
	)
	p.Rigs[0].Swaps[0].Boxes[1].Songs = []plan.ID{"song", "twin", "both"}
	set, _ := p.FindSetList("set")
	set.Entries = []plan.SetEntry{{Song: "plain"}, {Song: "both"}, {Song: "twin"}, {Song: "song"}, {Song: "twin"}}
	trem, _ := p.FindGear("trem")

	ways, err := p.PlayedOtherwise("rig", "set")
	require.NoError(t, err)
	played := []plan.Key{"drive/fx", "trem/fx"}
	assert.Equal(t, []plan.Otherwise{
		{Songs: []plan.ID{"both"}, Words: "with " + trem.Name + ", Clean by soft and Clean by another recipe", Stops: played},
		{Songs: []plan.ID{"twin", "song"}, Words: "with " + trem.Name, Stops: played},
	}, ways)

	set.Entries = []plan.SetEntry{{Song: "plain"}}
	ways, err = p.PlayedOtherwise("rig", "set")
	require.NoError(t, err)
	assert.Equal(t, []plan.Otherwise{}, ways)
	_, err = p.PlayedOtherwise("rig", "nope")
	require.Error(t, err)
}

// What is changed while a song is played is a change of the rig as it stands: of its order, its settings, and of what is
// kept with the slot.
func TestARigChangedAsASongIsPlayedIsPutBack(t *testing.T) {
	p := slotPlan()
	song, _ := p.FindSong("song")
	song.Sections[0].Recipe = "own"
	was := &p.Rigs[0]
	was.Recipes = append(was.Recipes, plan.Recipe{ID: "own", Sound: "s", Name: "soft"})
	there, err := p.PlayedIn("rig", "song")
	require.NoError(t, err)
	played, _ := there.FindRig("rig")

	back, err := there.PutBack(*played, was)
	require.NoError(t, err)
	assert.NotNil(t, back.Swaps[0].Boxes[1].Kept, "it stood there")
	same := back
	same.Swaps = was.Swaps
	assert.Equal(t, toJSON(t, was), toJSON(t, same), "nothing else is other")

	moved := *played
	moved.Path = []plan.Node{{Stop: "trem/fx"}, {Stop: "drive/fx"}}
	moved.Base = map[plan.Key]plan.Value{"trem/fx/depth": plan.Number(7), "drive/fx/depth": plan.Number(3)}
	back, err = there.PutBack(moved, was)
	require.NoError(t, err)
	assert.Equal(t, []plan.Key{"chorus/fx", "drive/fx"}, back.Stops())
	assert.Equal(t, []plan.ID{"r", "own"}, []plan.ID{back.Recipes[0].ID, back.Recipes[1].ID})
	assert.Equal(t, 3.0, back.Base["drive/fx/depth"].Float())
	q := *p
	q.Put(back)
	again, err := q.PlayedIn("rig", "song")
	require.NoError(t, err)
	r, _ := again.FindRig("rig")
	assert.Equal(t, 7.0, r.Base["trem/fx/depth"].Float(), "it is kept with the slot")
	assert.Equal(t, []plan.Key{"trem/fx", "drive/fx"}, r.Stops())

	other := *was
	other.Swaps = []plan.Swap{{ID: "another", Boxes: was.Swaps[0].Boxes}}
	_, err = there.PutBack(*played, &other)
	require.ErrorContains(t, err, "another")
}

func toJSON(t *testing.T, x any) string {
	data, err := json.Marshal(x)
	require.NoError(t, err)
	return string(data)
}
