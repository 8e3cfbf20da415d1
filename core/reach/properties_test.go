package reach

import (
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// player does what a report says, press by press, on devices that know nothing of reach:
// only what each footswitch does.
type player struct {
	t     *rapid.T
	plan  *plan.Plan
	rig   *plan.Rig
	state map[plan.Key]plan.Value
}

// press uses a footswitch as its gear says. A tap gives the variable the value it is to get.
func (p *player) press(key plan.Key, gesture string, tapped map[plan.Key]plan.Value) {
	g, ok := p.plan.FindGear(key.Gear())
	require.True(p.t, ok)
	sw, ok := g.FindSwitch(plan.ID(key.Rest()))
	require.True(p.t, ok)
	one, two, three := p.rig.SwitchDoes(g, sw)
	does := map[string]*plan.Press{"press": one, "hold": two, "double": three}[gesture]
	require.NotNil(p.t, does, "%s has no %s", key, gesture)
	for _, a := range does.Actions {
		now := p.state[a.Target]
		switch a.Kind {
		case plan.Toggle:
			p.state[a.Target] = plan.On(!now.IsOn())
		case plan.Set:
			p.state[a.Target] = *a.Value
		case plan.Tap:
			p.state[a.Target] = tapped[a.Target]
		case plan.Step:
			p.state[a.Target] = p.stepped(g, a, now)
		case plan.Recall, plan.Bank:
			p.recall(g.ID, a)
		}
	}
}

// recall does what a controller does: it steps through its banks, or sends what is stored.
func (p *player) recall(controller plan.ID, a plan.Action) {
	banks := slices.Sorted(maps.Keys(p.rig.Programs[controller]))
	at := plan.Key(controller) + "//bank"
	now := 0
	if v, ok := p.state[at]; ok {
		now = slices.Index(banks, v.Word())
	}
	if a.Kind == plan.Bank {
		next := now + a.Stride()
		if a.Wrap {
			next = (next + len(banks)) % len(banks)
		}
		p.state[at] = plan.Text(banks[min(max(next, 0), len(banks)-1)])
		return
	}
	bank, slot, ok := a.Slot()
	require.True(p.t, ok)
	if bank != "" {
		now = slices.Index(banks, bank)
		p.state[at] = plan.Text(bank)
	}
	for k, v := range p.rig.Programs[controller][banks[now]][slot].Values {
		p.state[k] = v
	}
}

func (p *player) stepped(g *plan.Gear, a plan.Action, now plan.Value) plan.Value {
	for _, v := range g.Variables() {
		if v.Key != a.Target {
			continue
		}
		n := len(v.Control.Options)
		for i, o := range v.Control.Options {
			if o != now.Word() {
				continue
			}
			next := i + a.Stride()
			if a.Wrap {
				next = (next%n + n) % n
			}
			return plan.Text(v.Control.Options[min(max(next, 0), n-1)])
		}
	}
	p.t.Fatalf("%s cannot be stepped from %s", a.Target, now)
	return now
}

// A report's presses, carried out on devices, lead to the states that it shows.
func TestDoingWhatTheReportSaysGivesTheSounds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := randomPlan(t)
		s, err := prepare(p, &p.Rigs[0], &p.SetLists[0], Start{})
		require.NoError(t, err)
		s.solve()
		who := &player{t: t, plan: p, rig: &p.Rigs[0], state: map[plan.Key]plan.Value{}}
		planned := func(i int, leaving bool) map[plan.Key]plan.Value {
			values := map[plan.Key]plan.Value{}
			for mi, m := range s.machines {
				state := s.courses[mi].arrive[i]
				if leaving {
					state = s.courses[mi].leave[i]
				}
				for j, v := range m.vars {
					values[s.vars[v].Key] = s.vars[v].values[m.value(state, j)]
				}
			}
			return values
		}
		who.state = planned(0, true)
		for i := 1; i < len(s.parts); i++ {
			want := planned(i, false)
			o := s.outcomes[i]
			for _, n := range o.order {
				task := o.tasks[n]
				sw := s.feet.floor.Switches[task.op.sw].Key
				for range task.count {
					who.press(sw, task.op.gesture.String(), want)
				}
			}
			for _, m := range o.motions {
				for _, h := range m.hands {
					who.state[s.vars[h.v].Key] = s.vars[h.v].values[h.to]
				}
			}
			require.Equal(t, want, who.state, "after the change into section %d", i)
			leaving := planned(i, true)
			for _, r := range s.rests {
				if r.part != i {
					continue
				}
				for _, g := range r.way {
					for range g.count {
						who.press(s.feet.floor.Switches[g.op.sw].Key, g.op.gesture.String(), leaving)
					}
				}
			}
			require.Equal(t, leaving, who.state, "on leaving section %d", i)
		}
	})
}

