package main

import (
	"fmt"
	"io"
	"math"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
)

// kept is what one command has metered: it asks more than once, and mostly of the same chains.
var kept = signal.NewKept()

func signalCommand() *cobra.Command {
	var at rigFlags
	var sound, out, di string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "signal FILE", Short: "How loud, dirty, squashed and noisy each sound is, and what it sounds like",
		Args: cobra.ExactArgs(1),
		Long: "Renders the sounds of a rig and meters them against their targets. With --sound and -o it writes the sound as a\nWAV file. The figures are of models of kinds of circuit.\nCaution: loudness harms hearing; begin low.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.there(cmd, args[0])
			if err != nil {
				return err
			}
			dry, err := readDry(cmd, di)
			if err != nil {
				return err
			}
			if out != "" && sound == "" {
				return reason.Errorf("say which sound to write: --sound NAME")
			}
			o := signal.Options{Dry: dry, Kept: kept}
			var one plan.Sound
			if sound != "" {
				if one, err = pick(p.Sounds, "sound", sound); err != nil {
					return err
				}
				o.Only = []plan.ID{one.ID}
			}
			report, err := signal.Measure(cmd.Context(), p, r.ID, o)
			if err != nil {
				return err
			}
			if sound != "" && len(report.Sounds) == 0 {
				return reason.Errorf("%s has no recipe for %s", r.Name, one.Name)
			}
			if out != "" {
				if err := writeSound(cmd, p, r.ID, one, out, dry); err != nil {
					return err
				}
			}
			return asJSON.print(cmd, report, func(w io.Writer) error { return printSounds(w, at.title(r, d), report) })
		},
	}
	at.register(c)
	at.registerSong(c)
	c.Flags().StringVar(&sound, "sound", "", "name or id of one sound; all when absent")
	c.Flags().StringVarP(&out, "output", "o", "", "write the sound as a WAV file of 48 kHz")
	c.Flags().StringVar(&di, "di", "", "a dry recording to play instead of the test phrase")
	asJSON.register(c, "print the figures as JSON")
	return c
}

func printSounds(w io.Writer, rig string, r *signal.Report) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s, modelled\n", rig)
	for _, s := range r.Sounds {
		f := s.Figures
		fmt.Fprintf(
			&b,
			"%s: %+.1f LU over home, dirt %.0f %% (%.0f soft, %.0f hard), squash %.2f, %.0f dB over hiss, peak %.1f dBFS\n",
			s.Name,
			plan.Tenth(s.OverHome),
			f.Dirt,
			f.Soft,
			f.Hard,
			f.Squash,
			f.Noise,
			f.Peak,
		)
		for _, c := range s.Checks {
			if !c.Met {
				fmt.Fprintf(&b, "  %s: %s\n", c.What, c.Words)
			}
		}
	}
	for _, a := range r.Assumed {
		fmt.Fprintln(&b, a)
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func gainMapCommand() *cobra.Command {
	var at rigFlags
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "gainmap FILE", Short: "Every combination of the gain stages, by loudness and dirt", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.there(cmd, args[0])
			if err != nil {
				return err
			}
			m, err := signal.MapGain(cmd.Context(), p, r.ID, signal.Options{Kept: kept})
			if err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, m)
			}
			var b strings.Builder
			fmt.Fprintf(
				&b,
				"%s, modelled: %d combinations, %d you could tell apart\n",
				at.title(r, d),
				len(m.Points),
				len(m.Distinct),
			)
			for _, x := range m.Points {
				fmt.Fprintf(
					&b,
					"  %-8s %+5.1f LU over home  %3.0f %% dirt  squash %.2f  %s\n",
					x.Name,
					plan.Tenth(x.OverHome),
					x.Dirt,
					x.Squash,
					x.Guitar,
				)
			}
			for _, f := range m.Findings {
				fmt.Fprintf(&b, "%s: %s\n", f.Title, f.Words)
			}
			_, err = io.WriteString(cmd.OutOrStdout(), b.String())
			return err
		},
	}
	at.register(c)
	at.registerSong(c)
	asJSON.register(c, "print the map as JSON")
	return c
}

