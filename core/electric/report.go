package electric

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"envex/core/path"
	"envex/core/plan"
	"envex/core/reason"
)

// Report is the treble that each sound of a rig loses, and what is to be said of it.
type Report struct {
	Rig      plan.ID        `json:"rig"`
	SetList  plan.ID        `json:"set_list,omitempty" doc:"The set that jumps are looked for in; absent where there is none."`
	Sounds   []Sound        `json:"sounds" doc:"Each sound by its first recipe, then by others the set uses."`
	Worst    plan.ID        `json:"worst,omitempty" doc:"The recipe that loses most treble."`
	Jump     *Jump          `json:"jump" doc:"The biggest between two neighbouring sections that is not meant; absent where none differ."`
	Jumps    []Jump         `json:"jumps" doc:"Every pair of sounds that follow each other and differ, the biggest first, those that are meant last."`
	Buffer   *Buffer        `json:"buffer" doc:"The best place for one buffer; absent where none gains half a decibel."`
	Places   []Buffer       `json:"places" doc:"Every place a buffer could be tried, in signal order."`
	Fuzzes   []FuzzCurves   `json:"fuzzes" doc:"Fuzzes of low input resistance, as they are fed and the other way."`
	Findings []path.Finding `json:"findings"`
	Assumed  []string       `json:"assumed" doc:"What was taken where nobody has said."`
}

// Sound is what one recipe loses.
type Sound struct {
	Sound  plan.ID `json:"sound"`
	Name   string  `json:"name"`
	Recipe plan.ID `json:"recipe"`
	Guitar string  `json:"guitar" doc:"What plays, in words."`
	Shape
	Volume      float64   `json:"guitar_volume" doc:"Where its volume stands, 0 to 10."`
	Loss5k      float64   `json:"loss5k_db" doc:"At 5 kHz, under the same guitar on full into 1 Mohm through 3 m of 100 pF a metre."`
	Treble5k    float64   `json:"treble5k_db" doc:"At 5 kHz over 100 Hz."`
	Tone5k      float64   `json:"tone5k_db" doc:"Of that, what is tone: without the loss of level at 100 Hz."`
	FirstBuffer *plan.Key `json:"first_buffer" doc:"The first live active input; absent where there is none."`
	BufferName  string    `json:"first_buffer_name,omitempty"`
	BeforePF    float64   `json:"before_pf" doc:"Capacitance of cables and switched-off boxes before it."`
	Reference   []Point   `json:"reference" doc:"The same guitar on full into 1 Mohm through 3 m."`
	Segments    []Segment `json:"segments"`

	output plan.Key // the guitar, or the jack of a second output, that drives the first run
}

// Segment is one passive run of a sound.
type Segment struct {
	From    string  `json:"from"`
	To      string  `json:"to"`
	LevelDB float64 `json:"level_db" doc:"At 100 Hz."`
	TrebDB  float64 `json:"treble_db" doc:"At 5 kHz over 100 Hz."`
}

// Jump is two sounds that follow each other and lose treble differently.
type Jump struct {
	Position   int     `json:"position" doc:"Of the section it leads to, from 0."`
	Song       string  `json:"song"`
	Section    string  `json:"section"`
	From       plan.ID `json:"from"`
	FromName   string  `json:"from_name"`
	FromRecipe plan.ID `json:"from_recipe"`
	To         plan.ID `json:"to"`
	ToName     string  `json:"to_name"`
	ToRecipe   plan.ID `json:"to_recipe"`
	JumpDB     float64 `json:"jump_db" doc:"The second curve over the first at 5 kHz, without level; positive is brighter."`
	LevelDB    float64 `json:"level_db" doc:"Of level at 100 Hz."`
	MostDB     float64 `json:"most_db" doc:"The greatest difference between their curves from 100 Hz to 10 kHz, without level."`
	MostHz     float64 `json:"most_hz"`
	Intended   bool    `json:"intended,omitempty" doc:"A fuzz that is made for the pickup loads it in one of them."`
}

// Options say what is solved besides the plan as it stands.
type Options struct {
	SetList plan.ID  // jumps are looked for in it; where it is "", between all sounds
	Only    plan.ID  // this sound alone; all where it is ""
	Buffer  plan.Key // a buffer is tried before this node
	Volume  *float64 // the guitar's volume, 0 to 10, in place of what recipes say
}

// reference is the run that loss is counted from: 3 m of 100 pF a metre into 1 Mohm.
const (
	referencePF  = 300.0
	referenceOhm = 1e6
)

// least is a difference in dB that is worth a word.
const least = 0.05

