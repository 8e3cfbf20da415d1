package play

import (
	"math"
	"math/rand"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/core/reach"
)

func ptr[T any](v T) *T { return &v }

func demo(t require.TestingT) *plan.Plan {
	data, err := os.ReadFile("../../demo/kelp-street-nine.envex.json")
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	return p
}

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

func TestTheScriptHasEverySectionInItsPlace(t *testing.T) {
	s, err := Read(demo(t), "bare", "", "quay-set")
	require.NoError(t, err)
	require.Len(t, s.Songs, 14)
	n := 0
	for _, song := range s.Songs {
		at := 0.0
		for _, x := range song.Sections {
			assert.Equal(t, n, x.Position)
			assert.InDelta(t, at, x.AtS, 1e-9)
			assert.LessOrEqual(t, x.FromS, x.UntilS)
			at += x.LengthS
			n++
		}
		assert.InDelta(t, at, song.LengthS, 1e-9)
	}
	report, err := reach.Compute(demo(t), "bare", "quay-set")
	require.NoError(t, err)
	for _, song := range s.Songs {
		for _, x := range song.Sections[1:] {
			assert.InDelta(t, report.Changes[x.Position-1].FreeS, x.UntilS-x.FromS, 1e-9, "the time there is, as reach has it")
		}
	}
	waltz := songOf(t, demo(t), "bare", "Lamp Room Waltz")
	assert.Equal(t, 3, waltz.Beats)
	assert.NotEmpty(t, s.Switches)
	assert.False(t, s.Spaced, "nobody has placed the bare board")
	long, err := Read(demo(t), "long", "", "quay-set")
	require.NoError(t, err)
	assert.True(t, long.Spaced)
	_, err = Read(demo(t), "bare", "", "nope")
	assert.Error(t, err)
	_, err = Judge(demo(t), "bare", "", "quay-set", Take{Entry: "nope", UntilS: 10})
	assert.Error(t, err)
}

// What the script of a rig says is pressed, at the times it says, makes every change that can be made: on
// every rig, with presets, hands and what is made ready early.
func TestWhatIsPlannedIsMade(t *testing.T) {
	p := demo(t)
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
	p := demo(t)
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
	p := demo(t)
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
	p := demo(t)
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

	wrong := scoreAt(append(before(), Press{AtS: x.FromS + 0.05, Switch: rust}, Press{AtS: x.FromS + 0.3, Switch: amber}))
	assert.Equal(t, Missed, wrong.Outcome, "Rust stays on")
	assert.Equal(t, []string{"Rust"}, wrong.Pending)
}

func TestTheDevicesAreWhatThePressesMadeThem(t *testing.T) {
	p := demo(t)
	s := songOf(t, p, "bare", "Ferry Lights")
	r := judge(
		t, p, "bare", s,
		[]Press{{AtS: 1, Switch: "rust/on"}, {AtS: 1.5, Switch: "nope/on"}, {AtS: 2, Switch: "rust/on", Gesture: "hold"}}, 3,
	)
	on := map[string]bool{}
	for _, d := range r.Now {
		on[d.Label] = d.On
		if d.Label == "Rust" {
			assert.True(t, d.Wrong)
		}
	}
	assert.True(t, on["Rust"])
	assert.Equal(t, []string{"Rust"}, r.Pending)
	assert.Equal(
		t, []string{"moved", "nothing", "nothing"}, []string{r.Events[0].Kind, r.Events[1].Kind, r.Events[2].Kind},
	)
	again := judge(t, p, "bare", s, []Press{{AtS: 1, Switch: "rust/on"}, {AtS: 9, Switch: "rust/on"}}, 3)
	assert.Len(t, again.Events, 1, "what comes after the moment is not there yet")
}

