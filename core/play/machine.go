package play

import (
	"fmt"
	"slices"

	"envex/core/midi"
	"envex/core/plan"
)

// Press is a switch that was pressed.
type Press struct {
	AtS     float64  `json:"at_s" minimum:"-3600" maximum:"86400" doc:"In the song, from its first downbeat."`
	Switch  plan.Key `json:"switch" maxLength:"200" doc:"gear/switch; empty for what a hand moves."`
	Hand    plan.Key `json:"hand,omitempty" maxLength:"200" doc:"A control that a hand moves, to where the change nearest in time has it."`
	Gesture string   `json:"gesture,omitempty" enum:"press,hold,double" doc:"A press when absent."`
}

// Event is what a press did.
type Event struct {
	AtS      float64     `json:"at_s"`
	Switch   plan.Key    `json:"switch"`
	Kind     string      `json:"kind" enum:"moved,recalled,bank,tapped,sent,nothing"`
	Words    string      `json:"words"`
	Variable plan.Key    `json:"variable,omitempty"`
	Value    *plan.Value `json:"value,omitempty"`
	Message  *midi.Sent  `json:"message,omitempty"`
}

// machine is the devices of a rig as they stand.
type machine struct {
	plan   *plan.Plan
	rig    *plan.Rig
	vars   map[plan.Key]plan.Variable
	values map[plan.Key]plan.Value
	banks  map[plan.ID]string
	taps   map[plan.Key][]float64 // by switch
	line   *midi.Report
	tempo  plan.Tempo
}

func newMachine(p *plan.Plan, r *plan.Rig, set plan.Setting, line *midi.Report) *machine {
	m := &machine{
		plan: p, rig: r, vars: map[plan.Key]plan.Variable{}, values: map[plan.Key]plan.Value{}, banks: map[plan.ID]string{},
		taps: map[plan.Key][]float64{}, line: line,
	}
	for _, id := range r.GearIn() {
		if g, ok := p.FindGear(id); ok {
			for _, v := range g.Variables() {
				m.vars[v.Key] = v
				m.values[v.Key] = set.At(v.Key)
			}
		}
	}
	for id, banks := range r.Programs {
		m.banks[id] = firstOf(banks)
	}
	return m
}

func firstOf[V any](banks map[string]V) string {
	names := sorted(banks)
	if len(names) == 0 {
		return ""
	}
	return names[0]
}

func sorted[V any](m map[string]V) []string {
	names := make([]string, 0, len(m))
	for k := range m {
		names = append(names, k)
	}
	slices.SortFunc(names, plan.CompareSlots)
	return names
}

// press lets a switch do what it does in the rig, and says what that was. A switch the rig does not
// have does nothing.
func (m *machine) press(x Press) []Event {
	g, ok := m.plan.FindGear(x.Switch.Gear())
	if !ok {
		return []Event{{AtS: x.AtS, Switch: x.Switch, Kind: "nothing", Words: "There is no such switch."}}
	}
	i := slices.IndexFunc(g.Footswitches, func(s plan.Footswitch) bool { return string(s.ID) == x.Switch.Rest() })
	if i < 0 {
		return []Event{{AtS: x.AtS, Switch: x.Switch, Kind: "nothing", Words: "There is no such switch."}}
	}
	press, hold, double := m.rig.SwitchDoes(g, &g.Footswitches[i])
	does := press
	switch x.Gesture {
	case "hold":
		does = hold
	case "double":
		does = double
	}
	if does == nil {
		return []Event{
			{AtS: x.AtS, Switch: x.Switch, Kind: "nothing", Words: g.Footswitches[i].Label + " does nothing that way."},
		}
	}
	var list []Event
	for _, a := range does.Actions {
		list = append(list, m.act(x, g, a)...)
	}
	return list
}

