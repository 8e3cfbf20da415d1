package paper

import (
	"fmt"
	"strings"

	"envex/core/midi"
)

// midi is what every program sends, and to whom.
func (m *maker) midi() error {
	report, err := midi.Map(m.plan, m.rig.ID)
	if err != nil {
		return err
	}
	programs := Part{
		Title: "Programs",
		Columns: []Column{
			{"controller", false}, {"bank", true}, {"slot", true}, {"label", false}, {"loops on", false}, {"sends", false},
		},
		Rows: []Row{},
	}
	for _, p := range report.Programs {
		programs.Rows = append(
			programs.Rows, Row{text(p.Name), text(p.Bank), text(p.Slot), text(p.Label), text(loopsOn(p)), text(sends(p))},
		)
	}
	if len(programs.Rows) == 0 {
		programs.Note = "No controller of the rig holds programs yet."
	}
	devices := Part{
		Title: "What listens",
		Columns: []Column{
			{"channel", true}, {"box", false}, {"control", false}, {"message", false}, {"values", false}, {"note", false},
		},
		Rows: []Row{},
	}
	for _, d := range report.Devices {
		for _, l := range d.Listens {
			note := ""
			if d.Presumed {
				note = "the usual messages: nobody has entered its own"
			}
			message := string(l.Kind)
			if l.Control != nil {
				message = fmt.Sprintf("%s %d", message, *l.Control)
			}
			channel := ""
			if l.Kind != midi.Relay {
				channel = fmt.Sprint(d.Channel)
			}
			devices.Rows = append(
				devices.Rows, Row{text(channel), text(d.Name), text(l.Label), text(message), text(numbers(l)), text(note)},
			)
		}
	}
	m.sheet.Parts = append(m.sheet.Parts, programs, devices)
	if len(report.Findings) > 0 {
		part := Part{Title: "Not right yet", Columns: []Column{{"what", false}, {"why", false}}, Rows: []Row{}}
		for _, f := range report.Findings {
			part.Rows = append(part.Rows, Row{text(f.Title), text(f.Words)})
		}
		m.sheet.Parts = append(m.sheet.Parts, part)
	}
	return nil
}

func loopsOn(p midi.Program) string {
	var on []string
	for _, l := range p.Loops {
		if l.On {
			on = append(on, fmt.Sprint(l.Loop))
		}
	}
	switch {
	case len(p.Loops) == 0:
		return ""
	case len(on) == 0:
		return "none"
	}
	return strings.Join(on, ", ")
}

func sends(p midi.Program) string {
	var list []string
	for _, s := range p.Sends {
		words := fmt.Sprintf("%s: %s", s.To, s.Message)
		if s.Kind == midi.Relay {
			words = s.Words
		}
		if s.Kind == midi.ProgramChange && s.Shown != s.Number {
			words += fmt.Sprintf(", shown as %d", s.Shown)
		}
		list = append(list, words)
	}
	return strings.Join(list, "; ")
}

// numbers are the values of a message. One that is shown as another number than it is sent as says so.
func numbers(l midi.Listens) string {
	var list []string
	for _, n := range l.Values {
		words := fmt.Sprintf("%s = %d", n.Value, n.Sent)
		if l.Kind == midi.ProgramChange && n.Shown != n.Sent {
			words += fmt.Sprintf(" (shown %d)", n.Shown)
		}
		list = append(list, words)
	}
	return strings.Join(list, ", ")
}
