package page

import (
	"context"
	"encoding/xml"
	"errors"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/board"
	"envex/core/floor"
	"envex/demo"
)

func TestABoardPrintsAtOneToOneOverSheets(t *testing.T) {
	p := demo.Plan()
	r, err := board.Judge(context.Background(), p, "carry", board.Options{})
	require.NoError(t, err)
	for size, want := range map[Size][2]string{
		A4:     {`size: a4 landscape`, `width="277mm" height="190mm"`},
		Letter: {`size: letter landscape`, `width="259.4mm" height="195.9mm"`},
	} {
		html, err := Board(p, r, size)
		require.NoError(t, err)
		text := string(html)
		assert.Contains(t, text, want[0], "420 by 280 mm are four sheets on their side, and five times two upright are six")
		assert.Equal(t, 4, strings.Count(text, want[1]), "a millimetre for a millimetre")
		assert.Equal(t, 4, strings.Count(text, ">100 mm</text>"), "a line to hold a ruler against on each")
		assert.Equal(t, 4, strings.Count(text, ">Amber</text>"))
		assert.Contains(t, text, `aria-label="Sheet B2"`)
		assert.NotContains(t, text, "<script")
	}
	_, err = Board(p, r, "a3")
	assert.EqualError(t, err, `there is no paper "a3"; there are a4 and letter`)
}

func TestTilesCoverWhatIsDrawnWithoutLap(t *testing.T) {
	area := floor.Rect{X: -20, Y: 5, W: 500, D: 300}
	list := tiles(area, 190, 277)
	require.Len(t, list, 6)
	assert.Equal(t, [3]string{"A1", "C1", "C2"}, [3]string{list[0].Name, list[2].Name, list[5].Name})
	assert.Equal(t, -20.0, list[0].ViewX)
	assert.Equal(t, 360.0, list[2].ViewX)
	assert.Equal(t, 282.0, list[5].ViewY)
	assert.Len(t, tiles(floor.Rect{}, 190, 277), 1, "an empty drawing is a sheet")
}

func TestNamesOnAPrintedBoardAreText(t *testing.T) {
	p := demo.Plan()
	amber, _ := p.FindGear("amber")
	amber.Name = `</svg><script>alert("x")</script>`
	r, err := board.Judge(context.Background(), p, "carry", board.Options{})
	require.NoError(t, err)
	html, err := Board(p, r, A4)
	require.NoError(t, err)
	assert.NotContains(t, string(html), "<script")
	svg := string(html)[strings.Index(string(html), "<svg"):]
	for d := xml.NewDecoder(strings.NewReader(svg[:strings.Index(svg, "</svg>")+6])); ; {
		if _, err := d.Token(); errors.Is(err, io.EOF) {
			return
		} else {
			require.NoError(t, err)
		}
	}
}
