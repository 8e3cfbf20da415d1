package paper

import (
	"context"
	"fmt"
	"strings"

	"envex/core/plan"
	"envex/core/signal"
	"envex/core/standin"
)

const powerCaution = "Wrong voltage or polarity kills pedals: check the label before you plug one in."

// standIns is, for each pedal that is heard, what comes nearest to it of all that is owned and not in the chain.
func (m *maker) standIns(ctx context.Context, kept *signal.Kept) error {
	list, err := standin.Each(ctx, m.given, m.show.Rig, standin.Options{
		SetList: m.show.SetList, At: m.show.Destination, Kept: kept,
	})
	if err != nil {
		return err
	}
	if len(list) == 0 {
		m.sheet.Assumed = append(m.sheet.Assumed, "No sound of the rig has a pedal on.")
	}
	none := Part{
		Title: "Nothing stands in", Columns: []Column{{"box", false}, {"sounds that have it on", false}}, Rows: []Row{},
		Note: "Nothing that you own, and that is not in the chain, does the job of these.",
	}
	for _, x := range list {
		if x.By == nil {
			var names []string
			for _, s := range x.Sounds {
				names = append(names, s.Name)
			}
			none.Rows = append(none.Rows, Row{text(x.Name), text(plan.Listed(names))})
			continue
		}
		m.sheet.Parts = append(m.sheet.Parts, knobsOf(x), soundsOf(x))
	}
	if len(m.sheet.Parts) > 0 {
		m.care(powerCaution)
		m.sheet.Assumed = append(
			m.sheet.Assumed,
			"Loudness is over the home sound. The figures are of models of kinds of circuit: check each by ear before the show.",
		)
	}
	if len(none.Rows) > 0 {
		m.sheet.Parts = append(m.sheet.Parts, none)
	}
	return nil
}

// knobsOf is where the knobs of what stands in are set, and what else changes with it.
func knobsOf(x standin.Ready) Part {
	part := Part{Title: x.Name + " dies: plug in " + x.By.Name, Columns: []Column{{"set", false}}, Rows: []Row{}}
	also := x.By.Also
	if costs := x.By.Costs; len(costs) > 0 {
		also = append([]string{"Over the set: " + plan.Listed(costs) + "."}, also...)
	}
	part.Note = strings.Join(also, " ")
	column := map[string]int{}
	add := func(name string, knobs []standin.Knob) {
		row := Row{text(name)}
		for _, k := range knobs {
			i, ok := column[k.Name]
			if !ok {
				i = len(part.Columns)
				column[k.Name] = i
				part.Columns = append(part.Columns, Column{k.Name, false})
			}
			for len(row) <= i {
				row = append(row, text(""))
			}
			row[i] = Cell{Text: k.Where(), Hand: k.Turn}
		}
		part.Rows = append(part.Rows, row)
	}
	if len(x.By.Knobs) > 0 || len(x.By.Held) == 0 {
		add("all night", x.By.Knobs)
	}
	for _, h := range x.By.Held {
		add("preset "+h.Preset, h.Knobs)
	}
	for i := range part.Rows {
		for len(part.Rows[i]) < len(part.Columns) {
			part.Rows[i] = append(part.Rows[i], text(""))
		}
	}
	return part
}

// soundsOf is how each sound comes with what stands in, beside how it is.
func soundsOf(x standin.Ready) Part {
	part := Part{
		Title: "With " + x.By.Name + " for " + x.Name,
		Columns: []Column{
			{"sound", false}, {"LU over home", true}, {"now", true}, {"dirt, %", true}, {"now", true}, {"targets", false},
		},
		Rows: []Row{},
	}
	was := map[plan.ID]standin.Sound{}
	for _, s := range x.Sounds {
		was[s.Sound] = s
	}
	for _, s := range x.By.Sounds {
		now := was[s.Sound]
		part.Rows = append(part.Rows, Row{
			text(s.Name), text(over(s.OverHome)), text(over(now.OverHome)), text(fmt.Sprintf("%.0f", s.Dirt)),
			text(fmt.Sprintf("%.0f", now.Dirt)), text(meets(s, now)),
		})
	}
	return part
}

func over(lu float64) string { return fmt.Sprintf("%+.1f", plan.Tenth(lu)) }

// meets is whether a sound meets its targets with what stands in, and if not, why.
func meets(s standin.Near, now standin.Sound) string {
	if s.Within {
		return "met"
	}
	var list []string
	for _, c := range s.Checks {
		if !c.Met {
			list = append(list, c.Words)
		}
	}
	if !now.Within {
		list = append(list, "It is out of them now, too.")
	}
	return strings.Join(list, " ")
}
