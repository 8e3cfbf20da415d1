package api_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/api"
	"envex/core/choose"
	"envex/core/standin"
)

func TestBoxesAreChosenAndStoodInFor(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadSmall()
	found := work[choose.Report](s, "/api/choose?set_list=set&most=2")
	require.NotEmpty(t, found.Sets)
	assert.NotEmpty(t, found.Sets[0].Covers)
	assert.NotEmpty(t, found.Sets[0].Rig.Path)

	offers := work[standin.Report](s, "/api/stand-ins?rig=small&box=amber&kinds=transparent-overdrive")
	require.Len(t, offers.Offers, 1)
	o := offers.Offers[0]
	heard := work[api.Listening](
		s, "/api/stand-ins/listen?rig=small&box=amber&sound="+string(o.Sounds[0].Sound)+"&gear="+string(o.Gear)+
			"&kind="+o.Kind+
			"&values=%7B%22"+"kind-transparent-overdrive%2Ffx%2Fdrive"+"%22%3A9%7D",
	)
	require.Len(t, heard.Clips, 2, "as it is, and with what stands in")
	assert.NotEqual(t, heard.Clips[0].LUFS, heard.Clips[1].LUFS)

	for _, path := range []string{
		"/api/choose?rig=moon", "/api/choose?set_list=moon", "/api/choose?pile=moon", "/api/choose?kinds=moon",
		"/api/choose?board=moon", "/api/choose?supply=amber", "/api/stand-ins?rig=moon&box=amber",
		"/api/stand-ins?rig=small&box=moon", "/api/stand-ins/listen?rig=small&box=amber&sound=moon&gear=amber",
		"/api/stand-ins/listen?rig=small&box=amber&sound=clean&gear=moon",
	} {
		refused(t, s.send(http.MethodGet, path, nil), http.StatusNotFound)
	}
}
