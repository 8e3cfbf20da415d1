package board_test

import (
	"context"
	"encoding/xml"
	"errors"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/board"
	"envex/core/plan"
	"envex/demo"
)

func ptr[T any](v T) *T { return &v }

func kelp(t *testing.T) *plan.Plan {
	t.Helper()
	p := demo.Plan()
	return p
}

func judge(t *testing.T, p *plan.Plan, rig plan.ID, o board.Options) *board.Report {
	t.Helper()
	r, err := board.Judge(context.Background(), p, rig, o)
	require.NoError(t, err)
	return r
}

func words(r *board.Report) string {
	var list []string
	for _, f := range r.Findings {
		list = append(list, f.Words)
	}
	return strings.Join(list, "\n")
}

func TestARigOnItsBoardIsJudged(t *testing.T) {
	p := kelp(t)
	r := judge(t, p, "long", board.Options{SetList: "quay-set"})
	assert.Equal(t, plan.ID("longplank"), r.Board)
	assert.Equal(t, [2]float64{800, 400}, [2]float64{r.Width, r.Depth})
	assert.False(t, r.Fits)
	assert.Equal(t, []plan.ID{"lantern"}, r.LeftOut, "nobody has said where the supply is")
	assert.Contains(t, words(r), "Sluice stands 20 mm over the edge of Long plank.")
	for _, f := range r.Findings {
		if f.Rule == "overhang" {
			assert.Equal(t, "Move Sluice 20 mm away from you", f.Edit)
			assert.Equal(t, plan.Placement{X: 690, Y: 140}, f.Moves["sluice"])
		}
	}
	require.NotNil(t, r.Footwork)
	assert.Equal(t, r.Footwork.Before, r.Footwork.After, "nothing was fitted")
	assert.Greater(t, r.Footwork.After, 10.0)
	assert.Equal(t, 24, r.Presses["nudge/on"])
	for _, x := range r.Places {
		if x.Gear == "hired" {
			assert.Empty(t, x.Board, "an amp's footswitch stands beside the board")
		} else {
			assert.Equal(t, plan.ID("longplank"), x.Board, "%s", x.Gear)
		}
	}
	assert.InDelta(t, r.Weight.Boxes+r.Weight.Board+r.Weight.Cables, r.Weight.Total, 1e-9)
	assert.InDelta(t, 3200, r.Weight.Board, 1e-9)
	assert.Nil(t, judge(t, p, "long", board.Options{}).Footwork, "without a set list there are no presses")
}

func TestAFittedRigFitsWithNoMoreFootworkAndCanBeTaken(t *testing.T) {
	p := kelp(t)
	o := board.Options{SetList: "quay-set", Fit: true, Seed: 4}
	r := judge(t, p, "long", o)
	assert.True(t, r.Fits, words(r))
	assert.Empty(t, r.LeftOut)
	assert.Less(t, r.Footwork.After, r.Footwork.Before)
	assert.Equal(t, r.Places, judge(t, p, "long", o).Places, "the same seed, the same answer")
	before, _ := p.FindRig("long")
	q, with := *p, *before
	require.NotNil(t, r.Taken)
	with.Floor = *r.Taken
	q.Put(with)
	require.Empty(t, q.Validate())
	again := judge(t, &q, "long", board.Options{SetList: "quay-set"})
	assert.Equal(t, r.Places, again.Places)
	assert.Equal(t, r.Footwork.After, again.Footwork.After)
	assert.NotContains(t, before.Floor.Places, plan.ID("lantern"), "the plan itself is left alone")
}

