package beside

import (
	"context"
	"fmt"
	"math"
	"slices"

	"envex/core/board"
	"envex/core/electric"
	"envex/core/path"
	"envex/core/plan"
	"envex/core/reach"
	"envex/core/reason"
	"envex/core/signal"
	"envex/core/switching"
)

// Report is a set in several ways, side by side.
type Report struct {
	Rig     plan.ID  `json:"rig"`
	SetList plan.ID  `json:"set_list"`
	Columns []Column `json:"columns" doc:"As they were asked; the others are held against the first."`
	Assumed []string `json:"assumed" doc:"What was taken where nobody has said."`
}

// Column is the set in one way.
type Column struct {
	Way
	Outcome  switching.Outcome `json:"outcome"`
	Sounds   []Sound           `json:"sounds" doc:"Of the set, in the order they are first played."`
	Within   int               `json:"within" doc:"Sounds that are within all their targets."`
	DrawnMA  float64           `json:"drawn_ma" doc:"Of everything that wants power."`
	Leads    int               `json:"leads" doc:"But for power."`
	CableM   float64           `json:"cable_m"`
	WeightG  float64           `json:"weight_g" doc:"Of the boards with what stands on them, as far as it is known."`
	Stands   *bool             `json:"stands,omitempty" doc:"Everything stands on the board and nothing is in anything's way; absent without a board."`
	Findings []Finding         `json:"findings" doc:"Those that the first column has not; of the first, all that are dangers or faults."`
}

// Way is a way to play a set.
type Way struct {
	Name        string      `json:"name"`
	Destination plan.ID     `json:"destination,omitempty"`
	Picks       []plan.Pick `json:"picks,omitempty"`
	TempoPct    float64     `json:"tempo_pct,omitempty" doc:"How much faster all songs are, in per cent."`
}

// Sound is a sound as it is made in one way.
type Sound struct {
	Sound    plan.ID        `json:"sound"`
	Name     string         `json:"name"`
	Made     bool           `json:"made" doc:"There is a recipe, and every box it turns on is there."`
	OverHome float64        `json:"over_home_lu"`
	Dirt     float64        `json:"dirt_pct"`
	TrebleDB float64        `json:"treble_db" doc:"Treble lost in its cables and boxes at 5 kHz, without the loss of level."`
	Within   bool           `json:"within"`
	Checks   []signal.Check `json:"checks"`
	AsFirst  bool           `json:"as_first,omitempty" doc:"It does not say what it has to be: it is held against what the first column makes."`
}

// Finding is something that is wrong in one way.
type Finding struct {
	Gravity path.Gravity `json:"gravity" enum:"danger,fault,preference,notice"`
	Title   string       `json:"title"`
}

// Options say how it is worked out.
type Options struct {
	Kept     *signal.Kept
	Progress func(share float64)
}

// The most that tempi are changed by, in per cent, and the most ways that stand side by side.
const (
	MostTempo = 50
	MostWays  = 8
)

// For plays a set on a rig in each of some ways. The plan must be valid, and is not changed. It fails when rig, set list,
// destination, slot or box are not there, when there are no ways or too many, and with the context's error when that is
// cancelled.
func For(ctx context.Context, p *plan.Plan, rig, setList plan.ID, ways []Way, o Options) (*Report, error) {
	if len(ways) == 0 || len(ways) > MostWays {
		return nil, tooMany()
	}
	if o.Kept == nil {
		o.Kept = signal.NewKept()
	}
	out := &Report{Rig: rig, SetList: setList, Columns: []Column{}, Assumed: []string{}}
	w := &work{rig: rig, set: setList, o: o}
	for i, way := range ways {
		q, err := w.played(ctx, p, way)
		if err != nil {
			return nil, err
		}
		column, assumed, err := w.column(ctx, q, way)
		if err != nil {
			return nil, err
		}
		out.Columns = append(out.Columns, *column)
		for _, words := range assumed {
			if !slices.Contains(out.Assumed, words) {
				out.Assumed = append(out.Assumed, words)
			}
		}
		if o.Progress != nil {
			o.Progress(float64(i+1) / float64(len(ways)))
		}
	}
	first := map[string]bool{}
	for _, f := range out.Columns[0].Findings {
		first[f.Title] = true
	}
	for i := range out.Columns {
		c := &out.Columns[i]
		c.Findings = slices.DeleteFunc(c.Findings, func(f Finding) bool {
			if i == 0 {
				return f.Gravity != path.Danger && f.Gravity != path.Fault
			}
			return first[f.Title]
		})
	}
	return out, nil
}

func tooMany() error { return reason.Errorf("1 to %d ways can stand side by side", MostWays) }

func tooFar() error { return reason.Errorf("tempi are changed by %d %% at most", MostTempo) }

type work struct {
	rig, set plan.ID
	o        Options
	targets  []plan.Sound // what the sounds have to be, from the first way on
	open     []plan.ID
}

// way is a plan in one way: before the destination and at it.
type way struct {
	given, there *plan.Plan
}

