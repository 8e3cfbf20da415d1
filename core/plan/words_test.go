package plan_test

import (
	"fmt"
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

func TestATenthIsNeverMinusNothing(t *testing.T) {
	for want, x := range map[string]float64{"+0.0": -0.04, "-0.1": -0.06, "+1.3": 1.26, "+2.0": 1.96} {
		assert.Equal(t, want, fmt.Sprintf("%+.1f", plan.Tenth(x)))
	}
}
