package main

import (
	"fmt"
	"io"
	"math"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/dial"
	"envex/core/estimate"
	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
)

func dialCommand() *cobra.Command {
	var at rigFlags
	var sound string
	var heard []string
	var channels bool
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "dial FILE", Short: "How a sound is dialled in, one knob at a time; without one, where to start on the amp",
		Args: cobra.ExactArgs(1),
		Long: `With --sound it gives the steps that dial a sound in: the amp by itself first, then one box after the other, each with
what is heard then, and where a compressor is as loud on as off. Without, it looks for where gain and master of the amp make
it clean and loud, on the edge, and pushed, with the guitar that plugs in first. With --channels it compares the channels of
the amp, the gain that each keeps in reserve, and the leads above the other sounds, with the knob that makes each level.
With --heard the steps are checked by recordings, one for each in their order, made the same way. The figures are of models.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			if sound == "" && (len(heard) > 0 || at.song != "") {
				return reason.Errorf("--heard and --song are of the steps of a sound: say which with --sound")
			}
			if channels {
				found, err := dial.LevelChannels(cmd.Context(), p, r.ID, d.ID, dial.Options{Kept: kept})
				if err != nil {
					return err
				}
				return asJSON.print(cmd, found, func(w io.Writer) error { return printChannels(w, found) })
			}
			if sound == "" {
				found, err := dial.StartPoints(cmd.Context(), p, r.ID, d.ID, dial.Options{Kept: kept})
				if err != nil {
					return err
				}
				return asJSON.print(cmd, found, func(w io.Writer) error { return printStarts(w, found) })
			}
			s, err := pick(p.Sounds, "sound", sound)
			if err != nil {
				return err
			}
			o := dial.Options{Kept: kept}
			if at.song != "" {
				song, err := pick(p.Songs, "song", at.song)
				if err != nil {
					return err
				}
				o.Song = song.ID
			}
			found, err := dial.Steps(cmd.Context(), p, r.ID, d.ID, s.ID, "", o)
			if err != nil {
				return err
			}
			checks, err := checkedBy(cmd, found, heard)
			if err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, struct {
					*dial.Recipe
					Heard []estimate.Against `json:"heard,omitempty"`
				}{found, checks})
			}
			return printSteps(cmd.OutOrStdout(), found, checks)
		},
	}
	at.register(c)
	at.registerSong(c)
	c.Flags().StringVar(&sound, "sound", "", "name or id of the sound")
	c.Flags().
		BoolVar(&channels, "channels", false, "compare the channels of the amp, and the leads with the other sounds")
	asJSON.register(c, "print it as JSON")
	c.Flags().StringSliceVar(&heard, "heard", nil, "with --sound, a WAV recording after each step")
	c.MarkFlagsMutuallyExclusive("sound", "channels")
	c.MarkFlagsMutuallyExclusive("heard", "channels")
	return c
}

// checkedBy holds steps against recordings of them, one for each in their order.
func checkedBy(cmd *cobra.Command, found *dial.Recipe, files []string) ([]estimate.Against, error) {
	if len(files) > len(found.Steps) {
		return nil, reason.Errorf("there are %d recordings and %d steps", len(files), len(found.Steps))
	}
	var out []estimate.Against
	var before *estimate.Recording
	for i, name := range files {
		x, _, err := readWAV(cmd, name)
		if err != nil {
			return nil, err
		}
		now, err := estimate.Of(x, nil)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		out = append(out, estimate.Step(now, before, found.Steps[i].Dirt, found.Steps[i].Louder))
		before = now
	}
	return out, nil
}

func printChannels(w io.Writer, found *dial.Channels) error {
	var b strings.Builder
	for _, x := range found.Channels {
		fmt.Fprintf(
			&b,
			"%s, %s: %+.1f LU, %.0f %% dirt, %.0f points more with its gain on full. %s\n",
			found.Name,
			x.Name,
			x.Over,
			x.Dirt,
			x.Reserve,
			x.Words,
		)
	}
	if found.Words != "" {
		fmt.Fprintln(&b, found.Words)
	}
	for _, x := range found.Leads {
		fmt.Fprintf(
			&b,
			"%s: %+.1f LU over the loudest other sound, %+.1f wanted. %s\n",
			x.Name,
			x.Over,
			x.Wanted,
			x.Words,
		)
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func printStarts(w io.Writer, found *dial.Starts) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s with %s:\n", found.Name, found.Guitar)
	for _, x := range found.Ways {
		input := ""
		if x.Input != "" {
			input = ", input " + x.Input
		}
		fmt.Fprintf(&b, "%s: %s%s, %.0f %% dirt, %+.1f LU\n", x.Name, placed(x.Knobs), input, x.Dirt, x.Over)
	}
	if found.Tone != nil {
		for _, k := range found.Tone.Knobs {
			at := widest(k)
			fmt.Fprintf(
				&b,
				"%s %g: %+.0f to %+.0f dB at %.0f Hz, %+.0f dB as it stands\n",
				k.Name,
				k.At,
				k.Lowest[at],
				k.Highest[at],
				found.Tone.Hz[at],
				found.Tone.AsSet[at],
			)
		}
	}
	if found.Words != "" {
		fmt.Fprintln(&b, found.Words)
	}
	_, err := io.WriteString(w, b.String())
	return err
}

// widest is where a tone knob moves the curve most.
func widest(k signal.ToneKnob) int {
	best := 0
	for i := range k.Lowest {
		if math.Abs(k.Highest[i]-k.Lowest[i]) > math.Abs(k.Highest[best]-k.Lowest[best]) {
			best = i
		}
	}
	return best
}

func placed(list []dial.Place) string {
	var parts []string
	for _, x := range list {
		parts = append(parts, fmt.Sprintf("%s %g", x.Name, x.At))
	}
	return strings.Join(parts, ", ")
}

func printSteps(w io.Writer, found *dial.Recipe, checks []estimate.Against) error {
	var b strings.Builder
	for i, s := range found.Steps {
		fmt.Fprintf(&b, "%d. %s\n", i+1, s.Words)
		if len(s.Knobs) > 0 {
			fmt.Fprintf(&b, "   %s\n", placed(s.Knobs))
		}
		if len(s.Also) > 0 {
			fmt.Fprintf(&b, "   %s\n", strings.Join(s.Also, ", "))
		}
		if i < len(checks) {
			fmt.Fprintf(&b, "   %s\n", checks[i].Words)
		}
	}
	for _, c := range found.Checks {
		met := "met"
		if !c.Met {
			met = "not met"
		}
		fmt.Fprintf(&b, "%s: %s\n", met, c.Words)
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func dialledCommand() *cobra.Command {
	var at rigFlags
	var back, amp, out string
	var keep plan.Dialled
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "dialled FILE", Short: "Where knobs stood when it sounded good: keep it, compare it, bring it back", Args: cobra.ExactArgs(1),
		Long: `Without further flags it says what was kept on a rig, and which knobs stand elsewhere now. --keep keeps where they stand
now under a name; --back sets them where they stood; --start sets an amp where those of its family stood on average.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			var next plan.Rig
			switch {
			case keep.Name != "":
				keep.ID = plan.ID(fmt.Sprintf("dialled-%d", len(r.Dialled)+1))
				for slices.ContainsFunc(r.Dialled, func(x plan.Dialled) bool { return x.ID == keep.ID }) {
					keep.ID += "-1"
				}
				found, err := dial.FoundOn(p, r.ID, d.ID)
				if err != nil {
					return err
				}
				keep.Values = found.Now
				next = r
				next.Dialled = append(slices.Clone(r.Dialled), keep)
			case back != "":
				i := slices.IndexFunc(r.Dialled, func(x plan.Dialled) bool {
					return string(x.ID) == back || strings.EqualFold(x.Name, back)
				})
				if i < 0 {
					return reason.Errorf("nothing was kept as %q on %s", back, r.Name)
				}
				if next, err = dial.Back(p, r.ID, d.ID, r.Dialled[i].ID); err != nil {
					return err
				}
			case amp != "":
				g, err := pick(p.Gear, "start", amp)
				if err != nil {
					return err
				}
				if next, err = dial.Start(p, r.ID, d.ID, g.ID); err != nil {
					return err
				}
			default:
				found, err := dial.FoundOn(p, r.ID, d.ID)
				if err != nil {
					return err
				}
				return asJSON.print(cmd, found, func(w io.Writer) error { return printFound(w, found) })
			}
			p.Put(next)
			return writePlan(cmd, p, out)
		},
	}
	at.register(c)
	c.Flags().StringVar(&keep.Name, "keep", "", "keep where the knobs stand now under this name")
	c.Flags().StringVar(&keep.Date, "date", "", "with --keep: the day, year-month-day")
	c.Flags().StringVar(&keep.Place, "place", "", "with --keep: the room it was good in")
	c.Flags().StringVar(&keep.Volume, "volume", "", "with --keep: how loud it was played")
	c.Flags().StringVar(&keep.Notes, "notes", "", "with --keep: what else to know")
	c.Flags().StringVar(&back, "back", "", "name or id of what was kept: set the knobs where they stood")
	c.Flags().StringVar(&amp, "start", "", "an amp: set its knobs where those of its family stood on average")
	c.Flags().StringVarP(&out, "out", "o", "", "write the plan to this file; to standard output when absent")
	asJSON.register(c, "print it as JSON")
	c.MarkFlagsMutuallyExclusive("keep", "back", "start")
	return c
}

func printFound(w io.Writer, found *dial.Found) error {
	var b strings.Builder
	for _, s := range found.Sets {
		fmt.Fprintf(&b, "%s: %d stand elsewhere now, %d the same", s.Name, len(s.Moved), s.Same)
		if s.Gone > 0 {
			fmt.Fprintf(&b, ", %d gone", s.Gone)
		}
		fmt.Fprintln(&b)
		for _, m := range s.Moved {
			fmt.Fprintf(&b, "    %s: %g then, %g now\n", m.Name, m.Then, m.Now)
		}
	}
	if len(found.Sets) == 0 {
		fmt.Fprintln(&b, "Nothing was kept yet: see --keep.")
	}
	for _, a := range found.Amps {
		fmt.Fprintf(&b, "%s, from %d kept:\n", a.Name, a.Sets)
		for _, k := range a.Knobs {
			fmt.Fprintf(&b, "    %s: %g, from %g to %g\n", k.Name, k.Mean, k.Low, k.High)
		}
	}
	_, err := io.WriteString(w, b.String())
	return err
}
