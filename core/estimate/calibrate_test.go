package estimate

import (
	"context"
	"fmt"
	"go/format"
	"maps"
	"math"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"

	"envex/core/catalog"
	"envex/core/plan"
	"envex/core/signal"
	"envex/golden"
)

// performance is some seconds of playing.
func performance(r *rand.Rand, style int, seconds float64) []float64 {
	x := make([]float64, int(seconds*rate))
	at := 0.05
	level := math.Pow(10, (r.Float64()*8-4)/20)
	for at < seconds-0.1 {
		length := []float64{0.15, 0.25, 0.4, 0.8, 1.5}[r.IntN(5)]
		hard := math.Pow(10, (r.Float64()*10-8)/20) * level
		switch style {
		case 0: // single notes
			ring(r, x, at, length, 110*math.Pow(2, float64(r.IntN(30))/12), 0.14*hard)
		case 1: // fifths
			f := 82.4 * math.Pow(2, float64(r.IntN(12))/12)
			for i, k := range []float64{1, 1.498, 2} {
				ring(r, x, at+0.004*float64(i), length, f*k, 0.09*hard)
			}
		default: // chords
			f := 98 * math.Pow(2, float64(r.IntN(10))/12)
			chord := [][]float64{{0, 7, 12, 16, 19}, {0, 7, 12, 15, 19, 24}, {0, 4, 7, 12}, {0, 7, 10, 16, 22}}[r.IntN(4)]
			if style == 3 {
				length *= 2
			}
			for i, k := range chord {
				ring(r, x, at+0.012*float64(i), length, f*math.Pow(2, k/12), 0.07*hard)
			}
		}
		at += length
	}
	return x
}

// ring is a plucked string of stiff partials, each dying away by itself.
func ring(r *rand.Rand, x []float64, at, length, hz, level float64) {
	place, soft := 0.08+0.15*r.Float64(), 1.2+0.8*r.Float64()
	from, to := int(at*rate), min(int((at+length)*rate), len(x))
	for k := 1; k < 40; k++ {
		f := hz * float64(k) * math.Sqrt(1+8e-5*float64(k*k))
		if f > 9000 {
			break
		}
		amp := level * math.Abs(math.Sin(math.Pi*place*float64(k))) / math.Pow(float64(k), soft-0.4) * 2
		decay := math.Exp(-6.9 / ((3.5 / (1 + 0.12*float64(k)) * math.Sqrt(196/hz)) * rate))
		phase := 2 * math.Pi * r.Float64()
		w := 2 * math.Pi * f / rate
		re, im := amp*math.Cos(phase), amp*math.Sin(phase)
		c, s := decay*math.Cos(w), decay*math.Sin(w)
		for i := from; i < to; i++ {
			fade := 1.0
			if left := to - i; left < 480 {
				fade = float64(left) / 480
			}
			if in := i - from; in < 96 {
				fade *= float64(in) / 96
			}
			x[i] += fade * im
			re, im = re*c-im*s, re*s+im*c
		}
	}
}

// specimen is a rig of which a recording is made.
type specimen struct {
	guitar, drive, amp string
	compressor, wet    bool
	gain, clean        float64
	delay, chorus      bool
}

