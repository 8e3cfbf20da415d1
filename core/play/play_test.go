package play

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/core/reach"
	"envex/demo"
)

func ptr[T any](v T) *T { return &v }

func songOf(t require.TestingT, p *plan.Plan, rig plan.ID, title string) Song {
	s, err := Read(p, rig, "", "quay-set")
	require.NoError(t, err)
	for _, x := range s.Songs {
		if x.Title == title {
			return x
		}
	}
	require.Fail(t, "no song", title)
	return Song{}
}

// planned are the presses of a song as they are planned.
func planned(s Song) []Press {
	var list []Press
	for _, x := range s.Sections {
		for _, p := range slices.Concat(x.Presses, x.Ready) {
			list = append(list, Press{AtS: p.AtS, Switch: p.Switch, Gesture: p.Gesture})
		}
	}
	return list
}

func judge(t require.TestingT, p *plan.Plan, rig plan.ID, s Song, presses []Press, until float64) *Result {
	r, err := Judge(p, rig, "", "quay-set", Take{Entry: s.Entry, Presses: presses, UntilS: until})
	require.NoError(t, err)
	return r
}

// What the script of a rig says is pressed, at the times it says, makes every change that can be made: on
// every rig, with presets, hands and what is made ready early.
func TestWhatIsPlannedIsMade(t *testing.T) {
	p := demo.Plan()
	changes, ready := 0, 0
	for _, rig := range p.Rigs {
		s, err := Read(p, rig.ID, "", "quay-set")
		require.NoError(t, err)
		for _, song := range s.Songs {
			r := judge(t, p, rig.ID, song, planned(song), song.LengthS)
			verdicts := map[int]reach.Verdict{}
			for _, x := range song.Sections {
				verdicts[x.Position] = x.Verdict
				ready += len(x.Ready)
				for _, press := range x.Ready {
					assert.Greater(t, press.AtS, x.UntilS, "there is time for it")
					assert.Less(t, press.AtS, x.AtS+x.LengthS)
				}
			}
			for _, x := range r.Scores {
				changes++
				if x.Outcome == Late {
					assert.Equal(t, reach.Late, verdicts[x.Position], "%s, %s, %s", rig.Name, song.Title, x.Label)
					continue
				}
				assert.Equal(t, Made, x.Outcome, "%s, %s, %s: %v", rig.Name, song.Title, x.Label, x.Pending)
				assert.Zero(t, x.Wrong)
			}
		}
	}
	assert.Greater(t, changes, 200)
	assert.Positive(t, ready)
}

// Where hands are judged, a change that a hand is late for is late, and one that nobody turned is missed; a
// take that says when they moved makes what the plan makes.
func TestHandsAreJudgedAsFeetAre(t *testing.T) {
	p := demo.Plan()
	judged := 0
	for _, rig := range p.Rigs {
		s, err := Read(p, rig.ID, "", "quay-set")
		require.NoError(t, err)
		for _, song := range s.Songs {
			take := Take{Entry: song.Entry, Presses: planned(song), UntilS: song.LengthS, Hands: true}
			var lazy, late []Press
			lazy = append(lazy, take.Presses...)
			late = append(late, take.Presses...)
			byHand := map[int]bool{}
			for _, x := range song.Sections {
				for _, h := range x.ByHand {
					at := math.Min(x.AtS, x.UntilS)
					take.Presses = append(take.Presses, Press{AtS: at, Hand: h.Variable})
					late = append(late, Press{AtS: x.UntilS + 0.25, Hand: h.Variable})
					byHand[x.Position] = true
					assert.NotEmpty(t, h.Label)
				}
			}
			if len(byHand) == 0 {
				continue
			}
			of := func(presses []Press, hands bool) []Score {
				take.Presses, take.Hands = presses, hands
				r, err := Judge(p, rig.ID, "", "quay-set", take)
				require.NoError(t, err)
				return r.Scores
			}
			inTime := take.Presses
			assert.Equal(t, of(lazy, false), of(inTime, true), "%s, %s", rig.Name, song.Title)
			for i, x := range of(late, true) {
				if !byHand[x.Position] || of(inTime, true)[i].Outcome != Made {
					continue
				}
				judged++
				assert.Contains(t, []Outcome{Late, Missed}, x.Outcome)
				if x.Outcome == Late {
					assert.InDelta(t, 0.25, x.ByS, 1e-6)
				}
			}
			first := true
			for _, x := range of(lazy, true) {
				if byHand[x.Position] && first { // a later one may want it where it still stands
					assert.Equal(t, Missed, x.Outcome, "%s, %s, %s", rig.Name, song.Title, x.Label)
					first = false
				}
			}
		}
	}
	assert.Positive(t, judged)
	song := songOf(t, p, "bare", "Ferry Lights")
	r, err := Judge(
		p, "bare", "", "quay-set",
		Take{Entry: song.Entry, UntilS: 5, Hands: true, Presses: []Press{{AtS: 1, Hand: "amber/fx/nope"}}},
	)
	require.NoError(t, err)
	assert.Equal(t, "nothing", r.Events[0].Kind)
}

// A sound that is left a blink too soon is not left too soon.
func TestEarlyHasATolerance(t *testing.T) {
	p := demo.Plan()
	s := songOf(t, p, "bare", "Ferry Lights")
	for _, x := range []struct {
		by   float64
		want Outcome
	}{{0.049, Made}, {0.06, Early}} {
		presses := planned(s)
		presses[0].AtS -= x.by
		r := judge(t, p, "bare", s, presses, s.Sections[3].FromS)
		require.Len(t, r.Scores, 2)
		assert.Equal(t, x.want, r.Scores[1].Outcome)
	}
}

