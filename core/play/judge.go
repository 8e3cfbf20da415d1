package play

import (
	"fmt"
	"math"
	"slices"

	"envex/core/midi"
	"envex/core/plan"
)

// Result is a song as it was played, up to a moment of it.
type Result struct {
	Entry   plan.ID  `json:"entry"`
	Song    plan.ID  `json:"song"`
	Title   string   `json:"title"`
	UntilS  float64  `json:"until_s"`
	Scores  []Score  `json:"scores" doc:"Of the changes that are over."`
	Made    int      `json:"made"`
	Total   int      `json:"total"`
	Now     []Device `json:"now" doc:"The devices as they stand at the end of what was played."`
	Pending []string `json:"pending" doc:"What still has to move for the sound of that moment."`
	Events  []Event  `json:"events"`
}

// Outcome is how a change came out.
type Outcome string

// The outcomes. A change that was made after a wrong press is made, and recovered.
const (
	Made   Outcome = "made"
	Early  Outcome = "early" // the sound before was left too soon
	Late   Outcome = "late"
	Missed Outcome = "missed"
)

// Score is one change as it was played.
type Score struct {
	Position  int      `json:"position"`
	Section   plan.ID  `json:"section"`
	Label     string   `json:"label"`
	From      string   `json:"from"`
	To        string   `json:"to"`
	Outcome   Outcome  `json:"outcome" enum:"made,early,late,missed"`
	ByS       float64  `json:"by_s" doc:"How early the sound before was left, or how late the new one stood."`
	Wrong     int      `json:"wrong" doc:"Presses that moved something away from where it has to be."`
	Recovered bool     `json:"recovered" doc:"It came right in spite of a wrong press."`
	Pending   []string `json:"pending" doc:"What had not moved when it had to stand, or at the end of the section where it was missed."`
}

// Device is a variable that switches move, as it stands.
type Device struct {
	Variable plan.Key   `json:"variable"`
	Label    string     `json:"label"`
	Value    plan.Value `json:"value"`
	On       bool       `json:"on"`
	Switch   bool       `json:"switch" doc:"It is a block's on and off."`
	Wrong    bool       `json:"wrong" doc:"It has to stand otherwise for the sound of this moment."`
}

// Judge plays a song: its presses move the simulated devices, which begin as the first sound has them,
// and every change that is over by a moment is scored by where they stand. Only what switches can move
// is judged; hands are not. It fails when rig, destination, set list or entry are not there.
func Judge(p *plan.Plan, rig, destination, setList, entry plan.ID, presses []Press, until float64) (*Result, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("play: %w", err)
	}
	script, err := Read(p, rig, destination, setList)
	if err != nil {
		return nil, err
	}
	at := slices.IndexFunc(script.Songs, func(s Song) bool { return s.Entry == entry })
	if at < 0 {
		return nil, fmt.Errorf("play: the set list has no entry %q", entry)
	}
	r, _ := there.FindRig(rig)
	song, _ := there.FindSong(script.Songs[at].Song)
	line, err := midi.Map(there, rig)
	if err != nil {
		return nil, fmt.Errorf("play: %w", err)
	}
	g := &judging{plan: there, rig: r, song: song, script: &script.Songs[at], line: line, until: until}
	g.wants()
	return g.run(presses), nil
}

type judging struct {
	plan   *plan.Plan
	rig    *plan.Rig
	song   *plan.Song
	script *Song
	line   *midi.Report
	until  float64
	want   []want // by section of the song
}

// want is what a section's sound needs of what switches move; nil values where the rig has no recipe.
type want struct {
	known  bool
	values map[plan.Key]plan.Value
	set    plan.Setting
	tempo  plan.Tempo
}

// state is where things stand from a moment on.
type state struct {
	at     float64
	values map[plan.Key]plan.Value
}

// wants works out what every section needs.
func (g *judging) wants() {
	movable := g.movable()
	for _, sec := range g.song.Sections {
		rec := g.rig.RecipeFor(sec)
		if rec == nil {
			g.want = append(g.want, want{})
			continue
		}
		sound, _ := g.plan.FindSound(sec.Sound)
		tempo := sec.TempoIn(*g.song)
		w := want{known: true, values: map[plan.Key]plan.Value{}, set: g.plan.SetFor(g.rig, rec, sound, tempo), tempo: tempo}
		for key, v := range movable {
			if named, ok := rec.Values[key]; ok && named.Kind() == plan.FreeValue {
				continue
			}
			if holds(v, w.set) {
				w.values[key] = w.set.At(key)
			}
		}
		g.want = append(g.want, w)
	}
}

