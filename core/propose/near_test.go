package propose

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func flat() []float64 { return make([]float64, 29) }

func TestNearnessIsOfShapeAndNotOfLevel(t *testing.T) {
	louder := slices.Repeat([]float64{12}, 29)
	x := near(louder, flat())
	assert.Zero(t, x.ApartDB)
	assert.Equal(t, "0 dB from the recording", x.Words)
	bright := flat()
	for i := 17; i < 29; i++ {
		bright[i] = 6
	}
	x = near(bright, flat())
	assert.InDelta(t, 6, x.BrightDB, 1e-9)
	assert.InDelta(t, 2.955, x.ApartDB, 0.01)
	assert.Equal(t, "3 dB from the recording, 6 dB brighter", x.Words)
	assert.Equal(t, "3 dB from the recording, 6 dB darker", near(flat(), bright).Words)
	low := flat()
	for i := range 5 {
		low[i] = -40
	}
	assert.Zero(t, near(flat(), low).ApartDB, "what the recording has next to nothing of does not count")
}

func TestNearnessIsNeverNegativeAndSymmetricInBrightness(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		levels := rapid.SliceOfN(rapid.Float64Range(-12, 12), 29, 29)
		a, b := levels.Draw(t, "a"), levels.Draw(t, "b")
		x, y := near(a, b), near(b, a)
		assert.GreaterOrEqual(t, x.ApartDB, 0.0)
		assert.InDelta(t, x.ApartDB, y.ApartDB, 1e-9)
		assert.InDelta(t, x.BrightDB, -y.BrightDB, 1e-9)
	})
}
