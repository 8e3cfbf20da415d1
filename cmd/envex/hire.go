package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/hire"
	"envex/core/plan"
	"envex/core/reason"
)

func askCommand() *cobra.Command {
	var at rigFlags
	var set string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "ask FILE", Short: "What to ask those for who hire out amps, and the house", Args: cobra.ExactArgs(1),
		Long: `Works out what a rig needs of an amp that somebody else brings, so that the sounds of a set are made on it: channels and
how dirty each is by itself, clean headroom for what comes in, a loop and its level, effects of its own, speaker; and of
the house: lines, microphones and mains outlets. The figures are of models of kinds of circuit.
Caution: a valve amp always needs its speaker or load. Mains on stage follow the local code and the venue's electrician.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			l, err := pick(p.SetLists, "setlist", set)
			if err != nil {
				return err
			}
			found, err := hire.AskFor(cmd.Context(), p, r.ID, d.ID, l.ID, kept)
			if err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, found)
			}
			var b strings.Builder
			of := ""
			for _, x := range found.Items {
				if x.Of != of {
					of = x.Of
					fmt.Fprintf(&b, "%s\n", of)
				}
				fmt.Fprintf(&b, "  %s: %s\n", x.Need, x.Why)
			}
			for _, words := range append(found.Assumed, found.Cautions...) {
				fmt.Fprintf(&b, "%s\n", words)
			}
			_, err = io.WriteString(cmd.OutOrStdout(), b.String())
			return err
		},
	}
	at.register(c)
	c.Flags().StringVar(&set, "setlist", "", "name or id of the set list")
	asJSON.register(c, "print it as JSON")
	return c
}

func hiredCommand() *cobra.Command {
	var at rigFlags
	var set, amp, out string
	o := hire.Options{Kept: kept}
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "hired FILE", Short: "The plan for an amp that lacks something, or is another", Args: cobra.ExactArgs(1),
		Long: `Makes a destination of a rig for an amp that is not its own: what stood in a loop that is not there moves, the settings of
the rig's own amp are those to start from, and each sound that is out of its targets then is brought back by the fewest
knobs, or by other boxes of the rig. Says what moves, what is set otherwise, and what is lost. With -o it writes the plan
with the destination. The figures are of models of kinds of circuit.
Caution: a valve amp always needs its speaker or load. Mains on stage follow the local code and the venue's electrician.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			if d.ID != "" {
				return reason.Errorf("the answer is for the rig as it stands: leave --destination out")
			}
			l, err := pick(p.SetLists, "setlist", set)
			if err != nil {
				return err
			}
			if amp != "" {
				g, err := pick(p.Gear, "amp", amp)
				if err != nil {
					return err
				}
				o.Amp = g.ID
			}
			found, err := hire.Plan(cmd.Context(), p, r.ID, l.ID, o)
			if err != nil {
				return err
			}
			if out != "" {
				if found.New != nil {
					p.Put(*found.New)
				}
				p.Put(found.Rig)
				if err := writePlan(cmd, p, out); err != nil {
					return err
				}
			}
			return asJSON.print(cmd, found, func(w io.Writer) error { return printHired(w, found) })
		},
	}
	at.register(c)
	c.Flags().StringVar(&set, "setlist", "", "name or id of the set list")
	c.Flags().StringSliceVar(
		&o.Without, "without", nil, "what is not there: "+plan.Listed(hire.Lacking())+"; it is else taken to be like the rig's own",
	)
	c.Flags().StringVar(&amp, "amp", "", "name or id of an amp of the pile that stands there")
	c.Flags().StringVarP(&out, "out", "o", "", "write the plan with the destination")
	asJSON.register(c, "print it as JSON")
	return c
}

func printHired(w io.Writer, found *hire.Answer) error {
	var b strings.Builder
	for _, words := range found.Moves {
		fmt.Fprintf(&b, "%s\n", words)
	}
	for _, x := range found.Changes {
		fmt.Fprintf(&b, "%s: %s\n", x.Name, x.Words)
	}
	for _, x := range found.Lost {
		fmt.Fprintf(&b, "lost: %s, %s\n", x.Name, x.Words)
	}
	for _, c := range found.Columns {
		fmt.Fprintf(
			&b,
			"%s: reach %d/%d, %d of %d sounds within their targets\n",
			c.Name,
			c.Outcome.Reached,
			c.Outcome.Total,
			c.Within,
			len(c.Sounds),
		)
		for _, f := range c.Findings {
			fmt.Fprintf(&b, "   %s\n", f.Title)
		}
	}
	for _, words := range append(found.Assumed, found.Cautions...) {
		fmt.Fprintf(&b, "%s\n", words)
	}
	_, err := io.WriteString(w, b.String())
	return err
}
