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
	var box, with, name, song, out string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "swap FILE", Short: "Swap slots of a rig: places in the chain where one of several boxes stands",
		Args: cobra.ExactArgs(1),
		Long: `Prints the swap slots of a rig and the box that stands in each. With --box and --with it gives the place of a box in
the chain a further box; with --pick SLOT=BOX that box stands there, or, with --song, stands there for that song alone.
With -o the plan is written so. What the rig says of a box is kept with its slot while another stands there. Other
commands take --pick, too: they work everything out for it. How the boxes of a slot differ, envex beside --slot says.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, err := swapped(cmd, &at, args[0], song)
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
			return asJSON.print(cmd, r.Swaps, inWords(slotsInWords(p, &r)))
		},
	}
	at.register(c)
	c.Flags().StringVar(&box, "box", "", "name or id of a box in the chain")
	c.Flags().StringVar(&with, "with", "", "name or id of a pedal that may stand there too")
	c.Flags().StringVar(&name, "name", "", "what the slot is called; by its boxes when absent")
	c.Flags().StringVar(&song, "song", "", "with --pick: the song that is played with that box; the chain stays as it is")
	c.Flags().StringVarP(&out, "out", "o", "", "write the plan so")
	asJSON.register(c, "print the slots as JSON")
	return c
}

// swapped is a plan, and a rig of it with what the flags pick: in its chain, or for a song where one is named.
func swapped(cmd *cobra.Command, at *rigFlags, file, song string) (*plan.Plan, plan.Rig, error) {
	if song == "" {
		p, r, _, err := at.read(cmd, file)
		return p, r, err
	}
	p, err := readPlan(cmd, file)
	if err != nil {
		return nil, plan.Rig{}, err
	}
	r, _, err := at.pick(p)
	if err != nil {
		return p, r, err
	}
	s, err := pick(p.Songs, "song", song)
	if err != nil {
		return p, r, err
	}
	picks, err := at.readPicks(p, &r)
	if err == nil && len(picks) == 0 {
		err = reason.Errorf("say which box the song is played with: --pick SLOT=BOX")
	}
	if err != nil {
		return p, r, err
	}
	for _, x := range picks {
		if r, err = r.PlayedWith(x.Swap, x.Gear, s.ID); err != nil {
			return p, r, err
		}
	}
	p.Put(r)
	return p, r, nil
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
