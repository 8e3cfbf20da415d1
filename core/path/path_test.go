package path

import (
	"context"
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

func ptr[T any](v T) *T { return &v }

// kinds of stop by a short name, for writing chains down.
var kinds = map[string]plan.Block{
	"tuner":      {Effect: plan.EffectTuner, Bypass: plan.BufferedBypass},
	"volume":     {Effect: plan.EffectVolume, Bypass: plan.AlwaysOn},
	"wah":        {Effect: plan.EffectWah, Bypass: plan.TrueBypass},
	"octave":     {Effect: plan.EffectOctave, Bypass: plan.TrueBypass},
	"compressor": {Effect: plan.EffectCompressor, Bypass: plan.TrueBypass},
	"boost":      {Effect: plan.EffectBoost, Bypass: plan.TrueBypass},
	"overdrive":  {Effect: plan.EffectOverdrive, Bypass: plan.TrueBypass},
	"distortion": {Effect: plan.EffectDistortion, Bypass: plan.TrueBypass},
	"fuzz":       {Effect: plan.EffectFuzz, Bypass: plan.TrueBypass, InputOhm: ptr(8e3)},
	"gate":       {Effect: plan.EffectGate, Bypass: plan.TrueBypass},
	"eq":         {Effect: plan.EffectEQ, Bypass: plan.TrueBypass},
	"vibe":       {Effect: plan.EffectVibe, Bypass: plan.TrueBypass},
	"chorus":     {Effect: plan.EffectChorus, Bypass: plan.TrueBypass},
	"tremolo":    {Effect: plan.EffectTremolo, Bypass: plan.TrueBypass},
	"delay":      {Effect: plan.EffectDelay, Bypass: plan.TrueBypass},
	"pingpong":   {Effect: plan.EffectDelay, Bypass: plan.TrueBypass, Outputs: "stereo"},
	"reverb":     {Effect: plan.EffectReverb, Bypass: plan.TrueBypass},
	"looper":     {Effect: plan.EffectLooper, Bypass: plan.TrueBypass},
	"cab":        {Effect: plan.EffectCab, Bypass: plan.BufferedBypass, Level: "any"},
	"buffer":     {Effect: plan.EffectBuffer, Bypass: plan.AlwaysOn},
}

// chain is a plan with one rig whose stops are the named kinds; "preamp" and "power" are
// those of an amp with a loop, driven as far as its gain knob says.
func chain(gain float64, names ...string) *plan.Plan {
	p := &plan.Plan{Rigs: []plan.Rig{{ID: "rig", Name: "rig", Base: map[plan.Key]plan.Value{}}}}
	amp := plan.Gear{ID: "amp", Name: "Amp", Kind: plan.Amp, Loop: &plan.AmpLoop{Kind: "series"}, Blocks: []plan.Block{
		{
			ID: "preamp", Name: "preamp", Effect: plan.EffectPreamp, Bypass: plan.AlwaysOn,
			Controls: []plan.Control{{ID: "gain", Name: "gain", Kind: plan.Knob, Access: plan.SlowHand}},
		},
		{ID: "power", Name: "power", Effect: plan.EffectPower, Bypass: plan.AlwaysOn},
	}}
	p.Gear = []plan.Gear{amp}
	r := &p.Rigs[0]
	r.Base["amp/preamp/gain"] = plan.Number(gain)
	hasAmp := false
	for i, name := range names {
		if name == "preamp" || name == "power" {
			hasAmp = true
			r.Path = append(r.Path, plan.Node{Stop: plan.BlockKey("amp", plan.ID(name))})
			continue
		}
		b := kinds[name]
		b.ID, b.Name = "b", name
		id := plan.ID(fmt.Sprint(name, i))
		p.Gear = append(p.Gear, plan.Gear{ID: id, Name: name, Kind: plan.Pedal, Blocks: []plan.Block{b}})
		r.Path = append(r.Path, plan.Node{Stop: plan.BlockKey(id, "b")})
	}
	if !hasAmp {
		delete(r.Base, "amp/preamp/gain")
	}
	return p
}

func judged(t *testing.T, p *plan.Plan) *Report {
	t.Helper()
	require.Empty(t, p.Validate())
	r, err := Judge(context.Background(), p, "rig", "")
	require.NoError(t, err)
	return r
}

func words(keys []plan.Key) []string {
	list := make([]string, len(keys))
	for i, k := range keys {
		name := string(k.Gear())
		if name == "amp" {
			name = k.Rest()
		}
		for len(name) > 0 && name[len(name)-1] >= '0' && name[len(name)-1] <= '9' {
			name = name[:len(name)-1]
		}
		list[i] = name
	}
	return list
}

func TestWhatACarefulTechWouldSay(t *testing.T) {
	cases := map[string]struct {
		gain  float64
		chain []string
		says  map[string]float64 // rule to weight
	}{
		"in front of a clean amp": {
			3, []string{"tuner", "compressor", "overdrive", "delay", "reverb", "preamp", "power"}, map[string]float64{},
		},
		"in front of a driven amp": {
			8, []string{"tuner", "overdrive", "delay", "reverb", "preamp", "power"},
			map[string]float64{"preamp-before-time": 10},
		},
		"a half-driven amp": {
			6.5, []string{"overdrive", "delay", "preamp", "power"}, map[string]float64{"preamp-before-time": 2.5},
		},
		"in the loop of a driven amp": {8, []string{"overdrive", "preamp", "delay", "reverb", "power"}, map[string]float64{}},
		"delay before the drive":      {3, []string{"delay", "overdrive"}, map[string]float64{"gain-before-time": 5}},
		"looper first":                {3, []string{"looper", "overdrive"}, map[string]float64{"looper-last": 5}},
		"octave after the fuzz":       {3, []string{"fuzz", "octave"}, map[string]float64{"pitch-before-gain": 4}},
		"a buffer before the fuzz":    {3, []string{"buffer", "fuzz"}, map[string]float64{"fuzz-before-buffer": 4}},
		"gate before the drive":       {3, []string{"gate", "distortion"}, map[string]float64{"gate-after-gain": 4}},
		"gate after the delay":        {3, []string{"delay", "gate"}, map[string]float64{"gate-before-delay": 4}},
		"chorus before the drive":     {3, []string{"chorus", "overdrive"}, map[string]float64{"gain-before-modulation": 3}},
		"heavy before light":          {3, []string{"distortion", "overdrive"}, map[string]float64{"light-before-heavy": 2}},
		"wah into the fuzz":           {3, []string{"wah", "fuzz"}, map[string]float64{"fuzz-before-wah": 2}},
		"wah after the overdrive":     {3, []string{"overdrive", "wah"}, map[string]float64{"wah-before-gain": 2}},
		"delay before the vibe":       {3, []string{"delay", "vibe"}, map[string]float64{"modulation-before-delay": 2}},
		"EQ before the drive":         {3, []string{"eq", "overdrive"}, map[string]float64{"eq-after-gain": 1}},
		"reverb before delay":         {3, []string{"reverb", "delay"}, map[string]float64{"delay-before-reverb": 3}},
		"stereo, then mono": {
			3, []string{"pingpong", "tremolo"}, map[string]float64{"stereo-after-mono": 5, "modulation-before-delay": 2},
		},
		"stereo into one mono amp": {
			3, []string{"pingpong", "reverb", "preamp", "power"}, map[string]float64{"stereo-into-mono": 0},
		},
		"volume after the delay":     {3, []string{"delay", "volume"}, map[string]float64{"volume-before-time": 4}},
		"volume after the drive":     {3, []string{"overdrive", "volume"}, map[string]float64{"volume-before-gain": 3}},
		"compressor after the drive": {3, []string{"overdrive", "compressor"}, map[string]float64{"compressor-first": 3}},
		"boost after the drive":      {3, []string{"overdrive", "boost"}, map[string]float64{"boost-before-gain": 3}},
		"tuner last":                 {3, []string{"overdrive", "tuner"}, map[string]float64{"tuner-first": 2}},
		"one stop":                   {3, []string{"overdrive"}, map[string]float64{}},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			r := judged(t, chain(c.gain, c.chain...))
			said, sum := map[string]float64{}, 0.0
			for _, f := range r.Findings {
				said[f.Rule] += f.Weight
				sum += f.Weight
			}
			assert.Equal(t, c.says, said)
			assert.InDelta(t, sum, r.Cost, 1e-9, "the cost is what the findings weigh")
			assert.True(t, r.Best.Proven)
		})
	}
}

