package electric

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// brute tries every way to put every load anywhere, and judges each whole arrangement on its own.
type brute struct {
	loads []plan.Gear
	outs  []plan.PowerOutput
	lead  map[string]bool
	best  score
	have  bool
}

type spot struct {
	out, second int
	volts       float64
	lead        string
}

func (b *brute) spots() []spot {
	list := []spot{{out: -1, second: -1}}
	for i, o := range b.outs {
		for _, v := range o.Voltages {
			list = append(list, spot{i, -1, v, ""})
			if b.lead[plan.Reversing] && !o.AC {
				list = append(list, spot{i, -1, v, plan.Reversing})
			}
			for k := i + 1; k < len(b.outs); k++ {
				if q := b.outs[k]; slices.Contains(q.Voltages, v) && !q.AC && !o.AC && !q.Shared && !o.Shared &&
					q.Polarity == o.Polarity {
					if b.lead[plan.CurrentDoubling] {
						list = append(list, spot{i, k, v, plan.CurrentDoubling})
					}
					if b.lead[plan.VoltageDoubling] {
						list = append(list, spot{i, k, 2 * v, plan.VoltageDoubling})
					}
				}
			}
		}
	}
	return list
}

func (b *brute) try(at []spot, spots []spot) {
	if len(at) == len(b.loads) {
		if s, ok := b.judge(at); ok && (!b.have || s.compare(b.best) < 0) {
			b.best, b.have = s, true
		}
		return
	}
	for _, s := range spots {
		b.try(append(at, s), spots)
	}
}

func (b *brute) judge(at []spot) (score, bool) {
	s := score{least: 1}
	use := map[int]spot{}      // output, its spot
	drawn := map[int]float64{} // by first output
	count := map[int]int{}
	digitals, gains, polarity := map[string]bool{}, map[string]bool{}, map[string]string{}
	total := 0.0
	for i, x := range at {
		g := b.loads[i]
		if x.out < 0 {
			s.unserved++
			if !g.Power.Battery {
				s.stranded++
			}
			continue
		}
		for _, o := range []int{x.out, x.second} {
			if was, ok := use[o]; o >= 0 && ok && was != x {
				return s, false
			} else if o >= 0 {
				use[o] = x
			}
		}
		o := b.outs[x.out]
		pol := o.Polarity
		if pol == "" {
			pol = "centre-negative"
		}
		if x.lead == plan.Reversing {
			pol = map[string]string{"centre-negative": "centre-positive", "centre-positive": "centre-negative"}[pol]
			if o.Shared {
				return s, false
			}
		}
		want := g.Power.Polarity
		if want == "" {
			want = "centre-negative"
		}
		if g.Power.AC {
			want = "none"
		}
		most := g.Power.Voltage
		if g.Power.Highest != nil {
			most = *g.Power.Highest
		}
		if o.AC != g.Power.AC || !o.AC && pol != want || x.volts > most*1.06 || x.volts < g.Power.Voltage*0.94 {
			return s, false
		}
		drawn[x.out] += *g.Power.Current
		count[x.out]++
		total += *g.Power.Current
		ground := fmt.Sprint(x.out)
		if o.Shared {
			ground = "shared"
		}
		if p, ok := polarity[ground]; ok && p != want {
			return s, false
		}
		polarity[ground] = want
		gain := g.Blocks[0].Effect == plan.EffectOverdrive
		digitals[ground] = digitals[ground] || g.Power.Digital
		gains[ground] = gains[ground] || gain && !g.Power.Digital
		if digitals[ground] && gains[ground] {
			return s, false
		}
	}
	sum := 0.0
	for _, o := range b.outs {
		sum += o.CurrentMA
	}
	if total*reserve > sum {
		return s, false
	}
	for o, n := range count {
		x := use[o]
		cap := b.outs[o].CurrentMA
		switch x.lead {
		case plan.CurrentDoubling:
			cap += b.outs[x.second].CurrentMA
		case plan.VoltageDoubling:
			cap = math.Min(cap, b.outs[x.second].CurrentMA)
		}
		if drawn[o]*reserve > cap || n > 1 && (!b.lead[plan.DaisyChain] || x.second >= 0) {
			return s, false
		}
		if x.lead != "" {
			s.leads++
		}
		s.shared += n - 1
		s.least = math.Min(s.least, 1-drawn[o]/cap)
	}
	return s, true
}

func TestAssignmentAgreesWithBruteForce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var outs []plan.PowerOutput
		for range rapid.IntRange(1, 3).Draw(t, "outputs") {
			o := plan.PowerOutput{
				Voltages:  rapid.SampledFrom([][]float64{{9}, {9}, {18}, {9, 18}}).Draw(t, "volts"),
				CurrentMA: rapid.SampledFrom([]float64{50, 100, 300}).Draw(t, "mA"),
			}
			o.AC, o.Shared = rapid.IntRange(0, 9).Draw(t, "AC") == 0, rapid.IntRange(0, 3).Draw(t, "shared") == 0
			o.Polarity = rapid.SampledFrom(
				[]string{"centre-negative", "centre-negative", "centre-negative", "centre-positive"},
			).Draw(t, "polarity")
			outs = append(outs, o)
		}
		b := &brute{lead: map[string]bool{}}
		for i := range rapid.IntRange(1, 4).Draw(t, "loads") {
			g := wants(
				plan.ID(fmt.Sprintf("load%d", i)), rapid.SampledFrom([]float64{9, 9, 9, 18}).Draw(t, "V"),
				rapid.SampledFrom([]float64{10, 20, 40, 80, 200}).Draw(t, "mA"),
			)
			g.Power.AC = rapid.IntRange(0, 9).Draw(t, "AC") == 0
			g.Power.Digital, g.Power.Battery = rapid.Bool().Draw(t, "digital"), rapid.Bool().Draw(t, "battery")
			if rapid.Bool().Draw(t, "gain") {
				withGain(&g)
			}
			if rapid.IntRange(0, 4).Draw(t, "positive") == 0 {
				positive(&g)
			}
			b.loads = append(b.loads, g)
		}
		p := fedBoard(outs, b.loads...)
		supply := p.Gear[len(p.Gear)-1].Supply
		b.outs = supply.Outputs
		supply.Doubles = []string{plan.CurrentDoubling, plan.VoltageDoubling}
		for _, lead := range []string{plan.DaisyChain, plan.CurrentDoubling, plan.VoltageDoubling, plan.Reversing} {
			if rapid.Bool().Draw(t, lead) {
				b.lead[lead] = true
				p.Rigs[0].PowerLeads = append(p.Rigs[0].PowerLeads, lead)
			}
		}
		b.try(nil, b.spots())
		f := &feeding{plan: p, rig: &p.Rigs[0]}
		f.read()
		a := &assigning{feeding: f, drawn: map[plan.ID]float64{}}
		a.solve()
		require.True(t, b.have)
		assert.Zero(t, a.best.compare(b.best), "found %+v, brute force %+v", a.best, b.best)
		p.Rigs[0].PowerPlan = feedRig(t, p).Assignment.Feeds
		for _, x := range feedRig(t, p).Findings {
			assert.Contains(t, []string{"unfed"}, x.Rule, "%s: %s", x.Title, x.Reason)
		}
	})
}
