package guide_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/guide"
	"envex/core/plan"
	"envex/demo"
)

func idsOf(steps []guide.Step) []string {
	list := []string{}
	for _, s := range steps {
		list = append(list, s.ID)
	}
	return list
}

func TestWhatIsNextFollowsWhatIsThere(t *testing.T) {
	p := &plan.Plan{}
	assert.Equal(t, []string{"rig", "set"}, idsOf(guide.Next(p, "", "")))

	p.Put(
		plan.Gear{
			ID: "a", Name: "A", Kind: plan.Pedal, Power: &plan.PowerDraw{Voltage: 9},
			Blocks: []plan.Block{{ID: "fx", Name: "fx", Effect: plan.EffectBoost, Bypass: plan.TrueBypass}},
		},
	)
	b := plan.Gear{
		ID: "b", Name: "B", Kind: plan.Pedal, Power: &plan.PowerDraw{Voltage: 9},
		Blocks: []plan.Block{{ID: "fx", Name: "fx", Effect: plan.EffectFuzz, Bypass: plan.TrueBypass}},
	}
	p.Put(b)
	p.Put(plan.Sound{ID: "home", Name: "Home"})
	p.Put(plan.Song{ID: "one", Title: "One", Sections: []plan.Section{{ID: "x", Label: "X", Sound: "home"}}})
	p.Put(plan.Song{ID: "two", Title: "Two"})
	p.Put(
		plan.SetList{
			ID: "set", Entries: []plan.SetEntry{{ID: "1", Song: "one"}, {ID: "2", Song: "two"}, {ID: "3", Song: "one"}},
		},
	)
	r := plan.Rig{ID: "r", Name: "R", Path: []plan.Node{{Stop: "a/fx"}, {Stop: "b/fx"}}}
	p.Put(r)
	steps := guide.Next(p, "r", "set")
	assert.Equal(
		t, []string{"recipes", "sections", "singing", "targets", "guitar", "sizes", "board", "power"}, idsOf(steps),
	)
	assert.Equal(t, "One sound has no recipe.", steps[0].Words)
	assert.Equal(t, "2 boxes have no size.", steps[5].Words)
	assert.Equal(t, "2 boxes draw power and nothing feeds them.", steps[7].Words)

	r.Recipes = []plan.Recipe{{ID: "h", Sound: "home"}}
	r.Guitars, r.Floor.Board, r.PowerPlan = []plan.ID{"g"}, "board", []plan.PowerFeed{{}}
	p.Put(r)
	low := 10.0
	p.Put(plan.Sound{ID: "home", Name: "Home", Targets: plan.Targets{DirtMax: &low}})
	p.Put(
		plan.Song{ID: "two", Title: "Two", Sections: []plan.Section{{ID: "y", Label: "Y", Sound: "home", Singing: true}}},
	)
	for _, id := range []plan.ID{"a", "b"} {
		g, _ := p.FindGear(id)
		with := *g
		with.Size = &plan.Size{Width: 70, Depth: 120}
		p.Put(with)
	}
	assert.Empty(t, guide.Next(p, "r", "set"))
}

func TestTheDemoSaysEverythingThatMatters(t *testing.T) {
	p := demo.Plan()
	assert.Empty(t, guide.Next(p, "long", "quay-set"))
}
