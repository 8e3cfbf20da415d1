package plan_test

import (
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"envex/core/plan"
)

func TestColoursAreUnderstoodInWords(t *testing.T) {
	for words, want := range map[string]string{
		"amber": "#d69b2c", "Amber ": "#d69b2c", "dark blue": "#264066", "light blue": "#8ca6cc", "sea green": "#3f7f60",
		"oxide-brown": "#834a30",
		"#0A1b2C":     "#0a1b2c", "black with white": "#878883",
	} {
		got, ok := plan.ColourOf(words)
		assert.True(t, ok, words)
		assert.Equal(t, want, got, words)
	}
	for _, words := range []string{"", "plaid", "#12345", "#gggggg", "dark"} {
		_, ok := plan.ColourOf(words)
		assert.False(t, ok, words)
	}
}

func FuzzColours(f *testing.F) {
	f.Add("sea green")
	f.Add("#a0b1c2")
	form := regexp.MustCompile(`^#[0-9a-f]{6}$`)
	f.Fuzz(func(t *testing.T, words string) {
		if got, ok := plan.ColourOf(words); ok && !form.MatchString(got) {
			t.Fatalf("%q is %q", words, got)
		}
	})
}

func TestADarkerColourIsDarker(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		name := rapid.SampledFrom([]string{"red", "blue", "green", "sand", "grey", "white"}).Draw(t, "name")
		plain, _ := plan.ColourOf(name)
		dark, _ := plan.ColourOf("dark " + name)
		light, _ := plan.ColourOf("pale " + name)
		assert.Less(t, dark, plain)
		assert.Less(t, plain, light)
	})
}
