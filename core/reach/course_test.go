package reach

import (
	"context"
	"maps"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// What is left of a set, followed from where the rig stands, costs what it costs in the whole set: no change that was
// made is lost on the way, and none is gained that the beginning could have prepared.
func TestASetFollowedFromItsMiddleIsItsRest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := randomPlan(t)
		rig, set := p.Rigs[0].ID, p.SetLists[0].ID
		whole, err := Follow(p, rig, set, Start{})
		require.NoError(t, err)
		if len(whole.Report.Sections) == 0 || !whole.Report.Exact {
			return
		}
		at := rapid.IntRange(0, len(whole.Report.Sections)-1).Draw(t, "at")
		here := whole.Report.Sections[at]
		q := *p
		l := p.SetLists[0]
		for k, e := range l.Entries {
			if e.ID == here.Entry {
				l.Entries = l.Entries[k:]
				break
			}
		}
		q.SetLists = []plan.SetList{l}
		rest, err := Follow(&q, rig, set, Start{Section: here.SectionID, Stands: whole.Stands(at)})
		require.NoError(t, err)
		require.Len(t, rest.Report.Sections, len(whole.Report.Sections)-at)
		require.Len(t, rest.Report.Changes, len(whole.Report.Changes)-at)
		assert.Nil(t, rest.Report.First, "the rig stands as the section asks")
		fails, presses := 0, 0
		for _, c := range whole.Report.Changes[at:] {
			if c.Fails {
				fails++
			}
			presses += len(c.Presses)
		}
		left := 0
		for _, c := range rest.Report.Changes {
			if c.Fails {
				fails--
			}
			left += len(c.Presses)
		}
		if rest.Report.Exact {
			assert.GreaterOrEqual(t, fails, 0, "nothing fails that could be made")
			if fails == 0 {
				assert.LessOrEqual(t, left, presses)
			}
		}
		for i, s := range rest.Report.Sections {
			assert.Equal(t, i, s.Position)
			assert.Equal(t, whole.Report.Sections[at+i].SectionID, s.SectionID)
		}
		assert.Equal(t, whole.Report.Sections[at].Entry, rest.Report.Songs[0].Entry)
		_ = rest.Stands(len(rest.Report.Sections) - 1)
		assert.Nil(t, rest.Stands(len(rest.Report.Sections)))
	})
}

// The rig stands after its presses, done from where it stood, where the next section asks.
func TestFollowingBeginsWhereTheRigStands(t *testing.T) {
	s := newStage()
	course, err := Follow(&s.plan, "rig", "set", Start{Stands: map[plan.Key]plan.Value{"one/b/on": plan.On(true)}})
	require.NoError(t, err)
	set, err := Follow(&s.plan, "rig", "set", Start{})
	require.NoError(t, err)
	if set.Stands(0)["one/b/on"] == plan.On(true) {
		t.Fatal("the stage begins with the first box on: the test shows nothing")
	}
	require.NotNil(t, course.Report.First, "the first box has to go off")
	assert.NotEmpty(t, course.Report.First.Presses)
	assert.Equal(t, plan.On(false), course.Stands(0)["one/b/on"])
}

func TestASectionThatIsNotThereCannotBeFollowedFrom(t *testing.T) {
	s := newStage()
	_, err := Follow(&s.plan, "rig", "set", Start{Section: "nope"})
	require.ErrorContains(t, err, `has no section "nope"`)
	_, err = Follow(&s.plan, "nope", "set", Start{})
	require.Error(t, err)
}

func TestASongThatIsCutShortEndsWithItsSection(t *testing.T) {
	s := newStage()
	whole, err := Follow(&s.plan, "rig", "set", Start{})
	require.NoError(t, err)
	first := whole.Report.Sections[0]
	short, err := Follow(&s.plan, "rig", "set", Start{Section: first.SectionID, Stands: whole.Stands(0), Alone: true})
	require.NoError(t, err)
	songs := 0
	for _, x := range whole.Report.Sections {
		if x.Entry == first.Entry {
			songs++
		}
	}
	require.Greater(t, songs, 1)
	assert.Len(t, short.Report.Sections, len(whole.Report.Sections)-songs+1)
}

// A song that is called is reached as ComputeAnyOrder counts it, and its presses, done by the devices, bring what its
// first section asks.
func TestCallsAgreeWithSongsInAnyOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := randomPlan(t)
		p.SetLists[0].GapS = ptr(rapid.SampledFrom([]float64{0.2, 1, 3}).Draw(t, "gap"))
		rig, set := p.Rigs[0].ID, p.SetLists[0].ID
		course, err := Follow(p, rig, set, Start{})
		require.NoError(t, err)
		calls, err := course.Calls(context.Background(), p, set)
		require.NoError(t, err)
		require.Len(t, calls.Rows, len(course.Report.Sections))
		want, err := ComputeAnyOrder(context.Background(), p, rig, set, nil)
		require.NoError(t, err)
		last := map[plan.ID]int{} // by song: where it is over for the first time
		for i, x := range course.Report.Sections {
			if _, over := last[x.SongID]; !over &&
				(i+1 == len(course.Report.Sections) || course.Report.Sections[i+1].Entry != x.Entry) {
				last[x.SongID] = i
			}
		}
		got := AnyOrder{}
		for song, end := range last {
			for _, to := range calls.Songs {
				if to.Song == song || to.Column < 0 || calls.Rows[end] < 0 {
					continue
				}
				got.Total++
				way := calls.Ways[calls.Rows[end]][to.Column]
				if way.Verdict.Reached() {
					got.Reached++
				}
				obey(t, p, course.Stands(end), to.Song, way)
			}
		}
		assert.Equal(t, want, got)
	})
}

// obey does what a call says on the devices: then they stand as the song that is called asks.
func obey(t *rapid.T, p *plan.Plan, stands map[plan.Key]plan.Value, to plan.ID, way Call) {
	if !way.Verdict.Reached() {
		return
	}
	who := &player{t: t, plan: p, rig: &p.Rigs[0], state: maps.Clone(stands)}
	for _, h := range way.Hands {
		who.state[h.Variable] = h.To
	}
	q := *p
	q.SetLists = []plan.SetList{{ID: "called", Name: "called", Entries: []plan.SetEntry{{ID: "in", Song: to}}}}
	song, err := Follow(&q, p.Rigs[0].ID, "called", Start{})
	require.NoError(t, err)
	for _, press := range way.Presses { // each tap of a tempo is one of them
		who.press(press.Switch, press.Gesture, song.Stands(0))
	}
	there, err := Follow(&q, p.Rigs[0].ID, "called", Start{Stands: who.state})
	require.NoError(t, err)
	require.Nil(t, there.Report.First, "nothing more has to be done")
}

func TestCallsEndWhenTheyAreCancelled(t *testing.T) {
	p := bigPlan(3)
	course, err := Follow(p, "rig", "set", Start{})
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	_, err = course.Calls(ctx, p, "set")
	require.ErrorIs(t, err, context.Canceled)
}

func BenchmarkCalls(b *testing.B) {
	p := bigPlan(40)
	course, err := Follow(p, "rig", "set", Start{})
	require.NoError(b, err)
	for b.Loop() {
		_, err := course.Calls(b.Context(), p, "set")
		require.NoError(b, err)
	}
}
