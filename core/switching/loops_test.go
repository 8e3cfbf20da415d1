package switching

import (
	"context"
	"fmt"
	"math"
	"math/rand"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// board is a chain of pedals, a switcher with loops and slots, and a show that asks each section
// for the pedals of a set.
func board(pedals, loops int, breaks []int, show [][]bool) *plan.Plan {
	p := &plan.Plan{}
	r := plan.Rig{ID: "rig", Name: "rig", Programs: plan.ProgramMap{"c": {}}}
	for i := range pedals {
		id := plan.ID(fmt.Sprint("g", i))
		p.Gear = append(p.Gear, plan.Gear{ID: id, Name: string(id), Kind: plan.Pedal,
			Blocks: []plan.Block{{ID: "b", Name: "b", Effect: plan.EffectOverdrive, Bypass: plan.TrueBypass}},
			Footswitches: []plan.Footswitch{
				{
					ID: "s", Label: string(id), X: 35, Y: 100,
					Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Toggle, Target: "b/on"}}},
				},
			}})
		r.Path = append(r.Path, plan.Node{Stop: plan.BlockKey(id, "b")})
	}
	c := plan.Gear{
		ID: "c", Name: "c", Kind: plan.Controller, Switcher: &plan.Switcher{Loops: make([]plan.SwitcherLoop, loops)},
	}
	for _, k := range breaks {
		c.Switcher.Loops[k-1].Break = true
	}
	for i := range 5 {
		slot := plan.Text(fmt.Sprint(i + 1))
		c.Footswitches = append(
			c.Footswitches,
			plan.Footswitch{
				ID: plan.ID(slot.Word()), Label: slot.Word(), X: float64(40 + 80*i), Y: 60,
				Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Recall, Value: &slot}}},
			},
		)
	}
	c.Footswitches = append(
		c.Footswitches,
		plan.Footswitch{
			ID: "bank", Label: "bank", X: 460, Y: 60, Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Bank}}},
		},
	)
	p.Gear = append(p.Gear, c)
	song := plan.Song{ID: "song", Title: "song", Tempo: plan.Tempo{BPM: 100}, Meter: plan.Meter{Beats: 4, Unit: 4}}
	sounds := map[string]plan.ID{}
	bars := 8.0
	for i, on := range show {
		name := fmt.Sprint(on)
		if sounds[name] == "" {
			id := plan.ID(fmt.Sprint("s", len(sounds)))
			sounds[name] = id
			p.Sounds = append(
				p.Sounds, plan.Sound{ID: id, Name: string(id), Short: fmt.Sprint(len(sounds)), Role: plan.RhythmRole, Tape: "bone"},
			)
			rec := plan.Recipe{ID: "r" + id, Sound: id, Values: map[plan.Key]plan.Value{}}
			for k, x := range on {
				rec.Values[r.Path[k].Stop+"/on"] = plan.On(x)
			}
			r.Recipes = append(r.Recipes, rec)
		}
		song.Sections = append(
			song.Sections, plan.Section{ID: plan.ID(fmt.Sprint("x", i)), Label: "x", Sound: sounds[name], Bars: &bars},
		)
	}
	p.Songs = []plan.Song{song}
	p.SetLists = []plan.SetList{{ID: "set", Name: "set", Entries: []plan.SetEntry{{ID: "e", Song: "song"}}}}
	p.Rigs = []plan.Rig{r}
	return p
}

// bruteLoops tries every loop, or none, for every pedal, with every loop held or not, and gives
// the fewest presses among those that can be wired.
func bruteLoops(show [][]bool, pedals, loops int, breaks map[int]bool) int {
	best := math.MaxInt
	at := make([]int, pedals)
	var walk func(i int)
	walk = func(i int) {
		if i == pedals {
			for held := range 1 << loops {
				if c, ok := played(show, at, held, breaks); ok && c < best {
					best = c
				}
			}
			return
		}
		for k := range loops + 1 {
			at[i] = k
			walk(i + 1)
		}
	}
	walk(0)
	return best
}

// played counts the presses of a show with the pedals in certain loops, some of them held on, and
// says whether that can be wired and worked at all.
func played(show [][]bool, at []int, held int, breaks map[int]bool) (int, bool) {
	last, outside := 0, false
	for i, k := range at {
		if k == 0 {
			outside = outside || last > 0
			continue
		}
		if k < last {
			return 0, false
		}
		if outside && k == last {
			return 0, false // what is between would have to be in the loop too
		}
		if outside {
			found := false
			for b := last + 1; b <= k; b++ {
				found = found || breaks[b]
			}
			if !found {
				return 0, false
			}
		}
		if k == last && held>>(k-1)&1 == 0 {
			for _, on := range show { // two in one switched loop go on and off together
				if on[i] != on[i-1] {
					return 0, false
				}
			}
		}
		last, outside = k, false
	}
	cost := 0
	for n := 1; n < len(show); n++ {
		recall := false
		for i, k := range at {
			if show[n][i] == show[n-1][i] {
				continue
			}
			if k > 0 && held>>(k-1)&1 == 0 {
				recall = true
			} else {
				cost++
			}
		}
		if recall {
			cost++
		}
	}
	return cost, true
}