func TestSchoolsTurnThePreferenceRound(t *testing.T) {
	chains := map[string][]string{
		"volume": {"overdrive", "volume"}, "compressor": {"overdrive", "compressor"}, "boost": {"overdrive", "boost"},
		"delay-reverb": {"reverb", "delay"}, "vibe": {"overdrive", "vibe"}, "tuner": {"overdrive", "tuner"},
		"time-effects": {"delay", "preamp", "power"},
	}
	for _, q := range Questions() {
		if q.ID == "cab" {
			continue // nothing is minded until a side is chosen
		}
		t.Run(q.ID, func(t *testing.T) {
			p := chain(8, chains[q.ID]...)
			r := judged(t, p)
			require.NotEmpty(t, r.Findings, "the commoner habit minds")
			assert.Equal(t, q.ID, r.Findings[0].School)
			p.Rigs[0].Schools = []plan.School{{Question: q.ID, Side: q.Sides[1].ID}}
			r = judged(t, p)
			assert.Empty(t, r.Findings, "the other side does not")
			for _, c := range r.Chosen {
				assert.Equal(t, c.Question == q.ID, c.ByPlayer)
			}
		})
	}
}

func TestACabSimulatorIsMindedOnceASideIsChosen(t *testing.T) {
	for order, minds := range map[string][2]string{"before": {"cab", "delay"}, "after": {"delay", "cab"}} {
		p := chain(8, minds[0], minds[1])
		assert.Empty(t, judged(t, p).Findings)
		p.Rigs[0].Schools = []plan.School{{Question: "cab", Side: order}}
		assert.Empty(t, judged(t, p).Findings, "it stands as the player wants it")
		p = chain(8, minds[1], minds[0])
		p.Rigs[0].Schools = []plan.School{{Question: "cab", Side: order}}
		require.Len(t, judged(t, p).Findings, 1)
		assert.Equal(t, "cab", judged(t, p).Findings[0].School)
	}
}

