package examples_test

import (
	"context"
	"flag"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/board"
	"envex/core/catalog"
	"envex/core/path"
	"envex/core/plan"
	"envex/core/propose"
	"envex/core/reach"
	"envex/core/shorthand"
	"envex/core/signal"
	"envex/core/switching"
	"envex/examples"
)

var update = flag.Bool("update", false, "make the files anew from what is typed below")

// typed is what an example is made of.
type typed struct {
	chain, set string
	recipes    func(p *plan.Plan, r *plan.Rig) // in place of those that are proposed
	path       func(p *plan.Plan, r *plan.Rig) // what a chain in a line does not say
	programs   bool                            // laid out for its controller
	fit        bool                            // onto its board
}

const night = `Ferry Lights 104: intro clean 4, verse clean 16 (sing), chorus crunch 8 (sing), verse clean 16 (sing), solo lead 16, out crunch 8
Low Tide Cumbia 96: intro clean 8, verse clean 16 (sing), chorus crunch 8 (sing), out clean 8
Night Dredger 126: intro crunch 8, verse clean 16 (sing), chorus crunch 8 (sing), solo lead 16, out crunch 8
Slack Water 78: intro echo 8, verse clean 16 (sing), bridge echo 8, out clean 8
Winch Song 118: verse clean 16 (sing), chorus crunch 16 (sing), solo lead 8, out clean 8`

var sources = map[string]typed{
	"clean-amp": {
		set:   night,
		chain: "three single coils, Plumb = tuner, Squeeze = blue comp, Amber = yellow mid-hump drive, Rust = orange mid-hump drive, Drift = green tap delay, Spray = grey spring reverb > Pier = scooped clean combo",
	},
	"amp-gain": {
		set:   strings.ReplaceAll(strings.ReplaceAll(night, "crunch", "heavy"), "clean", "crunch"),
		chain: "two humbuckers, Plumb = tuner, Rust = orange mid-hump drive > Harbour = mid-forward head: Nudge = red boost, Drift = green tap delay, Vault = blue hall reverb > Crate = cab",
	},
	"loop-switcher": {
		set: night, programs: true,
		chain: "two humbuckers, Plumb = tuner, [1 Squeeze = blue comp][2 Nudge = red boost][3 Amber = yellow mid-hump drive][4 Rust = orange mid-hump drive][5 Drift = green tap delay][6 Vault = white hall reverb] > Pier = scooped clean combo",
	},
	"stored-amp": {
		set: strings.ReplaceAll(night, "crunch", "heavy"), programs: true,
		chain:   "two humbuckers, Plumb = tuner > Tower = head with midi: Nudge = red boost, Drift = green tap delay > Crate = cab\nHelm = midi controller",
		recipes: stored,
	},
	"four-cables": {
		set: night, chain: "two humbuckers, Plumb = tuner, Nudge = red boost > Harbour = two channel head > Crate = cab",
		path: fourCables,
	},
	"two-amps": {
		set:   night,
		chain: "two wide single coils, Plumb = tuner, Amber = yellow mid-hump drive, Rust = orange mid-hump drive, Echoes = green ping-pong delay, Wide = blue stereo reverb > Pier = scooped clean combo | Quay = scooped clean combo",
	},
	"to-the-house": {
		set:   night,
		chain: "humbucker and two single coils, Plumb = tuner, Amber = yellow mid-hump drive, Rust = orange mid-hump drive, Stage = black preamp pedal, Drift = green tap delay, Vault = white hall reverb > Booth = cab sim, Line = DI",
	},
	"travelling": {
		set: night, fit: true,
		chain: "semi-hollow, Plumb = tuner, Amber = yellow mid-hump drive, Rust = orange mid-hump drive, Drift = green tap delay > Hired = combo\nCase = small board",
	},
}