func (s specimen) plan(t require.TestingT, r *rand.Rand) *plan.Plan {
	p := &plan.Plan{}
	values := map[plan.Key]plan.Value{}
	base := map[plan.Key]plan.Value{}
	var path []plan.Node
	put := func(id string) plan.Gear {
		kind, ok := catalog.Find(id)
		require.True(t, ok, id)
		g := kind.In(p, plan.ID(id), kind.Name)
		p.Put(g)
		return g
	}
	stop := func(id string) plan.Key {
		g := put(id)
		key := plan.BlockKey(g.ID, g.Blocks[0].ID)
		path = append(path, plan.Node{Stop: key})
		if g.Blocks[0].Bypass != plan.AlwaysOn {
			values[key+"/on"] = plan.On(true)
		}
		for _, c := range g.Blocks[0].Controls {
			if c.Kind == plan.Knob && c.Unit == "" {
				base[key+"/"+plan.Key(c.ID)] = plan.Number(math.Round(10*(2+6*r.Float64())) / 10)
			}
		}
		return key
	}
	p.Put(plan.Sound{ID: "home", Name: "Home", Short: "H", Tape: "bone", Role: plan.HomeRole})
	put(s.guitar)
	gain := func(key plan.Key, to float64) {
		for _, id := range []plan.Key{"gain", "drive", "fuzz", "volume"} {
			if _, ok := base[key+"/"+id]; ok {
				base[key+"/"+id] = plan.Number(to)
			}
		}
	}
	if s.compressor {
		stop("compressor")
	}
	if s.drive != "" {
		gain(stop(s.drive), s.gain)
	}
	if s.chorus {
		stop("chorus")
	}
	if s.delay {
		stop("digital-delay")
	}
	if s.wet {
		stop("hall-reverb")
	}
	amp := put(s.amp)
	for _, b := range amp.Blocks {
		path = append(path, plan.Node{Stop: plan.BlockKey(amp.ID, b.ID)})
	}
	key := plan.BlockKey(amp.ID, amp.Blocks[0].ID)
	for _, c := range amp.Blocks[0].Controls {
		base[key+"/"+plan.Key(c.ID)] = plan.Number(5)
		if c.Kind != plan.Knob {
			delete(base, key+"/"+plan.Key(c.ID))
		}
	}
	gain(key, s.clean)
	p.Put(plan.Rig{
		ID: "rig", Name: "Rig", Guitars: []plan.ID{plan.ID(s.guitar)}, Path: path, Base: base,
		Recipes: []plan.Recipe{{ID: "made", Sound: "home", Values: values}},
	})
	return p
}

// row is a recording of a specimen, and the dirt that the meter gives its rig.
type row struct {
	box  string
	root float64 // of the dirt
	seen features
}

func drives() []string {
	var list []string
	for _, k := range catalog.All() {
		if len(k.Gear.Blocks) == 1 && k.Gear.Blocks[0].Effect.IsGain() && k.Gear.Kind == plan.Pedal {
			list = append(list, k.ID)
		}
	}
	return list
}

func specimens(t require.TestingT, seed uint64, n int) []row {
	r := rand.New(rand.NewPCG(seed, 1))
	kept := signal.NewKept()
	var rows []row
	all := drives()
	for i := range n {
		s := specimen{
			guitar:     []string{"three-single-coil", "two-humbucker"}[r.IntN(2)],
			amp:        []string{"combo-plain", "combo-loop", "two-channel-head"}[r.IntN(3)],
			compressor: r.IntN(5) == 0, wet: r.IntN(5) == 0, chorus: r.IntN(6) == 0, delay: r.IntN(5) == 0,
			gain: math.Round(5+r.Float64()*95) / 10, clean: math.Round(5+r.Float64()*35) / 10,
		}
		if r.IntN(3) > 0 {
			s.drive = all[r.IntN(len(all))]
		} else {
			s.clean = s.gain
		}
		one, _ := s.row(t, r, playedBy(r, i%5), kept)
		rows = append(rows, one)
	}
	return rows
}

// playedBy is the playing of a specimen: a performance, or nil for the test phrase.
func playedBy(r *rand.Rand, style int) []float64 {
	if style == 4 {
		return nil
	}
	return performance(r, style, 4)
}

