// Package guide says what of a plan would make the biggest difference next: what is not said yet that its answers hang on.
package guide

import (
	"fmt"
	"slices"
	"strings"

	"envex/core/plan"
)

// Step is one thing to do next.
type Step struct {
	ID     string `json:"id" enum:"rig,set,recipes,sections,singing,tempo,sizes,board,targets,guitar,power"`
	Words  string `json:"words" doc:"What is not said yet."`
	Action string `json:"action" doc:"What to press."`
	Where  string `json:"where" doc:"The address of the screen it is done on."`
}

// Next lists what to do next for a rig and a set list, what makes the biggest difference first: without a rig and a set
// nothing is answered; without recipes a change is not judged; without singing and bars it is judged too kindly; without
// sizes and power only the board is not.
func Next(p *plan.Plan, rig, setList plan.ID) []Step {
	steps := []Step{}
	add := func(id, action, where, words string, args ...any) {
		steps = append(steps, Step{ID: id, Words: fmt.Sprintf(words, args...), Action: action, Where: where})
	}
	r, hasRig := p.FindRig(rig)
	l, hasSet := p.FindSetList(setList)
	if !hasRig || len(r.Path) == 0 {
		add("rig", "Type your chain", "/begin", "There is no rig with a chain yet.")
	}
	if !hasSet || len(l.Entries) == 0 {
		add("set", "Type your set", "/begin", "There is no set with songs yet.")
	}
	songs := songsOf(p, l, hasSet)
	used := soundsOf(p, songs)
	if hasRig && len(r.Path) > 0 {
		if n := count(used, func(s plan.Sound) bool { return r.RecipeFor(plan.Section{Sound: s.ID}) == nil }); n > 0 {
			add("recipes", "Propose recipes", "/begin", "%s.", has(n, "sound", "has no recipe", "have no recipe"))
		}
	}
	if n := count(songs, func(s plan.Song) bool { return len(s.Sections) == 0 }); n > 0 {
		add("sections", "Give them sections", "/hear", "%s.", has(n, "song", "has no sections", "have no sections"))
	}
	if len(songs) > 0 && !slices.ContainsFunc(songs, func(s plan.Song) bool {
		return slices.ContainsFunc(s.Sections, func(x plan.Section) bool { return x.Singing })
	}) {
		add("singing", "Say where you sing", "/hear/songs?many", "No song has singing marked.")
	}
	if n := count(used, func(s plan.Sound) bool {
		return s.Targets.DirtMin == nil && s.Targets.DirtMax == nil && s.Targets.LoudnessLU == nil
	}); n > 0 {
		add(
			"targets", "Say how they sound", "/hear/sounds", "%s.",
			has(n, "sound", "does not say how dirty or how loud it is", "do not say how dirty or how loud they are"),
		)
	}
	if hasRig && len(r.Path) > 0 {
		rigSteps(p, r, add)
	}
	return steps
}

func rigSteps(p *plan.Plan, r *plan.Rig, add func(id, action, where, words string, args ...any)) {
	if len(r.Guitars) == 0 {
		add("guitar", "Choose a guitar", "/order", "No guitar is plugged into %s.", r.Name)
	}
	boxes := boxesOf(p, r)
	if n := count(boxes, func(g plan.Gear) bool { return g.Size == nil }); n > 0 {
		add("sizes", "Say their size", "/own", "%s.", has(n, "box", "has no size", "have no size"))
	}
	if r.Floor.Board == "" && len(boxes) > 1 {
		add("board", "Choose a board", "/build/board", "%s stands on the bare floor.", r.Name)
	}
	draws := func(g plan.Gear) bool { return g.Power != nil && g.Power.Voltage > 0 }
	if len(r.PowerPlan) == 0 && count(boxes, draws) > 1 {
		add(
			"power", "Plan the power", "/build/power", "%s.",
			has(count(boxes, draws), "box", "draws power and nothing feeds it", "draw power and nothing feeds them"),
		)
	}
}

// songsOf are the songs of a set list, each once; those of the plan where there is none.
func songsOf(p *plan.Plan, l *plan.SetList, hasSet bool) []plan.Song {
	if !hasSet {
		return p.Songs
	}
	var list []plan.Song
	for _, e := range l.Entries {
		s, ok := p.FindSong(e.Song)
		if ok && !slices.ContainsFunc(list, func(x plan.Song) bool { return x.ID == s.ID }) {
			list = append(list, *s)
		}
	}
	return list
}

// soundsOf are the sounds that songs ask for.
func soundsOf(p *plan.Plan, songs []plan.Song) []plan.Sound {
	asked := map[plan.ID]bool{}
	for _, s := range songs {
		for _, x := range s.Sections {
			asked[x.Sound] = true
		}
	}
	return slices.DeleteFunc(slices.Clone(p.Sounds), func(s plan.Sound) bool { return !asked[s.ID] })
}

// boxesOf are the boxes of a rig that stand on the floor.
func boxesOf(p *plan.Plan, r *plan.Rig) []plan.Gear {
	var list []plan.Gear
	for _, id := range r.GearIn() {
		if g, ok := p.FindGear(id); ok && (g.Kind == plan.Pedal || g.Kind == plan.Controller) {
			list = append(list, *g)
		}
	}
	return list
}

func count[T any](list []T, is func(T) bool) int {
	n := 0
	for _, x := range list {
		if is(x) {
			n++
		}
	}
	return n
}

// has is a sentence about one or several.
func has(n int, noun, one, many string) string {
	if n == 1 {
		return "One " + noun + " " + one
	}
	plural := noun + "s"
	if strings.HasSuffix(noun, "x") {
		plural = noun + "es"
	}
	return fmt.Sprintf("%d %s %s", n, plural, many)
}
