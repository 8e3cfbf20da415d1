package api_test

import (
	"net/http"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/layers"
)

// A louder amp under a layer that is recorded already makes the layer louder and dirtier.
func TestLayersAreComputedAndHeard(t *testing.T) {
	renders(t)
	file, err := os.ReadFile("../testdata/rigs/looper/rig.envex.json")
	require.NoError(t, err)
	driven := strings.Replace(string(file), `"sand/fx/on": true`, `"sand/fx/on": true, "small-combo/preamp/gain": 9`, 1)
	require.NotEqual(t, string(file), driven)
	s := start(t)
	require.Equal(t, http.StatusOK, s.send("POST", "/api/import", []byte(driven)).Code)
	report := read[layers.Report](t, s.send("GET", "/api/layers?rig=rig&set_list=set", nil))
	require.Len(t, report.Songs, 2)
	require.NotEmpty(t, report.Songs[0].Under)
	refused(t, s.send("GET", "/api/layers?rig=rig&set_list=nope", nil), 404)
	heard := work[api.LayersHeard](s, "/api/layers/heard?rig=rig&set_list=set").Heard
	require.Len(t, heard, len(report.Songs[0].Under)+len(report.Songs[1].Under))
	for _, x := range heard {
		assert.Greater(t, x.Louder, 1.0)
		assert.Greater(t, x.Dirtier, 1.0)
	}
}
