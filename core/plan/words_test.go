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

func TestCounted(t *testing.T) {
	for want, n := range map[string]int{"1 block": 1, "0 blocks": 0, "2 blocks": 2} {
		assert.Equal(t, want, plan.Counted(n, "block", "blocks"))
	}
}
