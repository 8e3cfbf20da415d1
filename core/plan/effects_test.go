package plan_test

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// A kind of effect that is named and not in the table would be wire without a word.
func TestEveryEffectThatIsNamedIsInTheTable(t *testing.T) {
	file, err := parser.ParseFile(token.NewFileSet(), "effects.go", nil, 0)
	require.NoError(t, err)
	named := map[string]bool{}
	ast.Inspect(file, func(n ast.Node) bool {
		if v, ok := n.(*ast.ValueSpec); ok && strings.HasPrefix(v.Names[0].Name, "Effect") {
			named[strings.Trim(v.Values[0].(*ast.BasicLit).Value, `"`)] = true
		}
		return true
	})
	require.NotEmpty(t, named)
	seen := map[string]bool{}
	for _, x := range plan.Effects() {
		id := string(x.Effect)
		assert.False(t, seen[id], "%s stands twice in the table", id)
		seen[id] = true
		assert.Equal(t, x, x.Effect.Traits())
		assert.NotEmpty(t, x.Name, id)
		assert.NotEmpty(t, x.Mark, id)
		assert.NotEmpty(t, x.Nature, id)
		assert.Equal(t, x.Nature == plan.NatureGain, x.Effect.IsGain(), id)
		if len(x.Asks) > 0 {
			assert.True(t, x.Asked, "what is asked of %s is asked by a sound", id)
		}
	}
	assert.Equal(t, named, seen)
	assert.Zero(t, plan.Effect("no such").Traits())
}

func TestASoundAsksForWhatCanBeHeard(t *testing.T) {
	p := small()
	p.Sounds[0].Targets.Effects = []plan.Heard{{Effect: plan.EffectDelay}, {Effect: plan.EffectTuner}}
	assert.Contains(t, fmt.Sprint(p.Validate()), "no sound can ask for this effect: tuner")
	p.Sounds[0].Targets.Effects[1].Effect = "nonsense"
	assert.Contains(t, fmt.Sprint(p.Validate()), `"nonsense" is not one of tuner, volume, wah`)
	p.Sounds[0].Targets.Effects = p.Sounds[0].Targets.Effects[:1]
	assert.Empty(t, p.Validate())
}

func TestTraitsThatRulesHangOn(t *testing.T) {
	of := func(is func(plan.Traits) bool) (list []plan.Effect) {
		for _, x := range plan.Effects() {
			if is(x) {
				list = append(list, x.Effect)
			}
		}
		return list
	}
	assert.Equal(
		t, []plan.Effect{"compressor", "boost", "overdrive", "distortion", "fuzz"},
		of(func(x plan.Traits) bool { return x.Pushes }),
	)
	assert.Equal(
		t, []plan.Effect{"boost", "overdrive", "distortion", "fuzz", "preamp"},
		of(func(x plan.Traits) bool { return x.Effect.IsGain() }),
	)
	assert.Equal(t, []plan.Effect{"di", "speaker", "load"}, of(func(x plan.Traits) bool { return x.Ends }))
	assert.Equal(
		t, []plan.Effect{"vibe", "phaser", "chorus", "flanger", "tremolo", "rotary", "delay"},
		of(func(x plan.Traits) bool { return x.Tempo }),
	)
	assert.Equal(
		t, []plan.Effect{"chorus", "flanger", "rotary", "delay", "reverb", "looper"},
		of(func(x plan.Traits) bool { return x.Parallel }),
	)
	assert.Equal(
		t, []plan.Effect{"delay", "reverb"}, of(func(x plan.Traits) bool { return x.Family == plan.FamilyRepeats }),
	)
}
