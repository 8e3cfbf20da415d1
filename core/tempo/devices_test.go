package tempo

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

func number(v float64) *float64 { return &v }

// ambient is a player with two delays in one sound: a quarter that is stored in presets and a dotted eighth,
// in songs at 100 and 120, and a tremolo of which nobody knows how fast it is.
func ambient() *plan.Plan {
	delay := func(id plan.ID) plan.Gear {
		return plan.Gear{ID: id, Name: string(id), Kind: plan.Pedal,
			Blocks: []plan.Block{{ID: "fx", Name: "delay", Effect: plan.EffectDelay, Bypass: plan.TrueBypass,
				Controls: []plan.Control{
					{
						ID: "preset", Name: "preset", Kind: plan.Preset, Access: plan.Foot,
						Options: []string{"1", "2", "3", "4", "5", "6"},
					},
					{ID: "time", Name: "time", Kind: plan.Knob, Unit: "ms", Max: number(2000), Access: plan.Memory},
					{ID: "mix", Name: "mix", Kind: plan.Knob, Access: plan.SlowHand},
					{ID: "repeats", Name: "repeats", Kind: plan.Knob, Access: plan.SlowHand},
				}}}}
	}
	tremolo := plan.Gear{
		ID: "throb", Name: "throb", Kind: plan.Pedal,
		Blocks: []plan.Block{
			{
				ID: "fx", Name: "tremolo", Effect: plan.EffectTremolo, Bypass: plan.TrueBypass,
				Controls: []plan.Control{{ID: "speed", Name: "speed", Kind: plan.Knob, Access: plan.SlowHand}},
			},
		},
	}
	p := &plan.Plan{
		Gear: []plan.Gear{{ID: "guitar", Name: "Guitar", Kind: plan.Guitar}, delay("far"), delay("near"), tremolo},
		Sounds: []plan.Sound{
			{ID: "wide", Name: "Wide", Short: "W", Tape: "bone", Role: plan.TextureRole,
				Targets: plan.Targets{StrictTempo: true, Effects: []plan.Heard{
					{Effect: plan.EffectDelay, Note: "1/8."}, {Effect: plan.EffectDelay, Note: "1/4", LevelDB: number(-20)},
					{Effect: plan.EffectTremolo, Note: "1/8"},
				}}},
			{
				ID: "echo", Name: "Echo", Short: "E", Tape: "sky", Role: plan.LeadRole,
				Targets: plan.Targets{StrictTempo: true, Effects: []plan.Heard{{Effect: plan.EffectDelay, Note: "1/4"}}},
			},
		},
		SetLists: []plan.SetList{{ID: "set", Name: "Set"}},
	}
	for i, bpm := range []float64{100, 120} {
		id := plan.ID([]string{"slow", "fast"}[i])
		p.Songs = append(p.Songs,
			plan.Song{ID: id, Title: string(id), Tempo: plan.Tempo{BPM: bpm}, Meter: plan.Meter{Beats: 4, Unit: 4},
				Sections: []plan.Section{
					{ID: id + "-a", Label: "A", Sound: "wide", Bars: number(8)},
					{ID: id + "-b", Label: "B", Sound: "echo", Bars: number(8)},
				}})
		p.SetLists[0].Entries = append(p.SetLists[0].Entries, plan.SetEntry{ID: id + "-entry", Song: id})
	}
	on := plan.On(true)
	p.Rigs = []plan.Rig{{
		ID: "rig", Name: "Rig", Guitars: []plan.ID{"guitar"},
		Path: []plan.Node{{Stop: "near/fx"}, {Stop: "throb/fx"}, {Stop: "far/fx"}},
		Base: map[plan.Key]plan.Value{
			"far/fx/mix": plan.Number(4), "near/fx/mix": plan.Number(4), "far/fx/repeats": plan.Number(3),
			"near/fx/repeats": plan.Number(3),
		},
		Presets: plan.PresetMap{
			"far": {
				"1": {"far/fx/time": plan.Number(600)}, "2": {"far/fx/time": plan.Number(500)},
				"3": {"far/fx/time": plan.Number(777)},
			},
			"near": {"1": {"near/fx/time": plan.Number(450)}},
		},
		Recipes: []plan.Recipe{
			{
				ID: "wide-recipe", Sound: "wide",
				Values: map[plan.Key]plan.Value{
					"far/fx/on": on, "near/fx/on": on, "throb/fx/on": on, "far/fx/preset": plan.Text("1"),
					"near/fx/preset": plan.Text("1"),
				},
			},
			{
				ID: "echo-recipe", Sound: "echo", Values: map[plan.Key]plan.Value{"far/fx/on": on, "far/fx/preset": plan.Text("2")},
			},
		},
	}}
	return p
}

