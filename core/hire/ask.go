package hire

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/electric"
	"envex/core/path"
	"envex/core/plan"
	"envex/core/signal"
)

// Whom else something is asked of.
const (
	OfTheHouse = "The house"
	OfPower    = "Power"
)

// What an amp that is hired may lack, and the rig can be planned without.
const (
	Loop      = "loop"       // an effects loop
	Channels  = "channels"   // more than one channel
	Reverb    = "reverb"     // effects of its own
	SecondAmp = "second-amp" // another amp beside it
)

// Lacking are the things an answer can say are not there.
func Lacking() []string { return []string{Loop, Channels, Reverb, SecondAmp} }

// Ask is what a rig needs of those who hire out amps, and of the house.
type Ask struct {
	Rig      plan.ID  `json:"rig"`
	SetList  plan.ID  `json:"set_list"`
	Items    []Item   `json:"items"`
	Assumed  []string `json:"assumed"`
	Cautions []string `json:"cautions"`
}

// Item is one thing to ask for.
type Item struct {
	Of      string `json:"of" doc:"What it is asked of: an amp by its name, the house, or power."`
	Need    string `json:"need"`
	Why     string `json:"why"`
	Without string `json:"without,omitempty" enum:"loop,channels,reverb,second-amp" doc:"What it is called where the answer is that it is not there: a plan can be made without it."`
}

// The cautions that go with amps and mains.
const (
	loadCaution  = "A valve amp always needs its speaker, or a load of its rated impedance, before it is switched on. Speakers are wired with speaker cable."
	mainsCaution = "Mains on stage follow the local electrical code and the venue's licensed electrician; check the mains voltage of amp and supply before plugging in. Never lift the mains safety earth."
)

// AskFor works out what a rig needs to play a set, at one of its destinations or as it stands when that is "". The plan
// must be valid. It fails when rig, destination or set list are not there, and with the context's error when that is
// cancelled. What is modelled is said to be. Where there is no amp in the chain only the house and power are asked.
func AskFor(ctx context.Context, p *plan.Plan, rig, destination, setList plan.ID, kept *signal.Kept) (*Ask, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, err
	}
	l, err := p.SetListByID(setList)
	if err != nil {
		return nil, fmt.Errorf("hire: %w", err)
	}
	r, _ := there.FindRig(rig)
	amps := there.AmpsIn(r.Path)
	if kept == nil {
		kept = signal.NewKept()
	}
	a := &asking{
		plan: there, rig: r, played: soundsOf(there, l), out: &Ask{Rig: rig, SetList: setList, Items: []Item{}, Assumed: []string{}, Cautions: []string{}},
	}
	if len(amps) > 0 {
		if a.dirts, err = signal.PreampDirts(ctx, there, rig, kept); err != nil {
			return nil, fmt.Errorf("hire: %w", err)
		}
		if err := a.pushes(ctx, kept); err != nil {
			return nil, err
		}
	}
	if len(amps) > 1 {
		a.add(listedNames(there, amps), fmt.Sprintf("%d amps side by side, each with its own lead", len(amps)),
			"the chain splits into them", SecondAmp)
	}
	for _, id := range amps {
		g, _ := there.FindGear(id)
		a.amp(g)
	}
	if err := a.house(p, destination); err != nil {
		return nil, err
	}
	if err := a.power(p, destination); err != nil {
		return nil, err
	}
	if len(amps) > 0 {
		words := "Dirt and levels are of models of kinds of circuit, with the guitar at full: take them as a start."
		if !slices.ContainsFunc(
			a.played,
			func(id plan.ID) bool { return r.RecipeFor(plan.Section{Sound: id}) != nil },
		) {
			words = "No sound of the set has a recipe yet: what gain, channels and headroom it needs is not known."
		}
		a.out.Assumed = append(a.out.Assumed, words)
		a.out.Cautions = append(a.out.Cautions, loadCaution)
	}
	a.out.Cautions = append(a.out.Cautions, mainsCaution)
	return a.out, nil
}

