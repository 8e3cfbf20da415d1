package reason_test

import (
	"errors"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/reason"
)

func TestTheOutermostReasonIsTheOne(t *testing.T) {
	inner := reason.Errorf("it is no WAV file")
	wrapped := fmt.Errorf("wav: %w", inner)
	outer := fmt.Errorf("api: %w", reason.Errorf("track %d: %w", 2, wrapped))
	words, ok := reason.Of(outer)
	assert.True(t, ok)
	assert.Equal(t, "track 2: it is no WAV file", words, "without the names of packages")
	assert.ErrorIs(t, outer, inner)
}

func TestWhatWentWrongInsideIsNoReason(t *testing.T) {
	for _, err := range []error{
		nil, errors.New("out of memory"), fmt.Errorf("store: %w", errors.New("locked")), reason.Errorf(""),
	} {
		words, ok := reason.Sentence(err)
		assert.False(t, ok)
		assert.Empty(t, words)
	}
	words, _ := reason.Of(reason.Errorf("it ends: %w", errors.New("unexpected EOF")))
	assert.Equal(t, "it ends: unexpected EOF", words)
}

func TestASentenceHasACapitalAndOneFullStop(t *testing.T) {
	for phrase, want := range map[string]string{
		"no":                "No.",
		"No. Nothing more.": "No. Nothing more.",
		"éclair is no note": "éclair is no note.",
		"8 is too many":     "8 is too many.",
	} {
		words, ok := reason.Sentence(reason.Errorf("%s", phrase))
		assert.True(t, ok)
		assert.Equal(t, want, words)
	}
}