func TestWhatIsKeptIsNotNaggedAbout(t *testing.T) {
	p := chain(3, "delay", "overdrive")
	r := judged(t, p)
	p.Rigs[0].Settled = []plan.IgnoredFinding{{Finding: r.Findings[0].ID, Reason: "I want the smear"}}
	r = judged(t, p)
	assert.Equal(t, "I want the smear", r.Findings[0].Settled)
	assert.Zero(t, r.Cost)
	assert.Empty(t, r.Best.Moves)
}

func TestRepairsDoWhatTheySay(t *testing.T) {
	p := chain(3, "tuner", "delay", "wah", "overdrive")
	for _, f := range judged(t, p).Findings {
		for _, m := range f.Repairs {
			q := *p
			q.Rigs = []plan.Rig{p.Rigs[0]}
			q.Rigs[0].Path = nil
			for _, k := range m.Order {
				q.Rigs[0].Path = append(q.Rigs[0].Path, plan.Node{Stop: k})
			}
			after := judged(t, &q)
			assert.InDelta(t, m.Cost, after.Cost, 1e-9, m.Words)
			for _, g := range after.Findings {
				assert.NotEqual(t, f.ID, g.ID, "%s mends it", m.Words)
			}
		}
	}
}

func TestBestOrder(t *testing.T) {
	cases := map[string]struct {
		change func(*plan.Rig, *plan.Plan)
		gain   float64
		chain  []string
		want   []string
	}{
		"a heap of pedals": {
			nil, 3, []string{"looper", "reverb", "delay", "overdrive", "wah", "tuner", "chorus"},
			[]string{"tuner", "wah", "overdrive", "chorus", "delay", "reverb", "looper"},
		},
		"a driven amp takes the time effects into its loop": {
			nil, 8, []string{"delay", "overdrive", "preamp", "power"}, []string{"overdrive", "preamp", "delay", "power"},
		},
		"a clean amp leaves them where they are": {
			nil, 3, []string{"overdrive", "delay", "preamp", "power"}, []string{"overdrive", "delay", "preamp", "power"},
		},
		"an amp without a loop keeps them in front": {
			func(_ *plan.Rig, p *plan.Plan) { p.Gear[0].Loop = nil }, 8, []string{"delay", "overdrive", "preamp", "power"},
			[]string{"overdrive", "delay", "preamp", "power"},
		},
		"a pinned stop stays": {
			func(r *plan.Rig, _ *plan.Plan) { r.Path[0].Pinned = true }, 3, []string{"delay", "overdrive", "wah"},
			[]string{"delay", "wah", "overdrive"},
		},
		"nothing crosses a pinned stop": {
			func(r *plan.Rig, _ *plan.Plan) { r.Path[1].Pinned = true }, 3, []string{"delay", "vibe", "overdrive", "wah"},
			[]string{"delay", "vibe", "wah", "overdrive"},
		},
		"loops run in number order": {func(r *plan.Rig, p *plan.Plan) {
			p.Gear = append(
				p.Gear,
				plan.Gear{
					ID: "sw", Name: "Turntable", Kind: plan.Controller, Switcher: &plan.Switcher{Loops: make([]plan.SwitcherLoop, 2)},
				},
			)
			r.Path[0].Switcher, r.Path[1].Switcher, r.Path[0].Loop, r.Path[1].Loop = "sw", "sw", 1, 2
		}, 3, []string{"delay", "overdrive"}, []string{"delay", "overdrive"}},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			p := chain(c.gain, c.chain...)
			if c.change != nil {
				c.change(&p.Rigs[0], p)
			}
			r := judged(t, p)
			assert.Equal(t, c.want, words(r.Best.Order))
			assert.True(t, r.Best.Proven)
			assert.Equal(t, r.Best.Cost, r.Best.Bound)
			if len(r.Best.Moves) > 0 {
				last := r.Best.Moves[len(r.Best.Moves)-1]
				assert.Equal(t, r.Best.Order, last.Order, "the moves lead there")
				assert.Equal(t, r.Best.Cost, last.Cost)
			} else {
				assert.Equal(t, r.Cost, r.Best.Cost)
			}
		})
	}
}

