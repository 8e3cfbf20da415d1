package main

import (
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/night"
	"envex/core/plan"
	"envex/core/reason"
)

// nightFlags say what happens at a show.
type nightFlags struct {
	show, rig, at, call, broke, events string
	now, breaks, review, asJSON        bool
	way                                int
}

func nightCommand() *cobra.Command {
	var f nightFlags
	c := &cobra.Command{
		Use: "night FILE", Short: "A show as it goes: what is left of it, when a song is called or something broke",
		Args: cobra.ExactArgs(1),
		Long: "Every section of a show in the order it is played, with what is pressed to come to it. --at says where it stands;\n--call has a song played next, --broke has something fail there, and --breaks lists what can fail with the ways round.\n--events adds what happened before, as a JSON list of events. The file is not changed.",
		RunE: func(cmd *cobra.Command, args []string) error {
			p, s, err := readShow(cmd, args[0], f.show)
			if err != nil {
				return err
			}
			return f.run(cmd, p, &s)
		},
	}
	c.Flags().StringVar(&f.show, "show", "", "name or id of the show")
	c.Flags().StringVar(&f.rig, "rig", "", "name or id of the rig; that of the show when absent")
	c.Flags().
		StringVar(&f.at, "at", "", "where the show stands: SONG or SONG/SECTION; before its first song when absent")
	c.Flags().StringVar(&f.call, "call", "", "title or id of a song that is played next")
	c.Flags().BoolVar(&f.now, "now", false, "with --call: the rest of this song is not played")
	c.Flags().StringVar(&f.broke, "broke", "", "name or id of what failed")
	c.Flags().IntVar(&f.way, "way", 1, "with --broke: which of the ways round, as --breaks numbers them")
	c.Flags().BoolVar(&f.breaks, "breaks", false, "list what can fail, and the ways round it")
	c.Flags().
		BoolVar(&f.review, "review", false, "go through what the events tell after the show: order, tempos, gaps, what broke")
	c.Flags().StringVar(&f.events, "events", "", "JSON file of what happened before; - for the standard input")
	c.Flags().BoolVar(&f.asJSON, "json", false, "print it as JSON")
	return c
}

func (f *nightFlags) run(cmd *cobra.Command, p *plan.Plan, s *plan.Show) error {
	rig := plan.ID("")
	if f.rig != "" {
		r, err := pick(p.Rigs, "rig", f.rig)
		if err != nil {
			return err
		}
		rig = r.ID
	}
	events, err := f.before(cmd, p, s)
	if err != nil {
		return err
	}
	if f.review {
		r, err := night.AfterShow(p, s.ID, events)
		if err != nil {
			return err
		}
		if f.asJSON {
			return printJSON(cmd, r)
		}
		return printReview(cmd.OutOrStdout(), r)
	}
	evening, err := night.On(p, s.ID, rig, events)
	if err != nil {
		return err
	}
	here, err := f.place(evening)
	if err != nil {
		return err
	}
	for _, e := range events { // after all that is told
		here.AtMS = max(here.AtMS, e.AtMS+1)
	}
	var breaks []night.Break
	if f.breaks || f.broke != "" {
		if breaks, err = night.Breaks(cmd.Context(), p, s.ID, rig, events, here, nil); err != nil {
			return err
		}
	}
	if f.breaks {
		if f.asJSON {
			return printJSON(cmd, breaks)
		}
		return printBreaks(cmd.OutOrStdout(), breaks)
	}
	more, err := f.happens(p, here, breaks)
	if err != nil {
		return err
	}
	if evening, err = night.On(p, s.ID, rig, append(events, more...)); err != nil {
		return err
	}
	if f.asJSON {
		return printJSON(cmd, evening)
	}
	return printEvening(cmd.OutOrStdout(), evening)
}

// before are the events that happened before.
func (f *nightFlags) before(cmd *cobra.Command, p *plan.Plan, s *plan.Show) ([]night.Event, error) {
	if f.events == "" {
		return nil, nil
	}
	data, err := readFile(cmd, f.events, plan.MaxFileBytes)
	if err != nil {
		return nil, err
	}
	var events []night.Event
	if err := json.Unmarshal(data, &events); err != nil {
		return nil, reason.Errorf("%s holds no list of events: %w", f.events, err)
	}
	for i, e := range events {
		if err := night.Valid(p, s.ID, e); err != nil {
			return nil, reason.Errorf("event %d: %w", i+1, err)
		}
	}
	return events, nil
}

