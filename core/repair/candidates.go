package repair

import (
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/reach"
	"envex/core/switching"
)

// candidates are single edits that might mend a failed change, the ones that leave the sounds
// alone first.
func (s *scene) candidates(c *reach.Change) []Edit {
	var list []Edit
	if s.recipeAt(c.Position) == nil {
		return slices.Concat(s.borrows(c.To.ID), s.plugs(c))
	}
	list = append(list, s.stomps(c)...)
	list = append(list, s.moves(c)...)
	list = append(list, s.swaps(c)...)
	list = append(list, s.assigns(c)...)
	list = append(list, s.loops(c)...)
	list = append(list, s.layouts()...)
	list = append(list, s.choices(c)...)
	list = append(list, s.settings(c)...)
	list = append(list, s.plugs(c)...)
	return list
}

// pairsPressed are the switches pressed one after the other at a change.
func pairsPressed(c *reach.Change) [][2]plan.Key {
	var list [][2]plan.Key
	for i := 1; i < len(c.Presses); i++ {
		a, b := c.Presses[i-1].Switch, c.Presses[i].Switch
		if a != b {
			list = append(list, [2]plan.Key{a, b})
		}
	}
	return list
}

// nearStomp is how far apart two switches may be for one shoe, in mm.
const nearStomp = 120.0

func (s *scene) stomps(c *reach.Change) []Edit {
	var list []Edit
	for _, x := range pairsPressed(c) {
		a, ok := s.report.Floor.Find(x[0])
		b, ok2 := s.report.Floor.Find(x[1])
		if !ok || !ok2 || math.Hypot(a.X-b.X, a.Y-b.Y) > nearStomp {
			continue
		}
		list = append(
			list,
			Edit{
				Kind: Stomp, Key: x[0], Other: x[1],
				Words: fmt.Sprintf("Press %s and %s under one shoe", s.switchName(x[0]), s.switchName(x[1])),
			},
		)
	}
	return list
}

// switchName is a footswitch as the player calls it.
func (s *scene) switchName(key plan.Key) string {
	g, ok := s.here.FindGear(key.Gear())
	if !ok {
		return string(key)
	}
	if sw, ok := g.FindSwitch(plan.ID(key.Rest())); ok {
		return s.here.SwitchName(s.rig, g, sw)
	}
	return g.Name
}

// swaps exchanges the slot that is pressed with each other slot of its controller's bank, and with
// the same slot of the bank that is stepped from.
func (s *scene) swaps(c *reach.Change) []Edit {
	var list []Edit
	for _, p := range c.Presses {
		id := p.Switch.Gear()
		g, ok := s.here.FindGear(id)
		if !ok || len(s.rig.Programs[id]) == 0 {
			continue
		}
		for _, a := range s.slotsServing(id, c.To.ID) {
			for _, bank := range plan.SortedKeys(s.rig.Programs[id]) {
				for _, slot := range plan.SortedKeys(s.rig.Programs[id][bank]) {
					b := switching.Seat{Bank: bank, Slot: slot}
					if a == b {
						continue
					}
					list = append(list, Edit{Kind: Swap, Gear: id, Bank: a.Bank, Slot: a.Slot, ToBank: bank, ToSlot: slot,
						Words: fmt.Sprintf(
							"Move %s from %s/%s to %s/%s of %s", s.soundName(c.To.ID), a.Bank, a.Slot, bank, slot, g.Name,
						)})
				}
			}
		}
	}
	return list[:min(len(list), 24)]
}

func (s *scene) slotsServing(controller, sound plan.ID) []switching.Seat {
	var list []switching.Seat
	for _, bank := range plan.SortedKeys(s.rig.Programs[controller]) {
		for _, slot := range plan.SortedKeys(s.rig.Programs[controller][bank]) {
			if s.rig.Programs[controller][bank][slot].Sound == sound {
				list = append(list, switching.Seat{Bank: bank, Slot: slot})
			}
		}
	}
	return list
}

// assigns gives a footswitch of a controller that does nothing yet what no switch does: both in
// the rig and owned.
func (s *scene) assigns(c *reach.Change) []Edit {
	if c.Verdict != reach.Impossible {
		return nil
	}
	to, from := s.recipeAt(c.Position), s.recipeAt(c.Position-1)
	if to == nil || from == nil {
		return nil
	}
	free := s.idleSwitches()
	var list []Edit
	for _, v := range s.variables() {
		a, b := s.asked(from, v), s.asked(to, v)
		if a == b || b.Kind() == plan.FreeValue || v.Access == plan.Memory || v.Access == plan.SlowHand ||
			v.Access == plan.QuickHand {
			continue
		}
		act := plan.Action{Kind: plan.Toggle, Target: v.Key}
		if !v.IsOn() {
			if v.Control.Kind == plan.Knob {
				continue
			}
			act = plan.Action{Kind: plan.Step, Target: v.Key, Wrap: true}
		}
		for _, key := range free {
			list = append(
				list,
				Edit{
					Kind: Assign, Key: key, Press: &plan.Press{Actions: []plan.Action{act}},
					Words: fmt.Sprintf("Let %s move %s", s.switchName(key), v.Label),
				},
			)
		}
	}
	return list
}

