package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/plan"
	"envex/core/reason"
	"envex/core/tempo"
	"envex/disk"
)

// oneTempo is what a tempo alone comes to.
type oneTempo struct {
	Tempo plan.Tempo     `json:"tempo"`
	Table []tempo.Length `json:"table"`
	Delay *tempo.Length  `json:"delay,omitempty"`
	Near  *tempo.Near    `json:"nearest,omitempty"`
}

func tempoCommand() *cobra.Command {
	var at rigFlags
	var set, delay, store, sound string
	var bpm, ms float64
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "tempo [FILE]", Short: "Note lengths at a tempo, or what each delay of a set should be and is set to",
		Args: cobra.MaximumNArgs(1),
		Long: "With --bpm the lengths of notes at that tempo; --delay says one of them, --ms which note a time is nearest to.\nWith a file every song of a set, and what its delays and synced rates are asked and set to on a rig.",
		RunE: func(cmd *cobra.Command, args []string) error {
			if len(args) == 0 {
				return tempoAlone(cmd, bpm, ms, delay, asJSON)
			}
			p, err := readPlan(cmd, args[0])
			if err != nil {
				return err
			}
			l, err := pick(p.SetLists, "setlist", set)
			if err != nil {
				return err
			}
			rig, dest := plan.ID(""), plan.ID("")
			if at.rig != "" || len(p.Rigs) == 1 {
				r, d, err := at.pick(p)
				if err != nil {
					return err
				}
				if p, r, err = at.picked(p, r); err != nil {
					return err
				}
				rig, dest = r.ID, d.ID
			}
			var only []plan.ID
			if sound != "" {
				x, err := pick(p.Sounds, "sound", sound)
				if err != nil {
					return err
				}
				if store == "" {
					return reason.Errorf("--sound needs --store FILE")
				}
				only = append(only, x.ID)
			}
			night, err := tempo.Plan(p, rig, dest, l.ID)
			switch {
			case err != nil:
				return err
			case store != "":
				return storeTimes(cmd, p, rig, l.ID, only, store, asJSON)
			case bool(asJSON):
				return printJSON(cmd, night)
			}
			return printNight(cmd.OutOrStdout(), night)
		},
	}
	at.register(c)
	c.Flags().StringVar(&set, "setlist", "", "name or id of the set list")
	c.Flags().Float64Var(&bpm, "bpm", 0, "beats a minute, of quarter notes")
	c.Flags().StringVar(&delay, "delay", "", `a note, such as "dotted 1/8"`)
	c.Flags().Float64Var(&ms, "ms", 0, "a time, to find the note it is nearest to")
	c.Flags().StringVar(
		&store, "store", "", "put the fewest times that serve the set into presets, and write the plan to this file",
	)
	c.Flags().StringVar(
		&sound, "sound", "", "with --store: name or id of the sound whose times are stored; all when absent",
	)
	asJSON.register(c, "print the answer as JSON")
	return c
}

// storeTimes writes a plan with the times of a set in the presets of a rig, and says what was put where.
func storeTimes(
	cmd *cobra.Command, p *plan.Plan, rig, set plan.ID, only []plan.ID, file string, asJSON jsonFlag,
) error {
	if rig == "" {
		return reason.Errorf("say with --rig whose presets hold the times")
	}
	done, err := tempo.Store(p, rig, set, only...)
	if err != nil {
		return err
	}
	p.Put(done.Rig)
	for _, song := range done.Songs {
		p.Put(song)
	}
	data, err := plan.Encode(p)
	if err != nil {
		return err
	}
	if err := disk.Write(file, data, 0o644); err != nil {
		return err
	}
	if asJSON {
		return printJSON(cmd, struct {
			Words      []string          `json:"words"`
			Overwrites []tempo.Overwrite `json:"overwrites"`
		}{done.Words, done.Overwrites})
	}
	for _, x := range done.Overwrites {
		if _, err := fmt.Fprintf(cmd.OutOrStdout(), "overwritten: %s\n", x.Words); err != nil {
			return err
		}
	}
	_, err = fmt.Fprintln(cmd.OutOrStdout(), strings.Join(done.Words, "\n"))
	return err
}