func (m *machine) act(x Press, g *plan.Gear, a plan.Action) []Event {
	switch a.Kind {
	case plan.Toggle:
		return m.move(x, a.Target, plan.On(!m.values[a.Target].IsOn()))
	case plan.Set:
		if a.Value != nil {
			return m.move(x, a.Target, *a.Value)
		}
	case plan.Step:
		return m.step(x, a)
	case plan.Tap:
		return m.tap(x, a)
	case plan.Bank:
		return m.bank(x, g, a)
	case plan.Recall:
		return m.recall(x, g, a)
	}
	return []Event{{AtS: x.AtS, Switch: x.Switch, Kind: "nothing", Words: "Nothing that changes a sound."}}
}

// move sets a variable; a preset brings what it holds with it.
func (m *machine) move(x Press, key plan.Key, to plan.Value) []Event {
	v, ok := m.vars[key]
	if !ok {
		return nil
	}
	m.values[key] = to
	list := []Event{{AtS: x.AtS, Switch: x.Switch, Kind: "moved", Variable: key, Value: &to, Words: words(v, to)}}
	if v.Control != nil && (v.Control.Kind == plan.Preset || v.Control.Kind == plan.Snapshot) {
		list = append(list, m.load(x, key.Gear())...)
	}
	return list
}

func words(v plan.Variable, to plan.Value) string {
	if v.IsOn() {
		if to.IsOn() {
			return v.Label + " on"
		}
		return v.Label + " off"
	}
	return fmt.Sprintf("%s %s", v.Label, to)
}

// load brings what a gear's memory holds at the preset it stands on.
func (m *machine) load(x Press, gear plan.ID) []Event {
	g, ok := m.plan.FindGear(gear)
	if !ok {
		return nil
	}
	preset, ok := g.PresetControl()
	if !ok {
		return nil
	}
	shot := ""
	if s, ok := g.SnapshotControl(); ok {
		shot = m.values[s.Key].Word()
	}
	var list []Event
	for _, v := range g.Variables() {
		held, ok := m.rig.Remembered(gear, m.values[preset.Key].Word(), shot, v.Key)
		if !ok || v.Key == preset.Key {
			continue
		}
		held = resolved(held, m.tempo)
		if m.values[v.Key] != held {
			m.values[v.Key] = held
			list = append(
				list, Event{AtS: x.AtS, Switch: x.Switch, Kind: "moved", Variable: v.Key, Value: &held, Words: words(v, held)},
			)
		}
	}
	return list
}

func resolved(v plan.Value, t plan.Tempo) plan.Value {
	if v.Kind() != plan.SyncValue {
		return v
	}
	if ms, ok := t.Milliseconds(v.Word()); ok {
		return plan.Number(ms)
	}
	return v
}

func (m *machine) step(x Press, a plan.Action) []Event {
	v, ok := m.vars[a.Target]
	if !ok || v.Control == nil {
		return nil
	}
	options := v.Control.Options
	at := slices.Index(options, m.values[a.Target].Word()) + a.Stride()
	switch {
	case a.Wrap:
		at = ((at % len(options)) + len(options)) % len(options)
	case at < 0 || at >= len(options):
		return []Event{{AtS: x.AtS, Switch: x.Switch, Kind: "nothing", Words: v.Label + " goes no further."}}
	}
	return m.move(x, a.Target, plan.Text(options[at]))
}

// A run of taps is over after so long; one interval more than the taps it takes is averaged.
const tapPauseS = 3.0

// tap gives a tempo: from the second tap on, a beat is the mean of the intervals.
func (m *machine) tap(x Press, a plan.Action) []Event {
	list := m.taps[x.Switch]
	if n := len(list); n > 0 && (x.AtS-list[n-1] > tapPauseS || x.AtS <= list[n-1]) {
		list = nil
	}
	list = append(list, x.AtS)
	m.taps[x.Switch] = list
	v, ok := m.vars[a.Target]
	if n := len(list); n >= 2 && ok {
		beat := (list[n-1] - list[0]) / float64(n-1)
		ms := beat * 1000
		if note := m.noteOf(a.Target); note != "" {
			if x, ok := (plan.Tempo{BPM: 60 / beat, Beat: m.tempo.Beat}).Milliseconds(note); ok {
				ms = x
			}
		}
		low, high := v.Control.Range()
		to := plan.Number(min(high, max(low, ms)))
		m.values[a.Target] = to
		return []Event{
			{
				AtS: x.AtS, Switch: x.Switch, Kind: "tapped", Variable: a.Target, Value: &to,
				Words: fmt.Sprintf("%s %.0f ms, %.0f bpm", v.Label, ms, 60/beat),
			},
		}
	}
	return []Event{{AtS: x.AtS, Switch: x.Switch, Kind: "tapped", Words: "First tap"}}
}

