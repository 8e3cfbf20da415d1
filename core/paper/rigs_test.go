package paper

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/demo"
)

func TestTheHouseGetsTheLinesOfAllRigs(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("carry")
	r.Player = &plan.PartOf{Band: p.Bands[0].ID, Part: p.Bands[0].Parts[0].ID}
	s, _ := p.FindShow("quay-12")
	alone := sheet(t, p, "quay-12", House)
	s.Others = []plan.ShowRig{{Rig: "carry"}}
	require.Empty(t, p.Validate())
	both := sheet(t, p, "quay-12", House)
	assert.Equal(t, alone.Parts[0], both.Parts[0], "the lines of the show's own rig come first")
	name := "Lines of " + p.Bands[0].Parts[0].Name + ", " + r.Name
	lines := partOf(t, both, name)
	require.NotEmpty(t, lines.Rows)
	first := len(alone.Parts[0].Rows) + 1
	for i, row := range lines.Rows {
		assert.Equal(t, first+i, number(t, row[0].Text), "they are numbered on")
	}
	mains := partOf(t, both, "Mains on stage")
	require.Len(t, mains.Rows, 2)
	assert.Equal(t, "Long board", mains.Rows[0][0].Text)
	assert.Contains(t, mains.Rows[0][4].Text, "Pier combo")
	assert.Contains(t, mains.Rows[0][4].Text, "Lantern")
	assert.Equal(t, 2, number(t, mains.Rows[0][2].Text))
	assert.Contains(t, both.Cautions, earthCaution)

	q, err := p.ShowOn("quay-12", "carry")
	require.NoError(t, err)
	other, err := Make(q, "quay-12", House)
	require.NoError(t, err)
	assert.Contains(t, other.Parts[1].Title, "Long board")
}

func number(t *testing.T, text string) int {
	n := 0
	for _, c := range text {
		require.True(t, c >= '0' && c <= '9', text)
		n = 10*n + int(c-'0')
	}
	return n
}
