package play

import (
	"cmp"
	"fmt"
	"slices"

	"envex/core/layers"
	"envex/core/plan"
	"envex/core/reach"
)

// Script is a set as it is rehearsed: every section with its time in the song, and what is pressed.
type Script struct {
	Rig      plan.ID  `json:"rig"`
	SetList  plan.ID  `json:"set_list"`
	Songs    []Song   `json:"songs"`
	Switches []Switch `json:"switches" doc:"Every switch of the rig that does something, in the order they stand on the floor."`
	Spaced   bool     `json:"spaced" doc:"The boxes have been placed in mm, so that feet can be measured on them."`
}

// Song is one entry of the set.
type Song struct {
	Entry    plan.ID    `json:"entry"`
	Song     plan.ID    `json:"song"`
	Title    string     `json:"title"`
	Tempo    plan.Tempo `json:"tempo"`
	Beats    int        `json:"beats" doc:"In a bar: how many clicks, and how many are counted in."`
	Sections []Section  `json:"sections"`
	LengthS  float64    `json:"length_s"`

	begins map[plan.Key]plan.Value // where everything stands as it begins, in the plan of the set
}

// Section is one section of a song.
type Section struct {
	Position int           `json:"position" doc:"In the whole set, from 0."`
	ID       plan.ID       `json:"id"`
	Label    string        `json:"label"`
	Sound    plan.ID       `json:"sound"`
	Name     string        `json:"name" doc:"Of the sound."`
	AtS      float64       `json:"at_s" doc:"From the first downbeat of the song."`
	LengthS  float64       `json:"length_s"`
	Open     bool          `json:"open,omitempty" doc:"How long it is is open; eight bars are taken."`
	BeatS    float64       `json:"beat_s"`
	FromS    float64       `json:"from_s" doc:"From when the sound before may be left for it."`
	UntilS   float64       `json:"until_s" doc:"By when it has to stand."`
	Verdict  reach.Verdict `json:"verdict,omitempty" enum:"in_time,tight,late,by_hand,impossible,not_set" doc:"Whether the change can be made at all, as the feet are modelled."`
	Presses  []Todo        `json:"presses" doc:"What is pressed at the change, in order."`
	Hands    []string      `json:"hands" doc:"What is done by hand."`
	Early    []string      `json:"early" doc:"What is best made ready during it for later."`
	Ready    []Todo        `json:"ready" doc:"What is pressed for that, and when there is time for it."`

	OnBar  []string `json:"on_bar" doc:"What a looper's switch is pressed for in it, and on which bar where that is not the first."`
	ByHand []ByHand `json:"by_hand" doc:"The same, control by control, to be pressed where hands are judged."`

	moved map[plan.Key]plan.Value // by hand, at the change
}

// ByHand is a control that a hand moves at a change.
type ByHand struct {
	Variable plan.Key `json:"variable"`
	Label    string   `json:"label"`
	Action   string   `json:"action"`
}

// Todo is a press that the change takes.
type Todo struct {
	Switch  plan.Key `json:"switch"`
	Label   string   `json:"label"`
	Gesture string   `json:"gesture"`
	Action  string   `json:"action"`
	AtS     float64  `json:"at_s" doc:"When it is pressed in the plan of the change."`
}

// Switch is a switch the player has.
type Switch struct {
	Key   plan.Key `json:"key" doc:"gear/switch"`
	Label string   `json:"label"`
	Gear  string   `json:"gear"`
	X     float64  `json:"x_mm"`
	Y     float64  `json:"y_mm"`
	Width float64  `json:"width_mm"`
	Hold  bool     `json:"hold,omitempty" doc:"Holding it does something too."`
	Twice bool     `json:"double,omitempty" doc:"Pressing it twice does something else."`
	Lamp  plan.Key `json:"lamp,omitempty" doc:"The variable its lamp shows: what a press turns on and off."`

	Keyboard string `json:"keyboard,omitempty" doc:"The key that stands in for it: numbers, then letters, for the switches this set presses, as they stand on the floor; absent for the others."`
}

