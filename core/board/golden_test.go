package board_test

import (
	"fmt"
	"path/filepath"
	"strings"
	"testing"

	"envex/core/board"
	"envex/core/plan"
	"envex/golden"
)

// What the boards of the made-up band come to, as they stand and fitted, changes only where somebody meant it to.
func TestBoardsOfTheDemoStandAsTheyDid(t *testing.T) {
	p := kelp(t)
	var b strings.Builder
	for _, rig := range []plan.ID{"long", "carry", "switched", "bare"} {
		for _, fit := range []bool{false, true} {
			if r, _ := p.FindRig(rig); !fit || r.Floor.Board != "" {
				told(&b, judge(t, p, rig, board.Options{SetList: "quay-set", Fit: fit}), fit)
			}
		}
	}
	file := filepath.Join("testdata", "demo.golden")
	golden.Hold(t, file, b.String())
}

func told(b *strings.Builder, r *board.Report, fit bool) {
	fmt.Fprintf(
		b,
		"%s on %q %v x %v, fit asked %v: fits %v, proven %v, left out %v\n",
		r.Rig,
		r.Name,
		r.Width,
		r.Depth,
		fit,
		r.Fits,
		r.Proven,
		r.LeftOut,
	)
	for _, x := range r.Places {
		fmt.Fprintf(b, "  %s on %q at %.1f %.1f turned %d under %v\n", x.Gear, x.Board, x.X, x.Y, x.Rotation, x.Under)
	}
	for _, f := range r.Findings {
		fmt.Fprintf(b, "  %s %.1f of %.1f: %s | %s\n", f.Rule, f.Value, f.Limit, f.Words, f.Edit)
	}
	if r.Footwork != nil {
		fmt.Fprintf(b, "  footwork %.2f to %.2f s\n", r.Footwork.Before, r.Footwork.After)
	}
	fmt.Fprintf(b, "  cable %.2f to %.2f m, weight %.0f g\n", r.Cable.Before, r.Cable.After, r.Weight.Total)
	for _, l := range r.Leads {
		fmt.Fprintf(b, "  lead %s to %s: %v\n", l.From, l.To, l.Route)
	}
}
