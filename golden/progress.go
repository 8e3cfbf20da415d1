package golden

import (
	"slices"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Progress is what work tells how far it is. When the test ends, it has to have been told, to have risen from nothing,
// and to have ended at a share.
func Progress(t *testing.T, ends float64) func(share float64) {
	t.Helper()
	var mu sync.Mutex
	var shares []float64
	t.Cleanup(func() {
		mu.Lock()
		defer mu.Unlock()
		if assert.NotEmpty(t, shares, "no progress was told") {
			assert.True(t, slices.IsSorted(shares), "progress falls: %v", shares)
			assert.GreaterOrEqual(t, shares[0], 0.0)
			assert.InDelta(t, ends, shares[len(shares)-1], 1e-9)
		}
	})
	return func(share float64) {
		mu.Lock()
		defer mu.Unlock()
		shares = append(shares, share)
	}
}
