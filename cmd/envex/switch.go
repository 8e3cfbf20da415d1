package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/plan"
	"envex/core/switching"
)

func switchCommand() *cobra.Command {
	var at rigFlags
	var setList, controller, school string
	var asJSON bool
	c := &cobra.Command{
		Use: "switch FILE", Short: "Which programs a controller needs, and the slot of each", Args: cobra.ExactArgs(1),
		Long: "Lays out the programs of a rig's controller for a set list: one page for the whole night, or a bank per song.\nSays whether the layout is proven the least and what reach it gives. The file is not changed.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			l, err := pick(p.SetLists, "setlist", setList)
			if err != nil {
				return err
			}
			there, err := p.At(r.ID, d.ID)
			if err != nil {
				return err
			}
			var id plan.ID
			if controller != "" {
				g, err := pick(p.Gear, "controller", controller)
				if err != nil {
					return err
				}
				id = g.ID
			}
			s, err := switching.Solve(cmd.Context(), there, r.ID, l.ID, id, switching.School(school), nil)
			if err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, s)
			}
			return printSwitch(cmd.OutOrStdout(), at.title(r, d), s)
		},
	}
	at.register(c)
	c.Flags().StringVar(&setList, "setlist", "", "name or id of the set list")
	c.Flags().StringVar(&controller, "controller", "", "name or id of the controller, where the rig has several")
	c.Flags().StringVar(&school, "school", string(switching.Page), "page or song")
	c.Flags().BoolVar(&asJSON, "json", false, "print the solution as JSON")
	return c
}

func printSwitch(w io.Writer, rig string, s *switching.Solution) error {
	var b strings.Builder
	proof := "proven the least"
	if !s.Proven {
		proof = fmt.Sprintf("none costs less than %d", s.LowerBound)
	}
	fmt.Fprintf(&b, "%s: %d presses for programs, %s\n", rig, s.Cost, proof)
	fmt.Fprintf(&b, "reach %d of %d; as it stands %d of %d\n", s.Reach.Reached, s.Reach.Total, s.Before.Reached, s.Before.Total)
	for _, l := range s.Loops {
		held := ""
		if l.Held {
			held = ", held on"
		}
		stops := strings.Join(l.Stops, ", ")
		if stops == "" {
			stops = "spare"
		}
		fmt.Fprintf(&b, "  loop %d: %s%s\n", l.Loop, stops, held)
	}
	for _, x := range s.Programs {
		fmt.Fprintf(&b, "  bank %s slot %s: %s\n", x.Bank, x.Slot, x.Sound)
	}
	for _, n := range s.Notes {
		fmt.Fprintln(&b, n)
	}
	_, err := io.WriteString(w, b.String())
	return err
}
