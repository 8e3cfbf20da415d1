package api_test

import (
	"math"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/estimate"
	"envex/core/plan"
	"envex/core/wav"
)

// struck is a string that is struck twice a second, on the left and later on the right.
func struck(t *testing.T, level float64, seconds int) []byte {
	t.Helper()
	sides := [2][]float64{}
	for side, late := range []float64{0, 0.011} {
		sides[side] = make([]float64, seconds*wav.Rate)
		for i := range sides[side] {
			at := math.Mod(float64(i)/wav.Rate+1-late, 0.5)
			for k := 1.0; k < 12; k++ {
				sides[side][i] += level / k * math.Exp(-4*at*k) * math.Sin(2*math.Pi*196*k*at)
			}
		}
	}
	data, err := wav.Encode(sides[0], sides[1])
	require.NoError(t, err)
	return data
}

func TestARecordingIsEstimatedAsASound(t *testing.T) {
	renders(t)
	s := start(t)
	s.loadSmall()
	one, home := s.bring(struck(t, 0.3, 4)), s.bring(struck(t, 0.15, 4))
	var got struct {
		Recording estimate.Recording `json:"recording"`
		Sound     plan.Sound         `json:"sound"`
	}
	s.get("/api/recordings/estimate?recording="+one.ID+"&home="+home.ID+"&name=Night+lead&bpm=100", &got)
	assert.Equal(t, "Night lead", got.Sound.Name)
	assert.Equal(t, plan.LeadRole, got.Sound.Role)
	assert.NotEmpty(t, got.Sound.ID)
	require.NotNil(t, got.Recording.OverHome)
	assert.InDelta(t, 6, got.Recording.OverHome.Is, 0.1)
	assert.InDelta(t, 6, *got.Sound.Targets.LoudnessLU, 0.1)
	assert.Equal(t, "stereo", got.Sound.Targets.Width, "both sides were kept")
	assert.Len(t, got.Sound.Targets.Bands, 29)
	assert.NotEmpty(t, got.Recording.Words)
	s.put("/api/sounds/"+string(got.Sound.ID), 0, got.Sound)
	short := got.Sound.Short
	got.Recording.OverHome = nil
	s.get("/api/recordings/estimate?recording="+one.ID+"&name=Night+lead", &got)
	assert.NotEqual(t, short, got.Sound.Short, "letters that no other sound has")
	assert.Nil(t, got.Recording.OverHome)

	refused(t, s.send(http.MethodGet, "/api/recordings/estimate?recording=nope", nil), 404)
	refused(t, s.send(http.MethodGet, "/api/recordings/estimate?recording="+one.ID+"&home=nope", nil), 404)
	silent, brief := s.bring(tone(t, 0, 3)), s.bring(tone(t, 0.1, 1))
	e := refused(t, s.send(http.MethodGet, "/api/recordings/estimate?recording="+silent.ID, nil), 422)
	assert.Contains(t, e.Detail, "othing is heard in the recording")
	e = refused(t, s.send(http.MethodGet, "/api/recordings/estimate?recording="+one.ID+"&home="+brief.ID, nil), 422)
	assert.Contains(t, e.Detail, "he recording of home is shorter than two seconds")

	var step estimate.Against
	s.get("/api/recordings/step?after="+one.ID+"&before="+home.ID+"&dirt=0&louder=-20", &step)
	assert.False(t, step.Met)
	assert.Contains(t, step.Words, "it came out louder")
	s.get("/api/recordings/step?after="+one.ID+"&dirt=50", &step)
	assert.Contains(t, step.Words, "modelled: 50 %")
	refused(t, s.send(http.MethodGet, "/api/recordings/step?after=nope", nil), 404)
	refused(t, s.send(http.MethodGet, "/api/recordings/step?after="+one.ID+"&before=nope", nil), 404)
	refused(t, s.send(http.MethodGet, "/api/recordings/step?after="+silent.ID, nil), 422)
	refused(t, s.send(http.MethodGet, "/api/recordings/step?after="+one.ID+"&dirt=200", nil), 422)
}
