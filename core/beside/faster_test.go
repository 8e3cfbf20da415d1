package beside

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
)

func TestSongsAreFasterByASharedFactor(t *testing.T) {
	own := plan.Tempo{BPM: 90, Beat: "1/8"}
	songs := []plan.Song{
		{ID: "a", Tempo: plan.Tempo{BPM: 100}, Sections: []plan.Section{{ID: "1"}, {ID: "2", Tempo: &own}}},
		{
			ID:    "b",
			Tempo: plan.Tempo{BPM: 390},
		}, {ID: "c", Tempo: plan.Tempo{BPM: 21}}, {ID: "d", Tempo: plan.Tempo{BPM: 123.45}},
	}
	bpm := func(list []plan.Song) (out []float64) {
		for _, s := range list {
			out = append(out, s.Tempo.BPM)
		}
		return out
	}
	up := faster(songs, 1.1)
	assert.Equal(t, []float64{110, 400, 23.1, 135.8}, bpm(up), "to a hundredth, and no faster than a song can be")
	assert.Equal(t, plan.Tempo{BPM: 99, Beat: "1/8"}, *up[0].Sections[1].Tempo, "a section's own tempo, too")
	assert.Nil(t, up[0].Sections[0].Tempo)
	assert.Equal(t, []float64{90, 351, 20, 111.11}, bpm(faster(songs, 0.9)))
	assert.Equal(t, []float64{100, 390, 21, 123.45}, bpm(songs), "what was given stays")
	assert.Equal(t, 90.0, own.BPM)
}
