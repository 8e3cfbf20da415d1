package choose_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"envex/core/choose"
	"envex/core/plan"
	"envex/golden"
)

// What piles make of a night: the boxes of each choice, what they make and how, what they cost to play, to carry and to
// feed, and the rig that comes of the first.
func TestWhatIsToldOfChoices(t *testing.T) {
	var b strings.Builder
	for _, ask := range []struct {
		name  string
		kinds []string
		o     choose.Options
	}{
		{"a night", []string{"mid-hump-overdrive", "boost", "tremolo", "tuner"}, choose.Options{SetList: "night"}},
		{"one box alone", []string{"fuzz", "tremolo", "compressor"}, choose.Options{SetList: "night", Most: 1}},
		{"kinds besides", []string{"transparent-overdrive"}, choose.Options{
			SetList: "night", Kinds: []string{"tremolo", "tap-tremolo"},
		}},
		{"a board and a supply", []string{"mid-hump-overdrive", "tap-tremolo", "small-supply", "small-board"}, choose.Options{
			SetList: "night", Board: "small-board", Supply: "small-supply",
		}},
		{"two sounds", []string{"dual-drive", "boost-and-drive"}, choose.Options{Sounds: []plan.ID{"home", "crunch"}}},
	} {
		ask.o.Kept = kept
		found, err := choose.For(context.Background(), quay(t, ask.kinds...), ask.o)
		require.NoError(t, err, ask.name)
		for i := range found.Sets {
			s := &found.Sets[i]
			rig := s.Rig
			s.Rig, s.New = plan.Rig{}, nil
			if i == 0 {
				s.Rig = plan.Rig{ID: rig.ID, Name: rig.Name, Path: rig.Path, Base: rig.Base, Recipes: rig.Recipes}
			}
		}
		fmt.Fprintf(&b, "# %s\n%s", ask.name, golden.Lines(t, found))
	}
	golden.Hold(t, "testdata/choices.txt", b.String())
}
