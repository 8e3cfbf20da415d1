package play

import (
	"fmt"
	"math"
	"slices"

	"envex/core/midi"
	"envex/core/plan"
	"envex/core/reason"
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

// Take is a song as somebody played it.
type Take struct {
	Entry   plan.ID
	Presses []Press
	UntilS  float64 // how far it was played, in seconds from the first downbeat
	Hands   bool    // what hands move is judged too, from the presses that say so
}

// Judge plays a song: its presses move the simulated devices, which begin as the first sound has them,
// and every change that is over by a moment is scored by where they stand. What only hands move is taken
// to be in time unless the take has hands judged. It fails when rig, destination, set list or entry are
// not there.
func Judge(p *plan.Plan, rig, destination, setList plan.ID, take Take) (*Result, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("play: %w", err)
	}
	script, err := Read(p, rig, destination, setList)
	if err != nil {
		return nil, err
	}
	at := slices.IndexFunc(script.Songs, func(s Song) bool { return s.Entry == take.Entry })
	if at < 0 {
		return nil, reason.Errorf("the set list has no entry %q", take.Entry)
	}
	evening, err := there.EveningOf(rig, setList)
	if err != nil {
		return nil, fmt.Errorf("play: %w", err)
	}
	there = evening.Plan
	r, _ := there.FindRig(rig)
	song, _ := there.FindSong(script.Songs[at].Song)
	line, err := midi.Map(there, rig)
	if err != nil {
		return nil, fmt.Errorf("play: %w", err)
	}
	g := &judging{
		plan: there, rig: r, song: song, script: &script.Songs[at], line: line, until: take.UntilS, handsToo: take.Hands,
	}
	g.wants()
	return g.run(take.Presses), nil
}

type judging struct {
	plan   *plan.Plan
	rig    *plan.Rig
	song   *plan.Song
	script *Song
	line   *midi.Report
	until  float64
	want   []want // by section of the song

	handsToo bool
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
	movable, settings := g.movable(), g.plan.SettingsOf(g.rig)
	for _, sec := range g.song.Sections {
		rec := g.rig.RecipeFor(sec)
		if rec == nil {
			g.want = append(g.want, want{})
			continue
		}
		sound, _ := g.plan.FindSound(sec.Sound)
		tempo := sec.TempoIn(*g.song)
		w := want{known: true, values: map[plan.Key]plan.Value{}, set: settings.For(rec, sound, tempo), tempo: tempo}
		for key, v := range movable {
			if named, ok := rec.Values[key]; ok && named.Kind() == plan.FreeValue {
				continue
			}
			if w.set.Works(v) {
				w.values[key] = w.set.At(key)
			}
		}
		g.want = append(g.want, w)
	}
}

// movable are the variables that are judged: those that a switch of the rig moves, by itself, by a program,
// or by a preset, and, where hands are judged, those that a hand moves in the song.
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
	if g.handsToo {
		for _, x := range g.script.Sections {
			for key := range x.moved {
				keys[key] = true
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
		if is.Kind() == plan.NumberValue && to.Kind() == plan.NumberValue &&
			math.Abs(is.Float()-to.Float()) <= tapTolerance*math.Abs(to.Float()) {
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
	out := &Result{
		Entry: g.script.Entry, Song: g.script.Song, Title: g.script.Title, UntilS: g.until, Scores: []Score{},
		Now: []Device{}, Pending: []string{}, Events: []Event{},
	}
	first := slices.IndexFunc(g.want, func(w want) bool { return w.known })
	if first < 0 {
		return out
	}
	m := newMachine(g.plan, g.rig, g.want[first].set, g.line)
	g.begin(m, first)
	states := []state{{math.Inf(-1), copied(m.values)}}
	hands := g.hands()
	for _, x := range presses {
		if x.AtS > g.until {
			break
		}
		states, hands = g.byHand(m, states, hands, x.AtS)
		m.tempo = g.want[max(first, g.sectionAt(x.AtS))].tempo
		if x.Hand != "" {
			out.Events = append(out.Events, g.turn(m, x)...)
		} else {
			out.Events = append(out.Events, m.press(x)...)
		}
		states = append(states, state{x.AtS, copied(m.values)})
	}
	states, _ = g.byHand(m, states, hands, g.until)
	g.score(out, states, first)
	g.stands(out, m)
	return out
}

// begin has everything stand as the plan of the set has it when the song begins: what its first sound
// leaves free may have been made ready for a later one. Where the rig cannot make that sound, all of it is
// as the plan has it.
func (g *judging) begin(m *machine, first int) {
	for key, v := range g.script.begins {
		is, there := m.values[key]
		if want, needed := g.want[first].values[key]; there && is != v && (!needed || want == v || first > 0) {
			m.values[key] = v
		}
	}
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

// earlyTolerance is how much sooner than the plan allows the sound before may be left, in seconds: about what
// a listener takes for the same moment.
const earlyTolerance = 0.05