// holds reports whether a variable does anything as the rig is set.
func holds(v plan.Variable, set plan.Setting) bool {
	for _, c := range v.When {
		if !c.Holds(set.At(c.Key)) {
			return false
		}
	}
	return true
}

// movable are the variables that a switch of the rig moves: by itself, by a program, or by a preset.
func (g *judging) movable() map[plan.Key]plan.Variable {
	all := map[plan.Key]plan.Variable{}
	keys := map[plan.Key]bool{}
	for _, id := range g.rig.GearIn() {
		x, ok := g.plan.FindGear(id)
		if !ok {
			continue
		}
		for _, v := range x.Variables() {
			all[v.Key] = v
		}
		for i := range x.Footswitches {
			press, hold, double := g.rig.SwitchDoes(x, &x.Footswitches[i])
			for _, does := range []*plan.Press{press, hold, double} {
				if does != nil {
					g.moved(keys, x, does)
				}
			}
		}
	}
	out := map[plan.Key]plan.Variable{}
	for key := range keys {
		if v, ok := all[key]; ok {
			out[key] = v
		}
	}
	return out
}

func (g *judging) moved(keys map[plan.Key]bool, x *plan.Gear, does *plan.Press) {
	for _, a := range does.Actions {
		if a.Target != "" {
			keys[a.Target] = true
		}
		if a.Kind != plan.Recall {
			continue
		}
		for _, bank := range g.rig.Programs[x.ID] {
			for _, program := range bank {
				for key := range program.Values {
					keys[key] = true
				}
			}
		}
	}
}

// toleranceMS is how far a tapped time may be from what is wanted, as a share: a tap is no clock.
const tapTolerance = 0.05

// pending are the variables that do not stand as a section needs them, in order.
func (g *judging) pending(i int, values map[plan.Key]plan.Value) []plan.Key {
	var list []plan.Key
	for _, key := range plan.SortedKeys(g.want[i].values) {
		is, to := values[key], g.want[i].values[key]
		if is == to {
			continue
		}
		if is.Kind() == plan.NumberValue && to.Kind() == plan.NumberValue && math.Abs(is.Float()-to.Float()) <= tapTolerance*math.Abs(to.Float()) {
			continue
		}
		list = append(list, key)
	}
	return list
}

func (g *judging) run(presses []Press) *Result {
	presses = slices.Clone(presses)
	slices.SortStableFunc(presses, func(a, b Press) int {
		switch {
		case a.AtS < b.AtS:
			return -1
		case a.AtS > b.AtS:
			return 1
		}
		return 0
	})
	out := &Result{Entry: g.script.Entry, Song: g.script.Song, Title: g.script.Title, UntilS: g.until, Scores: []Score{}, Now: []Device{}, Pending: []string{}, Events: []Event{}}
	first := slices.IndexFunc(g.want, func(w want) bool { return w.known })
	if first < 0 {
		return out
	}
	m := newMachine(g.plan, g.rig, g.want[first].set, g.line)
	states := []state{{math.Inf(-1), copied(m.values)}}
	for _, x := range presses {
		if x.AtS > g.until {
			break
		}
		m.tempo = g.want[max(first, g.sectionAt(x.AtS))].tempo
		out.Events = append(out.Events, m.press(x)...)
		states = append(states, state{x.AtS, copied(m.values)})
	}
	g.score(out, states, first)
	g.stands(out, m)
	return out
}

func copied(values map[plan.Key]plan.Value) map[plan.Key]plan.Value {
	out := make(map[plan.Key]plan.Value, len(values))
	for k, v := range values {
		out[k] = v
	}
	return out
}

// sectionAt is the section of a moment; the first before the song, the last after it.
func (g *judging) sectionAt(s float64) int {
	at := 0
	for i, x := range g.script.Sections {
		if s >= x.AtS-1e-9 {
			at = i
		}
	}
	return at
}