// soundsOf are the sounds of a set in the order they are first played.
func soundsOf(p *plan.Plan, l *plan.SetList) []plan.ID {
	var list []plan.ID
	for _, e := range l.Entries {
		song, ok := p.FindSong(e.Song)
		if !ok {
			continue
		}
		for _, sec := range song.Sections {
			if !slices.Contains(list, sec.Sound) {
				list = append(list, sec.Sound)
			}
		}
	}
	return list
}

func listedNames(p *plan.Plan, ids []plan.ID) string {
	var names []string
	for _, id := range ids {
		if g, ok := p.FindGear(id); ok {
			names = append(names, g.Name)
		}
	}
	return plan.Listed(names)
}

type asking struct {
	plan   *plan.Plan
	rig    *plan.Rig
	played []plan.ID
	dirts  []signal.PreampDirt
	into   map[plan.ID]push // by sound: what arrives at the amp
	out    *Ask
}

// push is what arrives at an amp's input.
type push struct {
	peakV    float64
	overHome float64 // LU
}

func (a *asking) add(of, need, why, without string) {
	a.out.Items = append(a.out.Items, Item{Of: of, Need: need, Why: why, Without: without})
}

// pushes meters the chain up to the amp.
func (a *asking) pushes(ctx context.Context, kept *signal.Kept) error {
	front := *a.rig
	front.Path = a.plan.FrontOfAmp(a.rig.Path)
	a.into = map[plan.ID]push{}
	if len(front.Path) == 0 {
		return nil
	}
	q := *a.plan
	q.Put(front)
	report, err := signal.Measure(ctx, &q, a.rig.ID, signal.Options{Kept: kept, Only: a.played})
	if err != nil {
		return fmt.Errorf("hire: %w", err)
	}
	for _, s := range report.Sounds {
		a.into[s.Sound] = push{peakV: math.Pow(10, s.Figures.Peak/20), overHome: s.OverHome}
	}
	return nil
}

// amp is what is asked of one amp.
func (a *asking) amp(g *plan.Gear) {
	a.channels(g)
	a.headroom(g)
	a.loop(g)
	for i := range g.Blocks {
		b := &g.Blocks[i]
		key := plan.BlockKey(g.ID, b.ID)
		if b.Effect == plan.EffectPreamp || b.Effect == plan.EffectPower || !slices.Contains(a.rig.Stops(), key) {
			continue
		}
		if sounds := a.onIn(b, key); len(sounds) > 0 {
			a.add(g.Name, string(b.Effect)+" of its own", "on in "+plan.Listed(sounds), Reverb)
		}
	}
	switch {
	case g.SpeakerOut == nil:
		a.add(g.Name, "a speaker, and its impedance said", "nobody has said what "+g.Name+" drives", "")
	case g.SpeakerOut.Internal:
		a.add(
			g.Name,
			"a combo, or a head with a cab of its impedance and the speaker cable",
			g.Name+" has a speaker of its own",
			"",
		)
	default:
		ohms := ""
		for i, x := range g.SpeakerOut.Ohms {
			if i > 0 {
				ohms += " or "
			}
			ohms += fmt.Sprintf("%g ohm", x)
		}
		a.add(g.Name, strings.TrimSpace("a cab for it, "+ohms), g.Name+" has no speaker of its own", "")
	}
}

// onIn are the names of sounds of the set in which a block is on.
func (a *asking) onIn(b *plan.Block, key plan.Key) []string {
	var names []string
	for _, id := range a.played {
		sound, _ := a.plan.FindSound(id)
		rec := a.rig.RecipeFor(plan.Section{Sound: id})
		if sound == nil || rec == nil {
			continue
		}
		set := a.plan.SetFor(a.rig, rec, sound, a.plan.FirstTempo(id))
		if b.Bypass == plan.AlwaysOn && !turnedDown(b, key, set) ||
			b.Bypass != plan.AlwaysOn && set.At(key+"/on").IsOn() {
			names = append(names, sound.Name)
		}
	}
	return names
}