// fourCables puts a multi-effect around the preamp: its drive before it, delay and reverb after.
func fourCables(p *plan.Plan, r *plan.Rig) {
	k, _ := catalog.Find("multi-effect")
	g := k.In(p, "spray", "Spray")
	g.Colour = "grey"
	p.Put(g)
	var path []plan.Node
	for _, n := range r.Path {
		amp, _ := p.FindGear(n.Stop.Gear())
		preamp := amp.Kind == plan.Amp && n.Stop.Rest() == "preamp"
		if preamp {
			path = append(path, plan.Node{Stop: "spray/drive"})
		}
		path = append(path, n)
		if preamp {
			path = append(path, plan.Node{Stop: "spray/delay"}, plan.Node{Stop: "spray/reverb"})
		}
	}
	r.Path = path
}

// stored keeps a channel in each of the amp's memories and makes sounds of them.
func stored(p *plan.Plan, r *plan.Rig) {
	at := slices.IndexFunc(p.Gear, func(g plan.Gear) bool { return g.Name == "Tower" })
	amp := p.Gear[at]
	delay := p.Gear[slices.IndexFunc(p.Gear, func(g plan.Gear) bool { return g.Name == "Drift" })]
	boost := p.Gear[slices.IndexFunc(p.Gear, func(g plan.Gear) bool { return g.Name == "Nudge" })]
	preamp := plan.BlockKey(amp.ID, "preamp")
	r.Base = map[plan.Key]plan.Value{
		preamp + "/drive": plan.Number(1.2), preamp + "/level": plan.Number(4),
		plan.BlockKey(boost.ID, "fx") + "/level": plan.Number(1.5),
	}
	memory := func(channel, mode, loop string) map[plan.Key]plan.Value {
		return map[plan.Key]plan.Value{
			plan.BlockKey(amp.ID, "preamp") + "/channel": plan.Text(channel), plan.Key(amp.ID) + "/mode": plan.Text(mode),
			plan.Key(amp.ID) + "/loop": plan.Text(loop),
		}
	}
	r.Presets = plan.PresetMap{amp.ID: {"1": memory("clean", "low", "in"), "2": memory("drive", "low", "in")}}
	for _, x := range []struct {
		sound, preset string
		boost, echo   bool
	}{{"Clean", "1", false, false}, {"Heavy", "2", false, false}, {"Lead", "2", true, false}, {"Echo", "1", false, true}} {
		s := p.Sounds[slices.IndexFunc(p.Sounds, func(s plan.Sound) bool { return s.Name == x.sound })]
		r.Recipes = append(r.Recipes,
			plan.Recipe{ID: plan.ID("recipe-" + string(s.ID)), Sound: s.ID, Values: map[plan.Key]plan.Value{
				plan.Key(amp.ID) + "/preset": plan.Text(x.preset), plan.OnKey(delay.ID, "fx"): plan.On(x.echo),
				plan.OnKey(boost.ID, "fx"): plan.On(x.boost),
			}})
	}
}

func ids(example string) func() plan.ID {
	n := 0
	return func() plan.ID { n++; return plan.ID(fmt.Sprintf("%s-%d", example, n)) }
}

// made makes an example of what is typed.
func made(t *testing.T, id string, from typed) *plan.Plan {
	t.Helper()
	ctx, newID := context.Background(), ids(id)
	p := &plan.Plan{}
	reading, err := shorthand.ReadChain(from.chain, nil)
	require.NoError(t, err)
	for _, c := range reading.Chips {
		require.NotEmpty(t, c.Kind, "%s: %s", id, c.Text)
	}
	name := examples.All()[slices.IndexFunc(examples.All(), func(e examples.Example) bool { return e.ID == id })].Name
	rigged := reading.Build(p, newID, name)
	for _, g := range rigged.Gear {
		p.Put(g)
	}
	draft, err := shorthand.ReadSet(from.set, "Quay set", "")
	require.NoError(t, err)
	songs, _ := shorthand.Songs(draft, p, newID)
	for _, a := range songs.All() {
		p.Put(a)
	}
	r := rigged.Rig
	if from.path != nil {
		from.path(p, &r)
	}
	if from.recipes != nil {
		from.recipes(p, &r)
	}
	p.Put(r)
	require.Empty(t, p.Validate())
	found, err := propose.For(ctx, p, r.ID, propose.Options{SetList: p.SetLists[0].ID, NewID: newID})
	require.NoError(t, err)
	for _, s := range found.Sounds {
		for _, w := range s.Ways {
			t.Logf("%s: %s %v %+.1f LU %.0f %% %s", id, s.Name, w.Within, w.OverHome, w.Dirt, w.Words)
		}
	}
	p.Put(found.Taken)
	if from.programs {
		solved, err := switching.Solve(ctx, p, r.ID, p.SetLists[0].ID, switching.Options{School: switching.Page})
		require.NoError(t, err)
		p.Put(solved.Rig)
	}
	if from.fit {
		report, err := board.Judge(ctx, p, r.ID, board.Options{SetList: p.SetLists[0].ID, Fit: true})
		require.NoError(t, err)
		require.True(t, report.Fits)
		now, _ := p.FindRig(r.ID)
		with := *now
		with.Floor = *report.Taken
		p.Put(with)
	}
	return p
}