// keyboard are the keys that stand in for switches, in order. Letters that mean something elsewhere are left out.
const keyboard = "1234567890qwertyuopasdfghjklzxcvbnm"

// sameRow is how far apart, from front to back, switches of one row stand at most, in mm.
const sameRow = 60.0

// keyed gives the switches that a set presses their keys: row by row from the back, each from the left.
func keyed(list []Switch, report *reach.Report) {
	pressed := map[plan.Key]bool{}
	for _, c := range report.Changes {
		for _, p := range c.Presses {
			pressed[p.Switch] = true
		}
	}
	for _, s := range report.Sections {
		for _, early := range s.ReadyEarly {
			for _, step := range early.Steps {
				pressed[step.Switch] = true
			}
		}
	}
	var order []*Switch
	for i := range list {
		if pressed[list[i].Key] {
			order = append(order, &list[i])
		}
	}
	slices.SortStableFunc(order, func(a, b *Switch) int { return cmp.Compare(a.Y, b.Y) })
	for from := 0; from < len(order); { // rows are found from the back, then put in order from the left
		to := from + 1
		for to < len(order) && order[to].Y-order[from].Y <= sameRow {
			to++
		}
		slices.SortStableFunc(order[from:to], func(a, b *Switch) int { return cmp.Compare(a.X, b.X) })
		from = to
	}
	for i, s := range order {
		if i < len(keyboard) {
			s.Keyboard = keyboard[i : i+1]
		}
	}
}

// openBars is what a section of open length is rehearsed as.
const openBars = 8.0

// Read makes the script of a set on a rig at one of its destinations, or as it stands when that is
// "". The plan must be valid. It fails when rig, destination or set list are not there.
func Read(p *plan.Plan, rig, destination, setList plan.ID) (*Script, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("play: %w", err)
	}
	report, err := reach.Compute(there, rig, setList)
	if err != nil {
		return nil, fmt.Errorf("play: %w", err)
	}
	l, _ := there.FindSetList(setList)
	looped, err := layers.Compute(there, rig, "", setList)
	if err != nil {
		return nil, fmt.Errorf("play: %w", err)
	}
	evening, err := there.EveningOf(rig, setList)
	if err != nil {
		return nil, fmt.Errorf("play: %w", err)
	}
	there = evening.Plan
	r, _ := there.FindRig(rig)
	labels := map[plan.Key]string{}
	for _, v := range there.VariablesIn(r) {
		labels[v.Key] = v.Label
	}
	out := &Script{Rig: rig, SetList: setList, Songs: []Song{}, Switches: switches(there, r, report)}
	keyed(out.Switches, report)
	out.Spaced = len(out.Switches) > 0 && len(r.Floor.Places) > 0
	foot := r.Profile.Filled()
	position := 0
	for _, e := range l.Entries {
		song, ok := there.FindSong(e.Song)
		if !ok {
			continue
		}
		s := Song{
			Entry: e.ID, Song: song.ID, Title: song.Title, Tempo: song.Tempo, Beats: beatsOf(song), Sections: []Section{},
		}
		for i, sec := range song.Sections {
			x := section(there, song, sec, foot, s.LengthS)
			x.Position = position
			if i == 0 {
				s.begins = report.Sections[position].Stands
			}
			x.OnBar = append(x.OnBar, looped.Looped(e.ID, sec.ID)...)
			if i > 0 && position > 0 && position-1 < len(report.Changes) {
				x.change(report.Changes[position-1], labels)
			}
			for _, early := range report.Sections[position].ReadyEarly {
				x.Early = append(x.Early, early.Action)
				for _, step := range early.Steps {
					x.Ready = append(
						x.Ready, Todo{Switch: step.Switch, Label: step.Label, Gesture: step.Gesture, Action: early.Action},
					)
				}
			}
			s.Sections = append(s.Sections, x)
			s.LengthS += x.LengthS
			position++
		}
		s.spread()
		out.Songs = append(out.Songs, s)
	}
	return out, nil
}

