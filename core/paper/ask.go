package paper

import (
	"context"

	"envex/core/hire"
	"envex/core/signal"
)

// ask is what those who hire out amps, and the house, are asked for.
func (m *maker) ask(ctx context.Context, kept *signal.Kept) error {
	found, err := hire.AskFor(ctx, m.given, m.show.Rig, m.show.Destination, m.show.SetList, kept)
	if err != nil {
		return err
	}
	byName := map[string]int{}
	for _, x := range found.Items {
		i, ok := byName[x.Of]
		if !ok {
			i = len(m.sheet.Parts)
			byName[x.Of] = i
			title := x.Of
			if title != hire.OfTheHouse && title != hire.OfPower {
				title = "In place of " + x.Of
			}
			m.sheet.Parts = append(m.sheet.Parts, Part{
				Title: title, Columns: []Column{{"what is needed", false}, {"why", false}, {"is there", false}}, Rows: []Row{},
			})
		}
		m.sheet.Parts[i].Rows = append(m.sheet.Parts[i].Rows, Row{text(x.Need), text(x.Why), text("")})
	}
	m.sheet.Assumed = append(m.sheet.Assumed, found.Assumed...)
	m.sheet.Cautions = append(m.sheet.Cautions, found.Cautions...)
	return nil
}