func tempoAlone(cmd *cobra.Command, bpm, ms float64, delay string, asJSON jsonFlag) error {
	if bpm == 0 {
		return reason.Errorf("give a file, or a tempo with --bpm")
	}
	if !(bpm >= 20 && bpm <= 400) {
		return reason.Errorf("%g beats a minute is outside 20 to 400", bpm)
	}
	t := plan.Tempo{BPM: bpm}
	out := oneTempo{Tempo: t, Table: tempo.Table(t)}
	if delay != "" {
		note, err := tempo.ParseNote(delay)
		if err != nil {
			return err
		}
		length, _ := t.Milliseconds(note)
		out.Delay = &tempo.Length{Note: note, Words: tempo.Words(note), MS: length, Hz: 1000 / length}
	}
	if cmd.Flags().Changed("ms") {
		near, ok := tempo.Nearest(t, ms)
		if !ok {
			return reason.Errorf("%g ms is not a time", ms)
		}
		out.Near = &near
	}
	if asJSON {
		return printJSON(cmd, out)
	}
	w := cmd.OutOrStdout()
	list := out.Table
	if out.Delay != nil {
		list = []tempo.Length{*out.Delay}
	}
	for _, l := range list {
		if _, err := fmt.Fprintf(w, "%-14s %8.1f ms  %6.3f Hz\n", l.Words, l.MS, l.Hz); err != nil {
			return err
		}
	}
	if n := out.Near; n != nil {
		_, err := fmt.Fprintf(w, "%g ms is nearest to %s, %+.1f ms (%+.1f %%)\n", ms, n.Words, n.OffMS, n.OffPct)
		return err
	}
	return nil
}

var wayWords = map[tempo.Way]string{
	tempo.ByTap: "tapped", tempo.Stored: "stored", tempo.ByRemote: "sent by MIDI", tempo.ByClock: "by a clock",
	tempo.ByHand: "by hand", tempo.Fixed: "the same all night",
}

func printNight(w io.Writer, n *tempo.Night) error {
	var b strings.Builder
	for _, s := range n.Songs {
		fmt.Fprintf(&b, "%s, %g\n", s.Title, s.Tempo.BPM)
		for _, u := range s.Uses {
			fmt.Fprintf(&b, "  %-10s %-10s ", u.SoundName, u.Name)
			if u.WantedMS != nil {
				fmt.Fprintf(&b, "%s %.0f ms", u.Words, *u.WantedMS)
			} else {
				b.WriteString("asks no note")
			}
			if u.SetMS != nil {
				fmt.Fprintf(&b, ", set to %.0f ms", *u.SetMS)
				if u.WantedMS == nil && u.Nearest != nil {
					fmt.Fprintf(&b, " (near %s)", u.Nearest.Words)
				}
			}
			fmt.Fprintf(&b, ", %s", wayWords[u.Way])
			if u.Effect == plan.EffectDelay {
				fmt.Fprintf(&b, ", %d repeats, %.1f s of tail", u.Audible, u.TailMS/1000)
			}
			b.WriteString("\n")
		}
	}
	for _, x := range n.Presets {
		fmt.Fprintf(
			&b, "%s for %s: %d times serve every song, and no fewer would\n", x.Name, plan.Listed(x.Sounds), len(x.Times),
		)
		for _, t := range x.Times {
			fmt.Fprintf(&b, "  %.1f ms: %s\n", t.MS, strings.Join(t.Songs, ", "))
		}
	}
	for _, f := range n.Findings {
		fmt.Fprintf(&b, "%s. %s\n", f.Title, f.Words)
		for _, s := range f.Songs {
			fmt.Fprintf(&b, "  %s: %.0f ms for %.0f\n", s.Title, s.SetMS, s.WantedMS)
		}
	}
	_, err := io.WriteString(w, b.String())
	return err
}
