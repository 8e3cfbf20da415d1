package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"envex/core/estimate"
	"envex/core/plan"
	"envex/core/reason"
	"envex/core/shorthand"
)

func estimateCommand() *cobra.Command {
	var home, file, name, out string
	var bpm float64
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "estimate RECORDING", Short: "What a recording of a sound shows, as the targets of a sound",
		Args: cobra.ExactArgs(1),
		Long: `Says of a WAV recording of one sound how it spreads over the third octaves, how dirty it is, its repeats and its tail, each
with how far off it may be; with --home how loud it is over a recording of home, made the same way. Chords that ring, then a
chord that is stopped by hand and left to ring out, show most. With --plan, --name and -o the plan is written with a sound
of those targets in it, for which envex propose looks for recipes.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			x, _, err := readWAV(cmd, args[0])
			if err != nil {
				return err
			}
			var h [][]float64
			if home != "" {
				if h, _, err = readWAV(cmd, home); err != nil {
					return err
				}
			}
			if bpm < 0 || bpm > 400 {
				return reason.Errorf("%g beats a minute: 0 to 400", bpm)
			}
			found, err := estimate.Of(x, h)
			if err != nil {
				return fmt.Errorf("%s: %w", args[0], err)
			}
			if out != "" {
				p, err := readPlan(cmd, file)
				if err != nil {
					return err
				}
				s := shorthand.SoundOf(name, p.Sounds)
				s.ID, s.Targets = newID(), found.Targets(plan.Tempo{BPM: bpm})
				p.Put(s)
				if err := writePlan(cmd, p, out); err != nil {
					return err
				}
			}
			if asJSON {
				return printJSON(cmd, found)
			}
			for _, line := range found.Said() {
				if _, err := fmt.Fprintln(cmd.OutOrStdout(), line); err != nil {
					return err
				}
			}
			return nil
		},
	}
	c.Flags().StringVar(&home, "home", "", "a recording of home, made the same way")
	c.Flags().Float64Var(&bpm, "bpm", 0, "the tempo it was played at: repeats are written as a note")
	c.Flags().StringVar(&file, "plan", "", "the plan that the sound is put into")
	c.Flags().StringVar(&name, "name", "", "what the sound is called")
	c.Flags().StringVarP(&out, "out", "o", "", "write the plan with the sound")
	asJSON.register(c, "print it as JSON")
	c.MarkFlagsRequiredTogether("plan", "name", "out")
	return c
}
