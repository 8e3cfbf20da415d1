package main

import (
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/journal"
	"envex/core/plan"
	"envex/core/reason"
	"envex/core/revision"
	"envex/disk"
)

func logCommand() *cobra.Command {
	var show, gear, kind, search string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "log FILE", Short: "What was written down of shows, the latest first; of one box, its history",
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, err := readPlan(cmd, args[0])
			if err != nil {
				return err
			}
			q := journal.Query{Text: search, Kind: journal.Kind(kind)}
			switch q.Kind {
			case "", journal.Before, journal.Fault, journal.Change, journal.Battery, journal.After:
			default:
				return reason.Errorf("there is no kind of line %q; there are before, fault, change, battery and after", kind)
			}
			if show != "" {
				s, err := pick(p.Shows, "show", show)
				if err != nil {
					return err
				}
				q.Show = s.ID
			}
			if gear != "" {
				g, err := pick(p.Gear, "gear", gear)
				if err != nil {
					return err
				}
				q.Gear = g.ID
			}
			lines := journal.Read(p, q)
			if asJSON {
				return printJSON(cmd, lines)
			}
			for _, l := range lines {
				if _, err := fmt.Fprintln(cmd.OutOrStdout(), lineWords(l)); err != nil {
					return err
				}
			}
			return nil
		},
	}
	c.Flags().StringVar(&show, "show", "", "name or id of a show")
	c.Flags().StringVar(&gear, "gear", "", "name or id of a box")
	c.Flags().StringVar(&kind, "kind", "", "before, fault, change, battery or after")
	c.Flags().StringVar(&search, "search", "", "words that must all be in the line")
	asJSON.register(c, "print the lines as JSON")
	return c
}

func lineWords(l journal.Line) string {
	words := []string{strings.TrimSpace(l.Date + " " + l.ShowName), string(l.Kind)}
	if l.Where != "" {
		words = append(words, l.Where)
	}
	words = append(words, l.Text)
	switch {
	case l.Kind == journal.Fault && l.Cured == "":
		words = append(words, "not cured yet")
	case l.Cured != "":
		words = append(words, "cured: "+l.Cured)
	case l.Carries != "":
		words = append(words, l.Carries)
	}
	if l.Keep != "" {
		words = append(words, l.Keep)
	}
	return strings.Join(words, " | ")
}

func differencesCommand() *cobra.Command {
	var rig string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "differences BEFORE AFTER", Short: "What is different between a rig in two files, in words",
		Args: cobra.ExactArgs(2),
		RunE: func(cmd *cobra.Command, args []string) error {
			before, err := readPlan(cmd, args[0])
			if err != nil {
				return err
			}
			after, err := readPlan(cmd, args[1])
			if err != nil {
				return err
			}
			b, err := pick(after.Rigs, "rig", rig)
			if err != nil {
				return err
			}
			a, ok := before.FindRig(b.ID)
			if !ok {
				return reason.Errorf("%s has no rig with the id %q", args[0], b.ID)
			}
			words := revision.Words(after, *a, b)
			if asJSON {
				return printJSON(cmd, words)
			}
			for _, x := range words {
				if _, err := fmt.Fprintln(cmd.OutOrStdout(), x); err != nil {
					return err
				}
			}
			return nil
		},
	}
	c.Flags().StringVar(&rig, "rig", "", "name or id of the rig")
	asJSON.register(c, "print them as JSON")
	return c
}

func keepCommand() *cobra.Command {
	var show, out string
	var number int
	var leave bool
	c := &cobra.Command{
		Use: "keep FILE", Short: "Carry a change of a show's night over to the rig, or leave it to that night",
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, s, err := readShow(cmd, args[0], show)
			if err != nil {
				return err
			}
			if leave {
				next, err := journal.Leave(p, s.ID, number-1)
				if err != nil {
					return err
				}
				p.Put(next)
			} else {
				rig, next, err := journal.CarryOver(p, s.ID, number-1)
				if err != nil {
					return err
				}
				p.Put(rig)
				p.Put(next)
			}
			return writePlan(cmd, p, out)
		},
	}
	c.Flags().StringVar(&show, "show", "", "name or id of the show")
	c.Flags().IntVar(&number, "change", 1, "which change of the night, from 1")
	c.Flags().BoolVar(&leave, "leave", false, "it was for that night alone")
	c.Flags().StringVarP(&out, "out", "o", "", "where the plan is written; printed when absent")
	return c
}

// writePlan writes a plan as a file, or prints it. One that would not be valid is not written.
func writePlan(cmd *cobra.Command, p *plan.Plan, out string) error {
	if problems := p.Validate(); len(problems) > 0 {
		return problems
	}
	data, err := plan.Encode(p)
	if err != nil {
		return err
	}
	if out == "" {
		_, err = cmd.OutOrStdout().Write(data)
		return err
	}
	return disk.Write(out, data, 0o644)
}
