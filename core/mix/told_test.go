package mix_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/mix"
	"envex/core/plan"
	"envex/demo"
	"envex/golden"
)

// What is heard of the demo among its band, what is wrong there, and what would mend it; and of a usual band, in halls.
func TestWhatIsToldOfRooms(t *testing.T) {
	p := demo.Plan()
	var b strings.Builder
	for _, rig := range []plan.ID{"long", "bare"} {
		r, err := mix.Room(context.Background(), p, rig, "quay-set", mix.Options{Kept: kept})
		require.NoError(t, err)
		fmt.Fprintf(&b, "# %s\n%s", rig, golden.Lines(t, r))
	}
	golden.Hold(t, "testdata/demo.txt", b.String())

	b.Reset()
	loud := gig(t, func(b *plan.Band) { b.Parts[3].LevelDB = number(12) }, usual()...)
	r := room(t, loud)
	b.WriteString(golden.Lines(t, r))
	halls, err := mix.Halls(context.Background(), loud, "small", "set", mix.UsualHalls(), mix.Options{Kept: kept})
	require.NoError(t, err)
	b.WriteString("# halls\n" + golden.Lines(t, halls))
	golden.Hold(t, "testdata/band.txt", b.String())
}
