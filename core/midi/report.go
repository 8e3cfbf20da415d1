package midi

import (
	"fmt"
	"slices"
	"sort"

	"envex/core/plan"
)

// Report is the MIDI map of a rig.
type Report struct {
	Devices  []Device  `json:"devices" doc:"What listens, by channel."`
	Programs []Program `json:"programs" doc:"What every program sends, in order."`
	Findings []Finding `json:"findings"`
}

// Device is a piece of gear that listens.
type Device struct {
	Gear     plan.ID   `json:"gear"`
	Name     string    `json:"name"`
	Channel  int       `json:"channel"`
	Listens  []Listens `json:"listens"`
	Presumed bool      `json:"presumed,omitempty" doc:"Nobody has entered its messages: the usual ones are shown."`
}

// Listens is one message a device reacts to.
type Listens struct {
	Target  plan.Key `json:"target"`
	Label   string   `json:"label"`
	Kind    Kind     `json:"kind" enum:"program change,control change,relay"`
	Control *int     `json:"control,omitempty"`
	Values  []Number `json:"values"`
}

// Number is what a value is sent as.
type Number struct {
	Value string `json:"value"`
	Sent  int    `json:"sent"`
	Shown int    `json:"shown" doc:"What the device's display calls it."`
}

// Program is what one slot of a controller sends.
type Program struct {
	Controller plan.ID `json:"controller"`
	Name       string  `json:"name"`
	Bank       string  `json:"bank"`
	Slot       string  `json:"slot"`
	Label      string  `json:"label"`
	Sends      []Sent  `json:"sends"`
	Loops      []Loop  `json:"loops" doc:"What it does with the controller's own loops."`
}

// Loop is a loop of a controller in a program.
type Loop struct {
	Loop int  `json:"loop"`
	On   bool `json:"on"`
}

// Sent is a message with what it is for.
type Sent struct {
	Message
	Gear  plan.ID  `json:"gear"`
	To    string   `json:"to" doc:"The name of what it is meant for."`
	Moves plan.Key `json:"moves"`
	Words string   `json:"words"`
	Shown int      `json:"shown" doc:"The program as the device's display counts it."`
	Bytes string   `json:"bytes" doc:"In hexadecimal; empty for a relay."`
}

// Finding is something wrong with the line.
type Finding struct {
	ID    string    `json:"id"`
	Title string    `json:"title"`
	Words string    `json:"words"`
	Gear  []plan.ID `json:"gear"`
}

// Map is the MIDI map of a rig as it stands in the plan. It fails when the rig is not there.
func Map(p *plan.Plan, rig plan.ID) (*Report, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("midi: %w", err)
	}
	out := &Report{Devices: []Device{}, Programs: []Program{}, Findings: []Finding{}}
	listening := listeners(p, r)
	for _, g := range listening {
		out.Devices = append(out.Devices, device(g))
	}
	sort.SliceStable(out.Devices, func(i, j int) bool { return out.Devices[i].Channel < out.Devices[j].Channel })
	for _, id := range r.GearIn() {
		if g, ok := p.FindGear(id); ok && len(r.Programs[id]) > 0 {
			out.programs(p, r, g)
		}
	}
	out.lines(p, r, listening)
	return out, nil
}

// listeners are the devices of a rig that listen, in the order of the rig.
func listeners(p *plan.Plan, r *plan.Rig) []*plan.Gear {
	var list []*plan.Gear
	for _, id := range r.GearIn() {
		if g, ok := p.FindGear(id); ok && g.MIDI != nil && g.Kind != plan.Controller {
			list = append(list, g)
		}
	}
	return list
}

// variables are those of a rig's gear by key.
func variables(p *plan.Plan, r *plan.Rig) map[plan.Key]plan.Variable {
	all := map[plan.Key]plan.Variable{}
	for _, id := range r.GearIn() {
		if g, ok := p.FindGear(id); ok {
			for _, v := range g.Variables() {
				all[v.Key] = v
			}
		}
	}
	return all
}