// Of all allowed orders none costs less, and of those that cost the same none turns fewer
// pairs of the present one round.
func TestTheBestOrderIsTheBestThereIs(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 6).Draw(t, "n")
		p := &problem{cost: make([][]int64, n), precedes: make([]uint64, n)}
		for i := range n {
			p.cost[i] = make([]int64, n)
			for j := range n {
				if i != j {
					p.cost[i][j] = units(float64(rapid.IntRange(0, 3).Draw(t, "cost")))
				}
				if i < j && rapid.IntRange(0, 7).Draw(t, "precedes") == 0 {
					p.precedes[j] |= 1 << i
				}
			}
		}
		p.breakTies()
		got, proven, err := p.solve(context.Background())
		require.NoError(t, err)
		require.True(t, proven)
		require.True(t, p.allowed(got))
		least := p.total(got)
		require.GreaterOrEqual(t, least, p.bound())
		permutations(n, func(order []int) {
			if p.allowed(order) {
				require.LessOrEqual(t, least, p.total(order))
			}
		})
		present := make([]int, n)
		for i := range present {
			present[i] = i
		}
		downhill, err := p.descend(context.Background(), present)
		require.NoError(t, err)
		require.True(t, p.allowed(downhill))
		require.LessOrEqual(t, p.total(downhill), p.total(present))
		require.GreaterOrEqual(t, p.total(downhill), least)
	})
}

