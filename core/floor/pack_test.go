package floor

import (
	"context"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// planted cuts a board into so many pieces by straight cuts across, each then smaller by a share of its area, so
// that a packing is known.
func planted(c *chance, n int, w, d, free float64) [][2]float64 {
	list := []Rect{{0, 0, w, d}}
	for len(list) < n {
		slices.SortFunc(list, func(a, b Rect) int { return int(b.W*b.D - a.W*a.D) })
		r, at := list[0], 0.3+0.4*c.share()
		if r.W > r.D {
			list[0] = Rect{r.X, r.Y, r.W * at, r.D}
			list = append(list, Rect{r.X + r.W*at, r.Y, r.W * (1 - at), r.D})
		} else {
			list[0] = Rect{r.X, r.Y, r.W, r.D * at}
			list = append(list, Rect{r.X, r.Y + r.D*at, r.W, r.D * (1 - at)})
		}
	}
	var out [][2]float64
	for _, r := range list {
		narrow := 1 - free*c.share()
		out = append(out, [2]float64{r.W * narrow, r.D * (1 - free) / narrow})
	}
	return out
}

func TestFewRectanglesAreDecided(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 4).Draw(t, "pieces")
		size := make([][2]float64, n)
		for i := range size {
			size[i] = [2]float64{float64(rapid.IntRange(1, 6).Draw(t, "w")), float64(rapid.IntRange(1, 6).Draw(t, "d"))}
		}
		w, d := float64(rapid.IntRange(2, 9).Draw(t, "width")), float64(rapid.IntRange(2, 9).Draw(t, "depth"))
		turns := rapid.Bool().Draw(t, "turns")
		want := never
		if onGrid(size, int(w), int(d), turns) {
			want = fits
		}
		require.Equal(t, want, packFew(context.Background(), w, d, size, turns), "every place on a grid of 1")
		at, found := pack(context.Background(), w, d, size, turns, 10_000, nil)
		if found == never {
			require.Equal(t, never, want)
		}
		if found != fits {
			return
		}
		for i := range at {
			require.True(t, at[i].Within(Rect{0, 0, w, d}))
			for k := range i {
				require.False(t, at[i].Meets(at[k]))
			}
		}
	})
}

// onGrid tries every whole place of every piece.
func onGrid(size [][2]float64, w, d int, turns bool) bool {
	var at []Rect
	var place func(i int) bool
	place = func(i int) bool {
		if i == len(size) {
			return true
		}
		for turn := range 2 {
			if turn == 1 && !turns {
				break
			}
			for x := range w {
				for y := range d {
					r := Rect{float64(x), float64(y), size[i][turn], size[i][1-turn]}
					if !r.Within(Rect{0, 0, float64(w), float64(d)}) || slices.ContainsFunc(at, r.Meets) {
						continue
					}
					at = append(at, r)
					if place(i + 1) {
						return true
					}
					at = at[:len(at)-1]
				}
			}
		}
		return false
	}
	return place(0)
}

func TestTightBoardsArePacked(t *testing.T) {
	for _, n := range []int{12, 20} {
		found := 0
		for seed := range uint64(20) {
			size := planted(&chance{seed}, n, 650, 356, 0.1)
			for try := range uint64(40) {
				if _, is := pack(context.Background(), 650, 356, size, true, 5000, &chance{try}); is == fits {
					found++
					break
				}
			}
		}
		assert.GreaterOrEqual(t, found, 19, "of 20 boards of %d with a tenth of their area free", n)
	}
}

func TestMoreThanTheAreaNeverFits(t *testing.T) {
	_, found := pack(context.Background(), 10, 10, [][2]float64{{6, 6}, {6, 6}, {6, 6}}, true, 1000, nil)
	assert.Equal(t, never, found)
	_, found = pack(context.Background(), 10, 10, [][2]float64{{11, 1}}, true, 1000, nil)
	assert.Equal(t, never, found, "too long either way")
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	assert.Equal(t, fits, packFew(ctx, 10, 10, [][2]float64{{3, 3}}, true), "it is found before anybody asks")
}

func TestChanceIsTheSameEveryTime(t *testing.T) {
	a, b := chance{7}, chance{7}
	for range 100 {
		x := a.share()
		assert.Equal(t, x, b.share())
		assert.True(t, x >= 0 && x < 1)
	}
}
