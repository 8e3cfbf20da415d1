package path

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/catalog"
	"envex/core/plan"
)

func TestWhereABoxWouldBestStand(t *testing.T) {
	p := fromFile(t, "01-all-in-front-of-a-clean-amp")
	r := &p.Rigs[0]
	for kind, id := range map[string]plan.ID{
		"hard-clip-distortion": "new-clip", "boost": "new-boost", "stereo-reverb": "new-room",
	} {
		k, ok := catalog.Find(kind)
		require.True(t, ok)
		p.Gear = append(p.Gear, k.New(id, string(id)))
	}
	at := func(key plan.Key) int {
		for i, n := range r.Path {
			if n.Stop == key {
				return i
			}
		}
		return -1
	}
	lastTime, firstTime := -1, len(r.Path)
	for i, n := range r.Path {
		g, _ := p.FindGear(n.Stop.Gear())
		if b, _ := g.FindBlock(plan.ID(n.Stop.Rest())); b.Effect == plan.EffectDelay || b.Effect == plan.EffectReverb {
			lastTime, firstTime = i, min(firstTime, i)
		}
	}
	require.GreaterOrEqual(t, lastTime, 0)
	for _, id := range []plan.ID{"new-clip", "new-boost", "new-room"} {
		got, err := Place(context.Background(), p, r.ID, "", id, nil)
		require.NoError(t, err)
		require.NotEmpty(t, got.Places)
		best := got.Places[0]
		assert.Len(t, best.Path, len(r.Path)+1)
		again := newJudge(p, r, nil, best.Path, nil)
		assert.InDelta(t, best.Cost, again.cost(), 1e-9)
		for place := range len(r.Path) + 1 { // no place on the main line is better, by trying each
			path := append(
				append(append([]plan.Node{}, r.Path[:place]...), plan.Node{Stop: plan.BlockKey(id, "fx")}), r.Path[place:]...,
			)
			if len(p.PathProblems(path)) == 0 {
				assert.LessOrEqual(t, best.Cost, newJudge(p, r, nil, path, nil).cost()+1e-9, "%s at %d", id, place)
			}
		}
		switch id {
		case "new-clip":
			assert.LessOrEqual(t, best.At, firstTime, "dirt before what repeats it")
		case "new-room":
			assert.Greater(t, best.At, at(r.Path[0].Stop))
		}
	}
	_, err := Place(context.Background(), p, r.ID, "", r.Path[0].Stop.Gear(), nil)
	assert.ErrorContains(t, err, "already")
	_, err = Place(context.Background(), p, r.ID, "", r.Guitars[0], nil)
	assert.ErrorContains(t, err, "nothing that goes into a chain")
	_, err = Place(context.Background(), p, r.ID, "", "nope", nil)
	assert.ErrorContains(t, err, "no gear")
}
