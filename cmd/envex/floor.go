package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/board"
	"envex/core/plan"
	"envex/core/reason"
	"envex/page"
)

func floorCommand() *cobra.Command {
	var at rigFlags
	var setList, onto string
	var o board.Options
	var asSVG bool
	var asJSON jsonFlag
	var paper string
	c := &cobra.Command{
		Use: "floor FILE", Short: "How a rig stands on its board, what does not fit, and a better layout",
		Args: cobra.ExactArgs(1),
		Long: "Boxes, plugs and cables on a board, in millimetres from its far left corner: x to the right, y towards the player. With --fit a\nplace is found for everything that is not pinned: first so that it fits, then with the least footwork of the set list, then\nwith the least cable. The file is not changed.\nCaution: lift with straight back and bent knees, and two people for what is 20 kg or more.",
		RunE: func(cmd *cobra.Command, args []string) error {
			if bool(asJSON) && asSVG || (bool(asJSON) || asSVG) && paper != "" {
				return reason.Errorf("only one of --json, --svg and --print can be asked for")
			}
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			if setList != "" || len(p.SetLists) == 1 {
				l, err := pick(p.SetLists, "setlist", setList)
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
			there, err := p.At(r.ID, d.ID)
			if err != nil {
				return err
			}
			report, err := board.Judge(cmd.Context(), there, r.ID, o)
			switch {
			case err != nil:
				return err
			case bool(asJSON):
				return printJSON(cmd, report)
			case asSVG:
				return board.Draw(cmd.OutOrStdout(), there, report)
			}
			if paper != "" {
				sheets, err := page.Board(there, report, page.Size(paper))
				if err != nil {
					return err
				}
				_, err = cmd.OutOrStdout().Write(sheets)
				return err
			}
			return printFloor(cmd.OutOrStdout(), there, at.title(r, d), report)
		},
	}
	at.register(c)
	c.Flags().StringVar(&setList, "setlist", "", "name or id of the set list whose presses count")
	c.Flags().StringVar(&onto, "board", "", "name or id of another board, owned or plain; the rig's own when absent")
	c.Flags().BoolVar(&o.Fit, "fit", false, "find a place for everything that is not pinned")
	c.Flags().Uint64Var(&o.Seed, "seed", 0, "where the search for places begins; the same seed gives the same answer")
	asJSON.register(c, "print the report as JSON")
	c.Flags().BoolVar(&asSVG, "svg", false, "print a picture to scale, a millimetre for a millimetre")
	c.Flags().StringVar(&paper, "print", "", "write it as HTML that prints at 1:1 over sheets of paper: a4 or letter")
	return c
}

// allBoards are the boards that are owned and those of every plain size.
func allBoards(p *plan.Plan) []plan.Gear {
	var list []plan.Gear
	for _, g := range append(p.Gear[:len(p.Gear):len(p.Gear)], board.Sizes()...) {
		if g.Kind == plan.Board {
			list = append(list, g)
		}
	}
	return list
}

func printFloor(w io.Writer, p *plan.Plan, rig string, r *board.Report) error {
	var b strings.Builder
	name := fmt.Sprintf("%s, %.0f × %.0f mm", r.Name, r.Width, r.Depth)
	if strings.HasSuffix(r.Name, "mm") {
		name = r.Name // a plain board is called by its size
	}
	switch {
	case r.Board == "":
		fmt.Fprintf(&b, "%s stands on no board\n", rig)
	case r.Fits:
		fmt.Fprintf(&b, "%s fits on %s\n", rig, name)
	case r.Proven:
		fmt.Fprintf(&b, "%s does not fit on %s, proven\n", rig, name)
	default:
		fmt.Fprintf(&b, "%s does not stand on %s as it should\n", rig, name)
	}
	for _, x := range r.Places {
		where := ""
		if x.Board == "" {
			where = ", on the bare floor"
		} else if x.Board != r.Board {
			where = ", on " + plan.Listed(gearNames(p, []plan.ID{x.Board}))
		}
		if x.Under {
			where += ", beneath"
		}
		if x.Rotation != 0 {
			where += fmt.Sprintf(", turned %d°", x.Rotation)
		}
		if x.Pinned {
			where += ", pinned"
		}
		fmt.Fprintf(
			&b, "  %-20s %4.0f from left, %4.0f from far edge%s\n", strings.Join(gearNames(p, []plan.ID{x.Gear}), ""), x.X, x.Y,
			where,
		)
	}
	if len(r.LeftOut) > 0 {
		fmt.Fprintf(&b, "no place on it: %s\n", plan.Listed(gearNames(p, r.LeftOut)))
	}
	for _, f := range r.Findings {
		fmt.Fprintln(&b, f.Words)
		if f.Edit != "" {
			fmt.Fprintf(&b, "  %s\n", f.Edit)
		}
	}
	if r.Footwork != nil {
		fmt.Fprintf(&b, "footwork of the night %.2f s, was %.2f\n", r.Footwork.After, r.Footwork.Before)
	}
	fmt.Fprintf(&b, "cable between boxes %.2f m, was %.2f\n", r.Cable.After, r.Cable.Before)
	for _, l := range r.Owned {
		fmt.Fprintf(&b, "  %s, %.2f m, would do from %s, which takes %.2f\n", l.Name, l.LengthM, l.Words, l.NeedsM)
	}
	fmt.Fprintf(
		&b, "weight in the hand %.1f kg: boxes %.1f, board %.1f, leads %.1f\n", r.Weight.Total/1000, r.Weight.Boxes/1000,
		r.Weight.Board/1000, r.Weight.Cables/1000,
	)
	for _, a := range r.Assumed {
		fmt.Fprintln(&b, a)
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func boardsCommand() *cobra.Command {
	var at showFlags
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "boards FILE", Short: "Fit a rig on every board that is owned and on twelve plain sizes", Args: cobra.ExactArgs(1),
		Long: "Fits the rig onto each board: what finds no place, which sounds go with it, reach, footwork, cable and weight, and the\nsmallest board on which every needed sound stays. The file is not changed.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, l, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			there, err := p.At(r.ID, d.ID)
			if err != nil {
				return err
			}
			found, err := board.Compare(cmd.Context(), there, r.ID, l.ID, nil)
			switch {
			case err != nil:
				return err
			case bool(asJSON):
				return printJSON(cmd, found)
			}
			return printBoards(cmd.OutOrStdout(), there, at.title(r, d), found)
		},
	}
	at.register(c)
	asJSON.register(c, "print the comparison as JSON")
	return c
}

func printBoards(w io.Writer, p *plan.Plan, rig string, c *board.Comparison) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s on %d boards\n", rig, len(c.Boards))
	for _, x := range c.Boards {
		verdict := "all fits"
		switch {
		case x.Fits:
		case len(x.LeftOut) == 0:
			verdict = fmt.Sprintf("%d things are wrong", x.Findings)
		default:
			verdict = "without " + plan.Listed(gearNames(p, x.LeftOut))
			if x.Proven {
				verdict += ", proven that not all fits"
			}
		}
		mark := ""
		if x.Board == c.Smallest {
			mark = "  the smallest that keeps every sound"
		}
		fmt.Fprintf(&b, "  %-28s %4.0f × %.0f mm  sounds %d/%d  reach %d/%d  footwork %.1f s  cable %.2f m  %.1f kg  %s%s\n",
			x.Name, x.Width, x.Depth, x.Kept, len(c.Sounds), x.Reached, x.Total, x.Footwork, x.Cable, x.Weight.Total/1000,
			verdict, mark)
	}
	if c.Smallest == "" {
		fmt.Fprintln(&b, "No board was found on which every needed sound stays.")
	}
	_, err := io.WriteString(w, b.String())
	return err
}