// Solve gives the treble lost in every sound of a rig at one of its destinations, or as it stands
// when that is "". The plan must be valid. It fails when rig, destination, set list or sound are not
// there, or when the rig has nothing before the place a buffer is tried.
func Solve(p *plan.Plan, rig, destination plan.ID, o Options) (*Report, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("electric: %w", err)
	}
	r, _ := there.FindRig(rig)
	cables, err := path.DeriveCables(p, rig, destination)
	if err != nil {
		return nil, fmt.Errorf("electric: %w", err)
	}
	s := &solving{wiring: wire(there, r, cables), o: o, at: map[plan.ID]int{}, sets: there.SettingsOf(r)}
	s.places = placesFor(there, r)
	if o.Buffer != "" && !slices.ContainsFunc(s.places, func(x Buffer) bool { return x.Before == o.Buffer }) {
		return nil, reason.Errorf("no buffer can be tried before %q in %s", o.Buffer, r.Name)
	}
	if err := s.read(); err != nil {
		return nil, err
	}
	out := &Report{
		Rig: rig, SetList: o.SetList, Sounds: []Sound{}, Jumps: []Jump{}, Places: []Buffer{}, Findings: []path.Finding{},
	}
	for i := range s.states {
		out.Sounds = append(out.Sounds, s.sound(&s.states[i], trial{buffer: o.Buffer, volume: o.Volume}))
	}
	if worst := worstOf(out.Sounds); worst >= 0 {
		out.Worst = out.Sounds[worst].Recipe
	}
	out.Jumps = s.jumps(out.Sounds)
	if len(out.Jumps) > 0 && !out.Jumps[0].Intended {
		out.Jump = &out.Jumps[0]
	}
	places, now := s.tried()
	if out.Places = places; o.Buffer == "" {
		out.Buffer = bestOf(places, now)
	}
	matching, err := path.Matching(p, rig, destination)
	if err != nil {
		return nil, fmt.Errorf("electric: %w", err)
	}
	out.Fuzzes = s.fuzzes()
	out.Findings = append(s.findings(out, cables, destination), matching...)
	path.SortByGravity(out.Findings)
	out.Assumed = append([]string{}, s.assumed...)
	return out, nil
}

// solving is a rig with the states its recipes put it in.
type solving struct {
	*wiring
	o      Options
	states []state
	at     map[plan.ID]int // the state of each recipe
	sets   *plan.Settings
	order  []place // the sections of the set, by state; -1 where the rig has no recipe
	places []Buffer

	references map[int]float64 // of each state
	plains     []walked        // by state: the chain with nothing tried
}

type state struct {
	sound  *plan.Sound
	recipe *plan.Recipe
	set    plan.Setting
}

// place is a section of the set.
type place struct {
	state         int
	song, section string
}

// read finds the states of the rig and, in the set, their order.
func (s *solving) read() error {
	for i := range s.plan.Sounds {
		sound := &s.plan.Sounds[i]
		if rec := s.rig.RecipeFor(plan.Section{Sound: sound.ID}); rec != nil {
			s.state(sound, rec)
		}
	}
	if s.o.Only != "" && !slices.ContainsFunc(s.states, func(x state) bool { return x.sound.ID == s.o.Only }) {
		return reason.Errorf("%s has no recipe for the sound %q", s.rig.Name, s.o.Only)
	}
	if s.o.SetList != "" {
		l, err := s.plan.SetListByID(s.o.SetList)
		if err != nil {
			return fmt.Errorf("electric: %w", err)
		}
		for _, e := range l.Entries {
			song, ok := s.plan.FindSong(e.Song)
			if !ok {
				continue
			}
			for _, sec := range song.Sections {
				s.order = append(s.order, place{s.sectionState(sec), song.Title, sec.Label})
			}
		}
	}
	if s.o.Only != "" {
		s.states = slices.DeleteFunc(s.states, func(x state) bool { return x.sound.ID != s.o.Only })
		s.order = nil
	}
	return nil
}

func (s *solving) sectionState(sec plan.Section) int {
	sound, ok := s.plan.FindSound(sec.Sound)
	rec := s.rig.RecipeFor(sec)
	if !ok || rec == nil {
		return -1
	}
	return s.state(sound, rec)
}

func (s *solving) state(sound *plan.Sound, rec *plan.Recipe) int {
	if i, ok := s.at[rec.ID]; ok {
		return i
	}
	s.at[rec.ID] = len(s.states)
	s.states = append(s.states, state{sound, rec, s.sets.For(rec, sound, plan.Tempo{BPM: 120})})
	return len(s.states) - 1
}

// responseOf is the response of segments one after the other, each stage between them taken as it
// is: what a drive does to the sound on purpose is not lost treble.
func responseOf(segs []segment) response {
	return func(hz float64) float64 {
		sum := 0.0
		for _, s := range segs {
			sum += decibels(s.parts.transfer(angular(hz)))
		}
		return math.Max(silentDB, sum)
	}
}

// referenceOf is the response of an instrument on full through 3 m.
func referenceOf(g instrument) response {
	n := append(g.ladder(fullOn), across{referenceOhm, referencePF * 1e-12})
	return func(hz float64) float64 { return decibels(n.transfer(angular(hz))) }
}

