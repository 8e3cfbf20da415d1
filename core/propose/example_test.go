package propose_test

import (
	"fmt"

	"envex/core/plan"
	"envex/core/propose"
)

// A recipe that was offered is taken: the rig has it, and the rig that was given has not.
func ExampleTake() {
	rig := plan.Rig{ID: "r", Name: "First board"}
	way := propose.Way{
		Recipe: plan.Recipe{ID: "x", Sound: "lead", Values: map[plan.Key]plan.Value{"amber/fx/on": plan.On(true)}},
	}
	taken := propose.Take(rig, "", way)
	fmt.Println(len(rig.Recipes), len(taken.Recipes))
	// Output:
	// 0 1
}
