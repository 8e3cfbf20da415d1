package switching_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/catalog"
	"envex/core/plan"
	"envex/core/reach"
	"envex/core/switching"
)

// loose is a switcher with some boxes in its loops and a night whose recipes leave settings free.
func loose(t *rapid.T) *plan.Plan {
	p := &plan.Plan{}
	own := func(kind string, id plan.ID) {
		k, _ := catalog.Find(kind)
		p.Gear = append(p.Gear, k.New(id, string(id)))
	}
	own("loop-switcher", "wheel")
	r := plan.Rig{ID: "rig", Name: "rig", Floor: plan.Floor{Places: map[plan.ID]plan.Placement{"wheel": {}}}}
	boxes := rapid.IntRange(1, 3).Draw(t, "boxes")
	for i := range boxes {
		id := plan.ID(fmt.Sprintf("box%d", i+1))
		own("boost", id)
		r.Path = append(r.Path, plan.Node{Stop: plan.BlockKey(id, "fx"), Switcher: "wheel", Loop: i + 1})
	}
	sounds := rapid.IntRange(2, 5).Draw(t, "sounds")
	for i := range sounds {
		id := plan.ID(fmt.Sprintf("s%d", i))
		p.Sounds = append(
			p.Sounds, plan.Sound{ID: id, Name: string(id), Short: fmt.Sprint(i), Role: plan.RhythmRole, Tape: "bone"},
		)
		values := map[plan.Key]plan.Value{}
		for b := range boxes {
			values[plan.Key(fmt.Sprintf("box%d/fx/on", b+1))] = rapid.SampledFrom(
				[]plan.Value{plan.On(true), plan.On(false), plan.Free()},
			).Draw(t, "on")
		}
		r.Recipes = append(r.Recipes, plan.Recipe{ID: "r" + id, Sound: id, Values: values})
	}
	eight := 8.0
	song := plan.Song{ID: "song", Title: "song", Tempo: plan.Tempo{BPM: 60}, Meter: plan.Meter{Beats: 4, Unit: 4}}
	for i, n := range rapid.SliceOfN(rapid.IntRange(0, sounds-1), 2, 7).Draw(t, "night") {
		song.Sections = append(
			song.Sections,
			plan.Section{ID: plan.ID(fmt.Sprintf("c%d", i)), Label: fmt.Sprint(i), Sound: p.Sounds[n].ID, Bars: &eight},
		)
	}
	p.Songs, p.Rigs = []plan.Song{song}, []plan.Rig{r}
	p.SetLists = []plan.SetList{{ID: "set", Name: "set", Entries: []plan.SetEntry{{ID: "e", Song: "song"}}}}
	return p
}

// A claim of proof holds against every set of programs: no other has the feet press less.
func TestNoProgramsTakeFewerPressesThanIsProven(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := loose(t)
		require.Empty(t, p.Validate())
		s, err := switching.Solve(t.Context(), p, "rig", "set", switching.Options{School: switching.Page})
		require.NoError(t, err)
		all := s.Reach.Presses + s.Reach.Leisure
		require.Zero(t, s.Reach.Failed(), "each program is a press away")
		assert.Equal(t, s.Cost == s.LowerBound, s.Proven, "what meets its bound is proven")
		assert.LessOrEqual(t, s.Cost, all, "the headline counts no more than the feet press")

		// Any programs at all, four slots of them.
		other := p.Rigs[0]
		other.Programs = plan.ProgramMap{"wheel": {"1": {}}}
		for slot := range 4 {
			values := map[plan.Key]plan.Value{}
			for b := range len(p.Gear) - 1 {
				if x := rapid.SampledFrom(
					[]plan.Value{plan.On(true), plan.On(false), plan.Unchanged()},
				).Draw(t, "stored"); x.Kind() != plan.UnchangedValue {
					values[plan.Key(fmt.Sprintf("box%d/fx/on", b+1))] = x
				}
			}
			other.Programs["wheel"]["1"][fmt.Sprint(slot+1)] = plan.Program{Values: values}
		}
		q := *p
		q.Put(other)
		report, err := reach.Compute(&q, "rig", "set")
		require.NoError(t, err)
		o := switching.OutcomeOf(report)
		if o.Failed() == 0 {
			assert.GreaterOrEqual(t, o.Presses+o.Leisure, s.LowerBound, "%v", other.Programs)
		}
	})
}

func TestTheHeadlineCountsWhatTheFeetPress(t *testing.T) {
	p := night(t)
	s := solve(t, p, switching.Page)
	assert.Equal(t, s.Reach.Presses+s.Reach.Leisure, s.Cost, "at the changes and at leisure")
}

func TestBankSwitchesAreThoseOfTheController(t *testing.T) {
	p := night(t)
	wheel, _ := p.FindGear("turntable")
	for i := range wheel.Footswitches {
		if a := wheel.Footswitches[i].Press.Actions; a[0].Kind == plan.Bank {
			a[0].Wrap = false
		}
	}
	require.Empty(t, p.Validate())
	s := solve(t, p, switching.Page)
	assert.False(t, s.Proven, "what cannot be stepped back to is no proof")
	assert.Positive(t, s.Reach.Impossible)
	assert.Contains(t, fmt.Sprint(s.Notes), "no bank switch of Turntable gets to")

	for i := range wheel.Footswitches {
		if a := wheel.Footswitches[i].Press.Actions; a[0].Kind == plan.Bank {
			a[0].Wrap = true
		}
	}
	wheel.SkipsEmpty = false // sixteen banks, all of which are stepped through
	s = solve(t, p, switching.Page)
	assert.Less(t, s.Reach.Reached, s.Reach.Total, "fifteen presses do not fit into a beat")
}

func TestSongsShareBanksWhereThereAreTooFew(t *testing.T) {
	p := night(t)
	wheel, _ := p.FindGear("turntable")
	wheel.Banks = 2
	s, err := switching.Solve(t.Context(), p, "switched", "quay-set", switching.Options{School: switching.Song})
	require.NoError(t, err, "two banks hold what every song needs")
	assert.False(t, s.Proven)
	assert.Contains(t, fmt.Sprint(s.Notes), "songs share")
}