func permutations(n int, yield func([]int)) {
	order := make([]int, 0, n)
	used := make([]bool, n)
	var walk func()
	walk = func() {
		if len(order) == n {
			yield(order)
			return
		}
		for i := range n {
			if !used[i] {
				used[i] = true
				order = append(order, i)
				walk()
				order = order[:len(order)-1]
				used[i] = false
			}
		}
	}
	walk()
}

func long(n int) *plan.Plan {
	all := []string{
		"looper", "reverb", "delay", "eq", "chorus", "gate", "overdrive", "distortion", "fuzz", "wah", "octave", "compressor",
		"volume", "tuner", "tremolo", "vibe", "boost", "buffer",
	}
	var names []string
	for i := range n - 2 {
		names = append(names, all[i%len(all)])
	}
	return chain(8, append(names, "preamp", "power")...)
}

func TestBeyondTwentyStopsTheBoundIsSaid(t *testing.T) {
	r := judged(t, long(30))
	assert.Len(t, r.Best.Order, 30)
	assert.Less(t, r.Best.Cost, r.Cost)
	assert.LessOrEqual(t, r.Best.Bound, r.Best.Cost)
	if !r.Best.Proven {
		assert.Less(t, r.Best.Bound, r.Best.Cost)
	}
}

func TestItIsCancelled(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err := Judge(ctx, long(20), "rig", "")
	require.ErrorIs(t, err, context.Canceled)
	_, err = Judge(ctx, long(30), "rig", "")
	require.ErrorIs(t, err, context.Canceled)
	_, err = Judge(context.Background(), long(20), "nope", "")
	require.ErrorContains(t, err, "no rig")
	_, err = Judge(context.Background(), long(70), "rig", "")
	require.ErrorContains(t, err, "the limit is 64")
}

// The worst there is: twenty stops in one knot, with costs that no two of them agree on.
func BenchmarkAKnotOfTwentyStops(b *testing.B) {
	p := &problem{cost: make([][]int64, maxExact), precedes: make([]uint64, maxExact)}
	for i := range p.cost {
		p.cost[i] = make([]int64, maxExact)
		for k := range p.cost[i] {
			if i != k {
				p.cost[i][k] = units(float64((i*7 + k*13 + i*k) % 11))
			}
		}
	}
	p.breakTies()
	if n := len(p.knots()); n != 1 {
		b.Fatalf("%d knots", n)
	}
	for b.Loop() {
		if _, proven, err := p.solve(context.Background()); err != nil || !proven {
			b.Fatal(err)
		}
	}
}

func BenchmarkBestOrderOfTwentyStops(b *testing.B) {
	p := long(20)
	for b.Loop() {
		r, err := Judge(context.Background(), p, "rig", "")
		if err != nil || !r.Best.Proven {
			b.Fatal(err)
		}
	}
}

// What is too long to be proven says what no order is under, and as quickly.
func BenchmarkBestOrderOfThirtyStops(b *testing.B) {
	p := long(30)
	for b.Loop() {
		r, err := Judge(context.Background(), p, "rig", "")
		if err != nil || r.Best.Bound > r.Best.Cost {
			b.Fatal(r.Best.Cost, r.Best.Bound, err)
		}
	}
}

func BenchmarkAKnotOfThirtyStops(b *testing.B) {
	const n = 30
	p := &problem{cost: make([][]int64, n), precedes: make([]uint64, n)}
	for i := range p.cost {
		p.cost[i] = make([]int64, n)
		for k := range p.cost[i] {
			if i != k {
				p.cost[i][k] = units(float64((i*7 + k*13 + i*k) % 11))
			}
		}
	}
	p.breakTies()
	for b.Loop() {
		if _, _, err := p.solve(context.Background()); err != nil {
			b.Fatal(err)
		}
	}
}

// Every list of a report is there even when it is empty, as whoever reads the JSON expects.
func TestAnEmptyChainHasEmptyLists(t *testing.T) {
	data, err := json.Marshal(judged(t, chain(3)))
	require.NoError(t, err)
	assert.NotContains(t, string(data), "null")
}
