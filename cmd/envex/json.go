package main

import (
	"encoding/json"
	"io"

	"github.com/spf13/cobra"
)

// jsonFlag is whether a command is asked for JSON in place of words.
type jsonFlag bool

func (f *jsonFlag) register(c *cobra.Command, usage string) {
	c.Flags().BoolVar((*bool)(f), "json", false, usage)
}

// print prints an answer as JSON, or in words.
func (f jsonFlag) print(cmd *cobra.Command, answer any, words func(io.Writer) error) error {
	if f {
		return printJSON(cmd, answer)
	}
	return words(cmd.OutOrStdout())
}

func printJSON(cmd *cobra.Command, x any) error {
	enc := json.NewEncoder(cmd.OutOrStdout())
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	return enc.Encode(x)
}

// inWords writes what is already in words.
func inWords(text string) func(io.Writer) error {
	return func(w io.Writer) error {
		_, err := io.WriteString(w, text)
		return err
	}
}
