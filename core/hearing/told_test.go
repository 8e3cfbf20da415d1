package hearing_test

import (
	"fmt"
	"strings"
	"testing"

	"envex/core/hearing"
	"envex/golden"
)

// Every figure of the ear over its range: what the scales say, tones alone and in noise, two beside each other, and
// bands.
func TestFiguresOfTheEar(t *testing.T) {
	var b strings.Builder
	for _, hz := range []float64{
		25, 50, 80, 110, 130, 180, 210, 300, 450, 700, 1000, 1400,
		2000, 3300, 5200, 7900, 8100, 11000, 15000,
	} {
		fmt.Fprintf(
			&b,
			"%g Hz: ERB %.4g, cam %.4g, back %.4g; alone",
			hz,
			hearing.ERB(hz),
			hearing.Cam(hz),
			hearing.HzAt(hearing.Cam(hz)),
		)
		for _, db := range []float64{-5, 10, 25, 45, 70, 95} {
			fmt.Fprintf(&b, " %.4g", hearing.AloneOf(tone(hz, db)).Sones)
		}
		b.WriteString("; in noise")
		for _, db := range []float64{25, 45, 70, 95} {
			both := hearing.TogetherOf(tone(hz, db), noise(30, 60, 9000))
			fmt.Fprintf(&b, " %.4g/%.4g", both[0].Sones, both[1].Sones)
		}
		b.WriteString("\n")
	}
	for _, sones := range []float64{0, 0.001, 0.05, 0.4, 0.9, 1, 1.1, 2, 4, 16, 64} {
		fmt.Fprintf(&b, "%g sones: %.4g phon\n", sones, hearing.Phon(sones))
	}
	for band := range hearing.Bands {
		low, high := hearing.Edges(band)
		fmt.Fprintf(&b, "band %d: %.4g from %.4g to %.4g\n", band, hearing.Centre(band), low, high)
	}
	var levels [3][hearing.Bands]float64
	for band := range hearing.Bands {
		levels[0][band], levels[1][band], levels[2][band] = 50, 70-float64(band), 20+2*float64(band)
	}
	var all []hearing.Spectrum
	for _, x := range levels {
		all = append(all, hearing.FromLevels(x))
	}
	for i, s := range all {
		fmt.Fprintf(&b, "spectrum %d alone\n%s", i, golden.Lines(t, hearing.Alone(s)))
	}
	for i, x := range hearing.Together(all...) {
		fmt.Fprintf(&b, "spectrum %d among the others\n%s", i, golden.Lines(t, x))
	}
	golden.Hold(t, "testdata/ear.txt", b.String())
}