func device(g *plan.Gear) Device {
	d := Device{Gear: g.ID, Name: g.Name, Channel: g.MIDI.Channel, Listens: []Listens{}, Presumed: len(g.MIDI.Map) == 0}
	vars := map[plan.Key]plan.Variable{}
	for _, v := range g.Variables() {
		vars[v.Key] = v
	}
	for _, m := range g.Messages() {
		v := vars[m.Target]
		l := Listens{Target: m.Target, Label: v.Label, Kind: kindOf(m), Control: m.Control, Values: []Number{}}
		for _, x := range positions(v) {
			if n, ok := m.Number(v, x); ok {
				l.Values = append(l.Values, Number{Value: x.String(), Sent: n, Shown: shown(g, m, n)})
			}
		}
		d.Listens = append(d.Listens, l)
	}
	return d
}

func kindOf(m plan.MIDIMessage) Kind {
	if m.Control == nil {
		return ProgramChange
	}
	return ControlChange
}

func shown(g *plan.Gear, m plan.MIDIMessage, n int) int {
	if m.Control == nil {
		return g.MIDI.Shown(n)
	}
	return n
}

// positions are the values of a variable worth listing: both ends of a knob, every option.
func positions(v plan.Variable) []plan.Value {
	switch {
	case v.IsOn():
		return []plan.Value{plan.On(true), plan.On(false)}
	case v.Control.Kind == plan.Knob:
		low, high := v.Control.Range()
		return []plan.Value{plan.Number(low), plan.Number(high)}
	}
	var list []plan.Value
	for _, o := range v.Control.Options {
		list = append(list, plan.Text(o))
	}
	return list
}

// programs writes down what the programs of a controller send.
func (out *Report) programs(p *plan.Plan, r *plan.Rig, g *plan.Gear) {
	vars := variables(p, r)
	for _, bank := range inOrder(r.Programs[g.ID]) {
		for _, slot := range inOrder(r.Programs[g.ID][bank]) {
			stored := r.Programs[g.ID][bank][slot]
			x := Program{
				Controller: g.ID, Name: g.Name, Bank: bank, Slot: slot, Label: stored.Label, Sends: []Sent{}, Loops: []Loop{},
			}
			loops := map[int]bool{}
			for key, loop := range r.SwitchedLoops(g.ID) {
				if on, ok := stored.Values[key+"/on"]; ok {
					loops[loop] = loops[loop] || on.IsOn()
				}
			}
			for k := range g.LoopCount() {
				if on, ok := loops[k+1]; ok {
					x.Loops = append(x.Loops, Loop{k + 1, on})
				}
			}
			x.Sends = append(x.Sends, sends(p, r, g, vars, stored, func(f Finding) {
				f.ID = fmt.Sprintf("midi:unsaid:%s:%s:%s:%s", g.ID, bank, slot, f.ID)
				f.Title = fmt.Sprintf("%s %s/%s cannot be sent whole", g.Name, bank, slot)
				out.Findings = append(out.Findings, f)
			})...)
			out.Programs = append(out.Programs, x)
		}
	}
}

// sends are the messages of one program: program changes first, since they move everything in
// the device, then control changes.
func sends(
	p *plan.Plan, r *plan.Rig, c *plan.Gear, vars map[plan.Key]plan.Variable, stored plan.Program, unsaid func(Finding),
) []Sent {
	var changes, controls, relays []Sent
	looped := r.SwitchedLoops(c.ID)
	for _, key := range plan.SortedKeys(stored.Values) {
		value := stored.Values[key]
		v, known := vars[key]
		if !known || value.Kind() == plan.UnchangedValue || key.Gear() == c.ID {
			continue
		}
		if v.IsOn() && looped[plan.BlockKey(v.Gear, v.Block)] > 0 {
			continue // its loop is switched, here in the controller
		}
		if x, ok := relaySent(r, c, v, value); ok {
			relays = append(relays, x)
			continue
		}
		g, ok := p.FindGear(key.Gear())
		if !ok || g.MIDI == nil {
			continue
		}
		m, ok := g.Message(key)
		if !ok {
			continue
		}
		n, ok := m.Number(v, value)
		if !ok {
			unsaid(
				Finding{
					ID: string(key), Words: fmt.Sprintf("No message sets %s to %s.", v.Label, value), Gear: []plan.ID{c.ID, g.ID},
				},
			)
			continue
		}
		x := sent(g, m, v, value, n, r.SendsOn(c.ID, g))
		if x.Kind == ProgramChange {
			changes = append(changes, x)
		} else {
			controls = append(controls, x)
		}
	}
	return slices.Concat(changes, controls, relays)
}

