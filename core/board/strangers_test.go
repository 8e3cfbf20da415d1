package board_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/board"
	"envex/core/plan"
)

// What strangers play stands on no board yet. Put on one, everything that belongs there finds its place.
func TestAStrangersRigIsFittedOntoItsFirstBoard(t *testing.T) {
	files, err := filepath.Glob("../../testdata/rigs/*/rig.envex.json")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, name := range files {
		t.Run(filepath.Base(filepath.Dir(name)), func(t *testing.T) {
			data, err := os.ReadFile(name)
			require.NoError(t, err)
			p, err := plan.Decode(data)
			require.NoError(t, err)
			rig := p.Rigs[0].ID
			bare := judge(t, p, rig, board.Options{})
			assert.Empty(t, bare.LeftOut, "nothing has to stand on a board where there is none")
			r := judge(t, p, rig, board.Options{SetList: p.SetLists[0].ID, Board: "plain-650x356", Fit: true})
			assert.True(t, r.Fits, "%s\n%v", words(r), r.LeftOut)
			assert.True(t, r.Stands(), words(r))
		})
	}
}

func TestWhatStoodOnTheBareFloorStandsBesideTheBoardSideBySide(t *testing.T) {
	p := kelp(t)
	rig, _ := p.FindRig("carry")
	with := *rig
	with.Path = append(append([]plan.Node{}, rig.Path...), plan.Node{Stop: "hired/preamp"}, plan.Node{Stop: "hired/power"})
	with.Floor.Places = map[plan.ID]plan.Placement{"hired": {X: 500, Y: 10}, "nudge": {X: 600, Y: 10}}
	p.Put(with)
	for _, x := range judge(t, p, "carry", board.Options{Board: "plain-900x450"}).Places {
		if x.Gear == "hired" {
			assert.Equal(t, board.Placed{Gear: "hired", X: 920, Y: 10}, x)
		} else {
			assert.Equal(t, plan.ID("plain-900x450"), x.Board)
		}
	}
}