// idleSwitches are footswitches of owned controllers that do nothing, at most three.
func (s *scene) idleSwitches() []plan.Key {
	var list []plan.Key
	for i := range s.here.Gear {
		g := &s.here.Gear[i]
		if g.Kind != plan.Controller {
			continue
		}
		for k := range g.Footswitches {
			press, hold, double := s.rig.SwitchDoes(g, &g.Footswitches[k])
			if press == nil && hold == nil && double == nil {
				list = append(list, plan.BlockKey(g.ID, g.Footswitches[k].ID))
			}
		}
	}
	return list[:min(len(list), 3)]
}

// loops puts each block that is pressed by its own switch into a spare loop.
func (s *scene) loops(c *reach.Change) []Edit {
	var list []Edit
	looped := s.rig.LoopsOf("")
	for _, id := range s.rig.GearIn() {
		g, ok := s.here.FindGear(id)
		if !ok || g.Switcher == nil || len(s.rig.Programs[id]) == 0 {
			continue
		}
		taken := map[int]bool{}
		for _, k := range s.rig.LoopsOf(id) {
			taken[k] = true
		}
		for _, p := range c.Presses {
			block, ok := s.blockOf(p.Switch)
			if !ok || looped[block] > 0 {
				continue
			}
			for k := 1; k <= g.LoopCount(); k++ {
				if !taken[k] {
					list = append(
						list,
						Edit{
							Kind: Loop, Key: block, Gear: id, Loop: k,
							Words: fmt.Sprintf("Put %s into loop %d of %s, and into its programs", s.switchName(p.Switch), k, g.Name),
						},
					)
				}
			}
		}
	}
	return list
}

// blockOf is the block that a switch turns on and off.
func (s *scene) blockOf(sw plan.Key) (plan.Key, bool) {
	g, ok := s.here.FindGear(sw.Gear())
	if !ok {
		return "", false
	}
	f, ok := g.FindSwitch(plan.ID(sw.Rest()))
	if !ok {
		return "", false
	}
	press, _, _ := s.rig.SwitchDoes(g, f)
	if press == nil {
		return "", false
	}
	for _, v := range s.variables() {
		if v.IsOn() && slices.ContainsFunc(
			press.Actions, func(a plan.Action) bool { return a.Kind == plan.Toggle && a.Target == v.Key },
		) {
			return plan.BlockKey(v.Gear, v.Block), true
		}
	}
	return "", false
}

// layouts lays out the programs of each controller with slots anew: of one in the rig with its loops
// as they are and chosen anew, of one in the gear pile with loops chosen for it. What it leads to is worked out once for the whole show.
func (s *scene) layouts() []Edit {
	var list []Edit
	here := s.rig.GearIn()
	for i := range s.here.Gear {
		g := &s.here.Gear[i]
		id, in := g.ID, slices.Contains(here, g.ID)
		if g.Kind != plan.Controller {
			continue
		}
		for _, x := range []struct {
			school switching.School
			loops  bool
			in     bool
			words  string
		}{
			{switching.Page, false, true, "Lay out the programs of %s on one page"},
			{switching.Page, true, true, "Choose the loops of %s anew and lay out its programs on one page"},
			{switching.Page, true, false, "Put %s in, choose its loops and lay out its programs on one page"},
		} {
			if x.in != in || (x.loops && g.Switcher == nil) {
				continue
			}
			e := Edit{
				Kind: Layout, Gear: id, SetList: s.set, School: x.school, Loops: x.loops, Words: fmt.Sprintf(x.words, g.Name),
			}
			if _, tried := s.known[e.id()+"|"]; !tried {
				found, err := switching.Solve(
					s.ctx, s.here, s.site.Rig, s.set, switching.Options{Controller: id, School: x.school, ChooseLoops: x.loops},
				)
				if err != nil {
					continue // it has no slots, or they do not hold the show
				}
				e.rig = &found.Rig
			}
			list = append(list, e)
		}
	}
	return list
}

