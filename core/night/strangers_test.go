package night

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// On every rig of every example a show can be played, called from, broken and gone through.
func TestAShowGoesOnOnEveryRig(t *testing.T) {
	files, err := filepath.Glob("../../examples/*.envex.json")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, file := range files {
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		p, err := plan.Decode(data)
		require.NoError(t, err)
		for _, r := range p.Rigs {
			for _, l := range p.SetLists {
				t.Run(filepath.Base(file)+" "+r.Name, func(t *testing.T) {
					q := *p
					q.Shows = append([]plan.Show{}, plan.Show{ID: "tonight", Name: "Tonight", SetList: l.ID, Rig: r.ID})
					goesOn(t, &q)
				})
			}
		}
	}
}

func goesOn(t *testing.T, p *plan.Plan) {
	e, err := On(p, "tonight", "", nil)
	require.NoError(t, err)
	if len(e.Steps) == 0 {
		return
	}
	require.NoError(t, e.WithCalls(t.Context()))
	_, err = e.Cues()
	require.NoError(t, err)
	here := Event{Entry: e.Steps[len(e.Steps)/2].Entry, Section: e.Steps[len(e.Steps)/2].Section, AtMS: 10}
	breaks, err := Breaks(t.Context(), p, "tonight", "", nil, here, nil)
	require.NoError(t, err)
	for _, b := range breaks {
		require.NotEmpty(t, b.Ways, "%s has a way round", b.Name)
		for _, way := range b.Ways {
			x := here
			x.ID, x.Kind, x.Gear, x.Way = "b", Broke, b.Gear, &way.Way
			then, err := On(p, "tonight", "", []Event{x})
			require.NoError(t, err)
			assert.Len(t, then.Steps, len(e.Steps), b.Name)
			assert.Empty(t, then.Ignored)
			for _, s := range then.Steps[then.From:] {
				for _, press := range s.Presses {
					assert.False(
						t,
						way.Round == LeaveOut && press.Switch.Gear() == b.Gear,
						"%s is out and pressed",
						b.Name,
					)
				}
			}
		}
	}
	for _, song := range p.Songs {
		x := here
		x.ID, x.Kind, x.Song = "c", Called, song.ID
		then, err := On(p, "tonight", "", []Event{x})
		require.NoError(t, err)
		assert.Equal(t, titles(then), played(then))
	}
	_, err = AfterShow(p, "tonight", []Event{here})
	require.NoError(t, err)
}