func (s specimen) row(t require.TestingT, r *rand.Rand, played []float64, kept *signal.Kept) (row, []float64) {
	p := s.plan(t, r)
	require.Empty(t, p.Validate())
	rep, err := signal.Measure(context.Background(), p, "rig", signal.Options{Kept: kept, Want: signal.ForTargets})
	require.NoError(t, err)
	h, err := signal.Listen(
		context.Background(), p, "rig", []signal.Take{{Sound: "home"}}, false, signal.Options{Kept: kept, Dry: played},
	)
	require.NoError(t, err)
	heard := doubles(h[0].L)
	seen, ok := featuresOf(heard)
	require.True(t, ok)
	box := s.drive
	if box == "" {
		box = s.amp
	}
	return row{box, math.Sqrt(rep.Sounds[0].Figures.Dirt), seen}, heard
}

func doubles(x []float32) []float64 {
	y := make([]float64, len(x))
	for i, v := range x {
		y[i] = float64(v)
	}
	return y
}

// fitOf is the least-squares fit to rows, held a little towards none.
func fitOf(t require.TestingT, rows []row) fit {
	f := fit{}
	n := float64(len(rows))
	for i := range f.Means {
		for _, r := range rows {
			f.Means[i] += r.seen[i] / n
		}
		for _, r := range rows {
			f.Spreads[i] += (r.seen[i] - f.Means[i]) * (r.seen[i] - f.Means[i]) / n
		}
		f.Spreads[i] = math.Sqrt(f.Spreads[i])
	}
	size := len(f.terms(features{}))
	a, b := mat.NewDense(size, size, nil), mat.NewVecDense(size, nil)
	for _, r := range rows {
		terms := f.terms(r.seen)
		for i, x := range terms {
			b.SetVec(i, b.AtVec(i)+x*r.root)
			for k, y := range terms {
				a.Set(i, k, a.At(i, k)+x*y)
			}
		}
	}
	for i := 1; i < size; i++ {
		a.Set(i, i, a.At(i, i)+0.005*n)
	}
	var w mat.VecDense
	require.NoError(t, w.SolveVec(a, b))
	for i := range size {
		f.Weights = append(f.Weights, w.AtVec(i))
	}
	return f
}

// What ships is fitted to recordings rendered from rigs, and its error is that on circuits it was not fitted to.
func TestFit(t *testing.T) {
	if !*golden.Update {
		t.Skip("fits anew with -update")
	}
	rows := specimens(t, 1, 700)
	boxes := map[string]bool{}
	for _, r := range rows {
		boxes[r.box] = true
	}
	var off []float64
	for _, box := range slices.Sorted(maps.Keys(boxes)) {
		var known, held []row
		for _, r := range rows {
			if r.box == box {
				held = append(held, r)
			} else {
				known = append(known, r)
			}
		}
		f, sum := fitOf(t, known), 0.0
		for _, r := range held {
			off = append(off, math.Abs(f.at(r.seen)-r.root))
			sum += (f.at(r.seen) - r.root) / float64(len(held))
		}
		t.Logf("%s: %d, %+.2f on the whole", box, len(held), sum)
	}
	slices.Sort(off)
	f := fitOf(t, rows)
	f.Within = math.Round(100*off[len(off)*4/5]) / 100
	t.Logf("half within %.2f, four of five within %.2f", off[len(off)/2], f.Within)
	require.NoError(t, os.WriteFile("fitted.go", source(t, f), 0o644))
}

// source is the fit as it ships.
func source(t require.TestingT, f fit) []byte {
	list := func(x []float64) string {
		var b strings.Builder
		for i, v := range x {
			if i%10 == 0 {
				b.WriteString("\n")
			}
			fmt.Fprintf(&b, "%.4f, ", v)
		}
		return strings.ReplaceAll(b.String(), ", \n", ",\n")
	}
	text, err := format.Source(fmt.Appendf(nil, `package estimate

// Made by go test ./core/estimate -run TestFit -update, from recordings that are rendered: some minutes.

var fitted = fit{
Means: features{%s
},
Spreads: features{%s
},
Weights: []float64{%s
},
Within: %g,
}
`, list(f.Means[:]), list(f.Spreads[:]), list(f.Weights), f.Within))
	require.NoError(t, err)
	return text
}
