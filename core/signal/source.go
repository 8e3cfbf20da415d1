package signal

import (
	"context"
	"fmt"
	"math/cmplx"
	"strings"

	"envex/core/electric"
	"envex/core/plan"
)

// source is what a guitar gives: the pickups that sound, on full into the run of cable that everything
// is compared with. What its knobs and the rig's own cables make of that is the first run's matter.
type source struct {
	electric.Source
	kept  *Kept
	tuned plan.Strings
}

// name tells what is played from all else that may be.
func (s source) name() string { return fmt.Sprint(s.Name(), s.tuned) }

// phrase is the test phrase as the pickups give it, in volts: each reads the strings at its own place,
// is as loud by itself as its output says, and has its own share of what they give together.
func (s source) phrase() []float64 {
	if known, ok := s.kept.phrases.Get(s.name()); ok {
		return append([]float64(nil), known...)
	}
	var sum []float64
	for i, x := range s.Pickups() {
		strings := phraseBy(x, s.tuned)
		alone := append([]float64(nil), strings...)
		filterOf(func(hz float64) float64 { return cmplx.Abs(s.Alone(i, hz)) }).unit().run(wave{l: alone})
		filterOf(
			func(hz float64) float64 { return cmplx.Abs(s.Share(i, hz) * s.Reference(hz)) },
		).unit().
			run(wave{l: strings})
		k := x.OutputMV / 1000 / max(rms(alone[4*Rate:]), quiet)
		if x.Reversed {
			k = -k
		}
		if sum == nil {
			sum = make([]float64, len(strings))
		}
		for n, v := range strings {
			sum[n] += k * v
		}
	}
	s.kept.phrases.Add(s.name(), sum)
	return append([]float64(nil), sum...)
}

// halfSpan is half of how far apart the coils of a pair read a string, as a share of its length: 18 mm of
// 648 mm.
const halfSpan = 9.0 / 648

// phraseBy is the phrase as a pickup reads it: a pair of coils at two places, whose sum has less of what
// is short along the string.
func phraseBy(x electric.Sounding, tuned plan.Strings) []float64 {
	place := placeOf(x.Pickup)
	if !x.Pair {
		return phraseAt(place, tuned)
	}
	sum := phraseAt(place-halfSpan, tuned)
	for i, v := range phraseAt(place+halfSpan, tuned) {
		sum[i] += v
	}
	return sum
}

// placeOf is where along the string a pickup reads it, by what it is called; the middle where that does
// not say.
func placeOf(p plan.Pickup) float64 {
	called := strings.ToLower(string(p.ID) + " " + p.Name)
	for _, at := range []string{"neck", "middle", "bridge"} {
		if strings.Contains(called, at) {
			return pickupPlaces[at]
		}
	}
	return pickupPlaces["middle"]
}

// play is a dry signal as the guitar gives it: the phrase, or a recording, which has its pickup in it
// already. It is not to be changed.
func (s source) play(dry []float64) []float64 {
	if dry != nil {
		return dry
	}
	return s.phrase()
}

// level is how loud strummed chords are over those of the pickup that everything is compared with, as
// a factor.
func (s source) level() float64 { return rms(s.phrase()[4*Rate:]) / chordRMS }

// over is the factor at which what another source plays, taken as it reaches this one's output, is as loud
// on chords as this one: how a second output of a guitar is played beside the first, which reads the strings
// where the first does.
func (s source) over(other source) float64 {
	x := other.phrase()
	filterOf(
		func(hz float64) float64 { return cmplx.Abs(s.Reference(hz) / other.Reference(hz)) },
	).unit().
		run(wave{l: x})
	return s.level() * chordRMS / max(rms(x[4*Rate:]), quiet)
}

// reference is the phrase by the pickup that everything is compared with: a single coil in the middle.
func reference(kept *Kept) []float64 {
	p := &plan.Plan{Rigs: []plan.Rig{{ID: "bare"}}}
	r, err := newRendering(p, "bare", kept)
	if err != nil {
		panic(err) // the rig is there
	}
	return r.source(Setting{}).phrase()
}

// source is what plays in a setting.
func (r *rendering) source(s Setting) source {
	x := r.sourceOf(r.wired.Circuit(s).Source)
	x.tuned = s.Tuned
	return x
}

func (r *rendering) sourceOf(x electric.Source) source { return source{Source: x, kept: r.kept} }

// assumptions are what is taken of a rig's circuits where nobody has said, in a setting.
func (r *rendering) assumptions(s Setting) []string {
	c := r.wired.Circuit(s)
	list := c.Assumed
	guitar, ok := r.plan.FindGear(s.Guitar)
	for _, x := range c.Source.Pickups() {
		if ok && x.Pickup.ID != "" && x.Pickup.OutputMVRMS == nil {
			list = append(
				list,
				fmt.Sprintf(
					"What the %s pickup of %s gives is not known; %g mV rms on chords is taken.",
					x.Pickup.Name,
					guitar.Name,
					electric.UsualOutputMV,
				),
			)
		}
	}
	b := &building{rendering: r, set: s, circuit: c}
	b.line(r.path, true).each(func(x *stage) {
		if !x.on || x.solved {
			return
		}
		if _, said := x.set.gear.ModelIn(x.set.block, s.At); !said && len(plan.ModelsOf(x.effect)) > 0 &&
			x.set.block.ID != ownSpeakerID {
			list = append(
				list,
				fmt.Sprintf("Which circuit %s is is not said; %s is taken.", x.name, plan.ModelsOf(x.effect)[0].Name),
			)
		}
		if names := x.set.silent(); len(names) > 0 {
			list = append(list, fmt.Sprintf("Of %s, %s: not modelled.", x.name, plan.Listed(names)))
		}
	})
	return list
}

// dirtAt is the dirt of a rig as it is set with the tones some dB up or down, as hot as the pickups make
// them, time, modulation and pitch effects bypassed.
func (r *rendering) dirtAt(ctx context.Context, s Setting, db float64) (float64, error) {
	w, err := r.render(ctx, s, multitone().by(factor(db)*r.source(s).level(), toneSettling), mode{still: true})
	if err != nil {
		return 0, err
	}
	return multitone().dirt(w), nil
}
