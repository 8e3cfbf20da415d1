package signal

import (
	"math"

	"envex/core/plan"
)

// trims gives every stage whose level was measured the trim that makes its model agree with it: what
// was measured, less what the model makes of the reference phrase with its knobs where they stood.
func (r *rendering) trims(l line, s Setting) {
	if len(r.rig.Levels) == 0 {
		return
	}
	l.each(func(x *stage) {
		for i := range r.rig.Levels {
			if level := &r.rig.Levels[i]; level.Block == x.key {
				x.trim = level.OnOver - r.modelledOnOver(x.set.gear, x.set.block, func(key plan.Key) plan.Value {
					if v, ok := level.At[key]; ok {
						return v
					}
					return s.At(key)
				})
			}
		}
	})
}

// modelledOnOver is how much louder a block's model is on than off, in LU, fed the reference phrase.
func (r *rendering) modelledOnOver(g *plan.Gear, b *plan.Block, at func(plan.Key) plan.Value) float64 {
	set := settings{gear: g, block: b, at: at}
	// Nothing fails that runs to its end.
	over, _ := once(r.kept, set.identity(), "on over off", func() (float64, error) {
		dry := reference(r.kept)
		on := mask(dry)
		model, _ := set.model(false)
		if model == nil {
			return 0, nil
		}
		wet := model.run(wave{l: append([]float64(nil), dry...)})
		return maskedLoudness(wet, on) - maskedLoudness(wave{l: dry}, on), nil
	})
	return over
}

// OnOverOff is the difference in loudness, in LU, between two recordings of the same playing, one
// with a block on and one with it off, over the blocks where both play: what a player measures with
// two files. It is NaN where they never play together.
func OnOverOff(on, off []float64) float64 {
	n := min(len(on), len(off))
	a, b := mask(on[:n]), mask(off[:n])
	playing := make([]bool, len(a))
	some := false
	for i := range a {
		playing[i] = a[i] && b[i]
		some = some || playing[i]
	}
	if !some {
		return math.NaN()
	}
	return maskedLoudness(wave{l: on[:n]}, playing) - maskedLoudness(wave{l: off[:n]}, playing)
}

// Calibrated brings a dry recording, whose gain nobody knows, to the level of the test phrase: 0.1 V
// rms over what is within 30 dB of its loudest 400 ms. Silence stays silence.
func Calibrated(x []float64) []float64 {
	list := blocks(x)
	most := 0.0
	for _, b := range list {
		most = math.Max(most, b)
	}
	sum, n := 0.0, 0
	for k, b := range list {
		if b > 0 && b >= most*1e-3 {
			for _, v := range x[k*meterStep : k*meterStep+meterBlock] {
				sum += v * v
				n++
			}
		}
	}
	out := append([]float64(nil), x...)
	if sum <= quiet {
		return out
	}
	k := chordRMS / math.Sqrt(sum/float64(n))
	for i := range out {
		out[i] *= k
	}
	return out
}
