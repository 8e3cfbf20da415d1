package switching

import (
	"context"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

// bankSwitches are ways in which controllers step through their banks.
var bankSwitches = map[string][]plan.Action{
	"up and down":     {{Kind: plan.Bank}, {Kind: plan.Bank, By: -1}},
	"around, one way": {{Kind: plan.Bank, Wrap: true}},
	"around":          {{Kind: plan.Bank, Wrap: true}, {Kind: plan.Bank, By: -1, Wrap: true}},
	"by two and back": {{Kind: plan.Bank, By: 2, Wrap: true}, {Kind: plan.Bank, By: -1, Wrap: true}},
}

// Whatever the bank switches do: what is chosen is no worse than any wiring, where it is said to be proven, and
// no wiring is better than the bound.
func TestLoopsAndPagesTogetherAgreeWithEveryWiring(t *testing.T) {
	names := []string{"up and down", "around, one way", "around", "by two and back"}
	rapid.Check(t, func(t *rapid.T) {
		const pedals, loops = 3, 2
		show := make([][]bool, rapid.IntRange(3, 9).Draw(t, "sections"))
		for i := range show {
			show[i] = rapid.SliceOfN(rapid.Bool(), pedals, pedals).Draw(t, "on")
		}
		p := board(pedals, loops, []int{1, 2}, show)
		c := &p.Gear[pedals]
		c.Footswitches = c.Footswitches[:rapid.IntRange(1, 2).Draw(t, "slots")]
		c.SkipsEmpty = rapid.Bool().Draw(t, "skips")
		c.Banks = rapid.SampledFrom([]int{0, 8}).Draw(t, "banks")
		for i, a := range bankSwitches[rapid.SampledFrom(names).Draw(t, "switches")] {
			c.Footswitches = append(
				c.Footswitches,
				plan.Footswitch{
					ID: plan.ID([]string{"x", "y"}[i]), Label: "bank", X: 460, Y: float64(60 + 40*i),
					Press: &plan.Press{Actions: []plan.Action{a}},
				},
			)
		}
		require.Empty(t, p.Validate())

		got, err := Solve(context.Background(), p, "rig", "set", Options{School: Page, ChooseLoops: true})
		require.NoError(t, err)
		least := math.MaxInt
		for n := range 27 {
			q := *p
			with := p.Rigs[0]
			with.Path = nil
			last, out, wired := 0, false, true
			for i, node := range p.Rigs[0].Path {
				if loop := n / []int{1, 3, 9}[i] % 3; loop > 0 {
					node.Switcher, node.Loop = "c", loop
					wired = wired && loop >= last && (loop > last || !out)
					last, out = loop, false
				} else {
					out = true
				}
				with.Path = append(with.Path, node)
			}
			q.Put(with)
			if !wired {
				continue // loops out of the order of the path, or one in two pieces
			}
			require.Empty(t, q.Validate())
			one, err := Solve(context.Background(), &q, "rig", "set", Options{School: Page})
			require.NoError(t, err)
			least = min(least, one.Cost)
		}
		require.LessOrEqual(t, got.LowerBound, least)
		if got.Proven {
			require.Equal(t, least, got.Cost)
		}
	})
}

// Fewer numbers of banks are tried than there are programs; none of those left out is better.
func TestMoreBanksThanAreTriedAreNoBetter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := &plan.Gear{ID: "c", SkipsEmpty: true, Banks: 16}
		for _, a := range bankSwitches[rapid.SampledFrom(
			[]string{"around, one way", "around", "by two and back"},
		).Draw(t, "switches")] {
			c.Footswitches = append(
				c.Footswitches,
				plan.Footswitch{
					ID: plan.ID(string(rune('a' + len(c.Footswitches)))), Press: &plan.Press{Actions: []plan.Action{a}},
				},
			)
		}
		n := rapid.IntRange(2, 6).Draw(t, "programs")
		s := &solving{
			plan: &plan.Plan{}, was: &plan.Rig{}, gear: c, slots: make([]slotSwitch, rapid.IntRange(1, 3).Draw(t, "slots")),
			banks: 16,
		}
		night := &needs{list: make([]need, n)}
		for range rapid.IntRange(2, 12).Draw(t, "changes") + 1 {
			night.played = append(night.played, rapid.IntRange(0, n-1).Draw(t, "program"))
		}
		for i := range night.list {
			night.list[i].values = map[plan.Key]plan.Value{"g/b/on": plan.Text(string(rune('a' + i)))}
		}
		night.count()
		p, err := s.pagesFor(night)
		require.NoError(t, err)
		if p.dist == nil {
			return
		}
		found, _, err := s.bestPage(context.Background(), night, p)
		require.NoError(t, err)
		for banks := (n + len(s.slots) - 1) / len(s.slots); banks <= n; banks++ {
			one, err := s.pagesIn(night, banks).solve(context.Background(), nil)
			require.NoError(t, err)
			require.LessOrEqual(t, found.steps, one.steps, "with %d banks", banks)
		}
	})
}

// Two boxes in one loop that are not always on together: the loop brings in both or none.
func TestALoopBringsInAllThatStandsInIt(t *testing.T) {
	p := board(2, 1, nil, [][]bool{{false, false}, {true, false}, {false, true}, {true, true}})
	for i := range 2 {
		p.Rigs[0].Path[i].Switcher, p.Rigs[0].Path[i].Loop = "c", 1
	}
	require.Empty(t, p.Validate())
	s, err := Solve(context.Background(), p, "rig", "set", Options{School: Page})
	require.NoError(t, err)
	require.Contains(
		t, s.Notes,
		"g0 and g1 share loop 1 and are not always on together: no program brings in one without the other, so each keeps its own switch.",
	)
	require.Equal(t, 4, s.Cost, "one of them by foot, both, and one again")
	require.Equal(t, 4, s.OwnPresses)
}
