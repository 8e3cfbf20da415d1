package choose

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"

	"envex/core/board"
	"envex/core/electric"
	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
)

// This file makes a choice the rig for tonight: in its best order, with knobs, recipes, places and feeds.

// checkPlaces refuses a board or a supply that is none.
func checkPlaces(p *plan.Plan, o Options) error {
	if o.Board != "" {
		g, ok := p.FindGear(o.Board)
		switch {
		case ok && g.Kind != plan.Board:
			return reason.Errorf("%s is not a board", g.Name)
		case !ok && !slices.ContainsFunc(board.Sizes(), func(g plan.Gear) bool { return g.ID == o.Board }):
			return reason.Errorf("there is no board %q", o.Board)
		}
	}
	if o.Supply != "" {
		g, err := p.GearByID(o.Supply)
		if err != nil {
			return fmt.Errorf("choose: %w", err)
		}
		if g.Kind != plan.Supply {
			return reason.Errorf("%s is not a supply", g.Name)
		}
	}
	if o.Most < 0 {
		return reason.Errorf("the most boxes must be 1 or more, not %d", o.Most)
	}
	return nil
}

// rigOf is the rig of a choice. What it takes of board and supply is said in the set.
func (c *choosing) rigOf(ctx context.Context, m *metering, x cover, out *Set) (plan.Rig, error) {
	r, proven, err := c.chain(ctx, x.taken)
	if err != nil {
		return r, err
	}
	r.ID, r.Name = c.id(), strings.Join(out.Names, ", ")
	if r.Name == "" {
		r.Name = "No boxes"
	}
	r.Name = shortened(r.Name)
	r.Base = c.baseOf(&r)
	out.Ordered = proven
	if err := c.recipesOf(&r, m, x); err != nil {
		return r, err
	}
	for _, id := range out.Boxes {
		g, _ := c.plan.FindGear(id)
		if g.WeightG == nil {
			out.Unknown = append(out.Unknown, id)
		} else {
			out.WeightG += *g.WeightG
		}
		if g.Size != nil {
			out.AreaCM2 += g.Size.Width * g.Size.Depth / 100
		}
	}
	return r, nil
}

// mostName is how long the name of a rig may become.
const mostName = 60

func shortened(name string) string {
	if letters := []rune(name); len(letters) > mostName {
		return string(letters[:mostName-1]) + "…"
	}
	return name
}

func (c *choosing) id() plan.ID {
	if c.o.NewID != nil {
		return c.o.NewID()
	}
	for n := 1; ; n++ {
		id := plan.ID(fmt.Sprintf("tonight-%d", n))
		if _, taken := c.plan.Find(id); !taken {
			return id
		}
	}
}

// baseOf is the base of the frame, of what is in the rig alone.
func (c *choosing) baseOf(r *plan.Rig) map[plan.Key]plan.Value {
	in := r.GearIn()
	base := map[plan.Key]plan.Value{}
	for key, v := range r.Base {
		if slices.Contains(in, key.Gear()) {
			base[key] = v
		}
	}
	maps.DeleteFunc(base, func(key plan.Key, _ plan.Value) bool {
		return c.place(key.Gear()) >= 0 && strings.HasSuffix(string(key), "/on")
	})
	return base
}

// recipesOf gives the rig a recipe for each sound that the choice makes, and puts the knobs of stages where they stand
// for all of them.
func (c *choosing) recipesOf(r *plan.Rig, m *metering, x cover) error {
	q := *c.plan
	for sound, way := range x.made {
		if way < 0 {
			continue
		}
		makes, s := m.recipes[x.world][sound][way], c.sounds[sound]
		q.Put(*r)
		values, on, err := signal.EffectsOf(&q, r.ID, s.ID, func(key plan.Key) bool {
			return slices.ContainsFunc(makes.given, func(by giving) bool { return by.key == key })
		})
		if err != nil {
			return fmt.Errorf("choose: %w", err)
		}
		from := c.sources[c.of[sound]]
		maps.Copy(values, from.hands)
		maps.Copy(values, c.channels[makes.channel])
		for _, by := range makes.given {
			if by.at >= 0 {
				maps.Copy(r.Base, m.turned[by.key][by.at])
			}
		}
		for i, st := range c.stages {
			if !x.taken.has(st.box) {
				continue
			}
			at := slices.IndexFunc(makes.on, func(on standing) bool { return on.stage == i })
			values[st.key+"/on"] = plan.On(at >= 0)
			if at >= 0 {
				on = append(on, st.key)
				maps.Copy(r.Base, st.knobs(m.places[i][m.stationOf(x, sound, i)]))
			}
		}
		rec := plan.Recipe{ID: c.recipeID(r, s), Sound: s.ID, Guitar: from.guitar, Values: values}
		for _, key := range on {
			if g, ok := c.plan.FindGear(key.Gear()); ok {
				if b, ok := g.FindBlock(plan.ID(key.Rest())); ok && b.Rocker {
					rec.Rockers = append(rec.Rockers, key)
				}
			}
		}
		r.Recipes = append(r.Recipes, rec)
	}
	return nil
}

func (c *choosing) recipeID(r *plan.Rig, s *plan.Sound) plan.ID {
	if c.o.NewID != nil {
		return c.o.NewID()
	}
	return plan.ID(fmt.Sprintf("%s-%s", r.ID, s.ID))
}

// feed puts the boxes on the outputs of the supply.
func (c *choosing) feed(r *plan.Rig, out *Set) error {
	if c.o.Supply == "" {
		return nil
	}
	q := *c.plan
	q.Gear = slices.DeleteFunc(slices.Clone(q.Gear), func(g plan.Gear) bool {
		return g.Kind == plan.Supply && g.ID != c.o.Supply
	})
	q.Put(*r)
	power, err := electric.FeedRig(&q, r.ID, "")
	if err != nil {
		return fmt.Errorf("choose: %w", err)
	}
	r.PowerPlan = power.Assignment.Feeds
	out.Outputs = len(power.Assignment.Feeds)
	for _, x := range power.Assignment.Unserved {
		out.Unfed = append(out.Unfed, x.Gear)
	}
	fed := len(out.Unfed) == 0
	out.Fed = &fed
	return nil
}

// fit stands the boxes on the board.
func (c *choosing) fit(ctx context.Context, r *plan.Rig, out *Set) error {
	if c.o.Board == "" {
		r.Floor.Board = ""
		return nil
	}
	q := *c.plan
	if _, owned := q.FindGear(c.o.Board); owned {
		r.Floor.Board = c.o.Board
	}
	q.Put(*r)
	report, err := board.Judge(ctx, &q, r.ID, board.Options{SetList: c.o.SetList, Board: c.o.Board, Fit: true})
	if err != nil {
		return fmt.Errorf("choose: %w", err)
	}
	out.LeftOut, out.Floor = report.LeftOut, &report.Floor
	fits := len(report.LeftOut) == 0 && report.Stands()
	out.Fits = &fits
	if _, owned := q.FindGear(c.o.Board); owned && report.Taken != nil {
		r.Floor = *report.Taken
	}
	return nil
}
