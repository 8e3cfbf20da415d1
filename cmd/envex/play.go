package main

import (
	"encoding/json"
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/plan"
	"envex/core/play"
	"envex/core/reason"
)

// maxPlayed is how large a file of presses or moves may be.
const maxPlayed = 4 << 20

func rehearseCommand() *cobra.Command {
	var at rigFlags
	var set, title, presses string
	var hands bool
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "rehearse FILE", Short: "What is pressed when in a song, or how it was played", Args: cobra.ExactArgs(1),
		Long: "Prints a song as it is rehearsed. With --presses it plays them to simulated devices and scores every change; the file\nis a list of {\"at_s\": seconds from the first downbeat, \"switch\": \"gear/switch\"}, and with\n--hands also of {\"at_s\", \"hand\": \"the control a hand moves\"}.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			l, err := pick(p.SetLists, "setlist", set)
			if err != nil {
				return err
			}
			script, err := play.Read(p, r.ID, d.ID, l.ID)
			if err != nil {
				return err
			}
			song, err := songIn(script, title)
			if err != nil {
				return err
			}
			if presses == "" {
				return asJSON.print(cmd, song, func(w io.Writer) error { return printScript(w, song) })
			}
			var list []play.Press
			if err := readList(cmd, presses, &list); err != nil {
				return err
			}
			result, err := play.Judge(
				p, r.ID, d.ID, l.ID, play.Take{Entry: song.Entry, Presses: list, UntilS: song.LengthS, Hands: hands},
			)
			switch {
			case err != nil:
				return err
			case bool(asJSON):
				return printJSON(cmd, result)
			}
			return printResult(cmd.OutOrStdout(), result)
		},
	}
	at.register(c)
	c.Flags().StringVar(&set, "setlist", "", "name or id of the set list")
	c.Flags().StringVar(&title, "song", "", "title of the song; the first when absent")
	c.Flags().StringVar(&presses, "presses", "", "file with the presses that were made; - is standard input")
	c.Flags().BoolVar(&hands, "hands", false, "judge what hands move too, from the presses that say \"hand\"")
	asJSON.register(c, "print the answer as JSON")
	return c
}

func fitCommand() *cobra.Command {
	var at rigFlags
	var file, set string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "fit FILE", Short: "A player's feet, fitted to timed moves between switches", Args: cobra.ExactArgs(1),
		Long: "The file is a list of {\"distance_mm\", \"width_mm\", \"seconds\"}: from one press to the next. With --plan it is of\n{\"from\": \"gear/switch\", \"to\": \"gear/switch\", \"seconds\"}, and the distances are those of the rig.",
		RunE: func(cmd *cobra.Command, args []string) error {
			if file != "" {
				feet, err := drilled(cmd, at, file, set, args[0])
				switch {
				case err != nil:
					return err
				case bool(asJSON):
					return printJSON(cmd, feet)
				}
				return printFit(cmd.OutOrStdout(), &feet.Fit, feet.Why)
			}
			for _, name := range []string{"rig", "destination", "setlist"} {
				if cmd.Flags().Changed(name) {
					return reason.Errorf("--%s is of a plan: say which with --plan", name)
				}
			}
			var moves []play.Move
			if err := readList(cmd, args[0], &moves); err != nil {
				return err
			}
			fit, err := play.FitFeet(moves)
			switch {
			case err != nil:
				return err
			case bool(asJSON):
				return printJSON(cmd, fit)
			}
			return printFit(cmd.OutOrStdout(), fit, "")
		},
	}
	at.register(c)
	c.Flags().StringVar(&file, "plan", "", "plan whose switches the moves are between")
	c.Flags().StringVar(&set, "setlist", "", "name or id of the set list, with --plan")
	asJSON.register(c, "print the fit as JSON")
	return c
}

// drilled fits feet to moves between the switches of a rig in a plan.
func drilled(cmd *cobra.Command, at rigFlags, file, set, moves string) (*play.Feet, error) {
	p, r, d, err := at.read(cmd, file)
	if err != nil {
		return nil, err
	}
	l, err := pick(p.SetLists, "setlist", set)
	if err != nil {
		return nil, err
	}
	script, err := play.Read(p, r.ID, d.ID, l.ID)
	if err != nil {
		return nil, err
	}
	var steps []play.Step
	if err := readList(cmd, moves, &steps); err != nil {
		return nil, err
	}
	return play.Drilled(p, script, steps)
}

// printFit prints a fit, and why it cannot be kept where it cannot.
func printFit(w io.Writer, fit *play.Fit, why string) error {
	words := fmt.Sprintf("a and dwell %.3f s, b %.3f s a bit. %s %s", fit.Sum, fit.B, fit.Words, why)
	_, err := fmt.Fprintln(w, strings.TrimSpace(words))
	return err
}

// readList reads a JSON list from a file; it refuses what it does not know.
func readList(cmd *cobra.Command, name string, into any) error {
	data, err := readFile(cmd, name, maxPlayed)
	if err != nil {
		return err
	}
	if len(data) > maxPlayed {
		return reason.Errorf("%s is larger than 4 MB", name)
	}
	dec := json.NewDecoder(strings.NewReader(string(data)))
	dec.DisallowUnknownFields()
	if err := dec.Decode(into); err != nil {
		return reason.Errorf("%s: %w", name, err)
	}
	return nil
}

func songIn(s *play.Script, title string) (play.Song, error) {
	var names []string
	for _, x := range s.Songs {
		if title == "" || strings.EqualFold(x.Title, title) || x.Song == plan.ID(title) {
			return x, nil
		}
		names = append(names, x.Title)
	}
	if len(names) == 0 {
		return play.Song{}, reason.Errorf("the set has no songs")
	}
	return play.Song{}, reason.Errorf("the set has no song %q; it has %s", title, strings.Join(names, ", "))
}

func printScript(w io.Writer, s play.Song) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s, %g bpm, %d in a bar, %.0f s\n", s.Title, s.Tempo.BPM, s.Beats, s.LengthS)
	for _, x := range s.Sections {
		fmt.Fprintf(&b, "%7.2f s  %-12s %-10s", x.AtS, x.Label, x.Name)
		for _, p := range x.Presses {
			fmt.Fprintf(&b, "  %s (%s)", p.Label, p.Action)
		}
		for _, h := range x.Hands {
			fmt.Fprintf(&b, "  by hand: %s", h)
		}
		for _, e := range x.Early {
			fmt.Fprintf(&b, "  early: %s", e)
		}
		b.WriteString("\n")
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func printResult(w io.Writer, r *play.Result) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s: %d of %d made\n", r.Title, r.Made, r.Total)
	for _, s := range r.Scores {
		fmt.Fprintf(&b, "  %-12s %s > %s: %s", s.Label, s.From, s.To, s.Outcome)
		if s.ByS > 0 {
			fmt.Fprintf(&b, " by %.2f s", s.ByS)
		}
		if len(s.Pending) > 0 {
			fmt.Fprintf(&b, ", %s", plan.Listed(s.Pending))
		}
		if s.Wrong > 0 {
			fmt.Fprintf(&b, ", %d wrong", s.Wrong)
		}
		b.WriteString("\n")
	}
	_, err := io.WriteString(w, b.String())
	return err
}
