package shorthand

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestHowManyOfAKindIsWithinBounds(t *testing.T) {
	for text, want := range map[string]struct {
		left string
		n    int
	}{
		"2 x delay": {"delay", 2}, "1 x delay": {"1 x delay", 1}, "0 x delay": {"0 x delay", 1}, "delay": {"delay", 1},
	} {
		left, n := takeCount(text)
		assert.Equal(t, want.left, left, text)
		assert.Equal(t, want.n, n, text)
	}
	_, n := takeCount(fmt.Sprintf("%d x delay", maxOfAKind))
	assert.Equal(t, maxOfAKind, n)
	_, n = takeCount(fmt.Sprintf("%d x delay", maxOfAKind+1))
	assert.Equal(t, 1, n)
}

func TestPartsOfASongHaveOneNumberEach(t *testing.T) {
	for _, x := range []struct {
		words []string
		n     int
	}{
		{[]string{"verse", "2", "clean"}, 2}, {[]string{"verse", "clean"}, 1}, {[]string{"verse"}, 1},
		{[]string{"verse", "12"}, 2}, {[]string{"verse", "120"}, 1}, {[]string{"clean"}, 0}, {nil, 0},
	} {
		assert.Equal(t, x.n, partWords(x.words), "%v", x.words)
	}
}

func TestASlashBetweenLettersIsPartOfAName(t *testing.T) {
	for text, want := range map[string]bool{
		"a/b": true, "A/B switch": true, "aa/b": false, "a/bb": false, "/b": false, "a/": false, "a/b/c": true, "1/2": false,
	} {
		at := 0
		for i, r := range text {
			if r == '/' {
				at = i
				break
			}
		}
		assert.Equal(t, want, betweenLetters(text, at), text)
	}
}

func TestBarsAreWithinBounds(t *testing.T) {
	for text, want := range map[string]float64{"0.25": 0.25, "8": 8, "1000": 1000, "12.5": 12.5} {
		bars := barsOf(text)
		if assert.NotNil(t, bars, text) {
			assert.Equal(t, want, *bars)
		}
	}
	for _, text := range []string{"0.24", "1000.5", "0", "-4", "x", ""} {
		assert.Nil(t, barsOf(text), text)
	}
}

// Tempi in titles are those that songs have; other numbers are part of the title.
func TestATempoInATitle(t *testing.T) {
	for line, want := range map[string]float64{
		"Ferry Lights 104": 104, "Ferry Lights 40": 40, "Ferry Lights 300": 300, "Ferry Lights 39": 120,
		"Ferry Lights 301": 120,
	} {
		d, err := ReadSet(line, "Set", "")
		if assert.NoError(t, err) && assert.Len(t, d.Songs, 1) {
			assert.Equal(t, want == 120, d.Songs[0].NoTempo, line)
			if want != 120 {
				assert.Equal(t, want, d.Songs[0].Tempo.BPM, line)
			}
		}
	}
}