// What each part's recipe asks is what the plan gives it, and nothing audible moves inside.
func TestEverySectionSoundsAsItsRecipeSays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := randomPlan(t)
		s, err := prepare(p, &p.Rigs[0], &p.SetLists[0], Start{})
		require.NoError(t, err)
		s.solve()
		for mi, m := range s.machines {
			c := s.courses[mi]
			for i, x := range s.parts {
				require.True(t, m.allows(i, c.arrive[i]), "arriving in section %d", i)
				require.True(t, m.allows(i, c.leave[i]), "leaving section %d", i)
				if c.arrive[i] != c.leave[i] {
					require.True(t, m.inert(x.wants, c.arrive[i], c.leave[i]), "something audible moves inside section %d", i)
				}
			}
		}
	})
}

func TestReportsAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := randomPlan(t)
		r, err := Compute(p, "rig", "set")
		require.NoError(t, err)
		n := r.Reach
		assert.Equal(t, n.Total+n.NotSet, len(r.Changes))
		assert.Equal(t, n.Total, n.InTime+n.Tight+n.Late+n.ByHand+n.Impossible)
		assert.Equal(t, n.Reached, n.InTime+n.Tight)
		assert.Len(t, r.Sections, len(r.Changes)+1)
		for i, c := range r.Changes {
			assert.Equal(t, i+1, c.Position)
			assert.InDelta(t, c.FreeS-c.NeededS, c.SlackS, 2e-4)
			assert.Equal(t, c.Verdict.Reached(), c.Finding == "", "what fails is a finding, and nothing else is")
			assert.NotEmpty(t, c.Reason)
			assert.True(t, strings.HasSuffix(c.Reason, "."), c.Reason)
			last := 0.0
			for _, x := range c.Presses {
				assert.GreaterOrEqual(t, x.AtS+1e-9, last, "presses come in order")
				last = x.AtS
			}
			if len(c.Presses) > 0 {
				assert.LessOrEqual(t, last, c.FootworkS+1e-4)
			}
		}
		for _, row := range r.Rows {
			assert.Len(t, row.Cells, len(r.Sections))
		}
		again, err := Compute(p, "rig", "set")
		require.NoError(t, err)
		assert.Equal(t, r, again, "same input, same answer")
	})
}

// A quicker foot, a longer gap or more grace never costs a change.
func TestMoreTimeNeverHurts(t *testing.T) {
	easier := map[string]func(*plan.Plan){
		"a quicker foot": func(p *plan.Plan) { p.Rigs[0].Profile.B = ptr(0.05) },
		"more grace":     func(p *plan.Plan) { p.Rigs[0].Profile.Grace = ptr(2.0) },
		"longer gaps":    func(p *plan.Plan) { p.SetLists[0].GapS = ptr(60.0) },
		"no singing": func(p *plan.Plan) {
			for i := range p.Songs {
				for j := range p.Songs[i].Sections {
					p.Songs[i].Sections[j].Singing = false
				}
			}
		},
	}
	for name, change := range easier {
		t.Run(name, func(t *testing.T) {
			rapid.Check(t, func(t *rapid.T) {
				p := randomPlan(t)
				before, err := Compute(p, "rig", "set")
				require.NoError(t, err)
				// Grace also takes time from leisure, so only what has none is compared.
				if name == "more grace" {
					for _, s := range before.Sections {
						if len(s.ReadyEarly) > 0 {
							t.Skip("something is made ready early")
						}
					}
				}
				change(p)
				after, err := Compute(p, "rig", "set")
				require.NoError(t, err)
				assert.GreaterOrEqual(t, after.Reach.Reached, before.Reach.Reached)
			})
		})
	}
}