func TestLoopsAgreeWithBruteForce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pedals, loops := rapid.IntRange(1, 5).Draw(t, "pedals"), rapid.IntRange(1, 3).Draw(t, "loops")
		var breaks []int
		broken := map[int]bool{}
		for k := 2; k <= loops; k++ {
			if rapid.Bool().Draw(t, "break") {
				breaks, broken[k] = append(breaks, k), true
			}
		}
		show := make([][]bool, rapid.IntRange(2, 7).Draw(t, "sections"))
		for i := range show {
			show[i] = make([]bool, pedals)
			for k := range pedals {
				show[i][k] = rapid.Bool().Draw(t, "on")
			}
		}
		p := board(pedals, loops, breaks, show)
		w, err := wire(context.Background(), p, &p.Rigs[0], &p.SetLists[0], &p.Gear[pedals], nil, nil)
		require.NoError(t, err)
		require.True(t, w.proven)
		require.Equal(t, bruteLoops(show, pedals, loops, broken), w.cost)
		with := p.Rigs[0]
		with.Path, with.Held = w.path, w.held
		q := *p
		q.Put(with)
		require.Empty(t, q.Validate())
		at, held := make([]int, pedals), 0
		for i, n := range w.path {
			at[i] = n.Loop
		}
		for _, h := range w.held {
			held |= 1 << (h.Loop - 1)
		}
		cost, ok := played(show, at, held, broken)
		require.True(t, ok, "it can be wired: %v held %b", at, held)
		require.Equal(t, w.cost, cost, "and costs what it says")
	})
}

func TestWhatKeepsItsOwnSwitchGetsNoLoop(t *testing.T) {
	show := [][]bool{{false, false, false}, {true, true, true}, {false, false, false}, {true, true, true}}
	p := board(3, 2, nil, show)
	p.Rigs[0].OwnSwitches = []plan.Key{"g2/b"}
	s, err := Solve(context.Background(), p, "rig", "set", Options{School: Page, ChooseLoops: true})
	require.NoError(t, err)
	assert.Equal(t, []string{"g0", "g1"}, s.Loops[0].Stops, "always together, so one loop does")
	assert.Equal(t, 6, s.Cost, "a recall and a press of its own at each of three changes")
	assert.Equal(t, 3, s.OwnPresses)
	assert.True(t, s.Proven)
	for _, x := range s.Programs {
		assert.NotContains(t, x.Pins, plan.Key("g2/b/on"))
	}
	assert.Equal(t, s.Reach.Total, s.Reach.Reached+s.Reach.Late)
}

func TestTakingTheOneThatMovesMostFirstWouldFail(t *testing.T) {
	// g0 moves most often, always alone; g1 and g2 always move together. One loop for one of the
	// pair saves nothing; two loops are best spent on the pair.
	show := [][]bool{{false, false, false}}
	now := []bool{false, false, false}
	turn := func(which ...int) {
		next := append([]bool(nil), now...)
		for _, i := range which {
			next[i] = !next[i]
		}
		now = next
		show = append(show, next)
	}
	for range 5 {
		turn(0)
	}
	for range 4 {
		turn(1, 2)
	}
	p := board(3, 2, []int{2}, show)
	s, err := Solve(context.Background(), p, "rig", "set", Options{School: Page, ChooseLoops: true})
	require.NoError(t, err)
	assert.Equal(t, 9+s.BankSteps, s.Cost)
	assert.Equal(t, []string{"g1", "g2"}, append(s.Loops[0].Stops, s.Loops[1].Stops...))
}

func TestPinsHoldAndAreTheLeastThatIsLeft(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(2, 6).Draw(t, "programs")
		p := &pages{slots: rapid.IntRange(1, 3).Draw(t, "slots"), weight: make([][]int, n), barred: make([]uint64, n)}
		p.banks = (n+p.slots-1)/p.slots + rapid.IntRange(0, 2).Draw(t, "more")
		for i := range n {
			p.weight[i] = make([]int, n)
			for k := range i {
				w := max(0, rapid.IntRange(-2, 5).Draw(t, "weight"))
				p.weight[i][k], p.weight[k][i] = w, w
			}
			p.barred[i] = rapid.SampledFrom([]uint64{0, 0, 0, 1, 2, (1<<p.banks - 1) &^ 1}).Draw(t, "barred") & (1<<p.banks - 1)
		}
		want := -1
		bank := make([]int, n)
		load := make([]int, p.banks)
		var walk func(i int)
		walk = func(i int) {
			if i == n {
				if s := p.steps(bank); want < 0 || s < want {
					want = s
				}
				return
			}
			for b := range p.banks {
				if load[b] < p.slots && p.allows(i, b) {
					load[b]++
					bank[i] = b
					walk(i + 1)
					load[b]--
				}
			}
		}
		walk(0)
		got, err := p.solve(context.Background(), nil)
		if want < 0 {
			require.ErrorIs(t, err, errNoRoom)
			return
		}
		require.NoError(t, err)
		require.True(t, got.proven)
		require.Equal(t, want, got.steps)
		require.Equal(t, want, p.steps(got.bank))
		for i, b := range got.bank {
			require.True(t, p.allows(i, b))
		}
		other, err := p.branch(context.Background(), layout{steps: -1})
		require.NoError(t, err)
		require.True(t, other.proven)
		require.Equal(t, want, other.steps, "branch and bound agrees")
	})
}