// Every example is sound, has each sound within its targets, and a set of which over nine in ten changes are in reach.
func TestExamplesAreWorthStartingFrom(t *testing.T) {
	require.Len(t, examples.All(), len(sources))
	for _, e := range examples.All() {
		t.Run(e.ID, func(t *testing.T) {
			if *update {
				data, err := plan.Encode(made(t, e.ID, sources[e.ID]))
				require.NoError(t, err)
				require.NoError(t, os.WriteFile(e.ID+".envex.json", data, 0o644))
				t.Skip("made anew")
			}
			p, err := examples.Plan(e.ID)
			require.NoError(t, err)
			require.Empty(t, p.Validate())
			require.Len(t, p.Rigs, 1)
			assert.Equal(t, e.Name, p.Rigs[0].Name)
			report, err := signal.Measure(context.Background(), p, p.Rigs[0].ID, signal.Options{})
			require.NoError(t, err)
			assert.Len(t, report.Sounds, len(p.Sounds), "a recipe for each sound")
			for _, s := range report.Sounds {
				for _, c := range s.Checks {
					assert.True(t, c.Met, "%s: %s", s.Name, c.Words)
				}
			}
			judged, err := path.Judge(context.Background(), p, p.Rigs[0].ID, "")
			require.NoError(t, err)
			for _, f := range judged.Findings {
				assert.NotEqual(t, path.Danger, f.Gravity, f.Title)
			}
			n, err := reach.Compute(p, p.Rigs[0].ID, p.SetLists[0].ID)
			require.NoError(t, err)
			assert.Zero(t, n.Reach.NotSet)
			assert.GreaterOrEqual(t, n.Reach.Reached*10, n.Reach.Total*9, "%d of %d", n.Reach.Reached, n.Reach.Total)
		})
	}
	_, err := examples.Plan("nothing")
	assert.Error(t, err)
}

// All can come into one plan, one after the other, twice; sounds of one name are one sound.
func TestExamplesComeIntoAPlanThatHasOthers(t *testing.T) {
	p := &plan.Plan{}
	p.Put(plan.Sound{ID: "mine", Name: "crunch", Short: "EC", Role: plan.HomeRole, Tape: "moss"})
	for range 2 {
		for _, e := range examples.All() {
			in, err := examples.For(p, e.ID)
			require.NoError(t, err)
			require.Empty(t, in.Validate(), e.ID)
			for _, a := range in.All() {
				p.Put(a)
			}
			require.Empty(t, p.Validate(), e.ID)
		}
	}
	names, homes := map[string]bool{}, 0
	for _, s := range p.Sounds {
		assert.False(t, names[strings.ToLower(s.Name)], s.Name)
		names[strings.ToLower(s.Name)] = true
		if s.Role == plan.HomeRole {
			homes++
		}
	}
	assert.Equal(t, 1, homes)
	assert.Len(t, p.Rigs, 8)
	for _, r := range p.Rigs {
		for _, rec := range r.Recipes {
			_, ok := p.FindSound(rec.Sound)
			assert.True(t, ok)
		}
	}
}