func nightOf(t *testing.T, p *plan.Plan) *Night {
	t.Helper()
	require.Empty(t, p.Validate())
	n, err := Plan(p, "rig", "", "set")
	require.NoError(t, err)
	return n
}

func titlesOf(n *Night) []string {
	var list []string
	for _, f := range n.Findings {
		list = append(list, f.Title)
	}
	return list
}

func TestEachDelayAnswersForItsOwnNote(t *testing.T) {
	p := ambient()
	n := nightOf(t, p)
	far, near := useOf(n, "slow", "Wide", "far/fx"), useOf(n, "slow", "Wide", "near/fx")
	assert.Equal(t, "1/4", far.Note)
	assert.InDelta(t, 600, *far.WantedMS, 1e-9)
	assert.False(t, far.Heard)
	assert.Equal(t, "1/8.", near.Note)
	assert.InDelta(t, 450, *near.WantedMS, 1e-9)
	assert.False(t, near.Heard)
	require.Len(t, n.Songs[0].Pairs, 1, "and the pair is laid over a bar")
	assert.Equal(t, "1/4", useOf(n, "fast", "Wide", "far/fx").Note, "the same in every song")
	assert.Contains(t, titlesOf(n), "The first repeat of far is 16 dB louder than Wide asks")

	p.Rigs[0].Recipes[0].Notes = map[plan.Key]string{"near/fx": "1/4"}
	n = nightOf(t, p)
	assert.Equal(t, "1/4", useOf(n, "slow", "Wide", "near/fx").Note, "as the recipe says")
	assert.Equal(t, "1/8.", useOf(n, "slow", "Wide", "far/fx").Note)
	p.Rigs[0].Recipes[0].Notes, p.Rigs[0].Recipes[0].Values["near/fx/time"] = nil, plan.Sync("1/4")
	assert.Equal(t, "1/4", useOf(nightOf(t, p), "slow", "Wide", "near/fx").Note, "as it is bound")
	p.Rigs[0].Recipes[0].Notes = map[plan.Key]string{"nothing/fx": "1/4"}
	assert.NotEmpty(t, p.Validate())
}

func TestFewestPresetsAreCountedOverAllSoundsTogether(t *testing.T) {
	n := nightOf(t, ambient())
	count := map[plan.ID]int{}
	for _, x := range n.Presets {
		count[x.Gear] += len(x.Times)
	}
	assert.Equal(t, map[plan.ID]int{"far": 2, "near": 2}, count, "Wide and Echo share the quarters of two tempos")
	p := ambient()
	p.Rigs[0].Presets["far"]["2"]["far/fx/mix"] = plan.Number(9)
	n = nightOf(t, p)
	assert.Len(t, n.Presets, 3, "presets that hold another mix cannot be shared")
}

func TestStoringTouchesOnlyWhatItHasTo(t *testing.T) {
	p := ambient()
	done, err := Store(p, "rig", "set")
	require.NoError(t, err)
	far := done.Rig.Presets["far"]
	assert.Equal(t, plan.Number(600), far["1"]["far/fx/time"], "it serves as it is")
	assert.Equal(t, plan.Number(500), far["2"]["far/fx/time"], "and so does this")
	assert.Equal(t, plan.Number(777), far["3"]["far/fx/time"], "which nobody asked for")
	assert.Empty(t, done.Overwrites)
	assert.Equal(t, plan.Number(450), done.Rig.Presets["near"]["1"]["near/fx/time"])
	q := *p
	q.Put(done.Rig)
	for _, song := range done.Songs {
		q.Put(song)
	}
	for _, song := range nightOf(t, &q).Songs {
		for _, u := range song.Uses {
			assert.False(t, u.Heard, "%s in %s by %s", u.Name, song.Title, u.SoundName)
		}
	}

	p = ambient()
	p.Rigs[0].Presets["far"]["1"]["far/fx/time"] = plan.Number(603)
	done, err = Store(p, "rig", "set")
	require.NoError(t, err)
	assert.Equal(
		t, plan.Number(603), done.Rig.Presets["far"]["1"]["far/fx/time"], "near enough to lock is kept, not bettered",
	)

	p = ambient()
	p.Rigs[0].Presets["near"]["1"]["near/fx/time"] = plan.Number(440)
	p.Rigs[0].Presets["far"]["1"]["far/fx/time"] = plan.Number(550)
	done, err = Store(p, "rig", "set", "echo")
	require.NoError(t, err)
	assert.Equal(t, plan.Number(440), done.Rig.Presets["near"]["1"]["near/fx/time"], "another sound's alone")
	done, err = Store(p, "rig", "set")
	require.NoError(t, err)
	require.NotEmpty(t, done.Overwrites)
	assert.Contains(t, done.Overwrites[0].Words, "goes from")
}