// played is the plan in one way. What sounds that say nothing have to be is taken from the first.
func (w *work) played(ctx context.Context, p *plan.Plan, x Way) (*way, error) {
	if math.Abs(x.TempoPct) > MostTempo {
		return nil, tooFar()
	}
	q, err := p.WithPicks(w.rig, x.Picks)
	if err != nil {
		return nil, err
	}
	if x.TempoPct != 0 {
		q.Songs = faster(q.Songs, 1+x.TempoPct/100)
	}
	if w.targets != nil {
		q.Sounds = w.targets
	}
	there, err := q.At(w.rig, x.Destination)
	if err != nil {
		return nil, err
	}
	if w.targets == nil {
		var all []plan.ID
		for _, s := range there.Sounds {
			all = append(all, s.ID)
		}
		asked, open, err := signal.AsMade(ctx, there, w.rig, all, w.o.Kept)
		if err != nil {
			return nil, fmt.Errorf("beside: %w", err)
		}
		there, w.targets, w.open = asked, asked.Sounds, open
		q.Sounds = asked.Sounds
	}
	return &way{q, there}, nil
}

// The tempi that a song can have: what the model allows.
const slowest, fastest = 20, 400

// faster are songs with every tempo multiplied.
func faster(songs []plan.Song, by float64) []plan.Song {
	at := func(t plan.Tempo) plan.Tempo {
		t.BPM = min(max(math.Round(t.BPM*by*100)/100, slowest), fastest)
		return t
	}
	out := slices.Clone(songs)
	for i := range out {
		out[i].Tempo = at(out[i].Tempo)
		out[i].Sections = slices.Clone(out[i].Sections)
		for j := range out[i].Sections {
			if t := out[i].Sections[j].Tempo; t != nil {
				own := at(*t)
				out[i].Sections[j].Tempo = &own
			}
		}
	}
	return out
}

func (w *work) column(ctx context.Context, x *way, named Way) (*Column, []string, error) {
	out := &Column{Way: named, Sounds: []Sound{}, Findings: []Finding{}}
	report, err := reach.Compute(x.there, w.rig, w.set)
	if err != nil {
		return nil, nil, fmt.Errorf("beside: %w", err)
	}
	out.Outcome = switching.OutcomeOf(report)
	assumed, err := w.sounds(ctx, x, report, out)
	if err != nil {
		return nil, nil, err
	}
	cables, err := path.DeriveCables(x.given, w.rig, named.Destination)
	if err != nil {
		return nil, nil, fmt.Errorf("beside: %w", err)
	}
	out.Leads, out.CableM = cables.Leads, cables.TotalM
	power, err := electric.FeedRig(x.given, w.rig, named.Destination)
	if err != nil {
		return nil, nil, fmt.Errorf("beside: %w", err)
	}
	out.DrawnMA = power.DrawnMA
	judged, err := path.Judge(ctx, x.given, w.rig, named.Destination)
	if err != nil {
		return nil, nil, fmt.Errorf("beside: %w", err)
	}
	for _, f := range slices.Concat(judged.Findings, power.Findings) {
		if f.Settled == "" {
			out.Findings = append(out.Findings, Finding{f.Gravity, f.Title})
		}
	}
	return out, assumed, w.board(ctx, x, out)
}

// sounds meters the sounds of the set, and solves the treble they lose.
func (w *work) sounds(ctx context.Context, x *way, night *reach.Report, out *Column) ([]string, error) {
	var played []plan.ID
	for _, s := range night.Sections {
		if !slices.Contains(played, s.Sound) {
			played = append(played, s.Sound)
		}
	}
	r, _ := x.there.FindRig(w.rig)
	heard, err := signal.Measure(
		ctx,
		x.there,
		w.rig,
		signal.Options{Kept: w.o.Kept, Only: played, Want: signal.ForTargets},
	)
	if err != nil {
		return nil, fmt.Errorf("beside: %w", err)
	}
	treble, err := electric.Solve(x.given, w.rig, out.Destination, electric.Options{SetList: w.set})
	if err != nil {
		return nil, fmt.Errorf("beside: %w", err)
	}
	for _, id := range played {
		sound, ok := x.there.FindSound(id)
		if !ok {
			continue
		}
		s := Sound{Sound: id, Name: sound.Name, Checks: []signal.Check{}, AsFirst: slices.Contains(w.open, id)}
		rec := r.RecipeFor(plan.Section{Sound: id})
		i := slices.IndexFunc(heard.Sounds, func(h signal.Sound) bool { return h.Sound == id })
		if s.Made = rec != nil && len(r.Lacks(rec)) == 0 && i >= 0; s.Made {
			h := heard.Sounds[i]
			s.OverHome, s.Dirt, s.Within, s.Checks = h.OverHome, h.Figures.Dirt, h.Met(), h.Checks
		}
		if i := slices.IndexFunc(treble.Sounds, func(t electric.Sound) bool { return t.Sound == id }); s.Made &&
			i >= 0 {
			s.TrebleDB = treble.Sounds[i].Tone5k
		}
		if s.Within {
			out.Within++
		}
		out.Sounds = append(out.Sounds, s)
	}
	return heard.Assumed, nil
}

// board says whether everything stands where it is to, and what it weighs.
func (w *work) board(ctx context.Context, x *way, out *Column) error {
	r, _ := x.there.FindRig(w.rig)
	report, err := board.Judge(ctx, x.there, w.rig, board.Options{SetList: w.set})
	if err != nil {
		return fmt.Errorf("beside: %w", err)
	}
	out.WeightG = report.Weight.Total
	if r.Floor.Board != "" {
		stands := report.Fits
		out.Stands = &stands
	}
	return nil
}
