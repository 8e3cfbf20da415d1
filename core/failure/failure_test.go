package failure

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/demo"
)

func TestEverySectionIsKeptOrLost(t *testing.T) {
	p := demo.Plan()
	for _, rig := range []plan.ID{"long", "bare", "switched", "carry"} {
		f, err := On(p, rig, "", "quay-set")
		require.NoError(t, err)
		for _, id := range f.Boxes() {
			x, err := f.Without(id)
			require.NoError(t, err)
			assert.Len(t, x.Sounds, len(f.sounds), x.Name)
			sections := 0
			for _, s := range x.Sounds {
				sections += s.Sections
				assert.LessOrEqual(t, s.Hit, s.Sections, x.Name)
				assert.Equal(t, s.State == Changed || s.State == Lost, s.Without != "", x.Name)
			}
			assert.Equal(t, f.Sections(), sections, x.Name)
			assert.Contains(t, x.Out, id)
		}
	}
}

func TestABoxThatIsNotThereHasNoFate(t *testing.T) {
	p := demo.Plan()
	f, err := On(p, "long", "", "quay-set")
	require.NoError(t, err)
	_, err = f.Without("nope")
	require.Error(t, err)
	_, err = On(p, "nope", "", "quay-set")
	require.Error(t, err)
	_, err = On(p, "long", "nope", "quay-set")
	require.Error(t, err)
}

func TestABoxIsTakenOutOfAnyPath(t *testing.T) {
	p := demo.Plan()
	stop := func(key plan.Key) plan.Node { return plan.Node{Stop: key} }
	split := func(s plan.Split) plan.Node { return plan.Node{Split: &s} }
	lane := func(nodes ...plan.Node) plan.Lane { return plan.Lane{Nodes: nodes} }
	tap := plan.Split{ID: "t", Kind: plan.SplitTap, From: "sluice/tuner", Lanes: []plan.Lane{lane(stop("plumb/fx"))}}
	amps := plan.Split{
		ID: "a", Kind: plan.SplitCopy,
		Lanes: []plan.Lane{
			lane(stop("pier/preamp"), stop("pier/power")),
			lane(stop("jetty/preamp"), stop("jetty/power")),
		},
	}
	mixed := plan.Split{
		ID: "m", Kind: plan.SplitCopy, From: "mix/split", Join: plan.JoinSum, To: "mix/join",
		Lanes: []plan.Lane{lane(), lane(stop("room/fx"))},
	}
	for name, x := range map[string]struct {
		path []plan.Node
		out  plan.ID
		want []plan.Node
	}{
		"a stop": {[]plan.Node{stop("amber/fx"), stop("rust/fx")}, "amber", []plan.Node{stop("rust/fx")}},
		"what a gate listens to": {
			[]plan.Node{{Stop: "gate/fx", KeyIn: "amber/fx"}, stop("amber/fx")}, "amber", []plan.Node{stop("gate/fx")},
		},
		"what is tapped": {[]plan.Node{stop("sluice/fx"), split(tap)}, "sluice", []plan.Node{}},
		"what hangs on a tap": {
			[]plan.Node{split(tap)}, "plumb",
			[]plan.Node{
				split(plan.Split{ID: "t", Kind: plan.SplitTap, From: "sluice/tuner", Lanes: []plan.Lane{{Nodes: []plan.Node{}}}}),
			},
		},
		"an amp of two": {
			[]plan.Node{split(amps)}, "pier", []plan.Node{stop("jetty/preamp"), stop("jetty/power")},
		},
		"the only amp behind a tap": {[]plan.Node{split(tap), stop("pier/power")}, "pier", []plan.Node{split(tap)}},
		"a mixer": {
			[]plan.Node{split(mixed), stop("slap/fx")}, "mix", []plan.Node{stop("room/fx"), stop("slap/fx")},
		},
		"a box in a joined lane": {
			[]plan.Node{split(mixed)}, "room",
			[]plan.Node{
				split(
					plan.Split{
						ID: "m", Kind: plan.SplitCopy, From: "mix/split", Join: plan.JoinSum, To: "mix/join",
						Lanes: []plan.Lane{{Nodes: []plan.Node{}}, {Nodes: []plan.Node{}}},
					},
				),
			},
		},
		"a switcher": {
			[]plan.Node{{Stop: "amber/fx", Switcher: "turntable", Loop: 3}}, "turntable", []plan.Node{stop("amber/fx")},
		},
		"a combo in a joined lane": {[]plan.Node{
			split(
				plan.Split{
					ID: "j", Kind: plan.SplitCopy, Join: plan.JoinSum,
					Lanes: []plan.Lane{lane(stop("pier/preamp")), lane(stop("room/fx"))},
				},
			),
		}, "pier",
			[]plan.Node{
				split(
					plan.Split{
						ID: "j", Kind: plan.SplitCopy, Join: plan.JoinSum,
						Lanes: []plan.Lane{{Nodes: []plan.Node{}}, lane(stop("room/fx"))},
					},
				),
			}},
	} {
		t.Run(name, func(t *testing.T) {
			assert.Equal(t, x.want, without(p, x.path, map[plan.ID]bool{x.out: true}))
		})
	}
	assert.Equal(t, plan.Key("pier/preamp"), amps.Lanes[0].Nodes[0].Stop, "the path it is given stays")
	assert.Len(t, tap.Lanes[0].Nodes, 1)
}