// programmed is a rig with a switcher whose programs are laid out by hand: one page of two sounds.
func programmed(t *testing.T) *plan.Plan {
	p := demo(t)
	r, _ := p.FindRig("switched")
	on := func(key plan.Key) map[plan.Key]plan.Value {
		return map[plan.Key]plan.Value{
			"amber/fx/on": plan.On(key == "amber"), "echo/fx/on": plan.On(key == "echo"), "echo/fx/preset": plan.Text("B"),
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

func TestProgramsBanksAndPresets(t *testing.T) {
	p := programmed(t)
	s := songOf(t, p, "switched", "Ferry Lights")
	r := judge(
		t, p, "switched", s,
		[]Press{
			{AtS: 1, Switch: "turntable/2"}, {AtS: 2, Switch: "turntable/bank"}, {AtS: 3, Switch: "turntable/1"},
			{AtS: 4, Switch: "turntable/3"},
		},
		5,
	)
	var kinds []string
	for _, e := range r.Events {
		if e.Kind != "moved" && e.Kind != "sent" {
			kinds = append(kinds, e.Kind+" "+e.Words)
		}
	}
	assert.Equal(
		t,
		[]string{
			"recalled Turntable 1/2, amber", "bank Turntable bank 2, waiting for a slot", "recalled Turntable 2/1, echo",
			"nothing Turntable 2/3 is empty",
		},
		kinds,
	)
	value := map[plan.Key]plan.Value{}
	for _, d := range r.Now {
		value[d.Variable] = d.Value
	}
	assert.True(t, value["echo/fx/on"].IsOn())
	assert.False(t, value["amber/fx/on"].IsOn())
	assert.Equal(t, "B", value["echo/fx/preset"].Word())
	moved := slices.ContainsFunc(
		r.Events, func(e Event) bool { return e.Variable == "echo/fx/time" && e.Value.Float() == 380 },
	)
	assert.True(t, moved, "the preset brings its time")
}

func TestARecallThatNamesItsBankStaysThere(t *testing.T) {
	p := programmed(t)
	r, _ := p.FindRig("switched")
	r.Assignments = append(
		r.Assignments,
		plan.Assignment{
			Gear: "turntable", Switch: "4",
			Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Recall, Value: ptr(plan.Text("2/1"))}}},
		},
	)
	s := songOf(t, p, "switched", "Ferry Lights")
	e := judge(t, p, "switched", s, []Press{{AtS: 1, Switch: "turntable/4"}, {AtS: 2, Switch: "turntable/1"}}, 3).Events
	assert.Equal(t, "Turntable 2/1, echo", e[0].Words)
	var last Event
	for _, x := range e {
		if x.Kind == e[0].Kind {
			last = x
		}
	}
	assert.Equal(t, 2.0, last.AtS)
	assert.Equal(t, "Turntable 2/1, echo", last.Words, "slot 1 of the bank it is in now")
}

func TestATapIsTheMeanOfItsIntervals(t *testing.T) {
	p := demo(t)
	g, _ := p.FindGear("slap")
	g.Footswitches = append(
		g.Footswitches,
		plan.Footswitch{
			ID: "tap", Label: "tap", X: 10, Y: 10,
			Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Tap, Target: "fx/time"}}},
		},
	)
	s := songOf(t, p, "bare", "Ferry Lights")
	r := judge(
		t, p, "bare", s,
		[]Press{
			{AtS: 0, Switch: "slap/tap"}, {AtS: 0.26, Switch: "slap/tap"}, {AtS: 0.5, Switch: "slap/tap"},
			{AtS: 8, Switch: "slap/tap"},
		},
		9,
	)
	assert.InDelta(t, 260, r.Events[1].Value.Float(), 1e-6)
	assert.InDelta(t, 250, r.Events[2].Value.Float(), 1e-6)
	assert.Nil(t, r.Events[3].Value, "a new run of taps")
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

func TestNoisyPlayersRecoverTheirConstants(t *testing.T) {
	for seed := range 20 {
		r := rand.New(rand.NewSource(int64(seed)))
		sum, b := 0.15+0.2*r.Float64(), 0.08+0.15*r.Float64()
		var moves []Move
		for range 60 {
			m := Move{Distance: 60 + 640*r.Float64(), Width: 30}
			m.Seconds = sum + b*m.bits() + 0.03*r.NormFloat64()
			if r.Intn(10) == 0 {
				m.Seconds += 0.5 + r.Float64() // a slip
			}
			moves = append(moves, m)
		}
		f, err := FitFeet(moves)
		require.NoError(t, err)
		assert.InDelta(t, sum, f.Sum, 0.06)
		assert.InDelta(t, b, f.B, 0.025)
		assert.True(t, f.Good, f.Words)
		assert.InDelta(t, 0.03, f.Spread, 0.012)
		assert.Greater(t, f.LeftOut, 0)
	}
}

func TestAFitIsRefusedOrCalledUnsteady(t *testing.T) {
	_, err := FitFeet([]Move{{100, 30, 0.4}})
	assert.ErrorIs(t, err, ErrTooFew)
	var same []Move
	for range 30 {
		same = append(same, Move{100, 30, 0.4})
	}
	_, err = FitFeet(same)
	assert.ErrorIs(t, err, ErrTooFew)
	r := rand.New(rand.NewSource(1))
	var wild []Move
	for range 40 {
		wild = append(wild, Move{60 + 640*r.Float64(), 30, 0.3 + 1.5*r.Float64()})
	}
	f, err := FitFeet(wild)
	require.NoError(t, err)
	assert.False(t, f.Good)
	assert.Contains(t, f.Words, "play it again")
	exact := []Move{}
	for d := 50.0; d < 800; d += 50 {
		exact = append(exact, Move{d, 30, 0.2 + 0.14*math.Log2(d/30+1)})
	}
	f, err = FitFeet(exact)
	require.NoError(t, err)
	assert.InDelta(t, 0.2, f.Sum, 1e-9)
	assert.InDelta(t, 0.14, f.B, 1e-9)
	assert.InDelta(t, 1, f.R2, 1e-9)
}

