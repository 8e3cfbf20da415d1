package signal

import (
	"math"
	"math/cmplx"

	"envex/core/plan"
	"envex/core/reason"
)

// ToneStack is what the tone knobs of an amp do to what goes through it, in dB along frequency.
type ToneStack struct {
	Amp   plan.ID    `json:"amp"`
	Name  string     `json:"name"`
	Hz    []float64  `json:"hz"`
	AsSet []float64  `json:"as_set_db" doc:"As every knob stands."`
	Knobs []ToneKnob `json:"knobs" doc:"Those that shape it, in the order of the amp."`
}

// ToneKnob is one of them: the curve with it at either end of its turn and the others where they stand.
type ToneKnob struct {
	Key     plan.Key  `json:"key"`
	Name    string    `json:"name"`
	At      float64   `json:"at"`
	Low     float64   `json:"low"`
	High    float64   `json:"high"`
	Lowest  []float64 `json:"lowest_db"`
	Highest []float64 `json:"highest_db"`
}

// toneMovesDB is how much a knob changes the curve by at the least to be one that shapes it.
const toneMovesDB = 0.05

// ToneOf is the tone stack of an amp of a rig, as a recipe stands: of its preamp and its power section, where they play.
// It fails when the rig is not there or the amp does not play in the recipe.
func ToneOf(p *plan.Plan, rig, amp plan.ID, recipe *plan.Recipe) (*ToneStack, error) {
	r, err := newRendering(p, rig, nil)
	if err != nil {
		return nil, err
	}
	set := r.plan.SetFor(r.rig, recipe, nil, plan.Tempo{})
	var stages []settings
	r.line(set).each(func(x *stage) {
		if x.on && x.set.gear != nil && x.set.gear.ID == amp &&
			(x.effect == plan.EffectPreamp || x.effect == plan.EffectPower) {
			stages = append(stages, x.set)
		}
	})
	if len(stages) == 0 {
		return nil, reason.Errorf("no tone knobs of that amp are in the chain")
	}
	out := &ToneStack{Amp: amp, Name: stages[0].gear.Name, Knobs: []ToneKnob{}}
	for hz := 50.0; hz < 10500; hz *= math.Pow(2, 1.0/6) {
		out.Hz = append(out.Hz, math.Round(10*hz)/10)
	}
	out.AsSet = curveOf(stages, out.Hz, "", 0)
	for _, s := range stages {
		for _, c := range s.block.Controls {
			key := plan.BlockKey(amp, s.block.ID) + "/" + plan.Key(c.ID)
			v := s.at(key)
			if c.Kind != plan.Knob || c.Unit != "" || v.Kind() != plan.NumberValue {
				continue
			}
			k := ToneKnob{Key: key, Name: c.Name, At: v.Float()}
			k.Low, k.High = c.Range()
			k.Lowest, k.Highest = curveOf(stages, out.Hz, key, k.Low), curveOf(stages, out.Hz, key, k.High)
			if apartDB(k.Lowest, k.Highest) > toneMovesDB {
				out.Knobs = append(out.Knobs, k)
			}
		}
	}
	return out, nil
}

// curveOf is the response of the tone stacks in dB, with one knob somewhere else where a key is named.
func curveOf(stages []settings, hz []float64, key plan.Key, to float64) []float64 {
	out := make([]float64, len(hz))
	for _, s := range stages {
		have := s.at
		s.at = func(k plan.Key) plan.Value {
			if k == key {
				return plan.Number(to)
			}
			return have(k)
		}
		for _, f := range s.toneStack() {
			for i, at := range hz {
				out[i] += f.decibelsAt(at)
			}
		}
	}
	for i := range out {
		out[i] = math.Round(100*out[i]) / 100
	}
	return out
}

// decibelsAt is the size of the response of a section at a frequency.
func (f biquad) decibelsAt(hz float64) float64 {
	z := cmplx.Exp(complex(0, -2*math.Pi*hz/Rate))
	b := complex(f.b0, 0) + z*(complex(f.b1, 0)+z*complex(f.b2, 0))
	a := 1 + z*(complex(f.a1, 0)+z*complex(f.a2, 0))
	return decibels(cmplx.Abs(b / a))
}

func apartDB(a, b []float64) float64 {
	most := 0.0
	for i := range a {
		most = math.Max(most, math.Abs(a[i]-b[i]))
	}
	return most
}
