package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"envex/api"
	"envex/core/plan"
	"envex/core/reason"
	"envex/disk"
	"envex/store"
	"envex/store/doctor"
)

func backupCommand() *cobra.Command {
	var db, out string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "backup", Short: "Copy a whole database to a file, also while it is in use", Args: cobra.NoArgs,
		Long: "The copy has the plan, every version of it, what can be undone, and the rehearsals. It is opened and checked before\nit takes its name. An export has the plan alone.",
		RunE: func(cmd *cobra.Command, _ []string) error {
			if out == "" {
				return reason.Errorf("say where to with -o FILE")
			}
			b, err := existingBook(cmd.Context(), db)
			if err != nil {
				return err
			}
			defer b.Close()
			done, err := b.Backup(cmd.Context(), out)
			if err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, done)
			}
			_, err = fmt.Fprintf(cmd.OutOrStdout(), "%s: %s, %s\n", out, size(done.Bytes), contents(done.Contents))
			return err
		},
	}
	c.Flags().StringVar(&db, "db", "envex.db", "database file")
	c.Flags().StringVarP(&out, "out", "o", "", "file to write, whole or not at all")
	asJSON.register(c, "print what was copied as JSON")
	return c
}

func restoreCommand() *cobra.Command {
	var db string
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "restore COPY", Short: "Restore a plan from a copy; undo reverses it", Args: cobra.ExactArgs(1),
		Long: "COPY is a file that envex backup wrote, or one of those beside the database. A database that does not exist is made,\nwith the whole history of the copy.",
		RunE: func(cmd *cobra.Command, args []string) error {
			b, err := openBook(cmd.Context(), db)
			if err != nil {
				return err
			}
			defer b.Close()
			done, err := b.Restore(cmd.Context(), args[0])
			if err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, done)
			}
			_, err = fmt.Fprintf(
				cmd.OutOrStdout(), "%d brought back, %d removed that the copy does not have, %d rehearsals brought back\n",
				len(done.Brought), len(done.Removed), done.Rehearsals,
			)
			return err
		},
	}
	c.Flags().StringVar(&db, "db", "envex.db", "database file")
	asJSON.register(c, "print the result as JSON")
	return c
}

func doctorCommand() *cobra.Command {
	var db, out string
	var repair bool
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "doctor", Short: "Check a database, and recover what is sound into a new one",
		Args: cobra.NoArgs,
		Long: "It never edits the database it looks into. With --repair it writes the newest sound version of each thing, the older\nones, what can be undone and the rehearsals into a new file.",
		RunE: func(cmd *cobra.Command, _ []string) error {
			if repair != (out != "") {
				return reason.Errorf("say --repair -o NEW.db to have a new database written")
			}
			var report *doctor.Report
			var err error
			if repair {
				report, err = doctor.Repair(cmd.Context(), db, out, time.Now)
			} else {
				report, err = doctor.Examine(cmd.Context(), db, time.Now)
			}
			if err != nil {
				return err
			}
			if asJSON {
				err = printJSON(cmd, report)
			} else {
				_, err = io.WriteString(cmd.OutOrStdout(), diagnosis(report, out))
			}
			if err == nil && !report.Sound && !repair {
				err = reason.Errorf("%s is damaged", db)
			}
			return err
		},
	}
	c.Flags().StringVar(&db, "db", "envex.db", "database file to look into")
	c.Flags().BoolVar(&repair, "repair", false, "write what is sound into a new database")
	c.Flags().StringVarP(&out, "out", "o", "", "the new database")
	asJSON.register(c, "print the report as JSON")
	return c
}

