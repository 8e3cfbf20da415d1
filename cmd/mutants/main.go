// Command mutants plants mistakes of one line, one at a time, and has the tests of the package they are in look for
// them. It prints how many die, and those that live. The sources are not touched.
//
//	mutants [-n 20] [-seed 20270612] [-least 0] ./core/reach ./core/path
//
// Each mistake costs the time that the package's tests take.
package main

import (
	"context"
	"flag"
	"fmt"
	"io"
	"os"
	"os/signal"
	"time"
)

func main() {
	n := flag.Int("n", 20, "how many mistakes to plant in each package")
	seed := flag.Uint64("seed", today(), "which of all mistakes there could be; another seed plants others")
	least := flag.Float64("least", 0, "fail where fewer than this share of all die, 0 to 1")
	patience := flag.Duration("timeout", 5*time.Minute, "how long tests may take; longer counts as found")
	flag.Parse()
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt)
	defer stop()
	h := hunt{n: *n, seed: *seed, patience: *patience, test: goTest}
	if err := h.all(ctx, flag.Args(), *least, os.Stdout); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

// today is the date as a number: what is planted changes from day to day, and can be planted again.
func today() uint64 {
	t := time.Now()
	return uint64(t.Year()*10000 + int(t.Month())*100 + t.Day())
}

// all hunts in every package. It fails when fewer than the least share of all mistakes die.
func (h *hunt) all(ctx context.Context, packages []string, least float64, out io.Writer) error {
	if len(packages) == 0 {
		return fmt.Errorf("name the packages to plant mistakes in, such as ./core/reach")
	}
	died, planted := 0, 0
	fmt.Fprintf(out, "seed %d\n", h.seed)
	for _, p := range packages {
		found, err := h.in(ctx, p)
		if err != nil {
			return err
		}
		for _, m := range found {
			planted++
			if m.died {
				died++
			}
		}
		report(out, p, found)
	}
	if share := float64(died) / float64(max(1, planted)); share < least {
		return fmt.Errorf("%d of %d mistakes were found: fewer than %.0f of 100", died, planted, 100*least)
	}
	return nil
}

func report(out io.Writer, name string, found []mutant) {
	died := 0
	for _, m := range found {
		if m.died {
			died++
		}
	}
	fmt.Fprintf(out, "%s: %d of %d died\n", name, died, len(found))
	for _, m := range found {
		if !m.died {
			fmt.Fprintf(out, "  lives: %s: %s for %s\n", m.at, m.new, m.old)
		}
	}
}
