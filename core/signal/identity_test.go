package signal

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// Whatever a link does otherwise, it is another link: of a stage that is on, and of a fork.
func TestALinkIsToldByAllThatItDoes(t *testing.T) {
	gear := &plan.Gear{ID: "g", Blocks: []plan.Block{{ID: "fx"}, {ID: "b"}}}
	at := func(plan.Key) plan.Value { return plan.Value{} }
	names := map[string]string{}
	tell := func(what string, x link) {
		r := &rendering{digests: &digests{}}
		of := map[plan.ID]setGear{}
		data, err := json.Marshal([]any{r.identified(line{x}, of), of})
		require.NoError(t, err)
		name := string(data)
		assert.NotContains(t, names, name, what)
		names[name] = what
	}
	for what, change := range map[string]func(*stage){
		"as it is": func(*stage) {}, "key": func(s *stage) { s.key = "k" }, "name": func(s *stage) { s.name = "n" },
		"effect": func(s *stage) { s.effect = plan.EffectFuzz }, "amp": func(s *stage) { s.amp = true },
		"off": func(s *stage) { s.on = false }, "solved": func(s *stage) { s.solved = true },
		"sum": func(s *stage) { s.sum = true }, "narrow": func(s *stage) { s.narrow = true },
		"sums": func(s *stage) { s.sums = true }, "turns": func(s *stage) { s.turns = true },
		"late": func(s *stage) { s.delayMS = 1 }, "trim": func(s *stage) { s.trim = 1 },
		"hears": func(s *stage) { s.hears = "x" }, "run": func(s *stage) { s.run = &passive{name: "r"} },
		"first run": func(s *stage) { s.run = &passive{name: "r", first: true} },
		"block":     func(s *stage) { s.set.block = &gear.Blocks[1] },
		"own block": func(s *stage) { s.set.block = &plan.Block{ID: "own"} },
		"gear":      func(s *stage) { s.set.gear = &plan.Gear{ID: "g", Name: "other", Blocks: gear.Blocks} },
	} {
		s := &stage{on: true, set: settings{gear: gear, block: &gear.Blocks[0], at: at}}
		change(s)
		tell("stage, "+what, link{stage: s})
	}
	for what, f := range map[string]*fork{
		"as it is": {}, "key": {key: "k"}, "name": {name: "n"}, "kind": {kind: plan.SplitTap}, "join": {join: plan.JoinSum},
		"sides": {sides: []int{1}}, "names": {names: []string{"a"}}, "heard": {heard: true}, "muted": {muted: true},
		"a lane": {lanes: []line{{}}}, "what is in it": {lanes: []line{{{stage: &stage{key: "k"}}}}},
	} {
		tell("fork, "+what, link{fork: f})
	}
}
