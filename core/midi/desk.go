package midi

import (
	"fmt"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
)

// Desk is a set of simulated devices at the end of a controller's line: they start at the rig's
// base settings and move by the bytes they get, each listening on its own channel.
type Desk struct {
	plan    *plan.Plan
	rig     *plan.Rig
	devices []*plan.Gear
	vars    map[plan.Key]plan.Variable
	states  map[plan.Key]plan.Value
	reader  Reader
}

// NewDesk sets up the devices of a rig that listen. It fails when the rig is not there.
func NewDesk(p *plan.Plan, rig plan.ID) (*Desk, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("midi: %w", err)
	}
	d := &Desk{plan: p, rig: r, devices: listeners(p, r), vars: variables(p, r), states: map[plan.Key]plan.Value{}}
	for key, v := range d.vars {
		d.states[key] = r.BaseValue(v)
	}
	return d, nil
}

// Receive takes bytes off the line and gives what every message moved; a message that no device
// reacts to has no words.
func (d *Desk) Receive(data []byte) []Heard {
	var list []Heard
	for _, m := range d.reader.Read(data) {
		h := Heard{Message: m, Bytes: fmt.Sprintf("% X", m.Bytes()), Words: []string{}}
		for _, g := range d.devices {
			if g.MIDI.Channel != m.Channel {
				continue
			}
			for _, x := range g.Messages() {
				value, moves := d.reacts(x, m)
				if !moves {
					continue
				}
				d.states[x.Target] = value
				h.Words = append(h.Words, d.vars[x.Target].Label+" "+value.String())
			}
		}
		list = append(list, h)
	}
	return list
}

// reacts is what a message sets a target to, if the target listens to it.
func (d *Desk) reacts(x plan.MIDIMessage, m Message) (plan.Value, bool) {
	v, known := d.vars[x.Target]
	if !known || (x.Control == nil) != (m.Kind == ProgramChange) || (x.Control != nil && *x.Control != m.Number) {
		return plan.Value{}, false
	}
	if x.Control == nil {
		return x.Reads(v, m.Number)
	}
	return x.Reads(v, m.Value)
}

// At is where a variable of a device stands.
func (d *Desk) At(key plan.Key) plan.Value { return d.states[key] }

// Heard is a message as it arrived and what it moved.
type Heard struct {
	Message
	Bytes string   `json:"bytes"`
	Words []string `json:"words" doc:"What moved; empty where nobody reacts."`
}

// Shown is a control of a simulated device and where it stands.
type Shown struct {
	Variable plan.Key `json:"variable"`
	Gear     plan.ID  `json:"gear"`
	Label    string   `json:"label"`
	Value    string   `json:"value"`
}

// Slot names one program of a controller.
type Slot struct {
	Controller plan.ID `json:"controller"`
	Bank       string  `json:"bank"`
	Slot       string  `json:"slot"`
}

// Monitor is what simulated devices got and where they stand after some recalls.
type Monitor struct {
	Heard []Heard `json:"heard" doc:"Every message, in order."`
	Shown []Shown `json:"shown" doc:"Where every control that listens stands now."`
}

// Play sends programs to simulated devices, one after the other. It fails when the rig or a
// program is not there.
func Play(p *plan.Plan, rig plan.ID, recalls []Slot) (*Monitor, error) {
	d, err := NewDesk(p, rig)
	if err != nil {
		return nil, err
	}
	report, err := Map(p, rig)
	if err != nil {
		return nil, err
	}
	out := &Monitor{Heard: []Heard{}, Shown: []Shown{}}
	for _, s := range recalls {
		at := slices.IndexFunc(report.Programs, func(x Program) bool {
			return x.Controller == s.Controller && x.Bank == s.Bank && x.Slot == s.Slot
		})
		if at < 0 {
			return nil, reason.Errorf("%s has no program in bank %s, slot %s", s.Controller, s.Bank, s.Slot)
		}
		for _, x := range report.Programs[at].Sends {
			out.Heard = append(out.Heard, d.Receive(x.Message.Bytes())...)
		}
	}
	out.Shown = d.States()
	return out, nil
}
