package api_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/guitars"
)

func TestGuitarsOfARigAreLevelled(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadDemo()
	found := work[guitars.Report](s, "/api/guitars?rig=carry")
	require.Len(t, found.Guitars, 1)
	assert.Equal(t, "Driftwood", found.Name)
	assert.NotEmpty(t, found.Guitars[0].Sounds)
	refused(t, s.send(http.MethodGet, "/api/guitars?rig=moon", nil), http.StatusNotFound)
	refused(t, s.send(http.MethodGet, "/api/guitars?rig=carry&reference=moon", nil), http.StatusNotFound)
}
