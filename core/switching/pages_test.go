package switching

import (
	"context"
	"fmt"
	"math/rand"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// bruteSteps tries every bank for every program.
func bruteSteps(p *pages) int {
	best := -1
	bank := make([]int, p.n())
	load := make([]int, p.banks)
	var walk func(i int)
	walk = func(i int) {
		if i == p.n() {
			if s := p.steps(bank); best < 0 || s < best {
				best = s
			}
			return
		}
		for b := range p.banks {
			if load[b] < p.slots {
				load[b]++
				bank[i] = b
				walk(i + 1)
				load[b]--
			}
		}
	}
	walk(0)
	return best
}

func TestPagesAgreeWithBruteForce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 7).Draw(t, "programs")
		p := &pages{slots: rapid.IntRange(1, 3).Draw(t, "slots"), weight: make([][]int, n)}
		p.banks = (n+p.slots-1)/p.slots + rapid.IntRange(0, 2).Draw(t, "more banks")
		for i := range p.weight {
			p.weight[i] = make([]int, n)
			for k := range i {
				w := max(0, rapid.IntRange(-3, 5).Draw(t, "weight"))
				p.weight[i][k], p.weight[k][i] = w, w
			}
		}
		got, err := p.solve(context.Background(), nil)
		require.NoError(t, err)
		require.True(t, got.proven)
		require.Equal(t, bruteSteps(p), got.steps)
		require.Equal(t, got.steps, got.bound)
		require.Equal(t, got.steps, p.steps(got.bank), "the layout costs what it says")
		for b := range p.banks {
			in := 0
			for _, x := range got.bank {
				if x == b {
					in++
				}
			}
			require.LessOrEqual(t, in, p.slots)
		}
		require.LessOrEqual(t, p.bound(), got.steps, "the bound is one")
		require.GreaterOrEqual(t, p.descend().steps, got.steps)
	})
}

// random is a show that goes back and forth between programs at random.
func random(n, slots, banks, changes int, seed int64) *pages {
	r := rand.New(rand.NewSource(seed))
	p := &pages{slots: slots, banks: banks, weight: make([][]int, n)}
	for i := range p.weight {
		p.weight[i] = make([]int, n)
	}
	at := 0
	for range changes {
		to := r.Intn(n)
		if to != at {
			p.weight[at][to]++
			p.weight[to][at]++
		}
		at = to
	}
	return p
}

// clustered is a show of songs that each stay among a few programs.
func clustered(n, slots, banks, songs int, seed int64) *pages {
	r := rand.New(rand.NewSource(seed))
	p := &pages{slots: slots, banks: banks, weight: make([][]int, n)}
	for i := range p.weight {
		p.weight[i] = make([]int, n)
	}
	for range songs {
		few := r.Perm(n)[:3]
		for range 6 {
			a, b := few[r.Intn(3)], few[r.Intn(3)]
			if a != b {
				p.weight[a][b]++
				p.weight[b][a]++
			}
		}
	}
	return p
}

func TestTheSameProblemHasTheSameAnswer(t *testing.T) {
	one, err := random(14, 4, 5, 200, 7).solve(context.Background(), nil)
	require.NoError(t, err)
	two, err := random(14, 4, 5, 200, 7).solve(context.Background(), nil)
	require.NoError(t, err)
	assert.Equal(t, one, two)
}

func TestMoreThanCanBeProvenHasABound(t *testing.T) {
	p := random(30, 5, 8, 400, 3)
	got, err := p.solve(context.Background(), nil)
	require.NoError(t, err)
	assert.False(t, got.proven)
	assert.Less(t, got.bound, got.steps)
	assert.Positive(t, got.bound)
}

func TestSolvingIsCancelledAndSaysHowFarItIs(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	var seen []float64
	_, err := random(16, 3, 6, 200, 1).solve(ctx, func(share float64) {
		seen = append(seen, share)
		cancel()
	})
	require.ErrorIs(t, err, context.Canceled)
	assert.Len(t, seen, 1)
	seen = nil
	_, err = random(16, 3, 6, 200, 1).solve(context.Background(), func(share float64) { seen = append(seen, share) })
	require.NoError(t, err)
	assert.True(t, slices.IsSorted(seen))
	assert.Equal(t, 1.0, seen[len(seen)-1])
}

func BenchmarkPages(b *testing.B) {
	for _, c := range []struct {
		name string
		p    *pages
	}{
		{"12 sounds, 4 banks of 4", random(12, 4, 4, 300, 1)},
		{"24 sounds, 6 banks of 5, at random", random(24, 5, 6, 400, 2)},
		{"24 sounds, 6 banks of 5, by songs", clustered(24, 5, 6, 40, 2)},
	} {
		b.Run(c.name, func(b *testing.B) {
			for b.Loop() {
				got, err := c.p.solve(context.Background(), nil)
				if err != nil || !got.proven {
					b.Fatal(fmt.Sprint(got, err))
				}
			}
		})
	}
}