func TestASongAtTwoTemposGetsATimeForEach(t *testing.T) {
	p := ambient()
	p.Songs[0].Sections = append(
		p.Songs[0].Sections,
		plan.Section{ID: "slow-c", Label: "C", Sound: "wide", Bars: number(8), Tempo: &plan.Tempo{BPM: 80}},
	)
	done, err := Store(p, "rig", "set")
	require.NoError(t, err)
	p.Put(done.Rig)
	for _, song := range done.Songs {
		p.Put(song)
	}
	for _, song := range nightOf(t, p).Songs {
		for _, u := range song.Uses {
			assert.False(t, u.Heard, "%s in %s, %v", u.Name, song.Title, u.Sections)
		}
	}
}

func TestAClockNeedsNobody(t *testing.T) {
	p := ambient()
	p.Gear = append(p.Gear, plan.Gear{ID: "click", Name: "Click box", Kind: plan.Controller})
	p.Rigs[0].Clocks = []plan.Clock{{From: "click", To: []plan.ID{"near"}}}
	p.Rigs[0].Recipes[0].Values["near/fx/time"] = plan.Sync("1/8.")
	n := nightOf(t, p)
	near := useOf(n, "fast", "Wide", "near/fx")
	assert.Equal(t, ByClock, near.Way)
	assert.Equal(t, "Click box", near.Clock)
	assert.False(t, near.Heard)
	for _, x := range n.Presets {
		assert.NotEqual(t, plan.ID("near"), x.Gear, "it needs no presets")
	}
	p.Rigs[0].Recipes[0].Values["near/fx/time"] = plan.Sync("1/4")
	p.Rigs[0].Recipes[0].Notes = map[plan.Key]string{"near/fx": "1/8."}
	near = useOf(nightOf(t, p), "fast", "Wide", "near/fx")
	assert.InDelta(t, 500, *near.SetMS, 1e-9, "the clock gives the note it is bound to, not the one that is asked")
	assert.True(t, near.Heard)
	delete(p.Rigs[0].Recipes[0].Values, "near/fx/time")
	assert.Equal(t, Stored, useOf(nightOf(t, p), "fast", "Wide", "near/fx").Way, "a time in ms follows no clock")
	p.Rigs[0].Clocks = []plan.Clock{{From: "near", To: []plan.ID{"near"}}}
	assert.NotEmpty(t, p.Validate(), "its own clock")
}

func TestARateIsTimedOnceItIsMeasured(t *testing.T) {
	p := ambient()
	n := nightOf(t, p)
	assert.True(t, useOf(n, "slow", "Wide", "throb/fx").Untimed)
	assert.Contains(t, titlesOf(n), "throb cannot be timed")
	speed := &p.Gear[3].Blocks[0].Controls[0]
	speed.Measured = []plan.Rate{{At: 0, Hz: 1}, {At: 5, Hz: 4}, {At: 10, Hz: 8}}
	p.Rigs[0].Base["throb/fx/speed"] = plan.Number(2.5)
	u := useOf(nightOf(t, p), "slow", "Wide", "throb/fx")
	assert.False(t, u.Untimed)
	assert.InDelta(t, 500, *u.SetMS, 1e-9, "2 Hz lies half way between 1 and 4, to the ear")
	require.NotNil(t, u.Position)
	assert.InDelta(t, 300, *u.WantedMS, 1e-9)
	ms, ok := speed.TimeMS(plan.Number(*u.Position))
	assert.True(t, ok)
	assert.InDelta(t, 300, ms, 1e-6, "there and back")
	speed.Measured = speed.Measured[:1]
	assert.NotEmpty(t, p.Validate(), "one position says nothing")
	speed.Measured = []plan.Rate{{At: 0, Hz: 1}, {At: 5, Hz: 4}, {At: 10, Hz: 2}}
	assert.NotEmpty(t, p.Validate(), "a rate goes one way")
}
