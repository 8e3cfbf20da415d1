// Command envex plans a guitarist's live rig. It serves the application, and prints every
// calculation for a file.
package main

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"

	"envex/core/plan"
	"envex/core/reason"
)

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM, syscall.SIGHUP)
	defer stop()
	if err := root().ExecuteContext(ctx); err != nil {
		report(err)
		os.Exit(2)
	}
}

// report writes an error for people: each problem of a file on a line of its own.
func report(err error) {
	var problems plan.Problems
	if errors.As(err, &problems) {
		for _, p := range problems {
			fmt.Fprintln(os.Stderr, p)
		}
		return
	}
	fmt.Fprintln(os.Stderr, "envex:", wordsOf(err))
}

// wordsOf is an error as a person reads it: its reason, or what a file would not do; all of it where it has neither.
func wordsOf(err error) string {
	if words, ok := reason.Of(err); ok {
		return words
	}
	var file *fs.PathError
	if errors.As(err, &file) {
		return file.Error()
	}
	return err.Error()
}

func root() *cobra.Command {
	c := &cobra.Command{
		Use:   "envex",
		Short: "Plan a live rig so that every sound is reachable on stage, in time, at the right level",
		Long: `Plan a live rig so that every sound is reachable on stage, in time, at the right level.

Without a command, Envex opens your own plan, kept in your data folder, and your browser. Started again, it shows the one
that is running.`,
		Args:          cobra.NoArgs,
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	quiet := c.Flags().Bool("no-browser", false, "do not open the browser")
	c.RunE = func(cmd *cobra.Command, _ []string) error { return openOwn(cmd, !*quiet) }
	c.AddCommand(
		versionCommand(),
		licencesCommand(),
		serveCommand(),
		demoCommand(),
		newCommand(),
		examplesCommand(),
		proposeCommand(),
		chooseCommand(),
		standInCommand(),
		swapCommand(),
		besideCommand(),
		askCommand(),
		hiredCommand(),
		guitarsCommand(),
		mixCommand(),
		partCommand(), estimateCommand(),
		knobsCommand(),
		dialCommand(),
		dialledCommand(),
		checkCommand(),
		reachCommand(),
		orderCommand(),
		switchCommand(),
		repairsCommand(),
		compareCommand(),
		whatIfCommand(),
		midiCommand(),
		signalCommand(),
		gainMapCommand(),
		boostCommand(),
		levelsCommand(),
		balanceCommand(),
		tuneCommand(),
		meterCommand(),
		electricCommand(),
		powerCommand(),
		floorCommand(),
		boardsCommand(),
		tempoCommand(),
		sectionsCommand(),
		presetsCommand(),
		rehearseCommand(),
		fitCommand(),
		layersCommand(),
		nightCommand(),
		setOrderCommand(),
		soundcheckCommand(),
		editCommand(),
		sheetCommand(),
		pageCommand(),
		logCommand(),
		keepCommand(),
		differencesCommand(),
		cablesCommand(),
		kindsCommand(),
		importCommand(),
		exportCommand(),
		backupCommand(),
		restoreCommand(),
		doctorCommand(),
		networkCommand(),
		schemaCommand(),
		openAPICommand(),
	)
	return c
}
