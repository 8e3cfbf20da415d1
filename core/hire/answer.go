package hire

import (
	"context"
	"fmt"
	"slices"

	"envex/core/beside"
	"envex/core/path"
	"envex/core/plan"
	"envex/core/propose"
	"envex/core/reason"
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

	renamed map[plan.Key]plan.Key // controls of the hired amp, by what the rig's own calls them
}

// place makes the amp and the destination. Where one amp has to do for several, the line to it is the one on which most
// sounds are made, and of these the one with which most are within their targets.
func (w *answering) place() error {
	amps := w.plan.AmpsIn(w.was.Path)
	if len(amps) == 0 {
		return reason.Errorf("%s has no amp in its chain", w.was.Name)
	}
	if !slices.Contains(w.o.Without, SecondAmp) {
		return w.placeIn(w.was.Path, len(amps))
	}
	type placed struct {
		plan    plan.Plan
		new     *plan.Gear
		renamed map[plan.Key]plan.Key
	}
	before := w.plan
	w.id = w.o.NewID()
	var best *placed
	var most [2]int
	for _, line := range w.plan.OneAmp(w.was.Path) {
		w.plan, w.out.New, w.renamed = before, nil, map[plan.Key]plan.Key{}
		if err := w.placeIn(line, len(amps)); err != nil {
			return err
		}
		n, err := w.within()
		if err != nil {
			return err
		}
		made, err := w.made()
		if err != nil {
			return err
		}
		if best == nil || made > most[0] || made == most[0] && n > most[1] {
			best, most = &placed{w.plan, w.out.New, w.renamed}, [2]int{made, n}
		}
	}
	w.plan, w.out.New, w.renamed = best.plan, best.new, best.renamed
	return nil
}

// placeIn makes the amp and the destination of a line, with the settings of the first amp of that to start from. Amps
// are how many the rig has.
func (w *answering) placeIn(line []plan.Node, amps int) error {
	own, _ := w.plan.FindGear(w.plan.AmpsIn(line)[0])
	amp, name, err := w.amp(own, amps)
	if err != nil {
		return err
	}
	if w.id == "" {
		w.id = w.o.NewID()
	}
	d := plan.Destination{ID: w.id, Name: name, Kind: plan.HiredAmp, Amp: amp.ID}
	if amp.ID != own.ID {
		like := amp
		if w.o.Amp == "" { // named as its own are, to begin with
			same := *own
			same.ID = amp.ID
			like = &same
		}
		d.Base, d.Recipes = w.plan.SetAs(w.was, own, like)
		d.Base = w.known(amp, d.Base)
		for i := range d.Recipes {
			d.Recipes[i].Values = w.known(amp, d.Recipes[i].Values)
		}
	}
	if slices.Contains(w.o.Without, SecondAmp) {
		d.Path = w.plan.WithAmp(line, amp)
	}
	next := *w.was
	next.Destinations = append(slices.Clone(w.was.Destinations), d)
	w.plan.Put(next)
	if problems := w.plan.ValidateChange(next.ID); len(problems) > 0 {
		return reason.Errorf("the chain does not go there: %s", problems[0].Message)
	}
	return nil
}

// amp is what stands there, and what the destination is called.
func (w *answering) amp(own *plan.Gear, amps int) (*plan.Gear, string, error) {
	if w.o.Amp != "" {
		g, err := w.plan.GearByID(w.o.Amp)
		if err != nil {
			return nil, "", fmt.Errorf("hire: %w", err)
		}
		if g.Kind != plan.Amp {
			return nil, "", reason.Errorf("%s is not an amp", g.Name)
		}
		return g, g.Name, nil
	}
	made, lacks := *own, []string{}
	made.ID = w.o.NewID()
	for _, x := range w.o.Without {
		words, ok := w.lacking(&made, own, x, amps)
		if !ok {
			return nil, "", reason.Errorf("an answer can say that there is no %s; not %q", plan.Listed(Lacking()), x)
		}
		if words != "" {
			lacks = append(lacks, words)
		}
	}
	if len(lacks) == 0 {
		return nil, "", reason.Errorf(
			"nothing is lacking that %s uses of %s: its own settings stand",
			w.was.Name,
			own.Name,
		)
	}
	name := "Hired amp, " + plan.Listed(lacks)
	made.Name = name
	w.plan.Put(made)
	w.out.New = &made
	return &made, name, nil
}

