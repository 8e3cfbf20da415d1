package main

import (
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"envex/api"
	"envex/core/catalog"
	"envex/core/plan"
	"envex/core/reason"
)

// readPlan reads and validates a file; "-" is standard input.
func readPlan(cmd *cobra.Command, name string) (*plan.Plan, error) {
	data, err := readFile(cmd, name, plan.MaxFileBytes)
	if err != nil {
		return nil, err
	}
	return plan.Decode(data)
}

// readFile reads a file, or standard input for "-", and one byte more than it may have, so that what
// reads it sees that it is too large.
func readFile(cmd *cobra.Command, name string, most int64) ([]byte, error) {
	var from io.Reader = cmd.InOrStdin()
	if name != "-" {
		f, err := os.Open(name)
		if err != nil {
			return nil, err
		}
		defer f.Close()
		from = f
	}
	data, err := io.ReadAll(io.LimitReader(from, most+1))
	if err != nil {
		return nil, reason.Errorf("read %s: %w", name, err)
	}
	return data, nil
}

// pick finds a thing by name or id among many. With no name it takes the only one there is.
func pick[T plan.Aggregate](list []T, what, name string) (T, error) {
	var found []T
	var names []string
	for _, x := range list {
		names = append(names, x.Label())
		if name == "" || string(x.AggregateID()) == name || strings.EqualFold(x.Label(), name) {
			found = append(found, x)
		}
	}
	var none T
	switch {
	case len(found) == 1:
		return found[0], nil
	case name == "" && len(list) > 1:
		return none, reason.Errorf("there are several: say which with --%s, one of %s", what, strings.Join(names, ", "))
	case len(found) > 1:
		return none, reason.Errorf("several are called %q: use the id", name)
	case len(list) == 0:
		return none, reason.Errorf("the file has no %s", what)
	}
	return none, reason.Errorf("there is no %s %q; there are %s", what, name, strings.Join(names, ", "))
}

// rigFlags are the flags that choose a rig and where it plugs in.
type rigFlags struct {
	rig, destination string
	picks            []string
	song, playing    string // for commands that can be asked as a song is played, and its title
}

func (f *rigFlags) register(c *cobra.Command) {
	c.Flags().StringVar(&f.rig, "rig", "", "name or id of the rig")
	c.Flags().StringVar(
		&f.destination, "destination", "", "name or id of where it plugs in; the rig as it stands when absent",
	)
	c.Flags().StringArrayVar(
		&f.picks, "pick", nil, "SLOT=BOX: the box of a swap slot that stands in the chain; can be given again",
	)
}

// read reads a file, and finds in it the rig and the destination that the flags name.
func (f *rigFlags) read(cmd *cobra.Command, file string) (*plan.Plan, plan.Rig, plan.Destination, error) {
	p, err := readPlan(cmd, file)
	if err != nil {
		return nil, plan.Rig{}, plan.Destination{}, err
	}
	r, d, err := f.pick(p)
	if err != nil {
		return p, r, d, err
	}
	p, r, err = f.picked(p, r)
	return p, r, d, err
}

// readPicks are the boxes of slots that the flags pick.
func (f *rigFlags) readPicks(p *plan.Plan, r *plan.Rig) ([]plan.Pick, error) {
	var picks []plan.Pick
	for _, text := range f.picks {
		slot, box, ok := strings.Cut(text, "=")
		if !ok {
			return nil, reason.Errorf("%q is no pick: write SLOT=BOX", text)
		}
		s, err := findSlot(r, slot)
		if err != nil {
			return nil, err
		}
		g, err := pick(p.Gear, "pick", box)
		if err != nil {
			return nil, err
		}
		picks = append(picks, plan.Pick{Swap: s.ID, Gear: g.ID})
	}
	return picks, nil
}

// picked is the plan, and the rig in it, with the boxes of slots that the flags pick.
func (f *rigFlags) picked(p *plan.Plan, r plan.Rig) (*plan.Plan, plan.Rig, error) {
	picks, err := f.readPicks(p, &r)
	if err != nil {
		return p, r, err
	}
	q, err := p.WithPicks(r.ID, picks)
	if err != nil {
		return p, r, err
	}
	now, _ := q.FindRig(r.ID)
	return q, *now, nil
}