// What a drill on a rig tells is what the distances between its switches tell, less the dwell of the player.
func TestFeetAreFittedToTheSwitchesOfARig(t *testing.T) {
	p := demo(t)
	r, _ := p.FindRig("long")
	dwell := 0.1
	r.Profile = plan.FootProfile{Dwell: &dwell, Singing: r.Profile.Singing}
	script, err := Read(p, "long", "", "quay-set")
	require.NoError(t, err)
	var steps []Step
	for i, a := range script.Switches {
		for _, b := range script.Switches[i+1:] {
			d := math.Hypot(a.X-b.X, a.Y-b.Y)
			steps = append(steps, Step{From: a.Key, To: b.Key, Seconds: 0.25 + 0.12*math.Log2(d/b.Width+1)})
		}
	}
	feet, err := Drilled(p, script, steps)
	require.NoError(t, err)
	assert.InDelta(t, 0.25, feet.Sum, 1e-6)
	assert.InDelta(t, 0.15, *feet.Profile.A, 1e-6, "less the dwell")
	assert.InDelta(t, 0.12, *feet.Profile.B, 1e-6)
	assert.Equal(t, r.Profile.Singing, feet.Profile.Singing, "the rest stays")
	assert.Equal(t, &dwell, feet.Profile.Dwell)
	assert.True(t, feet.Measured)
	assert.Empty(t, feet.Why)

	script.Spaced = false
	feet, err = Drilled(p, script, steps)
	require.NoError(t, err)
	assert.False(t, feet.Measured)
	assert.Contains(t, feet.Why, "no places in mm")
	script.Spaced = true
	for i := range steps {
		steps[i].Seconds = 0.3 + float64((i*7919)%13)/8
	}
	feet, err = Drilled(p, script, steps)
	require.NoError(t, err)
	assert.False(t, feet.Measured)
	assert.Contains(t, feet.Why, "not steady")

	_, err = Drilled(p, script, append(steps, Step{From: "nope", To: steps[0].To, Seconds: 1}))
	assert.ErrorContains(t, err, "does not have")
	_, err = Drilled(p, script, steps[:3])
	assert.ErrorIs(t, err, ErrTooFew)
}

func TestProgressAndDrills(t *testing.T) {
	score := func(position int, o Outcome) Score {
		return Score{Position: position, Section: plan.ID(rune('a' + position)), Outcome: o}
	}
	list := []Kept{
		{Day: "2026-11-02", Scores: []Score{score(1, Made), score(2, Missed), score(3, Made)}},
		{Day: "2026-11-01", Scores: []Score{score(1, Made), score(2, Late), score(3, Missed)}},
		{Day: "2026-11-02", Scores: []Score{score(2, Made)}},
	}
	over := Over(list)
	require.Len(t, over, 3)
	assert.Equal(t, []int{2, 3, 1}, []int{over[0].Position, over[1].Position, over[2].Position})
	assert.Equal(t, []Day{{"2026-11-01", 1, 0}, {"2026-11-02", 2, 1}}, over[0].Days)
	drill := Drill(list)
	require.Len(t, drill, 2, "what is always made needs no drill")
	assert.Empty(t, Drill(nil))
}

func BenchmarkJudge(b *testing.B) {
	p := demo(b)
	s := songOf(b, p, "long", "Night Dredger")
	presses := planned(s)
	for b.Loop() {
		if _, err := Judge(p, "long", "", "quay-set", Take{Entry: s.Entry, Presses: presses, UntilS: s.LengthS}); err != nil {
			b.Fatal(err)
		}
	}
}

func TestKeysStandInForTheSwitchesThatTheSetPresses(t *testing.T) {
	p := demo(t)
	s, err := Read(p, "long", "", "quay-set")
	require.NoError(t, err)
	report, err := reach.Compute(p, "long", "quay-set")
	require.NoError(t, err)
	pressed := map[plan.Key]bool{}
	for _, c := range report.Changes {
		for _, x := range c.Presses {
			pressed[x.Switch] = true
		}
	}
	keys := map[string]Switch{}
	for _, x := range s.Switches {
		if x.Keyboard == "" {
			assert.False(t, pressed[x.Key], "%s is pressed and has no key", x.Label)
			continue
		}
		assert.Empty(t, keys[x.Keyboard].Key, "a key stands for one switch")
		keys[x.Keyboard] = x
	}
	require.NotEmpty(t, keys["1"].Key)
	for i := 1; i < len(keys); i++ { // in floor order: never back by a whole row, and to the right within one
		a, b := keys[keyboard[i-1:i]], keys[keyboard[i:i+1]]
		assert.True(t, b.X >= a.X || b.Y > a.Y, "%s, then %s", a.Label, b.Label)
	}
}
