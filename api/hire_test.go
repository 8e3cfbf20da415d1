package api_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/hire"
)

func TestWhatToAskForAndThePlanForTheAnswer(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadSmall()
	ask := work[hire.Ask](s, "/api/ask?rig=small&set_list=set")
	require.NotEmpty(t, ask.Items)
	assert.NotEmpty(t, ask.Cautions)
	answer := work[hire.Answer](s, "/api/hired?rig=small&set_list=set&without=reverb")
	require.NotNil(t, answer.New)
	require.Len(t, answer.Columns, 2)
	_, ok := answer.Rig.FindDestination(answer.Destination)
	assert.True(t, ok)

	for path, status := range map[string]int{
		"/api/ask?rig=moon&set_list=set":                          http.StatusNotFound,
		"/api/ask?rig=small&set_list=moon":                        http.StatusNotFound,
		"/api/hired?rig=small&set_list=set":                       http.StatusUnprocessableEntity,
		"/api/hired?rig=small&set_list=set&without=loop&amp=moon": http.StatusNotFound,
		"/api/hired?rig=small&set_list=set&without=hum":           http.StatusUnprocessableEntity,
		"/api/hired?rig=small&set_list=moon&without=loop":         http.StatusNotFound,
	} {
		refused(t, s.send(http.MethodGet, path, nil), status)
	}
}
