package main

import (
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"envex/core/mix"
	"envex/core/plan"
	"envex/core/reason"
)

func mixCommand() *cobra.Command {
	var at rigFlags
	var set, band, di, mend, out, lane, sound, song string
	var halls bool
	var asJSON jsonFlag
	var hallS float64
	c := &cobra.Command{
		Use: "mix FILE", Short: "What is heard of the guitar among the band, and the least move that makes room",
		Args: cobra.ExactArgs(1),
		Long: `Says for every section of a set how much of the guitar is heard among the parts that play with it, which bands of theirs
it covers, whether a lead is over the band, which repeats are heard, and where a low cut is of use. With --mend it looks for
the least move that puts a finding right, and with -o writes the plan with the first that is a setting. Loudness under
masking is after Moore, Glasberg and Baer (1997). The figures are of models.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, r, d, err := at.read(cmd, args[0])
			if err != nil {
				return err
			}
			l, err := pick(p.SetLists, "setlist", set)
			if err != nil {
				return err
			}
			if band != "" {
				b, err := pick(p.Bands, "band", band)
				if err != nil {
					return err
				}
				l.Band = b.ID
				p.Put(l)
			}
			dry, err := readDry(cmd, di)
			if err != nil {
				return err
			}
			if hallS < 0 || hallS > 20 {
				return reason.Errorf("a hall of %g s: 0 to 20", hallS)
			}
			o := mix.Options{Dry: dry, HallS: hallS, Kept: kept}
			if mend != "" {
				return mendRoom(cmd, p, r, d.ID, l.ID, mend, out, asJSON, o)
			}
			if lane != "" || sound != "" || song != "" {
				return wishLane(cmd, p, r, d.ID, l.ID, lane, sound, song, out, o)
			}
			if out != "" {
				return reason.Errorf(
					"-o writes the plan with a move made or a level wished: say which with --mend or --lane",
				)
			}
			there, err := p.At(r.ID, d.ID)
			if err != nil {
				return err
			}
			if halls {
				found, err := mix.Halls(cmd.Context(), there, r.ID, l.ID, mix.UsualHalls(), o)
				if err != nil {
					return err
				}
				return asJSON.print(cmd, found, func(w io.Writer) error { return printHalls(w, found) })
			}
			found, err := mix.Room(cmd.Context(), there, r.ID, l.ID, o)
			if err != nil {
				return err
			}
			return asJSON.print(cmd, found, func(w io.Writer) error { return printRoom(w, found) })
		},
	}
	at.register(c)
	c.Flags().StringVar(&set, "setlist", "", "name or id of the set list")
	c.Flags().
		StringVar(&band, "band", "", "name or id of the band that plays it; the one the set list names when absent")
	c.Flags().StringVar(&di, "di", "", "a dry recording to play instead of the test phrase")
	c.Flags().Float64Var(&hallS, "hall", 0, "how long the hall rings, in s; 0 is the open air")
	c.Flags().BoolVar(&halls, "halls", false, "the open air, a club, a theatre, a hall and a church side by side")
	c.Flags().
		StringVar(&mend, "mend", "", "a finding, by its id or its title: look for the least move that puts it right")
	c.Flags().StringVarP(&out, "out", "o", "", "with --mend, write the plan with the first move made")
	asJSON.register(c, "print it as JSON")
	c.Flags().StringVar(&lane, "lane", "", "how loud a lane is wished in a sound, over the same lane at home: NAME=LU")
	c.Flags().StringVar(&sound, "sound", "", "with --lane, the sound")
	c.Flags().StringVar(&song, "song", "", "with --lane, the song it is wished in alone")
	c.MarkFlagsMutuallyExclusive("lane", "mend", "halls")
	c.MarkFlagsMutuallyExclusive("hall", "halls")
	c.MarkFlagsMutuallyExclusive("mend", "halls")
	return c
}

// wishLane writes the plan with how loud a lane is wished.
func wishLane(
	cmd *cobra.Command,
	p *plan.Plan,
	r plan.Rig,
	destination, set plan.ID,
	lane, sound, song, out string,
	o mix.Options,
) error {
	var wish plan.LaneLevel
	if song != "" {
		x, err := pick(p.Songs, "song", song)
		if err != nil {
			return err
		}
		wish.Song = x.ID
	}
	s, err := pick(p.Sounds, "sound", sound)
	if err != nil {
		return err
	}
	name, level, ok := strings.Cut(lane, "=")
	lu, err := strconv.ParseFloat(strings.TrimSpace(level), 64)
	if !ok || err != nil || math.Abs(lu) > 40 {
		return reason.Errorf("%q is no level of a lane: write its name and LU over home, as in Wet=-6", lane)
	}
	wish.Sound, wish.LU = s.ID, lu
	there, err := p.At(r.ID, destination)
	if err != nil {
		return err
	}
	found, err := mix.Room(cmd.Context(), there, r.ID, set, o)
	if err != nil {
		return err
	}
	var names []string
	for _, scene := range found.Scenes {
		if scene.Home && scene.Sound == s.ID {
			return reason.Errorf("%s is what levels are counted from: wish the lanes of other sounds", s.Name)
		}
		for _, l := range scene.Lanes {
			if strings.EqualFold(l.Name, strings.TrimSpace(name)) || string(l.Key) == name {
				wish.Lane = l.Key
			}
			if !slices.Contains(names, l.Name) {
				names = append(names, l.Name)
			}
		}
	}
	if wish.Lane == "" {
		return reason.Errorf("%s has no lane %q; it ends in %s", r.Name, name, plan.Listed(names))
	}
	r.LaneLevels = append(slices.DeleteFunc(slices.Clone(r.LaneLevels), func(x plan.LaneLevel) bool {
		return x.Lane == wish.Lane && x.Sound == wish.Sound && x.Song == wish.Song
	}), wish)
	p.Put(r)
	return writePlan(cmd, p, out)
}

// mendRoom looks for the moves that put a finding right.
func mendRoom(
	cmd *cobra.Command,
	p *plan.Plan,
	r plan.Rig,
	destination, set plan.ID,
	name, out string,
	asJSON jsonFlag,
	o mix.Options,
) error {
	if !strings.HasPrefix(name, "room:") {
		there, err := p.At(r.ID, destination)
		if err != nil {
			return err
		}
		found, err := mix.Room(cmd.Context(), there, r.ID, set, o)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(found.Findings, func(f mix.Finding) bool { return strings.EqualFold(f.Title, name) })
		if i < 0 {
			return reason.Errorf("there is no finding %q: see envex mix without --mend", name)
		}
		name = found.Findings[i].ID
	}
	m, err := mix.Mend(cmd.Context(), p, r.ID, destination, set, name, o)
	if err != nil {
		return err
	}
	if out != "" {
		i := slices.IndexFunc(m.Moves, func(x mix.Move) bool { return x.Rig != nil || x.Band != nil })
		switch {
		case i < 0:
			return reason.Errorf("no setting puts it right")
		case m.Moves[i].Rig != nil:
			p.Put(*m.Moves[i].Rig)
		default:
			p.Put(*m.Moves[i].Band)
		}
		if err := writePlan(cmd, p, out); err != nil {
			return err
		}
	}
	return asJSON.print(cmd, m, func(w io.Writer) error { return printMoves(w, m) })
}

func printMoves(w io.Writer, m *mix.Mending) error {
	var b strings.Builder
	if m.Finding.Title != "" {
		fmt.Fprintf(&b, "%s: %s\n", m.Finding.Title, m.Finding.Words)
	}
	for i, x := range m.Moves {
		fmt.Fprintf(&b, "  %d. %s: %.0f instead of %.0f\n", i+1, x.Words, x.Figure, m.Finding.Figure)
		for name, list := range map[string][]string{"brings": x.Brings, "puts right too": x.Ends, "out of its targets": x.Breaks} {
			if len(list) > 0 {
				fmt.Fprintf(&b, "     %s: %s\n", name, plan.Listed(list))
			}
		}
	}
	if m.Words != "" {
		fmt.Fprintln(&b, m.Words)
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func printHalls(w io.Writer, found *mix.Beside) error {
	var b strings.Builder
	for k, s := range found.Sounds {
		name := s.Name
		if s.Tuned != "" {
			name += " (" + s.Tuned + ")"
		}
		fmt.Fprintf(&b, "%s, first in %s, %s:", name, s.Title, s.Section)
		for _, h := range found.Halls {
			fmt.Fprintf(&b, " %s %.0f %%,", strings.ToLower(h.Name), h.Heard[k].Share)
		}
		fmt.Fprintln(&b)
	}
	for _, h := range found.Halls {
		for _, title := range h.Findings {
			fmt.Fprintf(&b, "! %s: %s\n", h.Name, title)
		}
	}
	_, err := io.WriteString(w, strings.ReplaceAll(b.String(), ",\n", "\n"))
	return err
}

func printRoom(w io.Writer, r *mix.Report) error {
	var b strings.Builder
	fmt.Fprintf(&b, "Among %s:\n", r.Name)
	for i, s := range r.Scenes {
		name := s.Name
		if s.Tuned != "" {
			name += " (" + s.Tuned + ")"
		}
		if len(s.Boxes) > 0 {
			name += " with " + strings.Join(s.Boxes, ", ")
		}
		fmt.Fprintf(
			&b,
			"%s in %d sections: %.0f %% of it is heard, %.0f sones",
			name,
			sectionsOf(r, i),
			s.Guitar.Share,
			s.Guitar.Sones,
		)
		if s.Guitar.Under != "" {
			fmt.Fprintf(&b, ", %+.0f phon over %s", math.Round(s.Guitar.Over)+0, s.Guitar.Under)
		}
		fmt.Fprintln(&b)
		for _, p := range s.Parts {
			fmt.Fprintf(&b, "    %s: the guitar takes %.0f %%, most at %s\n", p.Name, p.Loses, p.Most)
		}
		for _, d := range s.Repeats {
			fmt.Fprintf(&b, "    %s: %d of %d repeats are heard\n", d.Name, d.Heard, d.Of)
		}
		for _, l := range s.Lanes {
			fmt.Fprintf(&b, "    %s: %+.1f LU over home, %.0f %% of the whole", l.Name, l.Level, l.Share)
			if l.Wished != nil {
				fmt.Fprintf(&b, ", wished %+.1f LU", *l.Wished)
			}
			fmt.Fprintln(&b)
		}
		if len(s.Rests) > 0 {
			fmt.Fprintf(&b, "    rests: %s\n", plan.Listed(s.Rests))
		}
	}
	for _, f := range r.Findings {
		fmt.Fprintf(&b, "! %s: %s\n", f.Title, f.Words)
	}
	for _, c := range r.Cuts {
		fmt.Fprintf(&b, "%s: %s\n", c.Name, c.Words)
	}
	for _, a := range r.Assumed {
		fmt.Fprintf(&b, "assumed: %s\n", a)
	}
	_, err := io.WriteString(w, b.String())
	return err
}

func sectionsOf(r *mix.Report, scene int) (n int) {
	for _, s := range r.Sections {
		if s.Scene == scene {
			n++
		}
	}
	return n
}

func partCommand() *cobra.Command {
	var band, part, recording, out string
	c := &cobra.Command{
		Use: "part FILE", Short: "Measure a part of a band from a recording of it alone", Args: cobra.ExactArgs(1),
		Long: `Measures how a part spreads over the third octaves from a WAV recording of it alone, and writes the plan with it:
those levels stand in place of those that are usual for its kind. How loud it plays stays as the band says.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			p, err := readPlan(cmd, args[0])
			if err != nil {
				return err
			}
			b, err := pick(p.Bands, "band", band)
			if err != nil {
				return err
			}
			i := slices.IndexFunc(b.Parts, func(x plan.Part) bool {
				return string(x.ID) == part || strings.EqualFold(x.Name, part)
			})
			if i < 0 {
				return reason.Errorf("%s has no part %q", b.Name, part)
			}
			channels, _, err := readWAV(cmd, recording)
			if err != nil {
				return err
			}
			levels, err := mix.Measured(channels...)
			if err != nil {
				return err
			}
			b.Parts = slices.Clone(b.Parts)
			b.Parts[i].Bands = levels
			p.Put(b)
			return writePlan(cmd, p, out)
		},
	}
	c.Flags().StringVar(&band, "band", "", "name or id of the band; needed where there are several")
	c.Flags().StringVar(&part, "part", "", "name or id of the part")
	c.Flags().StringVar(&recording, "wav", "", "the recording")
	c.Flags().StringVarP(&out, "out", "o", "", "write the plan to this file")
	for _, name := range []string{"part", "wav"} {
		_ = c.MarkFlagRequired(name) // it fails for a flag that is not there
	}
	return c
}