func boostCommand() *cobra.Command {
	var at rigFlags
	var block string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "boost FILE", Short: "What a boost does at every place of the chain", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.there(cmd, args[0])
			if err != nil {
				return err
			}
			key, err := pickStop(p, r.ID, block)
			if err != nil {
				return err
			}
			found, err := signal.PlaceBoost(cmd.Context(), p, r.ID, key, signal.Options{Kept: kept})
			if err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, found)
			}
			var b strings.Builder
			fmt.Fprintf(&b, "%s on %s, modelled\n", found.Name, at.title(r, d))
			for i, x := range found.Places {
				mark := " "
				if x.Here {
					mark = "*"
				}
				fmt.Fprintf(&b, "%s %s\n", mark, x.Words)
				for _, y := range x.Does {
					fmt.Fprintf(
						&b,
						"      %s: %+.1f LU, %+.0f points of dirt, squash %+.2f; then %+.1f LU over home, %.0f %%\n",
						y.Name,
						plan.Tenth(y.Louder),
						math.Round(y.Dirtier)+0,
						y.Squashed,
						plan.Tenth(y.OverHome),
						y.Dirt,
					)
				}
				if x.SameA != nil {
					fmt.Fprintf(
						&b,
						"      the same as %s: only what is linear lies between\n",
						found.Places[*x.SameA].Words,
					)
				}
				if i == found.Louder {
					fmt.Fprintln(&b, "      best for louder")
				}
				if i == found.Thicker {
					fmt.Fprintln(&b, "      best for thicker")
				}
			}
			_, err = io.WriteString(cmd.OutOrStdout(), b.String())
			return err
		},
	}
	at.register(c)
	at.registerSong(c)
	c.Flags().StringVar(&block, "block", "", "name or key of the stop")
	asJSON.register(c, "print the places as JSON")
	return c
}

// pickStop finds a stop of a rig by its key or by what it is called.
func pickStop(p *plan.Plan, rig plan.ID, name string) (plan.Key, error) {
	r, _ := p.FindRig(rig)
	var names []string
	for _, key := range r.Stops() {
		g, ok := p.FindGear(key.Gear())
		if !ok {
			continue
		}
		b, ok := g.FindBlock(plan.ID(key.Rest()))
		if !ok {
			continue
		}
		if string(key) == name || strings.EqualFold(g.StopName(b), name) {
			return key, nil
		}
		names = append(names, g.StopName(b))
	}
	return "", reason.Errorf("there is no stop %q; there are %s", name, strings.Join(names, ", "))
}

func levelsCommand() *cobra.Command {
	var at showFlags
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "levels FILE", Short: "The sounds of a set in order of loudness, and how its levels step",
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, l, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			there, err := p.At(r.ID, d.ID)
			if err != nil {
				return err
			}
			found, err := signal.Level(cmd.Context(), there, r.ID, l.ID, signal.Options{Kept: kept})
			if err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, found)
			}
			var b strings.Builder
			fmt.Fprintf(&b, "%s, modelled: %.1f dB of headroom\n", at.title(r, d), found.Headroom)
			for _, x := range found.Rungs {
				fmt.Fprintf(&b, "  %+5.1f LU  %s\n", plan.Tenth(x.OverHome), x.Title())
			}
			for _, x := range found.Steps {
				fmt.Fprintf(&b, "%s, %s: %+.1f LU\n", x.Song, x.Section, x.Jump)
			}
			for _, f := range found.Findings {
				fmt.Fprintf(&b, "%s: %s\n", f.Title, f.Words)
			}
			_, err = io.WriteString(cmd.OutOrStdout(), b.String())
			return err
		},
	}
	at.register(c)
	asJSON.register(c, "print the ladder as JSON")
	return c
}

