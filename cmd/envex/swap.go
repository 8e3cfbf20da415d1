package main

import (
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/plan"
	"envex/core/reason"
)

func swapCommand() *cobra.Command {
	var at rigFlags
	var box, with, name, out string
	var asJSON bool
	c := &cobra.Command{
		Use: "swap FILE", Short: "Swap slots of a rig: places in the chain where one of several boxes stands",
		Args: cobra.ExactArgs(1),
		Long: `Prints the swap slots of a rig and the box that stands in each. With --box and --with it gives the place of a box in
the chain a further box; with --pick SLOT=BOX that box stands there, and with -o the plan is written so. What the rig
says of a box is kept with its slot while another stands there. Other commands take --pick, too: they work everything out
for it. How the boxes of a slot differ, envex beside --slot says.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, _, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			if (box == "") != (with == "") {
				return reason.Errorf(
					"--box and --with go together: the box in the chain, and the one that may stand there too",
				)
			}
			if box != "" {
				if r, err = withSlot(p, r, box, with, name); err != nil {
					return err
				}
				p.Put(r)
			}
			if out != "" {
				return writePlan(cmd, p, out)
			}
			if asJSON {
				return printJSON(cmd, r.Swaps)
			}
			_, err = fmt.Fprint(cmd.OutOrStdout(), slotsInWords(p, &r))
			return err
		},
	}
	at.register(c)
	c.Flags().StringVar(&box, "box", "", "name or id of a box in the chain")
	c.Flags().StringVar(&with, "with", "", "name or id of a pedal that may stand there too")
	c.Flags().StringVar(&name, "name", "", "what the slot is called; by its boxes when absent")
	c.Flags().StringVarP(&out, "out", "o", "", "write the plan so")
	c.Flags().BoolVar(&asJSON, "json", false, "print the slots as JSON")
	return c
}

func withSlot(p *plan.Plan, r plan.Rig, box, with, name string) (plan.Rig, error) {
	there, err := pick(p.Gear, "box", box)
	if err != nil {
		return r, err
	}
	other, err := pick(p.Gear, "with", with)
	if err != nil {
		return r, err
	}
	if name == "" {
		name = there.Name + " or " + other.Name
	}
	id := plan.ID("slot-1")
	for n := 2; ; n++ {
		if _, taken := r.FindSwap(id); !taken {
			break
		}
		id = plan.ID(fmt.Sprintf("slot-%d", n))
	}
	return p.WithSlot(&r, id, name, there.ID, other.ID)
}

func slotsInWords(p *plan.Plan, r *plan.Rig) string {
	if len(r.Swaps) == 0 {
		return r.Name + " has no swap slots\n"
	}
	var b strings.Builder
	for i := range r.Swaps {
		s := &r.Swaps[i]
		fmt.Fprintf(&b, "%s\n", s.Name)
		for _, x := range s.Boxes {
			g, _ := p.FindGear(x.Gear)
			fmt.Fprintf(&b, "  %s", g.Name)
			if r.InSlot(s) == x.Gear {
				b.WriteString(", in the chain")
			}
			var songs []string
			for _, id := range x.Songs {
				if song, ok := p.FindSong(id); ok {
					songs = append(songs, song.Title)
				}
			}
			if len(songs) > 0 {
				fmt.Fprintf(&b, ", for %s", plan.Listed(songs))
			}
			b.WriteString("\n")
		}
	}
	return b.String()
}
