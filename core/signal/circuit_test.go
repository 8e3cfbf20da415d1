package signal_test

import (
	"context"
	"encoding/json"
	"math"
	"math/cmplx"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/electric"
	"envex/core/plan"
	"envex/core/signal"
)

// stranger is a guitar on a cable into something straight that is heard as it is.
type stranger struct {
	volume, tone float64
	taper        string
	vintage      bool
	bleed        bool
	metres       float64
	outputMV     float64
	henry        float64
	ahead        []plan.Block // switched-off or passive boxes, 3 m of cable each
	drive        bool
}

func (s stranger) plan() *plan.Plan {
	knob := func(id plan.ID, at float64) plan.Control {
		v := plan.Number(at)
		return plan.Control{ID: id, Name: string(id), Kind: plan.Knob, Access: plan.QuickHand, Default: &v}
	}
	guitar := plan.Gear{
		ID: "guitar", Name: "Guitar", Kind: plan.Guitar,
		Pickups:  []plan.Pickup{{ID: "bridge", Name: "bridge", InductanceH: &s.henry, OutputMVRMS: &s.outputMV}},
		Controls: []plan.Control{knob("volume", s.volume), knob("tone", s.tone)},
		Wiring: &plan.Wiring{
			Volume: &plan.Pot{Ohm: 250e3, Taper: s.taper},
			Tone:   &plan.ToneControl{Pot: plan.Pot{Ohm: 250e3}, CapacitorNF: 22, Vintage: s.vintage},
		},
	}
	if s.bleed {
		guitar.Wiring.Bleed = &plan.TrebleBleed{CapacitancePF: 1000}
	}
	p := &plan.Plan{Gear: []plan.Gear{guitar}, Sounds: []plan.Sound{{ID: "home", Name: "Home", Role: plan.HomeRole}}}
	rig := plan.Rig{
		ID: "rig", Name: "Rig", Guitars: []plan.ID{"guitar"}, Recipes: []plan.Recipe{{ID: "home", Sound: "home"}},
	}
	from := plan.Key("guitar")
	plug := func(g plan.Gear) {
		key := plan.BlockKey(g.ID, g.Blocks[0].ID)
		p.Gear = append(p.Gear, g)
		rig.Path = append(rig.Path, plan.Node{Stop: key})
		rig.Leads = append(rig.Leads, plan.Lead{From: from, To: key, LengthM: &s.metres})
		from = key
	}
	for i, b := range s.ahead {
		id := plan.ID("ahead" + string(rune('a'+i)))
		plug(plan.Gear{ID: id, Name: string(id), Kind: plan.Pedal, Blocks: []plan.Block{b}})
	}
	in, out := 1e6, 1e3
	b := plan.Block{ID: "fx", Name: "end", Effect: plan.EffectBuffer, Bypass: plan.AlwaysOn, InputOhm: &in, OutOhm: &out}
	if s.drive {
		b.Effect, b.Controls = plan.EffectDistortion, []plan.Control{
			{ID: "drive", Name: "drive", Kind: plan.Knob, Access: plan.SlowHand},
		}
	}
	plug(plan.Gear{ID: "end", Name: "End", Kind: plan.Pedal, Blocks: []plan.Block{b}})
	p.Rigs = []plan.Rig{rig}
	return p
}

func strangers() *rapid.Generator[stranger] {
	return rapid.Custom(func(t *rapid.T) stranger {
		return stranger{
			volume: rapid.Float64Range(0.5, 10).Draw(t, "volume"), tone: rapid.Float64Range(0, 10).Draw(t, "tone"),
			taper:  rapid.SampledFrom([]string{plan.LinearTaper, plan.AudioTaper, plan.AudioTaper10}).Draw(t, "taper"),
			metres: rapid.Float64Range(0, 30).Draw(t, "m"), outputMV: rapid.Float64Range(40, 400).Draw(t, "mV"),
			henry: rapid.Float64Range(1, 8).Draw(t, "H"), bleed: rapid.Bool().Draw(t, "bleed"),
			vintage: rapid.Bool().Draw(t, "vintage"),
		}
	})
}

// probes are where responses are compared: even, so that half a second holds whole cycles of each.
var probes = []float64{120, 1000, 3000, 5000, 8000}

