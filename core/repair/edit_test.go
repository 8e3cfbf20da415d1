package repair_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/core/repair"
)

func recipeOf(t *testing.T, list []plan.Recipe, id plan.ID) plan.Recipe {
	t.Helper()
	for _, r := range list {
		if r.ID == id {
			return r
		}
	}
	t.Fatalf("no recipe %s", id)
	return plan.Recipe{}
}

// An edit is made where the thing stands: over the rig at the destination where it is the
// destination's, in the rig where it is not, and nowhere else.
func TestAnEditIsMadeWhereTheThingStands(t *testing.T) {
	free := plan.Free()
	hired := repair.Site{Rig: "long", Destination: "long-hired"}
	for name, c := range map[string]struct {
		edit  repair.Edit
		check func(t *testing.T, before, after *plan.Rig)
	}{
		"a recipe of the destination": {
			repair.Edit{Kind: repair.Free, Words: "Ignore Room in Lead", Recipe: "hire-lead", Key: "room/fx/on", Value: &free},
			func(t *testing.T, before, after *plan.Rig) {
				d, _ := after.FindDestination("long-hired")
				was, _ := before.FindDestination("long-hired")
				assert.Equal(t, free, recipeOf(t, d.Recipes, "hire-lead").Values["room/fx/on"])
				assert.Equal(t, recipeOf(t, was.Recipes, "hire-crunch"), recipeOf(t, d.Recipes, "hire-crunch"))
				assert.Equal(t, before.Recipes, after.Recipes)
			},
		},
		"a recipe of the rig": {
			repair.Edit{Kind: repair.Free, Words: "Ignore Room in Skank", Recipe: "long-skank", Key: "room/fx/on", Value: &free},
			func(t *testing.T, before, after *plan.Rig) {
				assert.Equal(t, free, recipeOf(t, after.Recipes, "long-skank").Values["room/fx/on"])
				assert.Equal(t, before.Destinations, after.Destinations)
			},
		},
		"two switches under one shoe": {
			repair.Edit{Kind: repair.Stomp, Words: "Press both", Key: "nudge/on", Other: "amber/on"},
			func(t *testing.T, before, after *plan.Rig) {
				assert.Len(t, after.Floor.DoubleStomps, len(before.Floor.DoubleStomps)+1)
			},
		},
		"a rocker": {
			repair.Edit{Kind: repair.Rock, Words: "Rock it", Recipe: "long-lead", Key: "sluice/fx"},
			func(t *testing.T, before, after *plan.Rig) {
				assert.Contains(t, recipeOf(t, after.Recipes, "long-lead").Rockers, plan.Key("sluice/fx"))
				assert.NotContains(t, recipeOf(t, before.Recipes, "long-lead").Rockers, plan.Key("sluice/fx"))
			},
		},
		"a recipe that is borrowed": {
			repair.Edit{Kind: repair.Borrow, Words: "As Crunch", Recipe: "long-crunch", Sound: "swell"},
			func(t *testing.T, before, after *plan.Rig) {
				require.Len(t, after.Recipes, len(before.Recipes)+1)
				own := after.Recipes[len(after.Recipes)-1]
				assert.Equal(t, plan.ID("swell"), own.Sound)
				assert.Equal(t, recipeOf(t, before.Recipes, "long-crunch").Values, own.Values)
			},
		},
	} {
		t.Run(name, func(t *testing.T) {
			p := night(t)
			before, _ := p.FindRig("long")
			was, err := plan.Encode(p)
			require.NoError(t, err)
			q, err := repair.Apply(context.Background(), p, hired, c.edit)
			require.NoError(t, err)
			after, _ := q.FindRig("long")
			c.check(t, before, after)
			still, err := plan.Encode(p)
			require.NoError(t, err)
			assert.Equal(t, was, still, "the plan it was made from is as it was")
		})
	}
}

// A destination with a chain of its own has the stop put into that chain.
func TestABoxIsPutIntoTheChainOfItsDestination(t *testing.T) {
	p := night(t)
	before, _ := p.FindRig("long")
	two := repair.Site{Rig: "long", Destination: "long-two"}
	q, err := repair.Apply(
		context.Background(), p, two, repair.Edit{Kind: repair.AddStop, Words: "Put Moat in", Gear: "moat", At: 1},
	)
	require.NoError(t, err)
	after, _ := q.FindRig("long")
	there, _ := after.FindDestination("long-two")
	assert.Equal(t, plan.ID("moat"), plan.StopsIn(there.Path)[1].Gear())
	assert.Equal(t, before.Path, after.Path, "the rig's own is as it was")
	_, err = repair.Apply(
		context.Background(), p, two, repair.Edit{Kind: repair.AddStop, Words: "Put Amber in", Gear: "amber"},
	)
	assert.Error(t, err, "it stands there already")
}
