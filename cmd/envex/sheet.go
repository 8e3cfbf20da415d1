package main

import (
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/paper"
)

func sheetCommand() *cobra.Command {
	var show, kind, format string
	c := &cobra.Command{
		Use: "sheet FILE", Short: "A sheet of a show, as it goes to the gig", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, err := readPlan(cmd, args[0])
			if err != nil {
				return err
			}
			s, err := pick(p.Shows, "show", show)
			if err != nil {
				return err
			}
			sheet, err := paper.Make(p, s.ID, paper.Kind(kind))
			if err != nil {
				return err
			}
			var data []byte
			switch format {
			case "json":
				return printJSON(cmd, sheet)
			case "md":
				data = paper.Markdown(sheet)
			case "csv":
				if data, err = paper.CSV(sheet); err != nil {
					return err
				}
			default:
				return fmt.Errorf("there is no format %q; there are csv, json and md", format)
			}
			_, err = cmd.OutOrStdout().Write(data)
			return err
		},
	}
	c.Flags().StringVar(&show, "show", "", "name or id of the show")
	c.Flags().StringVar(&kind, "kind", string(paper.PatchList), "which sheet: "+strings.Join(kindNames(), ", "))
	c.Flags().StringVar(&format, "format", "md", "how it is written: csv, json or md")
	return c
}

func kindNames() []string {
	var list []string
	for _, k := range paper.Kinds() {
		list = append(list, string(k))
	}
	return list
}
