package main

import (
	"context"
	"encoding/json"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/paper"
	"envex/core/plan"
	"envex/core/reason"
	"envex/disk"
	"envex/page"
)

// readShow reads a file and finds a show in it, by its name or id.
func readShow(cmd *cobra.Command, file, name string) (*plan.Plan, plan.Show, error) {
	p, err := readPlan(cmd, file)
	if err != nil {
		return nil, plan.Show{}, err
	}
	s, err := pick(p.Shows, "show", name)
	return p, s, err
}

// readShowOn is readShow as one of the rigs of the show plays it, by name or id; its own where that is "".
func readShowOn(cmd *cobra.Command, file, name, rig string) (*plan.Plan, plan.Show, error) {
	p, s, err := readShow(cmd, file, name)
	if err != nil || rig == "" {
		return p, s, err
	}
	r, err := pick(p.Rigs, "rig", rig)
	if err != nil {
		return nil, s, err
	}
	p, err = p.ShowOn(s.ID, r.ID)
	return p, s, err
}

// sheetFormats are how a sheet is written.
var sheetFormats = []string{"csv", "html", "json", "md", "svg"}

func sheetCommand() *cobra.Command {
	var show, rig, kind, format, size string
	c := &cobra.Command{
		Use: "sheet FILE", Short: "A sheet of a show, as it goes to the gig", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, s, err := readShowOn(cmd, args[0], show, rig)
			if err != nil {
				return err
			}
			kinds := []paper.Kind{paper.Kind(kind)}
			if kind == "all" {
				if format != "html" {
					return reason.Errorf("all sheets in one file are written as html alone")
				}
				kinds = paper.Kinds()
			}
			var data []byte
			switch format {
			case "html":
				data, err = page.Sheets(cmd.Context(), p, s.ID, kinds, page.Size(size), kept)
			case "svg":
				data, err = page.Drawing(p, s.ID, kinds[0])
			case "csv", "json", "md":
				data, err = written(cmd.Context(), p, s.ID, kinds[0], format)
			default:
				err = reason.Errorf("there is no format %q; there are %s", format, plan.Listed(sheetFormats))
			}
			if err != nil {
				return err
			}
			_, err = cmd.OutOrStdout().Write(data)
			return err
		},
	}
	c.Flags().StringVar(&show, "show", "", "name or id of the show")
	c.Flags().StringVar(&rig, "rig", "", "name or id of another rig at the show than its own")
	c.Flags().StringVar(&kind, "kind", string(paper.PatchList), "which sheet: "+strings.Join(kindNames(), ", ")+"; or all")
	c.Flags().StringVar(&format, "format", "md", "how it is written: "+strings.Join(sheetFormats, ", "))
	c.Flags().StringVar(&size, "paper", string(page.A4), "paper of html: a4 or letter")
	return c
}

// written is a sheet as text or data.
func written(ctx context.Context, p *plan.Plan, show plan.ID, kind paper.Kind, format string) ([]byte, error) {
	sheet, err := paper.MakeWith(ctx, p, show, kind, kept)
	if err != nil {
		return nil, err
	}
	switch format {
	case "csv":
		return paper.CSV(sheet)
	case "md":
		return paper.Markdown(sheet), nil
	}
	data, err := json.MarshalIndent(sheet, "", "  ")
	return append(data, '\n'), err
}

func pageCommand() *cobra.Command {
	var show, rig, out string
	c := &cobra.Command{
		Use: "page FILE", Short: "A show as one page for the night, which needs no network", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, s, err := readShowOn(cmd, args[0], show, rig)
			if err != nil {
				return err
			}
			data, err := page.Gig(p, s.ID)
			if err != nil {
				return err
			}
			if out == "" {
				_, err = cmd.OutOrStdout().Write(data)
				return err
			}
			return disk.Write(out, data, 0o644)
		},
	}
	c.Flags().StringVar(&show, "show", "", "name or id of the show")
	c.Flags().StringVar(&rig, "rig", "", "name or id of another rig at the show than its own")
	c.Flags().StringVarP(&out, "out", "o", "", "where it is written; printed when absent")
	return c
}

func kindNames() []string {
	var list []string
	for _, k := range paper.AllKinds() {
		list = append(list, string(k))
	}
	return list
}