// turnedDown reports whether an effect that cannot be off has its amount at nothing.
func turnedDown(b *plan.Block, key plan.Key, set plan.Setting) bool {
	for _, c := range b.Controls {
		if c.Kind == plan.Knob {
			low, _ := c.Range()
			v := set.At(key + "/" + plan.Key(c.ID))
			return v.Kind() == plan.NumberValue && v.Float() <= low
		}
	}
	return false
}

// channels are the positions of each selector of the amp that the set uses, and how dirty the preamp is in them.
func (a *asking) channels(g *plan.Gear) {
	selector, of := channelOf(g)
	by := map[string][]string{}
	var order []string
	dirt := map[string][2]float64{}
	for _, id := range a.played {
		sound, _ := a.plan.FindSound(id)
		rec := a.rig.RecipeFor(plan.Section{Sound: id})
		if sound == nil || rec == nil {
			continue
		}
		name := "its channel"
		if selector != nil {
			set := a.plan.SetFor(a.rig, rec, sound, a.plan.FirstTempo(id))
			name = set.At(of).Word()
		}
		if _, seen := by[name]; !seen {
			order = append(order, name)
			dirt[name] = [2]float64{math.Inf(1), 0}
		}
		by[name] = append(by[name], sound.Name)
		for _, d := range a.dirts {
			if d.Recipe == rec.ID && d.Stop.Gear() == g.ID {
				dirt[name] = [2]float64{min(dirt[name][0], d.Dirt), max(dirt[name][1], d.Dirt)}
			}
		}
	}
	if len(order) > 1 {
		a.add(g.Name, fmt.Sprintf("%d channels: %s%s", len(order), plan.Listed(order), a.switched(of)),
			"the set changes between them", Channels)
	}
	for _, name := range order {
		span := fmt.Sprintf("%.0f %%", dirt[name][1])
		if dirt[name][1]-dirt[name][0] >= 1 {
			span = fmt.Sprintf("%.0f to %.0f %%", dirt[name][0], dirt[name][1])
		}
		need := "clean: " + span + " dirt by itself"
		if dirt[name][1] >= cleanPct {
			need = "gain for " + span + " dirt by itself"
		}
		if len(order) > 1 {
			need = name + ", " + need
		}
		a.add(g.Name, need, plan.Listed(by[name]), "")
	}
}

// cleanPct is the dirt below which players call a sound clean.
const cleanPct = 3.0

// channelOf is the selector of an amp's preamp by which its channel is chosen.
func channelOf(g *plan.Gear) (*plan.Control, plan.Key) {
	for i := range g.Blocks {
		b := &g.Blocks[i]
		if b.Effect != plan.EffectPreamp {
			continue
		}
		for j := range b.Controls {
			if c := &b.Controls[j]; c.Kind == plan.Selector && len(c.Options) > 1 {
				return c, plan.BlockKey(g.ID, b.ID) + "/" + plan.Key(c.ID)
			}
		}
	}
	for j := range g.Controls {
		if c := &g.Controls[j]; c.Kind == plan.Selector && len(c.Options) > 1 {
			return c, plan.Key(g.ID) + "/" + plan.Key(c.ID)
		}
	}
	return nil, ""
}

// switched says by what a channel is changed.
func (a *asking) switched(key plan.Key) string {
	for _, v := range a.plan.VariablesIn(a.rig) {
		if v.Key != key {
			continue
		}
		switch v.Access {
		case plan.Foot:
			return ", with its footswitch"
		case plan.Remote, plan.Memory:
			return ", changed from afar"
		}
	}
	return ""
}

// headroom is how hard the chain pushes an amp that is to stay clean, and how much louder than home it gets.
func (a *asking) headroom(g *plan.Gear) {
	var worst plan.ID
	most := push{}
	for _, id := range a.played {
		rec := a.rig.RecipeFor(plan.Section{Sound: id})
		clean := rec != nil && slices.ContainsFunc(a.dirts, func(d signal.PreampDirt) bool {
			return d.Recipe == rec.ID && d.Stop.Gear() == g.ID && d.Dirt < cleanPct
		})
		if x, ok := a.into[id]; ok && clean && x.peakV > most.peakV {
			worst, most = id, x
		}
	}
	if worst == "" {
		return
	}
	sound, _ := a.plan.FindSound(worst)
	a.add(g.Name, fmt.Sprintf("clean headroom for peaks of %.1f V at its input", most.peakV),
		fmt.Sprintf("%s comes in at %+.1f LU over home, and the amp is to add nothing", sound.Name, most.overHome), "")
}

