package paper

import (
	"fmt"
	"slices"
	"strings"

	"envex/core/electric"
)

// power is what feeds each box, output by output, what runs on a battery, and what is wrong with it.
func (m *maker) power() error {
	report, err := electric.FeedRig(m.given, m.show.Rig, m.show.Destination)
	if err != nil {
		return err
	}
	for _, s := range report.Supplies {
		if s.Used {
			m.sheet.Parts = append(m.sheet.Parts, m.outputs(s))
		}
	}
	others := Part{
		Title: "Not on an output",
		Columns: []Column{
			{"box", false}, {"volts", true}, {"draws mA", true}, {"polarity", false}, {"runs on", false}, {"hours left", true},
		},
		Rows: []Row{},
	}
	for _, l := range report.Loads {
		if l.Fed == "output" {
			continue
		}
		runs, hours := "nothing yet", ""
		if l.Fed == "battery" {
			runs = "its battery"
			if l.HoursLeft != nil {
				hours = fmt.Sprintf("%.0f", *l.HoursLeft)
			}
		}
		others.Rows = append(
			others.Rows,
			Row{text(l.Name), text(figure(l.Voltage)), text(figure(l.CurrentMA)), text(l.Polarity), text(runs), text(hours)},
		)
	}
	m.sheet.Parts = append(m.sheet.Parts, others)
	wrong := Part{Title: "Not right yet", Columns: []Column{{"what", false}, {"why", false}}, Rows: []Row{}}
	for _, f := range report.Findings {
		wrong.Rows = append(wrong.Rows, Row{text(f.Title), text(f.Reason)})
		if f.Caution != "" {
			m.care(f.Caution)
		}
	}
	if len(wrong.Rows) > 0 {
		m.sheet.Parts = append(m.sheet.Parts, wrong)
	}
	m.sheet.Assumed = append(m.sheet.Assumed, report.Assumed...)
	for _, c := range report.Cautions {
		m.care(c)
	}
	return nil
}

// care adds a caution, each once.
func (m *maker) care(caution string) {
	if !slices.Contains(m.sheet.Cautions, caution) {
		m.sheet.Cautions = append(m.sheet.Cautions, caution)
	}
}

func figure(x float64) string { return fmt.Sprintf("%.4g", x) }

func (m *maker) outputs(s electric.SupplyState) Part {
	part := Part{
		Title: s.Name,
		Columns: []Column{
			{"output", false}, {"volts", true}, {"feeds", false}, {"draws mA", true}, {"of mA", true}, {"polarity", false},
			{"lead", false},
		},
		Rows: []Row{},
	}
	part.Note = fmt.Sprintf("%s of %s mA drawn.", figure(s.DrawnMA), figure(s.TotalMA))
	if s.MainsV != "" {
		part.Note += fmt.Sprintf(" Mains: %s V.", s.MainsV)
	}
	for _, o := range s.Outputs {
		if len(o.Loads) == 0 {
			continue
		}
		var names []string
		for _, id := range o.Loads {
			names = append(names, m.name(id))
		}
		lead := o.Lead
		if o.With != "" {
			lead += fmt.Sprintf(" with output %s", o.With)
		}
		polarity := o.Polarity
		if o.AC {
			polarity = "AC"
		}
		part.Rows = append(
			part.Rows,
			Row{
				text(o.Name), text(figure(o.Voltage)), text(strings.Join(names, ", ")), text(figure(o.DrawnMA)),
				text(figure(o.CurrentMA)), text(polarity), text(lead),
			},
		)
	}
	return part
}