// heard is what a rig makes of a sine at each probe, in dB, as it is rendered.
func heard(t require.TestingT, p *plan.Plan) map[float64]float64 {
	const half, amplitude = 24000, 0.002
	dry := make([]float64, 2*half)
	for i := range dry {
		for _, hz := range probes {
			dry[i] += amplitude * math.Sin(2*math.Pi*hz*float64(i)/48000)
		}
	}
	h, err := signal.Listen(
		context.Background(), p, "rig", []signal.Take{{Name: "x", Sound: "home"}}, false,
		signal.Options{Dry: dry, Kept: kept},
	)
	require.NoError(t, err)
	out := map[float64]float64{}
	for _, hz := range probes {
		var sum complex128
		for i := half; i < 2*half; i++ {
			sum += complex(float64(h[0].L[i]), 0) * cmplx.Exp(complex(0, -2*math.Pi*hz*float64(i)/48000))
		}
		out[hz] = 20*math.Log10(2*cmplx.Abs(sum)/half/amplitude) - h[0].Gain
	}
	return out
}

// solved is the same by the circuit: what the report of lost treble says of it.
func solved(t require.TestingT, p *plan.Plan) map[float64]float64 {
	r, err := electric.Solve(p, "rig", "", electric.Options{})
	require.NoError(t, err)
	at := func(points []electric.Point, hz float64) float64 {
		for i := 1; i < len(points); i++ {
			if a, b := points[i-1], points[i]; b.Hz >= hz {
				share := math.Log(hz/a.Hz) / math.Log(b.Hz/a.Hz)
				return a.DB + share*(b.DB-a.DB)
			}
		}
		return math.NaN()
	}
	out := map[float64]float64{}
	for _, hz := range probes {
		out[hz] = at(r.Sounds[0].Points, hz) - at(r.Sounds[0].Reference, hz)
	}
	return out
}

func assertAgree(t require.TestingT, p *plan.Plan) {
	want, got := solved(t, p), heard(t, p)
	for _, hz := range probes {
		require.InDelta(t, want[hz], got[hz], 0.1, "at %g Hz", hz)
	}
}

func TestWhatIsHeardIsWhatTheCircuitSays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		assertAgree(t, strangers().Draw(t, "rig").plan())
	})
}

func TestALongCableIsHeardUntilABufferComesBeforeIt(t *testing.T) {
	off := plan.Block{ID: "fx", Name: "drive", Effect: plan.EffectOverdrive, Bypass: plan.TrueBypass}
	buffered := plan.Block{ID: "fx", Name: "buffer", Effect: plan.EffectBuffer, Bypass: plan.AlwaysOn}
	s := stranger{volume: 10, tone: 10, metres: 1, outputMV: 100, henry: 2.5}
	short := heard(t, s.plan())[5000]
	s.metres = 30
	long := heard(t, s.plan())[5000]
	assert.Less(t, long, short-8, "30 m are not 1 m")
	s.metres, s.ahead = 5, []plan.Block{off, off}
	bypassed := heard(t, s.plan())[5000]
	s.ahead = []plan.Block{buffered, off}
	assert.Greater(t, heard(t, s.plan())[5000], bypassed+4, "15 m of true bypass open up behind a buffer")
}

func TestAPassiveVolumePedalIsPartOfTheCircuit(t *testing.T) {
	half := plan.Number(5)
	pedal := plan.Block{
		ID: "fx", Name: "volume", Effect: plan.EffectVolume, Bypass: plan.AlwaysOn, Passive: true,
		Pot:      &plan.Pot{Ohm: 250e3, Taper: plan.LinearTaper},
		Controls: []plan.Control{{ID: "position", Name: "position", Kind: plan.Knob, Access: plan.Foot, Default: &half}},
	}
	p := stranger{volume: 10, tone: 10, metres: 3, outputMV: 100, henry: 2.5, ahead: []plan.Block{pedal}}.plan()
	assertAgree(t, p)
	assert.Less(t, heard(t, p)[120], -6.0)
}

func TestListsOfWhatIsNotThereAreEmpty(t *testing.T) {
	p := stranger{volume: 10, tone: 10, metres: 3, outputMV: 100, henry: 2.5, drive: true}.plan()
	r, err := signal.Measure(context.Background(), p, "rig", signal.Options{Kept: kept})
	require.NoError(t, err)
	data, err := json.Marshal(r)
	require.NoError(t, err)
	assert.NotContains(t, string(data), "null", "no delay and no reverb: nothing that repeats")
}

func TestHotterPickupsAreDirtier(t *testing.T) {
	last := 0.0
	for _, mv := range []float64{50, 100, 200, 356} {
		p := stranger{volume: 10, tone: 10, metres: 3, outputMV: mv, henry: 2.5, drive: true}.plan()
		p.Rigs[0].Base = map[plan.Key]plan.Value{"end/fx/drive": plan.Number(0)}
		r, err := signal.Measure(context.Background(), p, "rig", signal.Options{Kept: kept})
		require.NoError(t, err)
		assert.Greater(t, r.Sounds[0].Figures.Dirt, last+2, "%g mV", mv)
		last = r.Sounds[0].Figures.Dirt
	}
}

