package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
)

func TestListed(t *testing.T) {
	for want, words := range map[string][]string{
		"": nil, "a": {"a"}, "a and b": {"a", "b"}, "a, b and c": {"a", "b", "c"},
	} {
		assert.Equal(t, want, plan.Listed(words))
	}
}

func TestNamesOfPackagesReachNoPlayer(t *testing.T) {
	for said, want := range map[string]string{
		"wav: this is not a WAV file":                     "this is not a WAV file",
		"switching: repair: there is no rig":              "there is no rig",
		"songs[0].title: a name is needed":                "songs[0].title: a name is needed",
		"a.wav: wav: this is not a WAV file":              "a.wav: this is not a WAV file",
		"Lift: it stands in the chain already":            "Lift: it stands in the chain already",
		"store: plan: path: Echo finds no place: no loop": "Echo finds no place: no loop",
		"": "",
	} {
		assert.Equal(t, want, plan.Plainly(said))
	}
}