func TestWhatIsPinnedStaysAndWhatStandsElsewhereStaysThere(t *testing.T) {
	p := kelp(t)
	r, _ := p.FindRig("carry")
	with := *r
	with.Floor.Places = map[plan.ID]plan.Placement{}
	for id, at := range r.Floor.Places {
		with.Floor.Places[id] = at
	}
	with.Floor.Places["nudge"] = plan.Placement{X: 20, Y: 150, Pinned: true}
	with.Floor.Boards = []plan.BoardPlace{{Board: "longplank", X: 1500, Y: 0}}
	with.Floor.Places["slap"] = plan.Placement{X: 10, Y: 10, Board: "longplank"}
	with.Floor.Places["plumb"] = plan.Placement{X: -300, Y: 0, On: plan.OnGround}
	p.Put(with)
	require.Empty(t, p.Validate())
	got := judge(t, p, "carry", board.Options{SetList: "quay-set", Fit: true})
	at := map[plan.ID]board.Placed{}
	for _, x := range got.Places {
		at[x.Gear] = x
	}
	assert.Equal(t, board.Placed{Gear: "nudge", Board: "carryplank", X: 20, Y: 150, Pinned: true}, at["nudge"])
	assert.Equal(
		t, board.Placed{Gear: "slap", Board: "longplank", X: 10, Y: 10}, at["slap"], "measured from its own board",
	)
	assert.Equal(t, board.Placed{Gear: "plumb", X: -300}, at["plumb"])
	assert.InDelta(t, 6400, got.Weight.Board, 1e-9, "both boards are carried")
}

func TestABoxOnTheBareFloorStandsBesideTheBoard(t *testing.T) {
	p := kelp(t)
	r, _ := p.FindRig("carry")
	with := *r
	with.Floor.Places = map[plan.ID]plan.Placement{"nudge": {X: 360, Y: 100, On: plan.OnGround}, "amber": {X: 10, Y: 10}}
	p.Put(with)
	got := judge(t, p, "carry", board.Options{})
	require.NotEmpty(t, got.Findings)
	f := got.Findings[len(got.Findings)-1]
	assert.Equal(t, "Nudge stands on the bare floor where Carry-on plank is.", f.Words)
	assert.Equal(t, "Move Nudge 60 mm right", f.Edit)
	assert.Equal(t, plan.Placement{X: 420, Y: 100, On: plan.OnGround}, f.Moves["nudge"])
	assert.False(t, got.Fits)
	with.Floor.Places["nudge"] = f.Moves["nudge"]
	p.Put(with)
	assert.NotContains(t, words(judge(t, p, "carry", board.Options{})), "bare floor")
}

func TestWhatIsCarriedIsHeldAgainstItsLimits(t *testing.T) {
	p := kelp(t)
	r, _ := p.FindRig("carry")
	with := *r
	with.Floor.Limits = &plan.CarryLimits{Width: ptr(400.0), Depth: ptr(300.0), Height: ptr(100.0), WeightG: ptr(5000.0)}
	p.Put(with)
	plank, _ := p.FindGear("carryplank")
	plank.Board = &plan.BoardSpec{MostG: ptr(1000.0)}
	got := words(judge(t, p, "carry", board.Options{}))
	assert.Contains(t, got, "Carry-on plank carries 1.0 kg at the most")
	assert.Contains(t, got, "you carry 5.0 at the most.")
	assert.Contains(t, got, "Carry-on plank is 420 mm wide; 400 is the most you carry.")
	assert.Contains(t, got, "Carry-on plank is 105 mm high with its boxes; 100 is the most you carry.")
	assert.NotContains(t, got, "deep")
}

func TestWhatIsNotKnownIsSaidAndNeverZero(t *testing.T) {
	p := kelp(t)
	amber, _ := p.FindGear("amber")
	amber.Size, amber.WeightG = nil, nil
	r := judge(t, p, "carry", board.Options{})
	assert.Contains(t, r.Weight.Unknown, plan.ID("amber"))
	assert.Contains(t, r.Assumed, "The size of Amber is not known: a small box of 70 by 120 mm is taken.")
	assert.Contains(t, r.Assumed, "The weight of Amber is not known and not in the total.")
	plank, _ := p.FindGear("carryplank")
	plank.Size = nil
	r = judge(t, p, "carry", board.Options{})
	assert.False(t, r.Fits)
	assert.Contains(t, r.Assumed, "The size of Carry-on plank is not known, so what stands on it is not judged.")
	_, err := board.Judge(context.Background(), p, "carry", board.Options{Fit: true})
	assert.EqualError(t, err, "the size of Carry-on plank is not known")
}