// twin is a guitar of two pickups that its selector joins as it is told.
func twin(at plan.Position) *plan.Plan {
	p := stranger{volume: 10, tone: 10, metres: 3, outputMV: 100, henry: 2.5}.plan()
	both := plan.Text("both")
	at.Is, at.Pickups = "both", []plan.ID{"neck", "bridge"}
	g := &p.Gear[0]
	g.Pickups = append(g.Pickups, plan.Pickup{ID: "neck", Name: "neck"})
	g.Controls = append(
		g.Controls,
		plan.Control{
			ID: "pickup", Name: "pickup", Kind: plan.Selector, Access: plan.QuickHand, Options: []string{"both"}, Default: &both,
		},
	)
	g.Positions = []plan.Position{at}
	return p
}

func TestPickupsInSeriesAreLouderAndOutOfPhaseThinner(t *testing.T) {
	figures := func(at plan.Position) signal.Figures {
		r, err := signal.Measure(context.Background(), twin(at), "rig", signal.Options{Kept: kept})
		require.NoError(t, err)
		return r.Sounds[0].Figures
	}
	beside, series, reversed := figures(plan.Position{}), figures(plan.Position{Series: true}), figures(
		plan.Position{Reversed: []plan.ID{"neck"}},
	)
	assert.InDelta(t, 4, series.Loudness-beside.Loudness, 2.5, "twice the voltage, less treble")
	assert.Less(t, series.Bands[3]-series.Bands[0], beside.Bands[3]-beside.Bands[0]-3, "darker")
	assert.Less(t, reversed.Loudness, beside.Loudness-3)
	assert.Less(t, reversed.Bands[0], beside.Bands[0]-3, "of the lows, which both read much alike, most is gone")
}

func TestTwoOrdersOfLinearBoxesRenderAlike(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in, out := 1e6, 100.0
		box := func(id plan.ID, effect plan.Effect, controls ...plan.ID) plan.Gear {
			b := plan.Block{ID: "fx", Name: string(id), Effect: effect, Bypass: plan.AlwaysOn, InputOhm: &in, OutOhm: &out}
			for _, c := range controls {
				b.Controls = append(b.Controls, plan.Control{ID: c, Name: string(c), Kind: plan.Knob, Access: plan.SlowHand})
			}
			return plan.Gear{ID: id, Name: string(id), Kind: plan.Pedal, Blocks: []plan.Block{b}}
		}
		boxes := []plan.Gear{
			box("eq", plan.EffectEQ, "200", "1600", "level"), box("wah", plan.EffectWah, "position"),
			box("body", plan.EffectAcoustic), box("cab", plan.EffectCab),
		}
		p := stranger{volume: 8, tone: 10, metres: 3, outputMV: 100, henry: 2.5}.plan()
		p.Gear = append(p.Gear, boxes...)
		r := &p.Rigs[0]
		r.Base = map[plan.Key]plan.Value{}
		for _, g := range boxes {
			for _, c := range g.Blocks[0].Controls {
				r.Base[plan.BlockKey(g.ID, "fx")+"/"+plan.Key(c.ID)] = plan.Number(
					rapid.Float64Range(1, 10).Draw(t, string(g.ID+c.ID)),
				)
			}
		}
		head := r.Path // the guitar's cable ends in a buffer: what comes after it loads nobody
		render := func(order []plan.Gear) []float32 {
			r.Path = append([]plan.Node(nil), head...)
			for _, g := range order {
				r.Path = append(r.Path, plan.Node{Stop: plan.BlockKey(g.ID, "fx")})
			}
			dry := make([]float64, 12000)
			for i := range dry {
				dry[i] = 0.1 * math.Sin(float64(i*i)/60000) // a sweep
			}
			h, err := signal.Listen(
				context.Background(), p, "rig", []signal.Take{{Sound: "home"}}, false, signal.Options{Dry: dry, Kept: kept},
			)
			require.NoError(t, err)
			by := float32(math.Pow(10, -h[0].Gain/20))
			for i := range h[0].L {
				h[0].L[i] *= by
			}
			return h[0].L
		}
		one, two := render(boxes), render(rapid.Permutation(boxes).Draw(t, "order"))
		loudest := 0.0
		for _, v := range one {
			loudest = math.Max(loudest, math.Abs(float64(v)))
		}
		for i := range min(len(one), len(two), 40000) {
			require.InDelta(t, one[i], two[i], 2e-3*loudest, "at sample %d", i)
		}
	})
}