func TestHowFarASoundIsFromAnother(t *testing.T) {
	ptr := func(x float64) *float64 { return &x }
	sound := func(role plan.Role, low, high, loud *float64, effects ...plan.Effect) *plan.Sound {
		s := &plan.Sound{Role: role, Targets: plan.Targets{DirtMin: low, DirtMax: high, LoudnessLU: loud}}
		for _, e := range effects {
			s.Targets.Effects = append(s.Targets.Effects, plan.Heard{Effect: e})
		}
		return s
	}
	delay, chorus := plan.EffectDelay, plan.EffectChorus
	lead := sound("lead", ptr(40), ptr(60), ptr(3), delay, chorus)
	for name, x := range map[string]struct {
		other *plan.Sound
		want  float64
	}{
		"the same":                        {lead, 0},
		"another role":                    {sound("rhythm", ptr(40), ptr(60), ptr(3), delay, chorus), 1.5},
		"another modulation":              {sound("lead", ptr(40), ptr(60), ptr(3), delay, plan.EffectPhaser), 2},
		"no modulation":                   {sound("lead", ptr(40), ptr(60), ptr(3), delay), 2},
		"one effect more":                 {sound("lead", ptr(40), ptr(60), ptr(3), delay, chorus, plan.EffectWah), 1},
		"25 per cent dirtier":             {sound("lead", ptr(65), ptr(85), ptr(3), delay, chorus), 1},
		"at least some dirt":              {sound("lead", ptr(50), nil, ptr(3), delay, chorus), 1},
		"at most some dirt":               {sound("lead", nil, ptr(50), ptr(3), delay, chorus), 1},
		"any dirt":                        {sound("lead", nil, nil, ptr(3), delay, chorus), 0},
		"3 LU quieter":                    {sound("lead", ptr(40), ptr(60), ptr(0), delay, chorus), 1},
		"as loud as it happens to be":     {sound("lead", ptr(40), ptr(60), nil, delay, chorus), 0},
		"another role, without its delay": {sound("texture", ptr(40), ptr(60), ptr(3), chorus), 3.5},
	} {
		assert.InDelta(t, x.want, distance(lead, x.other), 1e-9, name)
	}
}

func TestABoxFailsOnce(t *testing.T) {
	p := demo.Plan()
	for _, rig := range p.Rigs {
		f, err := On(p, rig.ID, "", "quay-set")
		require.NoError(t, err)
		seen := map[plan.ID]bool{}
		for _, id := range f.Boxes() {
			assert.False(t, seen[id], "%s on %s", id, rig.Name)
			seen[id] = true
		}
		for _, feed := range rig.PowerPlan {
			assert.True(t, feed.Supply == "" || seen[feed.Supply], "%s feeds %s", feed.Supply, rig.Name)
		}
	}
}
