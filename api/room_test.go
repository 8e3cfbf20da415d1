package api_test

import (
	"net/http"
	"net/url"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/mix"
	"envex/core/plan"
)

func TestRoomAmongABand(t *testing.T) {
	renders(t)
	s := start(t)
	data, err := os.ReadFile("../demo/testdata/small.envex.json")
	require.NoError(t, err)
	p, err := plan.Decode(data)
	require.NoError(t, err)
	loud := 20.0
	p.Put(plan.Band{ID: "quay", Name: "Quay hands", Parts: []plan.Part{
		{ID: "voice", Name: "Voice", Kind: plan.Voice}, {ID: "organ", Name: "Organ", Kind: plan.Organ, LevelDB: &loud},
	}})
	data, err = plan.Encode(p)
	require.NoError(t, err)
	require.Equal(t, http.StatusOK, s.send(http.MethodPost, "/api/import", data).Code)
	const at = "?rig=small&set_list=set"
	found := work[mix.Report](s, "/api/room"+at)
	assert.Equal(t, "Quay hands", found.Name)
	require.NotEmpty(t, found.Scenes)
	require.NotEmpty(t, found.Findings)
	m := work[mix.Mending](s, "/api/room/mend"+at+"&finding="+url.QueryEscape(found.Findings[0].ID))
	assert.Equal(t, found.Findings[0].ID, m.Finding.ID)

	assert.NotEmpty(t, m.Moves)
	halls := work[mix.Beside](s, "/api/room/halls"+at)
	assert.Len(t, halls.Halls, len(mix.UsualHalls()))
	assert.InDelta(t, 2, work[mix.Report](s, "/api/room"+at+"&hall_s=2").HallS, 0)
	refused(t, s.send(http.MethodGet, "/api/room"+at+"&hall_s=-1", nil), http.StatusUnprocessableEntity)
	refused(t, s.send(http.MethodGet, "/api/room?rig=moon&set_list=set", nil), http.StatusNotFound)
	refused(t, s.send(http.MethodGet, "/api/room?rig=small&set_list=moon", nil), http.StatusNotFound)
}

func TestPartsOfABand(t *testing.T) {
	s := start(t)
	s.loadDemo()
	var kinds struct{ Kinds []plan.PartTraits }
	s.get("/api/parts/kinds", &kinds)
	assert.Equal(t, plan.PartKinds(), kinds.Kinds)
	refused(t, s.send(http.MethodGet, "/api/parts/measured?recording=none", nil), http.StatusNotFound)
	var measured struct {
		Bands []float64 `json:"bands_db"`
	}
	s.get("/api/parts/measured?recording="+s.bring(tone(t, 0.3, 1)).ID, &measured)
	require.Len(t, measured.Bands, plan.PartBands)
	assert.Zero(t, measured.Bands[9], "the strongest is at 220 Hz")
	refused(
		t,
		s.send(http.MethodGet, "/api/parts/measured?recording="+s.bring(tone(t, 0, 1)).ID, nil),
		http.StatusUnprocessableEntity,
	)
}