// place is where the show stands.
func (f *nightFlags) place(e *night.Evening) (night.Event, error) {
	if f.at == "" {
		return night.Event{}, nil
	}
	song, section, _ := strings.Cut(f.at, "/")
	is := func(name string, id plan.ID, title string) bool {
		name = strings.TrimSpace(name)
		return strings.EqualFold(name, title) || name == string(id)
	}
	i := slices.IndexFunc(e.Steps, func(x night.Step) bool { return is(song, x.Song, x.Title) })
	if i < 0 {
		return night.Event{}, reason.Errorf("%s is not played tonight", strings.TrimSpace(song))
	}
	entry := e.Steps[i].Entry
	for k := i; section != "" && k < len(e.Steps) && e.Steps[k].Entry == entry; k++ {
		if is(section, e.Steps[k].Section, e.Steps[k].Label) {
			return night.Event{Entry: entry, Section: e.Steps[k].Section}, nil
		}
	}
	if section != "" {
		return night.Event{}, reason.Errorf("%s has no section %q", e.Steps[i].Title, strings.TrimSpace(section))
	}
	return night.Event{Entry: entry, Section: e.Steps[i].Section}, nil
}

// happens are the events that the flags have happen at a place.
func (f *nightFlags) happens(p *plan.Plan, here night.Event, breaks []night.Break) ([]night.Event, error) {
	var list []night.Event
	if f.call != "" {
		song, err := pick(p.Songs, "song", f.call)
		if err != nil {
			return nil, err
		}
		e := here
		e.ID, e.Kind, e.Song, e.Now = "called", night.Called, song.ID, f.now
		list = append(list, e)
	}
	if f.broke != "" {
		i := slices.IndexFunc(breaks, func(b night.Break) bool {
			return strings.EqualFold(b.Name, f.broke) || string(b.Gear) == f.broke
		})
		if i < 0 {
			return nil, reason.Errorf("%s is not in the rig tonight", f.broke)
		}
		if f.way < 1 || f.way > len(breaks[i].Ways) {
			return nil, reason.Errorf("there are %d ways round %s", len(breaks[i].Ways), breaks[i].Name)
		}
		e := here
		e.ID, e.Kind, e.Gear, e.Way = "broke", night.Broke, breaks[i].Gear, &breaks[i].Ways[f.way-1].Way
		list = append(list, e)
	}
	return list, nil
}

func printEvening(w io.Writer, e *night.Evening) error {
	var b strings.Builder
	fmt.Fprintf(
		&b,
		"%s on %s: %d of %d changes left in time\n",
		e.Show.Name,
		e.Rig.Name,
		e.Reach.Reached,
		e.Reach.Total,
	)
	for _, t := range e.Troubles {
		fmt.Fprintf(&b, "%s is out: %s\n", t.Name, t.Words)
	}
	for i, s := range e.Steps {
		if s.Starts || i == 0 || e.Steps[i-1].Entry != s.Entry {
			fmt.Fprintf(&b, "%s (%s)\n", s.Title, strings.Join(s.Facts, ", "))
		}
		words := append([]string{}, s.Pressed...)
		for _, h := range s.Hands {
			words = append(words, h.Action)
		}
		sound := s.Name
		if s.Meant != "" {
			sound += " for " + s.Meant
		}
		if s.Without != "" {
			sound += ", " + s.Without
		}
		fmt.Fprintf(&b, "  %-20s %-28s %-10s %s\n", s.Label, sound, s.Verdict, strings.Join(words, ", "))
	}
	for _, x := range e.Ignored {
		fmt.Fprintf(&b, "Passed over: %s\n", x)
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func printBreaks(w io.Writer, breaks []night.Break) error {
	var b strings.Builder
	for _, x := range breaks {
		fmt.Fprintln(&b, x.Name)
		for i, way := range x.Ways {
			fmt.Fprintf(
				&b,
				"  %d  %s: %d of %d changes left in time, %s without their sound\n",
				i+1,
				way.Words,
				way.Reached,
				way.Total,
				plan.Counted(way.Hit, "section", "sections"),
			)
			for _, s := range way.Lost {
				fmt.Fprintf(&b, "       %s: %s\n", s.Name, s.Without)
			}
		}
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func printReview(w io.Writer, r *night.Review) error {
	var b strings.Builder
	if r.Order != nil {
		fmt.Fprintf(&b, "Played: %s\n", strings.Join(r.Order.Titles, ", "))
	}
	for _, t := range r.Tempos {
		fmt.Fprintf(&b, "%s: played at %.1f bpm, written %g\n", t.Title, t.Played, t.Written)
	}
	for _, g := range r.Gaps {
		fmt.Fprintf(&b, "Before %s: %.0f s, written %.0f s\n", g.Title, g.Passed, g.Written)
	}
	for _, x := range r.Broken {
		fmt.Fprintf(&b, "Not cured: %s\n", x)
	}
	fmt.Fprintf(&b, "%s of the night undecided, %s ticked off.\n",
		plan.Counted(r.Undone, "change", "changes"), plan.Counted(r.Checks, "check", "checks"))
	fmt.Fprintln(&b, r.Assumed)
	_, err := io.WriteString(w, b.String())
	return err
}
