package estimate

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/golden"
)

// What is estimated of recordings that were made here: of four ways to play, dry, through delays and with tails.
func TestWhatIsToldOfRecordings(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 14))
	var b strings.Builder
	home, _ := through(t, stopped(r, 0, 4, 0), nil, specimen{})
	for i, x := range []struct {
		silence float64
		knobs   map[plan.Key]plan.Value
		with    specimen
	}{
		{0, nil, specimen{}},
		{0, map[plan.Key]plan.Value{
			"digital-delay/fx/time": plan.Number(420), "digital-delay/fx/repeats": plan.Number(4),
			"digital-delay/fx/mix": plan.Number(5),
		}, specimen{delay: true}},
		{2, map[plan.Key]plan.Value{"combo-plain/reverb/reverb": plan.Number(6)}, specimen{}},
		{0, map[plan.Key]plan.Value{
			"digital-delay/fx/time": plan.Number(90), "digital-delay/fx/repeats": plan.Number(1),
			"digital-delay/fx/mix": plan.Number(4),
		}, specimen{delay: true}},
	} {
		heard, _ := through(t, stopped(r, i, 4, x.silence), x.knobs, x.with)
		got, err := Of([][]float64{heard}, [][]float64{home})
		require.NoError(t, err)
		fmt.Fprintf(&b, "# %d\n%s%s\n", i, golden.Lines(t, got), strings.Join(got.Said(), "\n"))
		fmt.Fprintf(&b, "targets\n%s", golden.Lines(t, got.Targets(plan.Tempo{BPM: 100})))
		fmt.Fprintf(&b, "against\n%s", golden.Lines(t, Step(got, nil, 20, 1)))
	}
	golden.Hold(t, "testdata/recordings.txt", b.String())
}
