package main

import (
	"bytes"
	"fmt"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"envex/api"
	"envex/core/exchange"
	"envex/core/plan"
	"envex/core/reason"
	"envex/disk"
)

func importCommand() *cobra.Command {
	var db, resolve string
	var dry, template bool
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "import FILE", Short: "Take a file into a database, whole or not at all", Args: cobra.MaximumNArgs(1),
		Long: "Takes in an Envex file, a set list as CSV (.csv), or songs as a Standard MIDI File (.mid) or as ChordPro (.cho). With\n--dry-run it says what it understood and what it would bring, and changes nothing. With --template it prints a set\nlist as CSV to be filled in. Its columns:\n\n" + columnList(),
		RunE: func(cmd *cobra.Command, args []string) error {
			if template {
				_, err := cmd.OutOrStdout().Write(exchange.Template())
				return err
			}
			if len(args) == 0 {
				return reason.Errorf("say which FILE to import")
			}
			switch plan.Resolution(resolve) {
			case "", plan.Replace, plan.Copy, plan.KeepOwn:
			default:
				return reason.Errorf("--on-conflict is replace, copy or keep, not %q", resolve)
			}
			b, err := openBook(cmd.Context(), db)
			if err != nil {
				return err
			}
			defer b.Close()
			file, err := readSongs(cmd, b, args[0], !bool(asJSON))
			if err != nil {
				return err
			}
			result, err := b.Import(cmd.Context(), file, "Import "+args[0], plan.Resolution(resolve), dry)
			if err != nil {
				return err
			}
			if asJSON {
				return printJSON(cmd, result)
			}
			if len(result.Conflicts) > 0 {
				for _, k := range result.Conflicts {
					fmt.Fprintf(cmd.ErrOrStderr(), "%s %q is there already with other content\n", k.Kind, k.Mine)
				}
				return reason.Errorf("nothing was changed: say --on-conflict replace, copy or keep")
			}
			_, err = fmt.Fprintf(
				cmd.OutOrStdout(), "%d added, %d replaced, %d as they were\n", len(result.Added), len(result.Replaced), result.Same,
			)
			return err
		},
	}
	c.Flags().StringVar(&db, "db", "envex.db", "database file")
	c.Flags().StringVar(&resolve, "on-conflict", "", "replace, copy or keep what is there with other content")
	c.Flags().BoolVar(&template, "template", false, "print a set list as CSV to be filled in, and do nothing")
	c.Flags().BoolVar(&dry, "dry-run", false, "say what would be done and do nothing")
	asJSON.register(c, "print the result as JSON")
	return c
}

// columnList says what the columns of a set list may hold.
func columnList() string {
	var b strings.Builder
	for _, c := range exchange.Columns() {
		fmt.Fprintf(&b, "  %-9s %s\n", c.Name, c.Holds)
	}
	return b.String()
}

// readSongs reads an Envex file, or by its ending a file of another program, and says what it understood
// of that.
func readSongs(cmd *cobra.Command, b book, name string, say bool) (*plan.Plan, error) {
	if !api.Reads(name) {
		return readPlan(cmd, name)
	}
	data, err := readFile(cmd, name, exchange.MaxBytes)
	if err != nil {
		return nil, err
	}
	p, err := b.Plan()
	if err != nil {
		return nil, err
	}
	u, err := api.Read(p, newID, filepath.Base(name), data)
	if err != nil {
		return nil, reason.Errorf("%s: %w", name, err)
	}
	if say {
		w := cmd.OutOrStdout()
		for _, s := range u.Draft.Songs {
			fmt.Fprintf(
				w, "%s, %g bpm, %d/%d, %d sections\n", s.Title, s.Tempo.BPM, s.Meter.Beats, s.Meter.Unit, len(s.Sections),
			)
		}
		for _, text := range append(u.Draft.Left, u.Said...) {
			fmt.Fprintln(w, text)
		}
	}
	return plan.Decode([]byte(u.File))
}

func exportCommand() *cobra.Command {
	var db, rig, show, out, format, set, song string
	c := &cobra.Command{
		Use: "export", Short: "Write a database, or one rig or show with all it needs, to a file", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			b, err := existingBook(cmd.Context(), db)
			if err != nil {
				return err
			}
			defer b.Close()
			p, err := b.Plan()
			if err != nil {
				return err
			}
			data, err := exported(cmd, p, format, rig, show, set, song)
			if err != nil {
				return err
			}
			if out == "" || out == "-" {
				_, err = cmd.OutOrStdout().Write(data)
				return err
			}
			return disk.Write(out, data, 0o644)
		},
	}
	c.Flags().StringVar(&db, "db", "envex.db", "database file")
	c.Flags().StringVar(
		&format, "format", "json", "json, csv (a set list) or smf (a set or a song as a Standard MIDI File)",
	)
	c.Flags().StringVar(&rig, "rig", "", "only this rig; for smf the rig whose programs are sent")
	c.Flags().StringVar(&show, "show", "", "only this show")
	c.Flags().StringVar(&set, "setlist", "", "for csv and smf: the set list")
	c.Flags().StringVar(&song, "song", "", "for smf: one song alone")
	c.Flags().StringVarP(&out, "out", "o", "", "file to write; standard output when absent")
	return c
}

// exported is what goes into the file.
func exported(cmd *cobra.Command, p *plan.Plan, format, rig, show, set, song string) ([]byte, error) {
	if format == "json" {
		chosen, err := bundled(p, rig, show)
		if err != nil {
			return nil, err
		}
		return plan.Encode(chosen)
	}
	l, err := pick(p.SetLists, "setlist", set)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	switch format {
	case "csv":
		err = exchange.WriteCSV(&out, p, l.ID)
		return out.Bytes(), err
	case "smf":
	default:
		return nil, reason.Errorf("--format is json, csv or smf, not %q", format)
	}
	var on, one plan.ID
	if rig != "" {
		r, err := pick(p.Rigs, "rig", rig)
		if err != nil {
			return nil, err
		}
		on = r.ID
	}
	if song != "" {
		s, err := pick(p.Songs, "song", song)
		if err != nil {
			return nil, err
		}
		one = s.ID
	}
	left, err := exchange.WriteSMF(&out, p, on, l.ID, one)
	for _, text := range left {
		fmt.Fprintln(cmd.ErrOrStderr(), text)
	}
	return out.Bytes(), err
}

func bundled(p *plan.Plan, rig, show string) (*plan.Plan, error) {
	switch {
	case rig != "":
		r, err := pick(p.Rigs, "rig", rig)
		if err != nil {
			return nil, err
		}
		return p.Bundle(r.ID)
	case show != "":
		s, err := pick(p.Shows, "show", show)
		if err != nil {
			return nil, err
		}
		return p.Bundle(s.ID)
	}
	return p, nil
}
