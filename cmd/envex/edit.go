package main

import (
	"encoding/json"

	"github.com/spf13/cobra"

	"envex/core/operation"
	"envex/core/plan"
	"envex/core/reason"
)

// maxOperations is the largest file of operations in bytes.
const maxOperations = plan.MaxFileBytes

func editCommand() *cobra.Command {
	var operations, out string
	c := &cobra.Command{
		Use: "edit FILE", Short: "Edit a file by operations that name what they change by id and field, whole or not at all", Args: cobra.ExactArgs(1),
		Long: `Edit a file by operations, whole or not at all. The file of operations is a list of edits:

  [{"kind": "song", "id": "ferry-lights",
    "ops": [{"do": "set", "path": [{"key": "title"}], "was": "Ferry Lights", "to": "Harbour Lights"}]}]

An edit has "ops", "add" with a whole new thing, or "remove": true. An operation sets a field, or inserts,
removes or moves an element of a list; "was" says what is expected there, and is refused where something
else is. They are the same that the HTTP interface takes at /api/operations.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, err := readPlan(cmd, args[0])
			if err != nil {
				return err
			}
			data, err := readFile(cmd, operations, maxOperations)
			if err != nil {
				return err
			}
			var edits []operation.Amendment
			if err := json.Unmarshal(data, &edits); err != nil {
				return reason.Errorf("%s is not a list of edits: %w", operations, err)
			}
			next, err := operation.Amend(p, edits)
			if err != nil {
				return err
			}
			return writePlan(cmd, next, out)
		},
	}
	c.Flags().StringVar(&operations, "operations", "", "file of operations; - for standard input")
	c.Flags().StringVarP(&out, "out", "o", "", "where the plan is written; printed when absent")
	_ = c.MarkFlagRequired("operations")
	return c
}
