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