// leisureMargin is how far from the changes presses at leisure are kept, in seconds, as reach keeps them.
const leisureMargin = 1.0

// spread gives the presses at leisure of each section their times: evenly over what of it is free.
func (s *Song) spread() {
	for i := range s.Sections {
		x := &s.Sections[i]
		from, to := x.UntilS+leisureMargin, x.AtS+x.LengthS-leisureMargin
		if i == 0 {
			from = x.AtS + leisureMargin
		}
		if i+1 < len(s.Sections) {
			to = s.Sections[i+1].FromS - leisureMargin
		}
		for k := range x.Ready {
			x.Ready[k].AtS = from + (to-from)*float64(k+1)/float64(len(x.Ready)+1)
		}
	}
}

// beatsOf is how many beats of the tempo's note a bar of the song has.
func beatsOf(song *plan.Song) int {
	n := int(song.Tempo.BarSeconds(song.Meter)/song.Tempo.BeatSeconds() + 0.5)
	return max(1, n)
}

func section(p *plan.Plan, song *plan.Song, sec plan.Section, foot plan.Footwork, at float64) Section {
	tempo := sec.TempoIn(*song)
	x := Section{
		ID: sec.ID, Label: sec.Label, Sound: sec.Sound, Name: string(sec.Sound), AtS: at, BeatS: tempo.BeatSeconds(),
		Presses: []Todo{}, Hands: []string{}, OnBar: []string{}, ByHand: []ByHand{}, Early: []string{}, Ready: []Todo{},
	}
	if s, ok := p.FindSound(sec.Sound); ok {
		x.Name = s.Name
	}
	bars := openBars
	if x.Open = sec.Bars == nil; !x.Open {
		bars = *sec.Bars
	}
	x.LengthS = bars * tempo.BarSeconds(song.Meter)
	grace := foot.Grace
	if sec.Grace != nil {
		grace = *sec.Grace
	}
	x.FromS, x.UntilS = at, at+grace*x.BeatS
	return x
}

// change takes over what reach says of the change into a section.
func (x *Section) change(c reach.Change, labels map[plan.Key]string) {
	x.Verdict = c.Verdict
	x.FromS = x.UntilS - c.FreeS
	for _, p := range c.Presses {
		x.Presses = append(x.Presses, Todo{p.Switch, p.Label, p.Gesture, p.Action, x.FromS + p.AtS})
	}
	x.moved = map[plan.Key]plan.Value{}
	for _, h := range c.Hands {
		x.Hands = append(x.Hands, h.Action)
		x.moved[h.Variable] = h.To
		x.ByHand = append(x.ByHand, ByHand{h.Variable, labels[h.Variable], h.Action})
	}
}

// switches are those of the rig that do something, from the back of the floor to the front, and from
// left to right.
func switches(p *plan.Plan, r *plan.Rig, report *reach.Report) []Switch {
	list := []Switch{}
	for _, s := range report.Floor.Switches {
		g, ok := p.FindGear(s.Key.Gear())
		if !ok {
			continue
		}
		sw, ok := g.FindSwitch(plan.ID(s.Key.Rest()))
		if !ok {
			continue
		}
		press, hold, double := r.SwitchDoes(g, sw)
		if press == nil && hold == nil && double == nil {
			continue
		}
		x := Switch{
			Key: s.Key, Label: s.Name, Gear: g.Name, X: s.X, Y: s.Y, Width: s.Width, Hold: hold != nil, Twice: double != nil,
		}
		if press != nil {
			if k := slices.IndexFunc(press.Actions, func(a plan.Action) bool { return a.Kind == plan.Toggle }); k >= 0 {
				x.Lamp = press.Actions[k].Target
			}
		}
		list = append(list, x)
	}
	return list
}