// loop is what stands in the loop of an amp, and the level it takes.
func (a *asking) loop(g *plan.Gear) {
	inside, on := a.plan.InLoopOf(a.rig.Path, g.ID), []string{}
	line := len(inside) > 0
	for _, key := range inside {
		box, ok := a.plan.FindGear(key.Gear())
		if !ok {
			continue
		}
		b, ok := box.FindBlock(plan.ID(key.Rest()))
		if !ok {
			continue
		}
		on = append(on, box.StopName(b))
		line = line && (b.Level == "line" || b.Level == "any")
	}
	if len(inside) == 0 {
		return
	}
	level := "at instrument level, or with a level control"
	if line {
		level = "at line or instrument level"
	}
	a.add(g.Name, "a series effects loop "+level, plan.Listed(on)+" in it", Loop)
}

// house is what goes to the desk and what comes from it.
func (a *asking) house(p *plan.Plan, destination plan.ID) error {
	cables, err := path.DeriveCables(p, a.rig.ID, destination)
	if err != nil {
		return fmt.Errorf("hire: %w", err)
	}
	speakers, lines, balanced := 0, 0, 0
	for _, s := range cables.Sends {
		n := 1
		if s.Stereo {
			n = 2
		}
		switch g, ok := a.plan.FindGear(s.Gear); {
		case s.Level == "speaker":
			speakers += n
		case ok && slices.ContainsFunc(g.Blocks, func(b plan.Block) bool {
			return b.Effect == plan.EffectDI && plan.BlockKey(g.ID, b.ID) == s.Place
		}):
			balanced += n
		default:
			lines += n
		}
	}
	if balanced > 0 {
		a.add(
			OfTheHouse,
			plan.Counted(balanced, "balanced line", "balanced lines")+" at microphone level",
			"from the rig's own DI",
			"",
		)
	}
	if speakers > 0 {
		a.add(
			OfTheHouse,
			plan.Counted(speakers, "microphone in front of a speaker", "microphones in front of speakers"),
			"each amp is heard by one",
			"",
		)
	}
	if lines > 0 {
		a.add(
			OfTheHouse,
			plan.Counted(lines, "line with an isolated DI", "lines with an isolated DI each"),
			"unbalanced outputs of the rig",
			"",
		)
	}
	return nil
}

// power is how many mains outlets stand where, and on what mains the supplies run.
func (a *asking) power(p *plan.Plan, destination plan.ID) error {
	power, err := electric.FeedRig(p, a.rig.ID, destination)
	if err != nil {
		return fmt.Errorf("hire: %w", err)
	}
	supplies, mains := 0, []string{}
	for _, s := range power.Supplies {
		if !s.Used {
			continue
		}
		supplies++
		volts := s.MainsV + " V"
		if s.MainsV == "" {
			volts = "mains not known"
		}
		mains = append(mains, fmt.Sprintf("%s: %s", s.Name, volts))
	}
	if supplies > 0 {
		a.add(OfPower, plan.Counted(supplies, "mains outlet", "mains outlets")+" at the board",
			fmt.Sprintf("%.1f W for the boxes; %s", power.DrawnW, plan.Listed(mains)), "")
	}
	n := len(a.plan.AmpsIn(a.rig.Path))
	if n == 0 {
		return nil
	}
	a.add(
		OfPower,
		plan.Counted(n, "mains outlet", "mains outlets")+" at the "+word(n, "amp", "amps"),
		"on the same circuit as the board, so that grounds agree",
		"",
	)
	return nil
}

func word(n int, one, many string) string {
	if n == 1 {
		return one
	}
	return many
}