// choices makes the section that comes, or the one before, with another recipe of its sound that
// has every effect the sound must be heard with.
func (s *scene) choices(c *reach.Change) []Edit {
	var list []Edit
	for _, position := range []int{c.Position, c.Position - 1} {
		at := s.report.Sections[position]
		sound, ok := s.here.FindSound(at.Sound)
		if !ok {
			continue
		}
		for i := range s.rig.Recipes {
			rec := &s.rig.Recipes[i]
			if rec.Sound != at.Sound || rec.ID == at.Recipe || !s.meets(s.here, rec, sound) {
				continue
			}
			name := rec.Name
			if name == "" {
				name = "its usual recipe"
			}
			list = append(list, Edit{Kind: Choose, Song: at.SongID, Section: at.SectionID, Recipe: rec.ID,
				Words: fmt.Sprintf("Play %s of %s, %s, as: %s", sound.Name, at.Song, at.Section, name)})
		}
	}
	return list
}

// settings makes two sounds agree on something that has to move between them: a block that is not
// a gain stage is left on, a knob or a selector set alike, or not minded.
func (s *scene) settings(c *reach.Change) []Edit {
	from, to := s.recipeAt(c.Position-1), s.recipeAt(c.Position)
	if from == nil || to == nil {
		return nil
	}
	var frees, sames, leaves []Edit
	for _, v := range s.variables() {
		a, b := s.asked(from, v), s.asked(to, v)
		if a == b || a.Kind() == plan.FreeValue || b.Kind() == plan.FreeValue || !s.does(from, v) || !s.does(to, v) {
			continue
		}
		x, y := s.soundName(from.Sound), s.soundName(to.Sound)
		if v.IsOn() {
			if s.isGain(v) {
				continue
			}
			on := plan.On(true)
			rec, as, name := from, to, x
			if a.IsOn() {
				rec, as, name = to, from, y
			}
			leaves = append(
				leaves,
				Edit{
					Kind: Leave, Recipe: rec.ID, Key: v.Key, Value: &on, Values: s.settingsOf(as, v),
					Words: fmt.Sprintf("Leave %s on in %s", v.Label, name),
				},
			)
			continue
		}
		free := plan.Free()
		if v.Access != plan.SlowHand {
			frees = append(frees,
				Edit{Kind: Free, Recipe: to.ID, Key: v.Key, Value: &free, Words: fmt.Sprintf("Ignore %s in %s", v.Label, y)},
				Edit{Kind: Free, Recipe: from.ID, Key: v.Key, Value: &free, Words: fmt.Sprintf("Ignore %s in %s", v.Label, x)})
		}
		sames = append(sames,
			Edit{
				Kind: Same, Recipe: to.ID, Key: v.Key, Value: &a,
				Words: fmt.Sprintf("Set %s to %s in %s too, as in %s", v.Label, a, y, x),
			},
			Edit{
				Kind: Same, Recipe: from.ID, Key: v.Key, Value: &b,
				Words: fmt.Sprintf("Set %s to %s in %s too, as in %s", v.Label, b, x, y),
			})
	}
	return slices.Concat(frees, sames, leaves)
}

// settingsOf are the settings a recipe names for what a block's on and off governs, so that a block
// left on sounds the same in both.
func (s *scene) settingsOf(rec *plan.Recipe, on plan.Variable) map[plan.Key]plan.Value {
	values := map[plan.Key]plan.Value{}
	for _, v := range s.variables() {
		x, named := rec.Values[v.Key]
		if named && v.Gear == on.Gear &&
			slices.ContainsFunc(v.When, func(c plan.KeyCondition) bool { return c.Key == on.Key }) {
			values[v.Key] = x
		}
	}
	return values
}

func (s *scene) isGain(v plan.Variable) bool {
	g, ok := s.here.FindGear(v.Gear)
	if !ok {
		return false
	}
	b, ok := g.FindBlock(v.Block)
	return ok && b.Effect.IsGain()
}

// plugs plugs in the guitar a song is played on.
func (s *scene) plugs(c *reach.Change) []Edit {
	song, ok := s.here.FindSong(c.SongID)
	if !ok {
		return nil
	}
	want := []plan.ID{song.Guitar}
	if rec := s.recipeAt(c.Position); rec != nil {
		want = append(want, rec.Guitar)
	}
	if sound, ok := s.here.FindSound(c.To.ID); ok {
		want = append(want, sound.Targets.Guitar)
	}
	var list []Edit
	for _, id := range want {
		if g, ok := s.here.FindGear(id); ok && !slices.Contains(s.rig.Guitars, id) {
			list = append(list, Edit{Kind: Plug, Gear: id, Words: "Plug in " + g.Name})
		}
	}
	return list
}
