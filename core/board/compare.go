package board

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"envex/core/plan"
	"envex/core/reach"
)

// Comparison is a rig on every board there is.
type Comparison struct {
	Rig      plan.ID   `json:"rig"`
	SetList  plan.ID   `json:"set_list"`
	Sounds   []plan.ID `json:"sounds" doc:"The sounds that the set needs and the rig has a recipe for."`
	Boards   []Board   `json:"boards" doc:"The smallest first."`
	Smallest plan.ID   `json:"smallest,omitempty" doc:"The smallest on which every needed sound stays; absent where none was found."`
}

// Board is a rig on one board.
type Board struct {
	Board    plan.ID   `json:"board"`
	Name     string    `json:"name"`
	Owned    bool      `json:"owned"`
	Main     bool      `json:"main,omitempty" doc:"The rig stands on it."`
	Width    float64   `json:"width_mm"`
	Depth    float64   `json:"depth_mm"`
	Fits     bool      `json:"fits" doc:"Everything that belongs on it finds a place."`
	Proven   bool      `json:"proven" doc:"Where not everything fits: that it cannot."`
	LeftOut  []plan.ID `json:"left_out"`
	Lost     []plan.ID `json:"lost" doc:"Needed sounds whose recipe switches on something that is left out."`
	Kept     int       `json:"kept" doc:"How many of the needed sounds stay."`
	Reached  int       `json:"reached" doc:"Changes reached, with everything as it was placed; those to and from lost sounds are not."`
	Total    int       `json:"total"`
	Footwork float64   `json:"footwork_s"`
	Cable    float64   `json:"cable_m"`
	Weight   Weight    `json:"weight_g"`
	Findings int       `json:"findings" doc:"What is still wrong there."`
	Limits   bool      `json:"limits" doc:"It is within what the player carries."`
}

// Compare fits a rig onto every board that is owned and of every generic size. It fails as [Judge] does.
func Compare(
	ctx context.Context, p *plan.Plan, rig, setList plan.ID, progress func(share float64),
) (*Comparison, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("board: %w", err)
	}
	l, err := p.SetListByID(setList)
	if err != nil {
		return nil, fmt.Errorf("board: %w", err)
	}
	if progress == nil {
		progress = func(float64) {}
	}
	out := &Comparison{Rig: rig, SetList: setList, Sounds: needed(p, r, l), Boards: []Board{}}
	var boards []plan.Gear
	for _, g := range append(slices.Clone(p.Gear), Sizes()...) {
		if g.Kind == plan.Board && g.Size != nil {
			boards = append(boards, g)
		}
	}
	slices.SortStableFunc(boards, func(a, b plan.Gear) int {
		return cmp.Compare(a.Size.Width*a.Size.Depth, b.Size.Width*b.Size.Depth)
	})
	for i := range boards {
		g := &boards[i]
		x, err := Judge(ctx, p, rig, Options{SetList: setList, Board: g.ID, Fit: true, Progress: func(share float64) {
			progress((float64(i) + share) / float64(len(boards)))
		}})
		if err != nil {
			return nil, err
		}
		b, err := out.on(p, r, g, x)
		if err != nil {
			return nil, err
		}
		out.Boards = append(out.Boards, b)
		if out.Smallest == "" && len(b.Lost) == 0 && b.Limits && x.Stands() {
			out.Smallest = b.Board
		}
	}
	return out, nil
}

// Stands reports whether what is on the boards can stand so, whatever was left out.
func (r *Report) Stands() bool {
	return !slices.ContainsFunc(r.Findings, func(f Finding) bool { return f.Hard() })
}

// on is a line of the comparison.
func (c *Comparison) on(p *plan.Plan, r *plan.Rig, g *plan.Gear, x *Report) (Board, error) {
	_, owned := p.FindGear(g.ID)
	b := Board{Board: g.ID, Name: g.Name, Owned: owned, Main: g.ID == r.Floor.Board, Width: g.Size.Width,
		Depth: g.Size.Depth,
		Fits:  x.Fits, Proven: x.Proven, LeftOut: x.LeftOut, Lost: lost(r, c.Sounds, x.LeftOut), Cable: x.Cable.After,
		Weight: x.Weight, Findings: len(x.Findings)}
	b.Kept = len(c.Sounds) - len(b.Lost)
	b.Limits = !slices.ContainsFunc(
		x.Findings, func(f Finding) bool { return f.Rule == "too_heavy" || f.Rule == "too_large" },
	)
	if x.Footwork != nil {
		b.Footwork = x.Footwork.After
	}
	for i := range x.changes {
		change := &x.changes[i]
		if change.Verdict == reach.NotSet {
			continue
		}
		b.Total++
		if change.Verdict.Reached() && !slices.Contains(b.Lost, change.From.ID) && !slices.Contains(b.Lost, change.To.ID) {
			b.Reached++
		}
	}
	return b, nil
}

// needed are the sounds of a set that a rig makes, in the order in which they are first played.
func needed(p *plan.Plan, r *plan.Rig, l *plan.SetList) []plan.ID {
	list := []plan.ID{}
	for _, e := range l.Entries {
		song, ok := p.FindSong(e.Song)
		if !ok {
			continue
		}
		for _, sec := range song.Sections {
			if sec.Sound != "" && !slices.Contains(list, sec.Sound) && r.RecipeFor(sec) != nil {
				list = append(list, sec.Sound)
			}
		}
	}
	return list
}

// lost are the sounds whose recipe switches on a box that is left out, or has the foot on it.
// What a supply feeds goes with it.
func lost(r *plan.Rig, sounds, out []plan.ID) []plan.ID {
	list := []plan.ID{}
	for _, f := range r.PowerPlan {
		if slices.Contains(out, f.Supply) {
			out = append(slices.Clone(out), f.Gear...)
		}
	}
	for _, s := range sounds {
		uses := false
		for i := range r.Recipes {
			rec := &r.Recipes[i]
			if rec.Sound != s {
				continue
			}
			for _, id := range out {
				uses = uses || usesBox(r, rec, id)
			}
			break // the first is its default
		}
		if uses {
			list = append(list, s)
		}
	}
	return list
}

// usesBox reports whether a recipe, or what the rig sets for all of them, has a box switched on.
func usesBox(r *plan.Rig, rec *plan.Recipe, id plan.ID) bool {
	for _, key := range rec.Rockers {
		if key.Gear() == id {
			return true
		}
	}
	on := func(key plan.Key, x plan.Value) bool { return key.Gear() == id && x == plan.On(true) }
	for key, x := range rec.Values {
		if on(key, x) {
			return true
		}
	}
	for key, x := range r.Base {
		if _, said := rec.Values[key]; !said && on(key, x) {
			return true
		}
	}
	return false
}