func TestMissedLateEarlyWrongAndRecovered(t *testing.T) {
	p := demo.Plan()
	s := songOf(t, p, "bare", "Ferry Lights")
	i := slices.IndexFunc(s.Sections, func(x Section) bool { return len(x.Presses) == 1 && x.AtS > 5 })
	require.Greater(t, i, 0)
	x := s.Sections[i]
	amber := x.Presses[0].Switch
	scoreAt := func(presses []Press) Score {
		r := judge(t, p, "bare", s, presses, x.AtS+x.LengthS-0.1)
		for _, c := range r.Scores {
			if c.Position == x.Position {
				return c
			}
		}
		t.Fatal("not scored")
		return Score{}
	}
	before := func() (list []Press) {
		for _, b := range s.Sections[:i] {
			for _, q := range b.Presses {
				list = append(list, Press{AtS: q.AtS, Switch: q.Switch})
			}
		}
		return list
	}
	missed := scoreAt(before())
	assert.Equal(t, Missed, missed.Outcome)
	assert.NotEmpty(t, missed.Pending)

	late := scoreAt(append(before(), Press{AtS: x.UntilS + 0.4, Switch: amber}))
	assert.Equal(t, Late, late.Outcome)
	assert.InDelta(t, 0.4, late.ByS, 1e-9)
	assert.False(t, late.Recovered, "nothing wrong was pressed")

	early := scoreAt(append(before(), Press{AtS: x.FromS - 0.7, Switch: amber}))
	assert.Equal(t, Early, early.Outcome)
	assert.InDelta(t, 0.7, early.ByS, 1e-9)

	rust := plan.Key("rust/on")
	recovered := scoreAt(
		append(
			before(), Press{AtS: x.FromS + 0.05, Switch: rust}, Press{AtS: x.FromS + 0.2, Switch: rust},
			Press{AtS: x.FromS + 0.3, Switch: amber},
		),
	)
	assert.Equal(t, Made, recovered.Outcome)
	assert.Equal(t, 1, recovered.Wrong)
	assert.True(t, recovered.Recovered)

	wrong := scoreAt(
		append(before(), Press{AtS: x.FromS + 0.05, Switch: rust}, Press{AtS: x.FromS + 0.3, Switch: amber}),
	)
	assert.Equal(t, Missed, wrong.Outcome, "Rust stays on")
	assert.Equal(t, []string{"Rust"}, wrong.Pending)
}

// programmed is a rig with a switcher whose programs are laid out by hand: one page of two sounds.
func programmed(t *testing.T) *plan.Plan {
	p := demo.Plan()
	r, _ := p.FindRig("switched")
	on := func(key plan.Key) map[plan.Key]plan.Value {
		return map[plan.Key]plan.Value{
			"amber/fx/on": plan.On(
				key == "amber",
			), "echo/fx/on": plan.On(key == "echo"), "echo/fx/preset": plan.Text("B"),
		}
	}
	r.Programs = plan.ProgramMap{
		"turntable": {
			"1": {"1": {Label: "clean", Values: on("")}, "2": {Label: "amber", Values: on("amber")}},
			"2": {"1": {Label: "echo", Values: on("echo")}},
		},
	}
	return p
}

func TestAnyPressesAreJudged(t *testing.T) {
	p := programmed(t)
	songs := map[plan.ID]Song{}
	for _, rig := range []plan.ID{"bare", "long", "switched", "carry"} {
		songs[rig] = songOf(t, p, rig, "Night Dredger")
	}
	rapid.Check(t, func(t *rapid.T) {
		rig := rapid.SampledFrom([]plan.ID{"bare", "long", "switched", "carry"}).Draw(t, "rig")
		s := songs[rig]
		script, err := Read(p, rig, "", "quay-set")
		require.NoError(t, err)
		var presses []Press
		for range rapid.IntRange(0, 30).Draw(t, "presses") {
			sw := rapid.SampledFrom(script.Switches).Draw(t, "switch")
			presses = append(
				presses,
				Press{
					AtS: rapid.Float64Range(-10, s.LengthS+10).Draw(t, "at"), Switch: sw.Key,
					Gesture: rapid.SampledFrom([]string{"press", "hold", "double"}).Draw(t, "gesture"),
				},
			)
		}
		whole := judge(t, p, rig, s, presses, s.LengthS)
		assert.Equal(t, whole.Total, len(whole.Scores))
		made := 0
		for _, x := range whole.Scores {
			if x.Outcome == Made {
				made++
			}
			assert.GreaterOrEqual(t, x.ByS, 0.0)
			assert.Equal(t, x.Outcome == Missed, len(x.Pending) > 0 && x.Outcome != Late, "%+v", x)
		}
		assert.Equal(t, made, whole.Made)
		assert.Equal(t, whole, judge(t, p, rig, s, presses, s.LengthS), "the same again")
	})
}

func BenchmarkJudge(b *testing.B) {
	p := demo.Plan()
	s := songOf(b, p, "long", "Night Dredger")
	presses := planned(s)
	for b.Loop() {
		if _, err := Judge(p, "long", "", "quay-set", Take{Entry: s.Entry, Presses: presses, UntilS: s.LengthS}); err != nil {
			b.Fatal(err)
		}
	}
}