// diagnosis is a report in words.
func diagnosis(r *doctor.Report, out string) string {
	var b strings.Builder
	if r.Sound {
		fmt.Fprintf(&b, "%s is sound: %s.\n", r.Path, contents(r.Contents))
	}
	for _, w := range r.Wrong {
		fmt.Fprintf(&b, "%s: %s.\n", r.Path, w)
	}
	for _, t := range r.Things {
		what := map[string]string{
			doctor.Older: fmt.Sprintf("version %d of %d is the newest that is sound", t.Version, t.Newest),
			doctor.Back:  fmt.Sprintf("version %d is brought back", t.Version),
			doctor.Lost:  "it is lost",
		}[t.State]
		fmt.Fprintf(&b, "%s %s: %s; %s.\n", t.Kind, t.Name, t.Why, what)
	}
	if !r.Sound {
		fmt.Fprintf(&b, "Sound: %s.\n", contents(r.Contents))
	}
	for _, k := range r.Copies {
		if k.Problem == "" {
			fmt.Fprintf(&b, "A copy of %s: %s.copies/%s.db, %s.\n", k.At, r.Path, k.Name, contents(k.Contents))
		}
	}
	switch {
	case out != "":
		fmt.Fprintf(&b, "What is sound was written to %s.\n", out)
	case !r.Sound:
		fmt.Fprintf(&b, "To have it written into a new database: envex doctor --db %s --repair -o NEW.db\n", r.Path)
	}
	return b.String()
}

func size(bytes int64) string {
	if bytes < 1<<20 {
		return fmt.Sprintf("%d kB", (bytes+1023)>>10)
	}
	return fmt.Sprintf("%.1f MB", float64(bytes)/(1<<20))
}

func contents(c store.Contents) string {
	return fmt.Sprintf(
		"%s, %s, %s", inPlan(c.Gear, c.Sounds, c.Songs, c.Bands, c.SetLists, c.Rigs, c.Shows),
		plan.Counted(c.Rehearsals, "rehearsal", "rehearsals"), plan.Counted(c.Revisions, "version", "versions"),
	)
}

// inPlan says how many of each kind a plan has.
func inPlan(gear, sounds, songs, bands, sets, rigs, shows int) string {
	return strings.Join([]string{
		plan.Counted(gear, "piece of gear", "pieces of gear"), plan.Counted(sounds, "sound", "sounds"),
		plan.Counted(songs, "song", "songs"), plan.Counted(bands, "band", "bands"),
		plan.Counted(sets, "set list", "set lists"), plan.Counted(rigs, "rig", "rigs"),
		plan.Counted(shows, "show", "shows"),
	}, ", ")
}

// Restore of a database that this program opens.
func (o *opened) Restore(ctx context.Context, file string) (api.RestoredPlan, error) {
	r, err := o.Store.Restore(ctx, file, "Bring back the copy "+filepath.Base(file), "")
	if err != nil {
		return api.RestoredPlan{}, err
	}
	return api.RestoredPlan{
		Written: api.Written{Transaction: r.Tx}, Brought: r.Brought, Removed: r.Removed, Rehearsals: r.Rehearsals,
	}, nil
}

// Backup has the other make a copy, and checks it once more before it takes its name here.
func (r *running) Backup(ctx context.Context, to string) (store.Copy, error) {
	dir, err := os.MkdirTemp(filepath.Dir(to), ".envex-copy-")
	if err != nil {
		return store.Copy{}, reason.Errorf("copy to %s: %w", to, err)
	}
	defer os.RemoveAll(dir)
	path := filepath.Join(dir, "plan.db")
	f, err := os.OpenFile(path, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return store.Copy{}, reason.Errorf("copy to %s: %w", to, err)
	}
	if err := errors.Join(r.stream(http.MethodGet, "/api/backup", nil, f), f.Close()); err != nil {
		return store.Copy{}, err
	}
	done, err := store.Inspect(ctx, path)
	if err != nil {
		return store.Copy{}, reason.Errorf("what arrived from %s is damaged: %w", r.address, err)
	}
	if err := disk.Settle(path, to); err != nil {
		return store.Copy{}, reason.Errorf("copy to %s: %w", to, err)
	}
	return done, nil
}

// Restore brings the copy to the other, and has it brought back there. What was brought for that goes again.
func (r *running) Restore(_ context.Context, file string) (api.RestoredPlan, error) {
	var out api.RestoredPlan
	f, err := os.Open(file)
	if err != nil {
		return out, err
	}
	defer f.Close()
	var kept store.Kept
	if err := r.decode(http.MethodPost, "/api/copies/file", f, &kept); err != nil {
		return out, err
	}
	err = r.decode(http.MethodPost, "/api/copies/"+kept.Name+"/restore", nil, &out)
	return out, errors.Join(err, r.stream(http.MethodDelete, "/api/copies/"+kept.Name, nil, io.Discard))
}
