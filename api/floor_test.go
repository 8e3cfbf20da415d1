package api_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/board"
	"envex/core/plan"
)

func TestABoardIsJudgedFittedAndCompared(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadDemo()
	var report board.Report
	s.get("/api/floor?rig=long&set_list=quay-set", &report)
	assert.Equal(t, plan.ID("longplank"), report.Board)
	assert.False(t, report.Fits)
	assert.Nil(t, report.Taken)
	require.NotEmpty(t, report.Leads)

	fitted := work[board.Report](s, "/api/floor/fit?rig=carry&set_list=quay-set&seed=2")
	assert.True(t, fitted.Fits)
	require.NotNil(t, fitted.Taken)
	assert.LessOrEqual(t, fitted.Footwork.After, fitted.Footwork.Before)

	var sizes []plan.Gear
	s.get("/api/floor/sizes", &sizes)
	assert.Len(t, sizes, 12)
	small := work[board.Report](s, "/api/floor/fit?rig=carry&board="+string(sizes[0].ID))
	assert.False(t, small.Fits)
	assert.True(t, small.Proven)
	assert.NotEmpty(t, small.LeftOut)

	compared := work[board.Comparison](s, "/api/floor/boards?rig=carry&set_list=quay-set")
	assert.Len(t, compared.Boards, 14)

	for path, kind := range map[string]string{
		"/api/floor/drawing?rig=carry":                          "text/html; charset=utf-8",
		"/api/floor/drawing?rig=carry&format=svg&save=true":     "image/svg+xml",
		"/api/floor/drawing?rig=carry&format=html&paper=letter": "text/html; charset=utf-8",
	} {
		w := s.send(http.MethodGet, path, nil)
		require.Equal(t, http.StatusOK, w.Code, w.Body.String())
		assert.Equal(t, kind, w.Header().Get("Content-Type"))
		assert.Contains(t, w.Header().Get("Content-Security-Policy"), "default-src 'none'")
		assert.Contains(t, w.Body.String(), "100 mm")
	}
	for path, status := range map[string]int{
		"/api/floor/drawing?rig=moon":                     http.StatusNotFound,
		"/api/floor/drawing?rig=long&format=png":          http.StatusUnprocessableEntity,
		"/api/floor?rig=moon":                             http.StatusNotFound,
		"/api/floor?rig=long&set_list=moon":               http.StatusNotFound,
		"/api/floor?rig=long&destination=moon":            http.StatusNotFound,
		"/api/floor?rig=long&board=moon":                  http.StatusUnprocessableEntity,
		"/api/floor/boards?rig=long&set_list=moon":        http.StatusNotFound,
		"/api/floor/fit?rig=bare&wait_ms=1000":            http.StatusUnprocessableEntity,
		"/api/floor/fit?rig=long&board=amber&wait_ms=900": http.StatusUnprocessableEntity,
	} {
		refused(t, s.send(http.MethodGet, path, nil), status)
	}
}