func TestASupplyGoesBeneathWhereThereIsRoom(t *testing.T) {
	p := kelp(t)
	plank, _ := p.FindGear("longplank")
	plank.Board = &plan.BoardSpec{Beneath: ptr(45.0)}
	for _, x := range judge(t, p, "long", board.Options{SetList: "quay-set", Fit: true}).Places {
		assert.Equal(t, x.Gear == "lantern", x.Under, "%s", x.Gear)
	}
	plank.Board.Beneath = ptr(44.0)
	for _, x := range judge(t, p, "long", board.Options{SetList: "quay-set", Fit: true}).Places {
		assert.False(t, x.Under, "%s", x.Gear)
	}
}

func TestBoardsAreCompared(t *testing.T) {
	p := kelp(t)
	c, err := board.Compare(context.Background(), p, "carry", "quay-set", nil)
	require.NoError(t, err)
	require.Len(t, c.Boards, 14, "two that are owned and twelve plain sizes")
	assert.Len(t, c.Sounds, 6)
	area := 0.0
	for _, b := range c.Boards {
		assert.GreaterOrEqual(t, b.Width*b.Depth, area, "the smallest first")
		area = b.Width * b.Depth
		assert.Equal(t, b.Fits, len(b.LeftOut) == 0, b.Name)
		assert.Equal(t, len(c.Sounds)-len(b.Lost), b.Kept)
		if len(b.LeftOut) < 7 {
			assert.NotContains(t, b.LeftOut, plan.ID("lantern"), "nothing plays without its supply")
		}
		if b.Board == c.Smallest {
			assert.Empty(t, b.Lost)
			assert.Equal(t, b.Total, b.Reached)
		}
	}
	first := c.Boards[0]
	assert.False(t, first.Fits, "six boxes and a supply do not stand on 250 by 130 mm")
	assert.True(t, first.Proven)
	assert.Less(t, first.Reached, first.Total)
	require.NotEmpty(t, c.Smallest)
	assert.True(t, c.Boards[len(c.Boards)-1].Fits)
}

func TestWhatIsNotThereIsSaid(t *testing.T) {
	p := kelp(t)
	for want, o := range map[string]board.Options{
		`there is no board "moon"`:                  {Board: "moon"},
		"Amber is not a board":                      {Board: "amber"},
		`board: reach: there is no set list "moon"`: {SetList: "moon"},
		"Bare board is on no board: say which":      {Fit: true},
	} {
		_, err := board.Judge(context.Background(), p, "bare", o)
		assert.EqualError(t, err, want)
	}
	_, err := board.Judge(context.Background(), p, "moon", board.Options{})
	assert.EqualError(t, err, `board: there is no rig "moon"`)
	_, err = board.Compare(context.Background(), p, "long", "moon", nil)
	assert.EqualError(t, err, `board: there is no set list "moon"`)
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = board.Compare(ctx, p, "long", "quay-set", nil)
	assert.ErrorIs(t, err, context.Canceled)
}

func TestThePictureIsToScaleAndWhole(t *testing.T) {
	p := kelp(t)
	amber, _ := p.FindGear("amber")
	amber.Name = `<Amber & "Co">`
	r := judge(t, p, "carry", board.Options{})
	var b strings.Builder
	require.NoError(t, board.Draw(&b, p, r))
	assert.Contains(t, b.String(), `width="440mm"`, "420 and 10 at each side")
	assert.Contains(t, b.String(), "&lt;Amber &amp; ")
	rects := 0
	for d := xml.NewDecoder(strings.NewReader(b.String())); ; {
		tok, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		require.NoError(t, err)
		if e, ok := tok.(xml.StartElement); ok && e.Name.Local == "rect" {
			rects++
		}
	}
	assert.Equal(t, 7, rects, "the board and six boxes")
	require.NoError(
		t, board.Draw(io.Discard, p, judge(t, p, "bare", board.Options{})), "a rig on no board has a picture too",
	)
}

func TestPlainSizesAreBoards(t *testing.T) {
	assert.Len(t, board.Sizes(), 12)
	p := &plan.Plan{Gear: board.Sizes()}
	assert.Empty(t, p.Validate())
}
