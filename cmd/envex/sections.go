package main

import (
	"fmt"
	"strconv"

	"github.com/spf13/cobra"

	"envex/core/plan"
	"envex/core/reason"
)

func sectionsCommand() *cobra.Command {
	var set, label, singing, out string
	var bars, rest float64
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "sections FILE", Args: cobra.ExactArgs(1),
		Short: "List the sections of all songs by name, or set singing, bars and rests of all with one name",
		Long: "Without --label it lists the sections by name, numbers behind it left out: Verse and Verse 2 are verses.\n" +
			"With --label and one of --singing, --bars and --rest it marks them all, and writes the plan.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, err := readPlan(cmd, args[0])
			if err != nil {
				return err
			}
			list := plan.ID("")
			if set != "" {
				l, err := pick(p.SetLists, "setlist", set)
				if err != nil {
					return err
				}
				list = l.ID
			}
			var m plan.Marking
			if cmd.Flags().Changed("singing") {
				yes, err := strconv.ParseBool(map[string]string{"yes": "true", "no": "false"}[singing])
				if err != nil {
					return reason.Errorf("--singing %q: write yes or no", singing)
				}
				m.Singing = &yes
			}
			if cmd.Flags().Changed("bars") {
				m.Bars = &bars
			}
			if cmd.Flags().Changed("rest") {
				m.Rest = &rest
			}
			switch {
			case label != "" && m == plan.Marking{}:
				return reason.Errorf("say with --singing, --bars or --rest what to mark")
			case label == "" && m != plan.Marking{}:
				return reason.Errorf("say with --label of which sections")
			case label == "" && bool(asJSON):
				return printJSON(cmd, p.SectionGroups(list))
			case label == "":
				return printSections(cmd, p.SectionGroups(list))
			}
			changed := p.MarkSections(list, label, m)
			for _, song := range changed {
				p.Put(song)
			}
			return writePlan(cmd, p, out)
		},
	}
	c.Flags().StringVar(&set, "setlist", "", "name or id of the set list whose songs are meant; all songs when absent")
	c.Flags().StringVar(&label, "label", "", "what the sections are called")
	c.Flags().StringVar(&singing, "singing", "", "whether you sing there: yes or no")
	c.Flags().Float64Var(&bars, "bars", 0, "how many bars they have; 0 for open")
	c.Flags().Float64Var(&rest, "rest", 0, "beats of silence before them")
	c.Flags().StringVarP(&out, "out", "o", "", "where the plan is written; printed when absent")
	asJSON.register(c, "print the list as JSON")
	return c
}

func printSections(cmd *cobra.Command, groups []plan.SectionGroup) error {
	for _, g := range groups {
		bars := "bars differ"
		switch {
		case g.Open == g.Sections:
			bars = "open"
		case g.Bars != nil:
			bars = fmt.Sprintf("%g bars", *g.Bars)
		}
		_, err := fmt.Fprintf(cmd.OutOrStdout(), "%-16s %3d in %d songs, %d sung, %s\n",
			g.Label, g.Sections, g.Songs, g.Singing, bars)
		if err != nil {
			return err
		}
	}
	return nil
}
