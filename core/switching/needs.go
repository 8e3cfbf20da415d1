package switching

import (
	"fmt"
	"maps"
	"slices"
	"sort"
	"strings"

	"envex/core/floor"
	"envex/core/plan"
)

// need is one program that the show needs: what it sets, and the sounds it serves.
type need struct {
	values map[plan.Key]plan.Value
	sounds []plan.ID
	uses   int  // sections that are played on it
	lead   bool // a lead stands at an end, where the foot finds it
}

// needs are the programs of a show and how it goes from one to the other.
type needs struct {
	list   []need
	songs  [][]int // by entry of the set list: its programs, in the order they are first played
	weight [][]int
	toward [][]int // how often the show goes from one to the other, in that direction
	played []int   // the program of each section, one after the other
	order  []int   // the programs as they are recalled
	least  int     // recalls that no set of programs does without
	free   bool    // some two programs ask nothing of each other's settings, so that there are several ways
	moves  int     // changes from one program to another
	pins   map[int]pin
}

// needsOf works out what a controller has to store for a set list: for each recipe that is
// played, the settings it governs. Recipes that ask the same of it share a program. What a
// recipe leaves free, or what does nothing in it, is left unchanged.
func needsOf(p *plan.Plan, r *plan.Rig, l *plan.SetList, controller plan.ID, memories memories) *needs {
	n := &needs{}
	byValues, byRecipe := map[string]int{}, map[*plan.Recipe]int{}
	governed := governedBy(p, r, controller, playedOn(p, r, l))
	var played []int
	for _, e := range l.Entries {
		song, ok := p.FindSong(e.Song)
		if !ok {
			continue
		}
		var inSong []int
		for _, sec := range song.Sections {
			rec := r.RecipeFor(sec)
			if rec == nil {
				continue
			}
			at, seen := byRecipe[rec]
			if !seen {
				values := stored(r, rec, governed, memories[rec.ID])
				name := fingerprint(values)
				if at, seen = byValues[name]; !seen {
					at = len(n.list)
					n.list = append(n.list, need{values: values})
				}
				byValues[name], byRecipe[rec] = at, at
			}
			x := &n.list[at]
			x.uses++
			if !slices.Contains(x.sounds, sec.Sound) {
				x.sounds = append(x.sounds, sec.Sound)
			}
			if s, ok := p.FindSound(sec.Sound); ok && s.Role == plan.LeadRole {
				x.lead = true
			}
			if !slices.Contains(inSong, at) {
				inSong = append(inSong, at)
			}
			played = append(played, at)
		}
		n.songs = append(n.songs, inSong)
	}
	n.played = played
	n.least, n.free = leastRecalls(n.list, played), anyFit(n.list)
	if n.free {
		n.merge()
	}
	n.count()
	return n
}

// programLoops are the loops of a controller, as [plan.Rig.SwitchedLoops] gives them, that a program brings in and
// out: all that is switched in such a loop is on and off together in everything that is played. Where it is not,
// the loop brings in one box only with the other, so it is of no use to a program and each keeps its own switch.
func programLoops(p *plan.Plan, r *plan.Rig, controller plan.ID, played []*plan.Recipe) map[plan.Key]int {
	loops := r.SwitchedLoops(controller)
	in := map[int][]plan.Variable{}
	for _, stop := range plan.SortedKeys(loops) {
		if on, ok := p.VariableOf(stop + "/on"); ok {
			in[loops[stop]] = append(in[loops[stop]], on)
		}
	}
	maps.DeleteFunc(loops, func(_ plan.Key, loop int) bool { return len(in[loop]) > 1 && !together(r, in[loop], played) })
	return loops
}

// together reports whether some settings are always the same in what is played, where they are set at all.
func together(r *plan.Rig, list []plan.Variable, played []*plan.Recipe) bool {
	for _, rec := range played {
		if rec == nil {
			continue
		}
		var first plan.Value
		for _, v := range list {
			x := asked(r, rec, v.Key, v.Default)
			switch {
			case x.Kind() != plan.SwitchValue:
			case first.IsZero():
				first = x
			case first != x:
				return false
			}
		}
	}
	return true
}

