package hire

import (
	"context"
	"fmt"
	"slices"

	"envex/core/beside"
	"envex/core/plan"
	"envex/core/signal"
)

// Answer is a plan for an amp that is not the rig's own.
type Answer struct {
	Rig         plan.Rig        `json:"rig" doc:"The rig with a destination for it."`
	Destination plan.ID         `json:"destination"`
	New         *plan.Gear      `json:"new_gear,omitempty" doc:"The amp, where it is not in the pile yet."`
	Moves       []string        `json:"moves" doc:"What stands elsewhere then, in words."`
	Changes     []Change        `json:"changes" doc:"What is set otherwise there, sound by sound."`
	Lost        []Loss          `json:"lost" doc:"Sounds that are within their targets on the rig's own amp and not there, whatever was tried."`
	Columns     []beside.Column `json:"columns" doc:"The rig as it stands, and there."`
	Assumed     []string        `json:"assumed"`
	Cautions    []string        `json:"cautions"`
}

// Change is what is set otherwise for a sound.
type Change struct {
	Sound plan.ID `json:"sound"`
	Name  string  `json:"name"`
	Words string  `json:"words"`
}

// Loss is a sound that is out of its targets.
type Loss struct {
	Sound plan.ID `json:"sound"`
	Name  string  `json:"name"`
	Words string  `json:"words"`
}

// Options say what the answer was.
type Options struct {
	Without  []string // what is not there, of [Lacking]; the amp is else taken to be like the rig's own
	Amp      plan.ID  // an amp of the pile that stands there, instead
	NewID    func() plan.ID
	Progress func(share float64)
	Kept     *signal.Kept
}

// Plan makes a destination for an amp that lacks something, or is another: stops that find no place there move, the
// settings of the rig's own amp are those to start from, and each sound that is out of its targets then is brought back
// by the fewest knobs, or by other boxes of the rig. The plan must be valid, and is not changed. It fails when rig, set
// list or amp are not there, when the rig has no amp, when nothing is lacking and no other amp is named, and with the
// context's error when that is cancelled.
func Plan(ctx context.Context, p *plan.Plan, rig, setList plan.ID, o Options) (*Answer, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("hire: %w", err)
	}
	l, err := p.SetListByID(setList)
	if err != nil {
		return nil, fmt.Errorf("hire: %w", err)
	}
	if o.Kept == nil {
		o.Kept = signal.NewKept()
	}
	if o.NewID == nil {
		n := 0
		o.NewID = func() plan.ID { n++; return freeID(p, fmt.Sprintf("answer-%d", n)) }
	}
	w := &answering{
		ctx:     ctx,
		set:     setList,
		was:     r,
		o:       o,
		played:  soundsOf(p, l),
		renamed: map[plan.Key]plan.Key{},
		out: &Answer{
			Moves: []string{}, Changes: []Change{}, Lost: []Loss{}, Cautions: []string{loadCaution, mainsCaution},
		},
	}
	asked, _, err := signal.AsMade(ctx, p, rig, w.played, o.Kept)
	if err != nil {
		return nil, fmt.Errorf("hire: %w", err)
	}
	w.plan = *asked
	steps := []func() error{w.place, w.arrange, w.retune, w.compare}
	for i, step := range steps {
		if err := step(); err != nil {
			return nil, err
		}
		if o.Progress != nil {
			o.Progress(float64(i+1) / float64(len(steps)))
		}
	}
	final, _ := w.plan.FindRig(rig)
	w.out.Rig, w.out.Destination = *final, w.id
	return w.out, nil
}

func freeID(p *plan.Plan, id string) plan.ID {
	free := plan.ID(id)
	for n := 2; ; n++ {
		if _, taken := p.Find(free); !taken {
			return free
		}
		free = plan.ID(fmt.Sprintf("%s-%d", id, n))
	}
}

type answering struct {
	ctx    context.Context
	plan   plan.Plan // with the destination, as far as it is made; sounds say what they have to be
	set    plan.ID
	was    *plan.Rig
	id     plan.ID // of the destination
	o      Options
	played []plan.ID
	out    *Answer

	held    map[string]map[plan.Key]plan.Value // what presets of the hired amp hold, as those of the rig's own do
	renamed map[plan.Key]plan.Key              // controls of the hired amp, by what the rig's own calls them
}