func (s *solving) sound(st *state, try trial) Sound {
	segs, guitar := s.walk(st.set, try)
	r, ref := responseOf(segs), referenceOf(guitar)
	out := Sound{
		Sound: st.sound.ID, Name: st.sound.Name, Recipe: st.recipe.ID, Shape: r.shape(), Reference: ref.points(),
		Segments: []Segment{}, output: segs[0].from,
		Volume: guitar.knobs.volume * 10, Loss5k: ref(trebleHz) - r(trebleHz), Tone5k: ref.treble() - r.treble(),
		Treble5k: r.treble(),
	}
	if st.recipe.Name != "" {
		out.Name += ", " + st.recipe.Name
	}
	out.Guitar = guitar.name()
	if g, ok := s.plan.FindGear(st.set.Guitar); ok {
		out.Guitar = g.Name + ", " + out.Guitar
	}
	for _, x := range segs {
		one := responseOf([]segment{x})
		out.Segments = append(out.Segments, Segment{s.nameOf(x.from), s.nameOf(x.to), one(levelHz), one.treble()})
	}
	if segs[0].ended {
		out.FirstBuffer, out.BufferName = &segs[0].to, s.nameOf(segs[0].to)
	}
	for _, x := range segs[0].parts {
		if c, ok := x.(across); ok && math.IsInf(c.ohm, 1) {
			out.BeforePF += c.farad * 1e12
		}
	}
	return out
}

func (r response) points() []Point {
	list := make([]Point, points)
	for i, hz := range grid {
		list[i] = Point{hz, r(hz)}
	}
	return list
}

// nameOf names a place for words.
func (s *wiring) nameOf(key plan.Key) string {
	switch key {
	case "":
		return "nothing"
	case tried:
		return "the buffer"
	}
	g, ok := s.plan.FindGear(key.Gear())
	if !ok {
		return string(key)
	}
	if b, ok := g.FindBlock(plan.ID(key.Rest())); ok {
		return g.StopName(b)
	}
	return g.Name
}

func worstOf(list []Sound) int {
	worst := -1
	for i := range list {
		if worst < 0 || list[i].Tone5k > list[worst].Tone5k {
			worst = i
		}
	}
	return worst
}

// neighbours are the pairs of states that follow each other in the set, each once, or every pair
// where there is no set.
func (s *solving) neighbours() []pair {
	var list []pair
	seen := map[[2]int]bool{}
	add := func(a, b, at int) {
		if a < 0 || b < 0 || a == b || seen[[2]int{a, b}] {
			return
		}
		seen[[2]int{a, b}] = true
		list = append(list, pair{a, b, at})
	}
	if s.o.SetList == "" {
		for a := range s.states {
			for b := a + 1; b < len(s.states); b++ {
				add(a, b, -1)
			}
		}
	}
	for i := 1; i < len(s.order); i++ {
		add(s.order[i-1].state, s.order[i].state, i)
	}
	return list
}

type pair struct{ from, to, at int }

// jumps compare what is heard: the two sounds' own curves, whatever pickup each is played on.
// otherOutput reports whether two sounds come out of two outputs of one guitar.
func otherOutput(a, b *Sound) bool {
	return a.output != b.output && a.output.Gear() == b.output.Gear()
}

func (s *solving) jumps(list []Sound) []Jump {
	out := []Jump{}
	fed := s.fuzzFed()
	for _, n := range s.neighbours() {
		a, b := &list[n.from], &list[n.to]
		if otherOutput(a, b) {
			continue // a change of source, which no cable makes
		}
		j := Jump{
			Position: n.at, From: a.Sound, FromName: a.Name, FromRecipe: a.Recipe, To: b.Sound, ToName: b.Name,
			ToRecipe: b.Recipe,
			JumpDB:   b.Treble5k - a.Treble5k, LevelDB: b.LevelDB - a.LevelDB,
			Intended: slices.Contains(fed, n.from) != slices.Contains(fed, n.to),
		}
		if n.at >= 0 {
			j.Song, j.Section = s.order[n.at].song, s.order[n.at].section
		}
		for k := range a.Points {
			if hz := a.Points[k].Hz; hz < levelHz || hz > 10000 {
				continue
			}
			if d := b.Points[k].DB - a.Points[k].DB - j.LevelDB; math.Abs(d) > math.Abs(j.MostDB) {
				j.MostDB, j.MostHz = d, a.Points[k].Hz
			}
		}
		if math.Abs(j.JumpDB) >= least || math.Abs(j.LevelDB) >= least || math.Abs(j.MostDB) >= least {
			out = append(out, j)
		}
	}
	slices.SortStableFunc(out, func(a, b Jump) int {
		if a.Intended != b.Intended {
			return map[bool]int{false: -1, true: 1}[a.Intended]
		}
		return cmp.Compare(math.Abs(b.JumpDB), math.Abs(a.JumpDB))
	})
	return out
}