// pick finds the rig and the destination that the flags name.
func (f *rigFlags) pick(p *plan.Plan) (plan.Rig, plan.Destination, error) {
	r, err := pick(p.Rigs, "rig", f.rig)
	if err != nil || f.destination == "" {
		return r, plan.Destination{}, err
	}
	d, err := f.destinationIn(r)
	return r, d, err
}

// destinationIn finds the destination of a rig that the flags name.
func (f *rigFlags) destinationIn(r plan.Rig) (plan.Destination, error) {
	var names []string
	for _, d := range r.Destinations {
		names = append(names, d.Name)
		if string(d.ID) == f.destination || strings.EqualFold(d.Name, f.destination) {
			return d, nil
		}
	}
	if len(names) == 0 {
		return plan.Destination{}, reason.Errorf("%s has no destinations", r.Name)
	}
	return plan.Destination{}, reason.Errorf(
		"%s has no destination %q; it has %s", r.Name, f.destination, strings.Join(names, ", "),
	)
}

// title names a rig, where it plugs in, and the song that is played.
func (f *rigFlags) title(r plan.Rig, d plan.Destination) string {
	words := r.Name
	if d.ID != "" {
		words += " at " + d.Name
	}
	if f.playing != "" {
		words += " in " + f.playing
	}
	return words
}

// there is the plan as a rig stands at its destination, and as a song is played on it there where one is named.
func (f *rigFlags) there(cmd *cobra.Command, file string) (*plan.Plan, plan.Rig, plan.Destination, error) {
	p, r, d, err := f.read(cmd, file)
	if err != nil {
		return nil, r, d, err
	}
	q, err := p.At(r.ID, d.ID)
	if err != nil || f.song == "" {
		return q, r, d, err
	}
	song, err := pick(p.Songs, "song", f.song)
	if err != nil {
		return nil, r, d, err
	}
	f.playing = song.Title
	q, err = q.PlayedIn(r.ID, song.ID)
	return q, r, d, err
}

// registerSong lets a command be asked as a song is played.
func (f *rigFlags) registerSong(c *cobra.Command) {
	c.Flags().StringVar(
		&f.song, "song", "",
		"name or id of a song: the rig as that is played, with the boxes and recipes it picks, at its tempo",
	)
}

func checkCommand() *cobra.Command {
	return &cobra.Command{
		Use: "check FILE", Short: "Validate a file and list everything wrong with it", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, err := readPlan(cmd, args[0])
			if err != nil {
				return err
			}
			_, err = fmt.Fprintf(cmd.OutOrStdout(),
				"%s is sound: %s.\n", args[0],
				inPlan(len(p.Gear), len(p.Sounds), len(p.Songs), len(p.Bands), len(p.SetLists), len(p.Rigs), len(p.Shows)))
			return err
		},
	}
}

func kindsCommand() *cobra.Command {
	var asJSON jsonFlag
	c := &cobra.Command{
		Use: "kinds", Short: "List the generic kinds of gear", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if asJSON {
				return printJSON(cmd, catalog.All())
			}
			for _, k := range catalog.All() {
				if _, err := fmt.Fprintf(cmd.OutOrStdout(), "%-24s %-30s %s\n", k.ID, k.Name, k.Description); err != nil {
					return err
				}
			}
			return printCircuits(cmd.OutOrStdout())
		},
	}
	asJSON.register(c, "print the templates as JSON")
	return c
}

// printCircuits lists what a block can be said to be, as "model" in a file.
func printCircuits(w io.Writer) error {
	all := plan.Models()
	for _, effect := range plan.SortedKeys(all) {
		if _, err := fmt.Fprintf(w, "\ncircuits of a block that is a %s:\n", effect); err != nil {
			return err
		}
		for _, m := range all[effect] {
			if _, err := fmt.Fprintf(w, "  %-14s %s: %s\n", m.ID, m.Name, m.Description); err != nil {
				return err
			}
		}
	}
	return nil
}

func schemaCommand() *cobra.Command {
	return &cobra.Command{
		Use: "schema", Short: "Print the JSON Schema of the file format", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			data, err := api.FileSchema()
			if err != nil {
				return err
			}
			_, err = cmd.OutOrStdout().Write(data)
			return err
		},
	}
}

func openAPICommand() *cobra.Command {
	return &cobra.Command{
		Use: "openapi", Short: "Print the OpenAPI document of the HTTP interface", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			data, err := api.Document()
			if err != nil {
				return err
			}
			_, err = cmd.OutOrStdout().Write(data)
			return err
		},
	}
}