// score judges every change that is over.
func (g *judging) score(out *Result, states []state, first int) {
	before := first // the section whose sound the rig has
	for i := first + 1; i < len(g.script.Sections); i++ {
		x := g.script.Sections[i]
		if !g.want[i].known {
			continue // the rig cannot make it, so nobody is to blame
		}
		if x.UntilS > g.until {
			break
		}
		out.Total++
		s := g.change(states, before, i)
		if s.Outcome == Made {
			out.Made++
		}
		out.Scores = append(out.Scores, s)
		before = i
	}
}

// change scores the change into a section.
func (g *judging) change(states []state, before, i int) Score {
	x := g.script.Sections[i]
	s := Score{Position: x.Position, Section: x.ID, Label: x.Label, From: g.script.Sections[before].Name, To: x.Name, Outcome: Made, Pending: []string{}}
	end := x.AtS + x.LengthS
	if i+1 < len(g.script.Sections) {
		end = math.Max(x.UntilS, math.Min(end, g.script.Sections[i+1].FromS))
	}
	stood := func(at float64) []plan.Key { return g.pending(i, g.valuesAt(states, at)) }
	switch missing := stood(x.UntilS); {
	case len(missing) == 0:
		s.early(g, states, before, i)
	default:
		s.Outcome, s.Pending = Missed, g.labels(missing)
		for _, st := range states {
			if st.at > x.UntilS && st.at <= math.Min(end, g.until) && len(g.pending(i, st.values)) == 0 {
				s.Outcome, s.ByS = Late, st.at-x.UntilS
				break
			}
		}
		if s.Outcome == Missed {
			s.Pending = g.labels(stood(math.Min(end, g.until)))
			if len(s.Pending) == 0 { // right at the end, and not before: it stood in the next window only
				s.Pending = g.labels(missing)
			}
		}
	}
	s.Wrong = g.wrong(states, i, x.FromS, end)
	s.Recovered = s.Wrong > 0 && s.Outcome != Missed
	return s
}

// early finds whether the sound before was left before it might be: something that it needs, and that
// the change moves, stood otherwise.
func (s *Score) early(g *judging, states []state, before, i int) {
	x, was := g.script.Sections[i], g.script.Sections[before]
	moves := map[plan.Key]bool{}
	for key, v := range g.want[before].values {
		if to, ok := g.want[i].values[key]; ok && to != v {
			moves[key] = true
		}
	}
	for _, st := range states {
		if st.at <= was.UntilS || st.at >= x.FromS-1e-9 {
			continue
		}
		for _, key := range g.pending(before, st.values) {
			if moves[key] && st.values[key] == g.want[i].values[key] {
				s.Outcome, s.ByS = Early, x.FromS-st.at
				return
			}
		}
	}
}

// wrong counts the presses of a change after which more was wrong than before.
func (g *judging) wrong(states []state, i int, from, to float64) int {
	n := 0
	for k := 1; k < len(states); k++ {
		if st := states[k]; st.at >= from-1e-9 && st.at < to-1e-9 && len(g.pending(i, st.values)) > len(g.pending(i, states[k-1].values)) {
			n++
		}
	}
	return n
}

func (g *judging) valuesAt(states []state, at float64) map[plan.Key]plan.Value {
	values := states[0].values
	for _, st := range states {
		if st.at <= at+1e-9 {
			values = st.values
		}
	}
	return values
}

func (g *judging) labels(keys []plan.Key) []string {
	list := []string{}
	for _, key := range keys {
		if x, ok := g.plan.FindGear(key.Gear()); ok {
			for _, v := range x.Variables() {
				if v.Key == key {
					list = append(list, v.Label)
				}
			}
		}
	}
	return list
}

// stands says how the devices stand, against what the moment's sound needs.
func (g *judging) stands(out *Result, m *machine) {
	i := g.sectionAt(g.until)
	wrong := map[plan.Key]bool{}
	if g.want[i].known {
		for _, key := range g.pending(i, m.values) {
			wrong[key] = true
		}
	}
	movable := g.movable()
	for _, id := range g.rig.GearIn() {
		x, ok := g.plan.FindGear(id)
		if !ok {
			continue
		}
		for _, v := range x.Variables() {
			if _, ok := movable[v.Key]; !ok {
				continue
			}
			out.Now = append(out.Now, Device{Variable: v.Key, Label: v.Label, Value: m.values[v.Key], On: m.values[v.Key].IsOn(), Switch: v.IsOn(), Wrong: wrong[v.Key]})
			if wrong[v.Key] {
				out.Pending = append(out.Pending, v.Label)
			}
		}
	}
}
