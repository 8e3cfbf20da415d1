package night

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestBreaksAreOrderedByWhatIsLeft(t *testing.T) {
	p := theDemo(t)
	e := evening(t, p)
	share := 0.0
	list, err := Breaks(
		t.Context(),
		p,
		show,
		"",
		nil,
		event(in(e, 3, 1), "", 1, At, Event{}),
		func(x float64) { share = x },
	)
	require.NoError(t, err)
	assert.Equal(t, 1.0, share)
	kinds := map[string]bool{}
	for _, b := range list {
		kinds[b.Kind] = true
		require.NotEmpty(t, b.Ways, b.Name)
		for i, w := range b.Ways {
			assert.NotEmpty(t, w.Words, b.Name)
			assert.LessOrEqual(t, w.Reached, w.Total)
			if i > 0 {
				assert.GreaterOrEqual(t, w.Hit, b.Ways[i-1].Hit)
			}
		}
	}
	assert.Equal(t, map[string]bool{"guitar": true, "box": true, "amp": true, "supply": true}, kinds)
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	_, err = Breaks(ctx, p, show, "", nil, Event{}, nil)
	require.ErrorIs(t, err, context.Canceled)
}