// destination is the one that is made, of the rig as it is.
func (w *answering) destination() (*plan.Rig, *plan.Destination) {
	r, _ := w.plan.FindRig(w.was.ID)
	d, _ := r.FindDestination(w.id)
	return r, d
}

// change writes the destination anew.
func (w *answering) change(update func(*plan.Destination)) {
	r, _ := w.destination()
	next := *r
	next.Destinations = slices.Clone(r.Destinations)
	for i := range next.Destinations {
		if next.Destinations[i].ID == w.id {
			update(&next.Destinations[i])
		}
	}
	w.plan.Put(next)
}

// arrange keeps the chain as it comes to stand there, or takes the best order there where more sounds are within their
// targets with it.
func (w *answering) arrange() error {
	now, err := w.within()
	if err != nil {
		return err
	}
	judged, err := path.Judge(w.ctx, &w.plan, w.was.ID, w.id)
	if err != nil {
		return fmt.Errorf("hire: %w", err)
	}
	if len(judged.Best.Moves) > 0 {
		kept := w.plan
		w.change(func(d *plan.Destination) { d.Path = judged.Best.Path })
		other, err := w.within()
		if err != nil {
			return err
		}
		if other <= now || len(w.plan.ValidateChange(w.was.ID)) > 0 {
			w.plan = kept
		}
	}
	there, err := w.plan.At(w.was.ID, w.id)
	if err != nil {
		return err
	}
	at, _ := there.FindRig(w.was.ID)
	w.moved(there, at.Path)
	return nil
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

// retune brings sounds that are out back into their targets: home first, then as they are played, each by the fewest
// knobs that break no other, or else by another recipe of boxes that are there.
func (w *answering) retune() error {
	now, err := w.met()
	if err != nil {
		return err
	}
	order := slices.Clone(w.played)
	slices.SortStableFunc(order, func(a, b plan.ID) int { return w.role(a) - w.role(b) })
	for _, id := range order {
		if r, _ := w.destination(); now[id] || r.RecipeFor(plan.Section{Sound: id}) == nil {
			continue
		}
		changed, err := w.mend(id)
		if err != nil {
			return err
		}
		if changed {
			if now, err = w.met(); err != nil {
				return err
			}
		}
	}
	return nil
}

func (w *answering) role(id plan.ID) int {
	if s, ok := w.plan.FindSound(id); ok && s.Role == plan.HomeRole {
		return 0
	}
	return 1
}

// mend brings one sound back, and says whether it could.
func (w *answering) mend(id plan.ID) (bool, error) {
	tuned, err := signal.Tune(w.ctx, &w.plan, w.was.ID, w.id, id, signal.Options{Kept: w.o.Kept})
	if err != nil {
		return false, fmt.Errorf("hire: %w", err)
	}
	if tuned.Best >= 0 && len(tuned.Repairs[tuned.Best].Breaks) == 0 {
		best := tuned.Repairs[tuned.Best]
		w.plan.Put(best.Rig)
		w.out.Changes = append(w.out.Changes, Change{Sound: id, Name: tuned.Name, Words: best.Words})
		return true, nil
	}
	found, err := propose.For(w.ctx, &w.plan, w.was.ID, propose.Options{
		Sounds: []plan.ID{id}, Destination: w.id, NewID: w.o.NewID, Kept: w.o.Kept,
	})
	if err != nil {
		return false, fmt.Errorf("hire: %w", err)
	}
	for _, s := range found.Sounds {
		for _, way := range s.Ways {
			if !way.Within {
				continue
			}
			w.change(func(d *plan.Destination) {
				d.Recipes = append([]plan.Recipe{way.Recipe}, slices.Clone(d.Recipes)...)
				for _, key := range plan.SortedKeys(way.Base) {
					d.Base = with(d.Base, key, way.Base[key])
				}
			})
			w.out.Changes = append(
				w.out.Changes,
				Change{Sound: id, Name: s.Name, Words: "another recipe: " + way.Words},
			)
			return true, nil
		}
	}
	return false, nil
}

func with(m map[plan.Key]plan.Value, key plan.Key, v plan.Value) map[plan.Key]plan.Value {
	out := map[plan.Key]plan.Value{key: v}
	for k, x := range m {
		if k != key {
			out[k] = x
		}
	}
	return out
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
