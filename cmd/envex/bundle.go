package main

import (
	"fmt"
	"os"
	"time"

	"github.com/spf13/cobra"

	"envex/api"
	"envex/core/plan"
	"envex/store"
)

func importCommand() *cobra.Command {
	var db, resolve string
	var dry, asJSON bool
	c := &cobra.Command{
		Use: "import FILE", Short: "Take a file into a database, whole or not at all", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			file, err := readPlan(cmd, args[0])
			if err != nil {
				return err
			}
			switch plan.Resolution(resolve) {
			case "", plan.Replace, plan.Copy, plan.KeepOwn:
			default:
				return fmt.Errorf("--on-conflict is replace, copy or keep, not %q", resolve)
			}
			st, err := store.Open(cmd.Context(), db, time.Now)
			if err != nil {
				return err
			}
			defer st.Close()
			result, err := api.Import(cmd.Context(), st, newID, file, "Import "+args[0], plan.Resolution(resolve), dry)
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
				return fmt.Errorf("nothing was changed: say --on-conflict replace, copy or keep")
			}
			_, err = fmt.Fprintf(cmd.OutOrStdout(), "%d added, %d replaced, %d as they were\n", len(result.Added), len(result.Replaced), result.Same)
			return err
		},
	}
	c.Flags().StringVar(&db, "db", "envex.db", "database file")
	c.Flags().StringVar(&resolve, "on-conflict", "", "replace, copy or keep what is there with other content")
	c.Flags().BoolVar(&dry, "dry-run", false, "say what would be done and do nothing")
	c.Flags().BoolVar(&asJSON, "json", false, "print the result as JSON")
	return c
}

func exportCommand() *cobra.Command {
	var db, rig, show, out string
	c := &cobra.Command{
		Use: "export", Short: "Write a database, or one rig or show with all it needs, to a file", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if _, err := os.Stat(db); err != nil {
				return err
			}
			st, err := store.Open(cmd.Context(), db, time.Now)
			if err != nil {
				return err
			}
			defer st.Close()
			p, _ := st.Plan()
			if p, err = choose(p, rig, show); err != nil {
				return err
			}
			data, err := plan.Encode(p)
			if err != nil {
				return err
			}
			if out == "" || out == "-" {
				_, err = cmd.OutOrStdout().Write(data)
				return err
			}
			return os.WriteFile(out, data, 0o644)
		},
	}
	c.Flags().StringVar(&db, "db", "envex.db", "database file")
	c.Flags().StringVar(&rig, "rig", "", "only this rig")
	c.Flags().StringVar(&show, "show", "", "only this show")
	c.Flags().StringVarP(&out, "out", "o", "", "file to write; standard output when absent")
	return c
}

func choose(p *plan.Plan, rig, show string) (*plan.Plan, error) {
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
