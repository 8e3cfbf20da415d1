package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/electric"
	"envex/core/plan"
)

func powerCommand() *cobra.Command {
	var at rigFlags
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "power FILE", Short: "What feeds each box of a rig, what is wrong with it, and the best assignment",
		Args: cobra.ExactArgs(1),
		Long: "Assigns the loads of a rig to the outputs of its supplies, or of all that are owned where it uses none.\nCaution: wrong voltage or polarity kills pedals. Check the label of the box itself before you plug it in.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			report, err := electric.FeedRig(p, r.ID, d.ID)
			switch {
			case err != nil:
				return err
			case bool(asJSON):
				return printJSON(cmd, report)
			}
			return printPower(cmd.OutOrStdout(), p, at.title(r, d), report)
		},
	}
	at.register(c)
	asJSON.register(c, "print the report as JSON")
	return c
}

func printPower(w io.Writer, p *plan.Plan, rig string, r *electric.Power) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s: %d boxes draw %.0f mA, %.1f W\n", rig, len(r.Loads), r.DrawnMA, r.DrawnW)
	for _, l := range r.Loads {
		where := l.Where
		if l.Fed == "nothing" {
			where = "nothing feeds it"
		}
		if l.HoursLeft != nil {
			where += fmt.Sprintf(", %.0f h left", *l.HoursLeft)
		}
		fmt.Fprintf(&b, "  %-20s %g V %5.0f mA  %s\n", l.Name, l.Voltage, l.CurrentMA, where)
	}
	printFindings(&b, r.Findings)
	a := r.Assignment
	proof := "proven the best"
	if !a.Proven {
		proof = "the best found"
	}
	fmt.Fprintf(
		&b, "best assignment feeds %d, %d of them beside another, the least headroom is %.0f %%; %s\n", a.Served, a.Shared,
		a.Least*100, proof,
	)
	for _, f := range a.Feeds {
		fmt.Fprintf(&b, "  %s: %s\n", outputWords(p, f), plan.Listed(gearNames(p, f.Gear)))
	}
	for _, m := range a.Unserved {
		fmt.Fprintf(&b, "  %s cannot be served: %s. What would serve it: %s\n", m.Name, m.Why, strings.Join(m.Would, "; "))
	}
	for _, x := range append(r.Assumed, r.Cautions...) {
		fmt.Fprintln(&b, x)
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func outputWords(p *plan.Plan, f plan.PowerFeed) string {
	words := string(f.Supply) + " " + string(f.Output)
	if g, ok := p.FindGear(f.Supply); ok {
		words = g.Name + " " + string(f.Output)
		if o, ok := g.Supply.FindOutput(f.Output); ok && o.Name != "" {
			words = g.Name + " " + o.Name
		}
	}
	if f.Second != "" {
		words += " and " + string(f.Second)
	}
	if f.Voltage != nil {
		words += fmt.Sprintf(" at %g V", *f.Voltage)
	}
	if f.Lead != "" {
		words += " by a " + f.Lead + " lead"
	}
	return words
}

func gearNames(p *plan.Plan, ids []plan.ID) []string {
	var words []string
	for _, id := range ids {
		if g, ok := p.FindGear(id); ok {
			words = append(words, g.Name)
		}
	}
	return words
}
