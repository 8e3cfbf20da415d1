package dial_test

import (
	"context"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/dial"
	"envex/core/plan"
	"envex/golden"
)

// How every sound of some rigs is dialled in, and where their amps start, as a player has read it.
func TestWhatIsToldOfRigs(t *testing.T) {
	var all strings.Builder
	for _, file := range []string{
		"../../demo/kelp-street-nine.envex.json", "../../testdata/rigs/four-cables/rig.envex.json",
		"../../testdata/rigs/stored-amp/rig.envex.json", "../../testdata/rigs/ambient/rig.envex.json",
	} {
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		p, err := plan.Decode(data)
		require.NoError(t, err)
		r := &p.Rigs[0]
		fmt.Fprintf(&all, "# %s\n", r.Name)
		for _, s := range p.Sounds {
			got, err := dial.Steps(context.Background(), p, r.ID, "", s.ID, "", dial.Options{Kept: kept})
			require.NoError(t, err)
			fmt.Fprintf(&all, "## %s\n", got.Name)
			for _, step := range got.Steps {
				fmt.Fprintf(&all, "%s (%+.1f LU, %.0f %%, %+.1f dB)\n", step.Words, step.Louder, step.Dirt, step.Bright)
				for _, k := range step.Knobs {
					fmt.Fprintf(&all, "  %s %g of %g to %g\n", k.Name, k.At, k.Low, k.High)
				}
				for _, words := range step.Also {
					fmt.Fprintf(&all, "  %s\n", words)
				}
			}
			for _, c := range got.Checks {
				fmt.Fprintf(&all, "%t: %s\n", c.Met, c.Words)
			}
		}
		starts, err := dial.StartPoints(context.Background(), p, r.ID, "", dial.Options{Kept: kept})
		if err != nil {
			fmt.Fprintf(&all, "%v\n", err)
			continue
		}
		fmt.Fprintln(&all, starts.Words)
		for _, w := range starts.Ways {
			fmt.Fprintf(&all, "%s: %.0f %%, %+.1f LU", w.Name, w.Dirt, w.Over)
			for _, k := range w.Knobs {
				fmt.Fprintf(&all, ", %s %g", k.Name, k.At)
			}
			fmt.Fprintln(&all)
		}
		if starts.Tone != nil {
			for _, k := range starts.Tone.Knobs {
				low, high := at(k.Lowest, starts.Tone.Hz), at(k.Highest, starts.Tone.Hz)
				fmt.Fprintf(&all, "%s: %.1f to %.1f dB at 566 Hz\n", k.Name, low, high)
			}
		}
	}
	const file = "testdata/told.txt"
	golden.Hold(t, file, all.String())
}

// at is a curve near 566 Hz.
func at(curve, hz []float64) float64 {
	for i, f := range hz {
		if f >= 560 {
			return curve[i]
		}
	}
	return 0
}