// noteOf is the note that a tapped time is bound to in the base settings or a recipe.
func (m *machine) noteOf(key plan.Key) string {
	if v := m.rig.Base[key]; v.Kind() == plan.SyncValue {
		return v.Word()
	}
	for _, rec := range m.rig.Recipes {
		if v := rec.Values[key]; v.Kind() == plan.SyncValue {
			return v.Word()
		}
	}
	return ""
}

func (m *machine) bank(x Press, g *plan.Gear, a plan.Action) []Event {
	names := m.rig.BanksOf(g)
	if len(m.rig.Programs[g.ID]) == 0 {
		return []Event{{AtS: x.AtS, Switch: x.Switch, Kind: "nothing", Words: g.Name + " holds no programs."}}
	}
	at := slices.Index(names, m.banks[g.ID]) + a.Stride()
	if a.Value != nil {
		at = slices.Index(names, a.Value.Word())
	}
	if a.Wrap {
		at = ((at % len(names)) + len(names)) % len(names)
	}
	m.banks[g.ID] = names[min(len(names)-1, max(0, at))]
	return []Event{
		{
			AtS: x.AtS, Switch: x.Switch, Kind: "bank",
			Words: fmt.Sprintf("%s bank %s, waiting for a slot", g.Name, m.banks[g.ID]),
		},
	}
}

func (m *machine) recall(x Press, g *plan.Gear, a plan.Action) []Event {
	bank, slot, ok := a.Slot()
	if !ok {
		return nil
	}
	if bank == "" {
		bank = m.banks[g.ID]
	}
	m.banks[g.ID] = bank
	program, ok := m.rig.Programs[g.ID][bank][slot]
	if !ok {
		return []Event{
			{AtS: x.AtS, Switch: x.Switch, Kind: "nothing", Words: fmt.Sprintf("%s %s/%s is empty", g.Name, bank, slot)},
		}
	}
	list := []Event{
		{
			AtS: x.AtS, Switch: x.Switch, Kind: "recalled",
			Words: fmt.Sprintf("%s %s/%s, %s", g.Name, bank, slot, program.Label),
		},
	}
	var presets []plan.Key
	for _, key := range plan.SortedKeys(program.Values) {
		to := program.Values[key]
		v, known := m.vars[key]
		if !known || to.Kind() == plan.UnchangedValue {
			continue
		}
		if v.Control != nil && (v.Control.Kind == plan.Preset || v.Control.Kind == plan.Snapshot) {
			presets = append(presets, key)
			continue
		}
		list = append(list, m.move(x, key, resolved(to, m.tempo))...)
	}
	for _, key := range presets { // what a preset brings comes after what the program says
		list = append(list, m.move(x, key, program.Values[key])...)
	}
	return append(list, m.sent(x, g.ID, bank, slot)...)
}

// sent are the messages a program sends down the line.
func (m *machine) sent(x Press, controller plan.ID, bank, slot string) []Event {
	var list []Event
	for _, p := range m.line.Programs {
		if p.Controller != controller || p.Bank != bank || p.Slot != slot {
			continue
		}
		for i := range p.Sends {
			list = append(
				list,
				Event{
					AtS: x.AtS, Switch: x.Switch, Kind: "sent", Message: &p.Sends[i],
					Words: fmt.Sprintf("to %s: %s", p.Sends[i].To, p.Sends[i].Words),
				},
			)
		}
	}
	return list
}