func TestTwoMethodsAgreeOnLargeShows(t *testing.T) {
	for name, p := range map[string]*pages{
		"16 by songs":         clustered(16, 4, 4, 30, 5),
		"18 by songs":         clustered(18, 5, 4, 20, 8),
		"14 at random":        random(14, 4, 4, 90, 4),
		"20 in tight circles": circles(20, 5, 4),
	} {
		t.Run(name, func(t *testing.T) {
			good := p.descend()
			one, err := p.exact(context.Background(), nil, good)
			require.NoError(t, err)
			two, err := p.branch(context.Background(), layout{steps: -1})
			require.NoError(t, err)
			require.True(t, two.proven)
			assert.Equal(t, one.steps, two.steps)
		})
	}
}

// circles is a show that stays among one bank's worth of programs for long and then goes on.
func circles(n, slots, banks int) *pages {
	p := &pages{slots: slots, banks: banks, weight: make([][]int, n)}
	for i := range n {
		p.weight[i] = make([]int, n)
	}
	for i := range n {
		for k := range i {
			if i/slots == k/slots {
				p.weight[i][k], p.weight[k][i] = 3, 3
			}
		}
		if i > 0 {
			p.weight[i][i-1]++
			p.weight[i-1][i]++
		}
	}
	return p
}

func TestBelowTheMemoryItNeedsASolutionSaysABound(t *testing.T) {
	p := random(18, 5, 6, 300, 9)
	p.memory = 1 << 20
	capped, err := p.solve(context.Background(), nil)
	require.NoError(t, err)
	assert.False(t, capped.proven)
	assert.Less(t, capped.bound, capped.steps)
	p.memory = 0
	whole, err := p.solve(context.Background(), nil)
	require.NoError(t, err)
	assert.True(t, whole.proven)
	assert.LessOrEqual(t, whole.steps, capped.steps)
	assert.LessOrEqual(t, capped.bound, whole.steps)
}

// long is a show of random sections on 16 pedals.
func long(seed int64) *plan.Plan {
	r := rand.New(rand.NewSource(seed))
	kinds := make([][]bool, 12)
	for i := range kinds {
		kinds[i] = make([]bool, 16)
		for k := range kinds[i] {
			kinds[i][k] = r.Intn(3) == 0
		}
	}
	show := make([][]bool, 200)
	for i := range show {
		show[i] = kinds[r.Intn(len(kinds))]
	}
	return board(16, 8, []int{3, 5}, show)
}

func TestSixteenBlocksAndEightLoopsAreProven(t *testing.T) {
	p := long(1)
	w, err := wire(context.Background(), p, &p.Rigs[0], &p.SetLists[0], &p.Gear[16], nil, nil)
	require.NoError(t, err)
	assert.True(t, w.proven)
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = wire(ctx, p, &p.Rigs[0], &p.SetLists[0], &p.Gear[16], nil, nil)
	assert.ErrorIs(t, err, context.Canceled)
}

func BenchmarkLoops(b *testing.B) {
	p := long(1)
	b.Run("16 blocks, 8 loops", func(b *testing.B) {
		for b.Loop() {
			if w, err := wire(context.Background(), p, &p.Rigs[0], &p.SetLists[0], &p.Gear[16], nil, nil); err != nil ||
				!w.proven {
				b.Fatal(w, err)
			}
		}
	})
	for name, more := range map[string]plan.Action{
		"with pages, up and down":  {Kind: plan.Bank, By: -1},
		"with pages around a ring": {Kind: plan.Bank, Wrap: true},
		"with pages, up only":      {Kind: plan.Bank},
	} {
		b.Run(name, func(b *testing.B) {
			q := long(1)
			c := &q.Gear[16]
			c.Footswitches = append(
				c.Footswitches,
				plan.Footswitch{ID: "more", Label: "more", X: 520, Y: 60, Press: &plan.Press{Actions: []plan.Action{more}}},
			)
			for b.Loop() {
				if _, err := Solve(context.Background(), q, "rig", "set", Options{School: Page, ChooseLoops: true}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
