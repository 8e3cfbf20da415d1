package main

import (
	"cmp"
	"fmt"
	"io"
	"maps"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/catalog"
	"envex/core/choose"
	"envex/core/plan"
	"envex/core/reason"
)

func chooseCommand() *cobra.Command {
	var rig, set, onto, supply, out string
	var pile, kinds []string
	o := choose.Options{Kept: kept}
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "choose FILE", Short: "The fewest boxes of all that are owned that make every sound of a set",
		Args: cobra.ExactArgs(1),
		Long: `Looks for the smallest choice of pedals that makes every sound of a set list within its targets, through the
guitars and the amp of a rig. Each knob has one place for the whole night. Recipes of the plan are looked at, and
so are: each stage alone with its drive as it stands and in three places more, and any two together, levels where
they meet the targets. What is chosen is rendered in full. With --max it gives the choices of so many boxes that
make the most sounds, and what one box more may bring, by the quick meter. With -o it writes the plan with the rig
of the first choice.
Caution: check the label of the supply and of each box before anything is plugged in. The figures are of models of
kinds of circuit.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, err := readPlan(cmd, args[0])
			if err != nil {
				return err
			}
			if err := chooseFrom(p, &o, rig, set, onto, supply, pile, kinds); err != nil {
				return err
			}
			o.NewID = newID
			found, err := choose.For(cmd.Context(), p, o)
			if err != nil {
				return err
			}
			if out != "" {
				if len(found.Sets) == 0 {
					return reason.Errorf("nothing of the pile makes any sound: there is no rig to write")
				}
				for _, g := range found.Sets[0].New {
					p.Put(g)
				}
				p.Put(found.Sets[0].Rig)
				if err := writePlan(cmd, p, out); err != nil {
					return err
				}
			}
			return asJSON.print(cmd, found, func(w io.Writer) error { return printChoice(w, found) })
		},
	}
	c.Flags().
		StringVar(&rig, "rig", "", "name or id of the rig whose guitars and amp are played; the first when absent")
	c.Flags().StringVar(&set, "setlist", "", "name or id of the set list whose sounds have to be made")
	c.Flags().IntVar(&o.Most, "max", 0, "the most boxes; as many as it takes when absent")
	c.Flags().StringVar(&onto, "board", "", "name or id of the board they are to stand on, owned or plain")
	c.Flags().StringVar(&supply, "supply", "", "name or id of the supply that is to feed them")
	c.Flags().
		StringSliceVar(&pile, "box", nil, "name or id of a pedal that may be taken; all that are owned when absent")
	c.Flags().StringSliceVar(&kinds, "kind", nil, "a generic kind that may be taken besides, as envex kinds lists them")
	c.Flags().StringVarP(&out, "out", "o", "", "write the plan with the rig of the first choice")
	asJSON.register(c, "print it as JSON")
	return c
}

// chooseFrom reads what is chosen for from the names that were given.
func chooseFrom(p *plan.Plan, o *choose.Options, rig, set, onto, supply string, pile, kinds []string) error {
	if rig != "" || len(p.Rigs) > 0 { // a pile alone will do, through the first guitar and amp
		r, err := pick(p.Rigs, "rig", cmp.Or(rig, string(p.Rigs[0].ID)))
		if err != nil {
			return err
		}
		o.Rig = r.ID
	}
	if set != "" || len(p.SetLists) > 0 {
		l, err := pick(p.SetLists, "setlist", set)
		if err != nil {
			return err
		}
		o.SetList = l.ID
	}
	if onto != "" {
		g, err := pick(allBoards(p), "board", onto)
		if err != nil {
			return err
		}
		o.Board = g.ID
	}
	gear := func(name, what string, kind plan.GearKind) (plan.ID, error) {
		var list []plan.Gear
		for _, g := range p.Gear {
			if g.Kind == kind {
				list = append(list, g)
			}
		}
		g, err := pick(list, what, name)
		return g.ID, err
	}
	var err error
	if supply != "" {
		if o.Supply, err = gear(supply, "supply", plan.Supply); err != nil {
			return err
		}
	}
	for _, name := range pile {
		id, err := gear(name, "box", plan.Pedal)
		if err != nil {
			return err
		}
		o.Pile = append(o.Pile, id)
	}
	for _, name := range kinds {
		if _, ok := catalog.Find(name); !ok {
			return reason.Errorf("there is no kind %q: envex kinds lists them", name)
		}
	}
	o.Kinds = kinds
	return nil
}

func printChoice(w io.Writer, found *choose.Report) error {
	var b strings.Builder
	names := map[plan.ID]string{}
	for _, s := range found.Sounds {
		names[s.Sound] = s.Name
		if s.WhyNot != "" {
			fmt.Fprintf(&b, "%s cannot be made: %s\n", s.Name, s.WhyNot)
		}
	}
	as := map[string][]plan.ID{}
	for _, s := range found.Sounds {
		if s.AsMadeBy != "" {
			as[s.AsMadeBy] = append(as[s.AsMadeBy], s.Sound)
		}
	}
	called := map[plan.ID]string{}
	for _, x := range found.Pile {
		called[x.Gear] = x.Name
	}
	list := func(ids []plan.ID, of map[plan.ID]string) string {
		var words []string
		for _, id := range ids {
			words = append(words, cmp.Or(of[id], string(id)))
		}
		return strings.Join(words, ", ")
	}
	for _, rig := range slices.Sorted(maps.Keys(as)) {
		fmt.Fprintf(&b, "no target of dirt or loudness, so compared with %s: %s\n", rig, list(as[rig], names))
	}
	if len(found.Unsaid) > 0 {
		fmt.Fprintf(&b, "without a target and a recipe, left out: %s\n",
			plan.Counted(len(found.Unsaid), "sound", "sounds"))
	}
	for i, s := range found.Sets {
		word := "proven"
		if !s.Proven {
			word = "not proven"
		}
		fmt.Fprintf(
			&b,
			"%d. %s: %d of %d sounds, %s\n",
			i+1,
			cmp.Or(strings.Join(s.Names, ", "), "no boxes"),
			len(s.Covers),
			len(found.Sounds),
			word,
		)
		fmt.Fprintf(
			&b,
			"   %s, %s by hand, %d late, %.0f g%s%s\n",
			plan.Counted(s.Presses, "press", "presses"),
			plan.Counted(s.ByHand, "change", "changes"),
			s.Late,
			s.WeightG,
			verdict(s.Fits, ", fits the board", ", does not fit the board"),
			verdict(s.Fed, ", fed by the supply", ", not all fed by the supply"),
		)
		for _, m := range s.Made {
			fmt.Fprintf(&b, "   %s: %s, %+.1f LU, %.0f %% dirt\n", m.Name, m.Words, plan.Tenth(m.OverHome), m.Dirt)
		}
		if len(s.Misses) > 0 {
			fmt.Fprintf(&b, "   misses %s\n", list(s.Misses, names))
		}
		for _, x := range s.Adds {
			fmt.Fprintf(&b, "   %s as well may bring %s\n", called[x.Box], list(x.Sounds, names))
		}
	}
	fmt.Fprintf(&b, "no fewer than %d boxes make as many", found.Bound)
	if found.Partial {
		b.WriteString(", of the settings that were tried; there are more")
	}
	b.WriteString("\n")
	_, err := io.WriteString(w, b.String())
	return err
}

// verdict is one of two words for what is known, nothing for what was not asked.
func verdict(x *bool, yes, no string) string {
	switch {
	case x == nil:
		return ""
	case *x:
		return yes
	}
	return no
}