// governedBy are the variables a program of the controller can move in this rig.
func governedBy(p *plan.Plan, r *plan.Rig, controller plan.ID, played []*plan.Recipe) []plan.Variable {
	loops := programLoops(p, r, controller, played)
	var list []plan.Variable
	for _, v := range p.VariablesIn(r) {
		if v.Gear != controller && p.Governs(r, controller, loops, v) {
			list = append(list, v)
		}
	}
	return list
}

// asked is what a recipe, or else the rig's base, sets a variable to.
func asked(r *plan.Rig, rec *plan.Recipe, key plan.Key, or plan.Value) plan.Value {
	for _, m := range []map[plan.Key]plan.Value{rec.Values, r.Base} {
		if x, ok := m[key]; ok && !x.IsZero() {
			return x
		}
	}
	return or
}

// stored is what a program holds for a recipe. What the recipe says of memories is in the presets
// chosen for it.
func stored(
	r *plan.Rig, rec *plan.Recipe, governed []plan.Variable, memory map[plan.Key]plan.Value,
) map[plan.Key]plan.Value {
	values := map[plan.Key]plan.Value{}
	for _, v := range governed {
		x := asked(r, rec, v.Key, v.Default)
		if chosen, ok := memory[v.Key]; ok {
			x = chosen
		}
		if k := x.Kind(); k == plan.FreeValue || k == plan.NoValue || k == plan.SyncValue {
			continue
		}
		does := true
		for _, c := range v.When {
			if at := asked(r, rec, c.Key, plan.On(false)); at.Kind() != plan.FreeValue && !c.Holds(at) {
				does = false
			}
		}
		if does {
			values[v.Key] = x
		}
	}
	return values
}

// playedOn is the recipe of each section of the show, nil where the rig has none.
func playedOn(p *plan.Plan, r *plan.Rig, l *plan.SetList) []*plan.Recipe {
	var list []*plan.Recipe
	for _, e := range l.Entries {
		if song, ok := p.FindSong(e.Song); ok {
			for _, sec := range song.Sections {
				list = append(list, r.RecipeFor(sec))
			}
		}
	}
	return list
}

func fingerprint(values map[plan.Key]plan.Value) string {
	keys := make([]string, 0, len(values))
	for k := range values {
		keys = append(keys, string(k))
	}
	sort.Strings(keys)
	var b strings.Builder
	for _, k := range keys {
		fmt.Fprintf(&b, "%s=%s;", k, values[plan.Key(k)])
	}
	return b.String()
}

// slotSwitch is a slot of a controller and the footswitch that recalls it.
type slotSwitch struct {
	slot string
	sw   plan.Key
	x    float64
}

// slotsOf are the slots that footswitches of the controller recall in the bank it stands on, in
// order, and whether a footswitch steps through its banks.
func slotsOf(p *plan.Plan, r *plan.Rig, controller *plan.Gear) (slots []slotSwitch, banked bool) {
	at := map[plan.Key]float64{}
	lay := floor.Lay(p, r)
	for _, s := range lay.Switches {
		at[s.Key] = s.X
	}
	for i := range controller.Footswitches {
		sw := &controller.Footswitches[i]
		key := plan.BlockKey(controller.ID, sw.ID)
		press, hold, double := r.SwitchDoes(controller, sw)
		for _, x := range []*plan.Press{press, hold, double} {
			if x == nil {
				continue
			}
			for _, a := range x.Actions {
				banked = banked || a.Kind == plan.Bank
				bank, slot, ok := a.Slot()
				if ok && bank == "" && !slices.ContainsFunc(slots, func(s slotSwitch) bool { return s.slot == slot }) {
					slots = append(slots, slotSwitch{slot, key, at[key]})
				}
			}
		}
	}
	slices.SortFunc(slots, func(a, b slotSwitch) int { return plan.CompareSlots(a.slot, b.slot) })
	return slots, banked
}