func balanceCommand() *cobra.Command {
	var at showFlags
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "balance FILE", Short: "Findings about the levels and the dirt of a set", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, l, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			there, err := p.At(r.ID, d.ID)
			if err != nil {
				return err
			}
			o := signal.Options{Kept: kept}
			gains, err := signal.MapGain(cmd.Context(), there, r.ID, o)
			if err != nil {
				return err
			}
			ladder, err := signal.Level(cmd.Context(), there, r.ID, l.ID, o)
			if err != nil {
				return err
			}
			found := signal.BalanceOf(gains, ladder)
			if asJSON {
				return printJSON(cmd, found)
			}
			var b strings.Builder
			fmt.Fprintf(&b, "%s, modelled\n", at.title(r, d))
			if found.Words != "" {
				fmt.Fprintln(&b, found.Words)
			}
			for _, f := range found.Findings {
				fmt.Fprintf(&b, "%s: %s\n", f.Title, f.Words)
			}
			_, err = io.WriteString(cmd.OutOrStdout(), b.String())
			return err
		},
	}
	at.register(c)
	asJSON.register(c, "print the findings as JSON")
	return c
}

func tuneCommand() *cobra.Command {
	var at rigFlags
	var sound string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "tune FILE", Short: "The fewest knob moves that bring a sound into its targets", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			s, err := pick(p.Sounds, "sound", sound)
			if err != nil {
				return err
			}
			o := signal.Options{Kept: kept}
			found, err := signal.Tune(cmd.Context(), p, r.ID, d.ID, s.ID, o)
			if err != nil {
				return err
			}
			boost := &signal.BoostMove{}
			if !found.Met {
				if boost, err = signal.MoveBoost(cmd.Context(), p, r.ID, d.ID, s.ID, o); err != nil {
					return err
				}
			}
			if asJSON {
				return printJSON(cmd, struct {
					*signal.Tuning
					Boost *signal.BoostMove `json:"boost"`
				}{found, boost})
			}
			var b strings.Builder
			fmt.Fprintf(
				&b,
				"%s, modelled: %+.1f LU over home, %.0f %% dirt\n",
				found.Name,
				plan.Tenth(found.OverHome),
				found.Dirt,
			)
			if found.Words != "" {
				fmt.Fprintln(&b, found.Words)
			}
			if boost.Found {
				fmt.Fprintf(&b, "  %s brings it there\n", boost.Words)
			}
			for _, x := range found.Repairs {
				fmt.Fprintf(&b, "  %s: then %+.1f LU, %.0f %%\n", x.Words, plan.Tenth(x.OverHome), x.Dirt)
				if len(x.Breaks) > 0 {
					fmt.Fprintf(&b, "      takes %s out of theirs\n", strings.Join(x.Breaks, ", "))
				}
			}
			_, err = io.WriteString(cmd.OutOrStdout(), b.String())
			return err
		},
	}
	at.register(c)
	c.Flags().StringVar(&sound, "sound", "", "name or id of the sound")
	asJSON.register(c, "print the answer as JSON")
	return c
}

func meterCommand() *cobra.Command {
	var asJSON jsonFlag
	var off string
	c := &cobra.Command{
		Use: "meter FILE.wav", Short: "Loudness and peak of a WAV file, or how much louder it is than another",
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			channels, m, err := readWAV(cmd, args[0])
			if err != nil {
				return err
			}
			if off != "" {
				return meterPair(cmd, channels, off, asJSON)
			}
			if asJSON {
				return printJSON(cmd, m)
			}
			loud := "too soft to be gated"
			if m.LUFS != nil {
				loud = fmt.Sprintf("%.1f LUFS", *m.LUFS)
			}
			_, err = fmt.Fprintf(
				cmd.OutOrStdout(),
				"%s, peak %.1f dBFS, true peak %.1f dBTP, %.1f s\n",
				loud,
				m.PeakDBFS,
				m.TruePeak,
				m.Seconds,
			)
			return err
		},
	}
	c.Flags().StringVar(&off, "off", "", "the same playing with a block off: says how much louder on is than off")
	asJSON.register(c, "print the figures as JSON")
	return c
}

func meterPair(cmd *cobra.Command, on [][]float64, file string, asJSON jsonFlag) error {
	other, _, err := readWAV(cmd, file)
	if err != nil {
		return err
	}
	db := signal.OnOverOff(on[0], other[0])
	if math.IsNaN(db) {
		return reason.Errorf("the two files never play at the same time")
	}
	if asJSON {
		return printJSON(cmd, map[string]float64{"on_over_off_db": db})
	}
	_, err = fmt.Fprintf(cmd.OutOrStdout(), "on is %+.1f dB over off\n", db)
	return err
}
