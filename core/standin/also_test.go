package standin

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestWhatAStandInAsksForOverTheSetIsCounted(t *testing.T) {
	assert.Equal(t, []string{}, costs(0, 0, 0))
	assert.Equal(t, []string{"+1 press", "-1 change by hand", "+2 changes not made in time"}, costs(1, -1, 2))
	assert.Equal(t, []string{"-3 presses"}, costs(-3, 0, 0))
}