// made is how many sounds of the set have a recipe there whose boxes all stand in the chain.
func (w *answering) made() (int, error) {
	there, err := w.plan.At(w.was.ID, w.id)
	if err != nil {
		return 0, fmt.Errorf("hire: %w", err)
	}
	r, _ := there.FindRig(w.was.ID)
	n := 0
	for _, id := range w.played {
		if rec := r.RecipeFor(plan.Section{Sound: id}); rec != nil && len(r.Lacks(rec)) == 0 {
			n++
		}
	}
	return n, nil
}

// within is how many sounds of the set are within their targets there.
func (w *answering) within() (int, error) {
	met, err := w.met()
	return len(met), err
}

// met are the sounds that are made there, with every box that they ask for, and are within their targets.
func (w *answering) met() (map[plan.ID]bool, error) {
	there, err := w.plan.At(w.was.ID, w.id)
	if err != nil {
		return nil, err
	}
	report, err := signal.Measure(
		w.ctx,
		there,
		w.was.ID,
		signal.Options{Kept: w.o.Kept, Only: w.played, Want: signal.ForTargets},
	)
	if err != nil {
		return nil, fmt.Errorf("hire: %w", err)
	}
	r, _ := there.FindRig(w.was.ID)
	met := map[plan.ID]bool{}
	for _, s := range report.Sounds {
		rec := r.RecipeFor(plan.Section{Sound: s.Sound})
		if s.Met() && rec != nil && len(r.Lacks(rec)) == 0 {
			met[s.Sound] = true
		}
	}
	return met, nil
}

// moved says which stops stand in another zone there, or nowhere.
func (w *answering) moved(there *plan.Plan, now []plan.Node) {
	was, is := w.plan.Zones(w.was.Path), there.Zones(now)
	where := map[plan.Zone]string{
		plan.FrontOfAmp: "in front of the amp",
		plan.InTheLoop:  "into the loop",
		plan.Out:        "behind the amp",
	}
	moves := map[string][]string{}
	var order []string
	for _, key := range plan.StopsIn(w.was.Path) {
		g, ok := w.plan.FindGear(key.Gear())
		if !ok || g.Kind == plan.Amp {
			continue
		}
		b, _ := g.FindBlock(plan.ID(key.Rest()))
		words := ""
		zone, stands := is[key]
		switch {
		case !stands:
			words = "out of the chain"
		case zone != was[key]:
			words = where[zone]
		default:
			continue
		}
		if moves[words] == nil {
			order = append(order, words)
		}
		moves[words] = append(moves[words], g.StopName(b))
	}
	for _, words := range order {
		verb := "moves"
		if len(moves[words]) > 1 {
			verb = "move"
		}
		w.out.Moves = append(w.out.Moves, fmt.Sprintf("%s %s %s", plan.Listed(moves[words]), verb, words))
	}
	for _, id := range w.plan.AmpsIn(w.was.Path) {
		if g, ok := w.plan.FindGear(id); ok && !slices.Contains(there.AmpsIn(now), id) {
			w.out.Moves = append(w.out.Moves, g.Name+" stays at home")
		}
	}
}

// stored says which presets are to be stored in the amp.
func (w *answering) stored(there *plan.Plan) {
	if len(w.held) == 0 {
		return
	}
	_, d := w.destination()
	g, _ := there.FindGear(d.Amp)
	m := "What presets %s held is stored in %s"
	if len(w.held) == 1 {
		m = "What preset %s held is stored in %s"
	}
	w.out.Moves = append(w.out.Moves, fmt.Sprintf(m, plan.Listed(plan.SortedKeys(w.held)), g.Name))
}

// compare puts the rig as it stands and there side by side, and says what is lost.
func (w *answering) compare() error {
	_, d := w.destination()
	found, err := beside.For(w.ctx, &w.plan, w.was.ID, w.set, []beside.Way{
		{Name: "As it stands"}, {Name: d.Name, Destination: w.id},
	}, beside.Options{Kept: w.o.Kept})
	if err != nil {
		return fmt.Errorf("hire: %w", err)
	}
	w.out.Columns, w.out.Assumed = found.Columns, found.Assumed
	if w.out.New != nil {
		w.out.Assumed = append(
			slices.Clone(w.out.Assumed),
			"The hired amp is taken to be like the rig's own but for what it lacks: its gain and tone are to be found at the soundcheck.",
		)
	}
	own, there := found.Columns[0], found.Columns[1]
	for i, s := range there.Sounds {
		if s.Within || !own.Sounds[i].Within {
			continue
		}
		words := "it is not made"
		for _, c := range s.Checks {
			if !c.Met {
				words = c.Words
				break
			}
		}
		w.out.Lost = append(w.out.Lost, Loss{Sound: s.Sound, Name: s.Name, Words: words})
	}
	return nil
}