// sent is a message to a device on a channel that sets one of its variables to a value, which goes as a number.
func sent(g *plan.Gear, m plan.MIDIMessage, v plan.Variable, value plan.Value, number, channel int) Sent {
	x := Sent{Gear: g.ID, To: g.Name, Moves: v.Key, Words: v.Label + " " + value.String(), Shown: shown(g, m, number)}
	x.Message = Message{Kind: kindOf(m), Channel: channel, Number: number}
	if m.Control != nil {
		x.Number, x.Value = *m.Control, number
	}
	x.Bytes = fmt.Sprintf("% X", x.Message.Bytes())
	return x
}

func relaySent(r *plan.Rig, c *plan.Gear, v plan.Variable, value plan.Value) (Sent, bool) {
	for _, l := range r.Relays {
		if l.Controller != c.ID || l.Target != v.Key {
			continue
		}
		at := slices.IndexFunc(c.Relays, func(x plan.Relay) bool { return x.ID == l.Relay })
		closed := value.IsOn() || (!v.IsOn() && slices.Index(v.Control.Options, value.Word()) == 1)
		word := "open"
		if closed {
			word = "closed"
		}
		return Sent{
			Gear: v.Gear, To: v.Label, Moves: v.Key, Words: fmt.Sprintf("relay %s %s: %s %s", l.Relay, word, v.Label, value),
			Message: Message{Kind: Relay, Number: at + 1},
		}, true
	}
	return Sent{}, false
}

// lines finds devices that share a channel, and controllers that send where nobody listens.
func (out *Report) lines(p *plan.Plan, r *plan.Rig, listening []*plan.Gear) {
	for i, a := range listening {
		for _, b := range listening[i+1:] {
			if a.MIDI.Channel == b.MIDI.Channel {
				out.Findings = append(out.Findings, Finding{
					ID:    fmt.Sprintf("midi:shared:%s:%s", a.ID, b.ID),
					Title: fmt.Sprintf("%s and %s share channel %d", a.Name, b.Name, a.MIDI.Channel),
					Words: "What is meant for one moves the other too. Give one of them a channel of its own.",
					Gear:  []plan.ID{a.ID, b.ID},
				})
			}
		}
	}
	for _, l := range r.MIDI {
		c, ok := p.FindGear(l.Controller)
		g, ok2 := p.FindGear(l.Gear)
		if !ok || !ok2 || g.MIDI == nil || l.Channel == g.MIDI.Channel {
			continue
		}
		out.Findings = append(out.Findings, Finding{
			ID: fmt.Sprintf("midi:channel:%s:%s", c.ID, g.ID), Title: fmt.Sprintf("%s does not hear %s", g.Name, c.Name),
			Words: fmt.Sprintf("%s sends to it on channel %d, and it listens on %d.", c.Name, l.Channel, g.MIDI.Channel),
			Gear:  []plan.ID{c.ID, g.ID},
		})
	}
	for id := range r.Programs {
		c, ok := p.FindGear(id)
		if !ok {
			continue
		}
		inRig := map[plan.ID]bool{}
		for _, x := range r.GearIn() {
			inRig[x] = true
		}
		absent := map[plan.ID]bool{}
		for _, bank := range r.Programs[id] {
			for _, program := range bank {
				for key := range program.Values {
					absent[key.Gear()] = absent[key.Gear()] || !inRig[key.Gear()]
				}
			}
		}
		for _, gear := range plan.SortedKeys(absent) {
			g, ok := p.FindGear(gear)
			if ok && g.Kind == plan.Amp && len(r.Destinations) > 0 {
				continue // it stands at another destination, or there alone where the rig is at none
			}
			if ok && absent[gear] {
				out.Findings = append(out.Findings, Finding{
					ID: fmt.Sprintf("midi:absent:%s:%s", id, gear), Title: fmt.Sprintf("%s is not in the rig", g.Name),
					Words: fmt.Sprintf("Programs of %s still send to it.", c.Name), Gear: []plan.ID{id, gear},
				})
			}
		}
	}
	sort.SliceStable(out.Findings, func(i, j int) bool { return out.Findings[i].ID < out.Findings[j].ID })
}

func inOrder[V any](m map[string]V) []string {
	keys := plan.SortedKeys(m)
	slices.SortStableFunc(keys, plan.CompareSlots)
	return keys
}
