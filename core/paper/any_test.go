package paper

import (
	"bytes"
	"encoding/csv"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/demo"
)

// anyPlan is the demo with much of it taken away, moved or emptied, as long as it is a valid plan.
func anyPlan(t *rapid.T) *plan.Plan {
	p := demo.Plan()
	show := &p.Shows[0]
	r := &p.Rigs[rapid.IntRange(0, len(p.Rigs)-1).Draw(t, "rig")]
	show.Rig = r.ID
	if n := len(r.Destinations); n > 0 && rapid.Bool().Draw(t, "elsewhere") {
		d := &r.Destinations[rapid.IntRange(0, n-1).Draw(t, "destination")]
		show.Destination = d.ID
		d.Kind = rapid.SampledFrom(
			[]plan.DestinationKind{plan.OwnAmp, plan.HiredAmp, plan.TwoAmps, plan.StereoDI, plan.MonoDI, plan.Headphones},
		).Draw(t, "kind")
	}
	keep := func(what string) bool { return rapid.IntRange(0, 4).Draw(t, what) > 0 }
	r.Path = slices.DeleteFunc(r.Path, func(n plan.Node) bool { return !keep("stop") })
	r.Recipes = slices.DeleteFunc(r.Recipes, func(plan.Recipe) bool { return !keep("recipe") })
	r.PowerPlan = slices.DeleteFunc(r.PowerPlan, func(plan.PowerFeed) bool { return !keep("feed") })
	if !keep("guitars") {
		r.Guitars = nil
	}
	if !keep("floor") {
		r.Floor = plan.Floor{}
	}
	for i := range p.Songs {
		p.Songs[i].Sections = slices.DeleteFunc(p.Songs[i].Sections, func(plan.Section) bool { return !keep("section") })
	}
	l := &p.SetLists[0]
	l.Entries = l.Entries[:rapid.IntRange(0, len(l.Entries)).Draw(t, "songs")]
	for i := range p.Gear {
		if !keep("size") {
			p.Gear[i].Size, p.Gear[i].WeightG, p.Gear[i].SpeakerOut = nil, nil, nil
		}
	}
	if len(p.Validate()) > 0 {
		t.Skip("no such plan")
	}
	return p
}

func TestEveryPlanHasEverySheet(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := anyPlan(t)
		for _, kind := range Kinds() {
			s, err := Make(p, p.Shows[0].ID, kind)
			require.NoError(t, err)
			assert.NotEmpty(t, s.Title)
			for _, part := range s.Parts {
				require.NotNil(t, part.Rows, "an empty table is a table: %s", part.Title)
				for _, row := range part.Rows {
					require.Len(t, row, len(part.Columns), "%s, %s", s.Title, part.Title)
					for _, c := range row {
						if c.Hand != nil {
							assert.GreaterOrEqual(t, *c.Hand, 0.0)
							assert.LessOrEqual(t, *c.Hand, 1.0)
						}
					}
				}
			}
			_, err = CSV(s)
			require.NoError(t, err)
			assert.NotEmpty(t, Markdown(s))
			again, err := Make(p, p.Shows[0].ID, kind)
			require.NoError(t, err)
			assert.Equal(t, s, again, "the same plan, the same sheet")
		}
	})
}

// Whatever stands on a sheet, a program that reads CSV gets every cell of it back, and no cell is a formula to it.
func TestEveryCellOfASheetIsReadBackFromCSV(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := demo.Plan()
		word := rapid.SampledFrom(
			[]string{
				"=1+1", "+49", "-x", "@here", "\ttab", `"quoted"`, "a,b", "a\nb", "plain", "1.5", "=HYPERLINK(\"x\")",
				"'apostrophe",
			},
		)
		p.Songs[0].Sections[0].Label = word.Draw(t, "label")
		p.Shows[0].Faults = []plan.Fault{{Text: word.Draw(t, "fault"), Gear: "amber"}}
		amber, _ := p.FindGear("amber")
		amber.Name, amber.Colour = word.Draw(t, "name"), word.Draw(t, "colour")
		for _, kind := range Kinds() {
			s := sheet(t, p, "quay-12", kind)
			data, err := CSV(s)
			require.NoError(t, err)
			r := csv.NewReader(bytes.NewReader(data))
			r.FieldsPerRecord = -1
			rows, err := r.ReadAll()
			require.NoError(t, err)
			at := 0
			for i, part := range s.Parts {
				if i == 0 || !sameColumns(s.Parts[i-1], part) {
					require.Equal(t, "part", rows[at][0])
					require.Len(t, rows[at], len(part.Columns)+1)
					at++
				}
				for _, row := range part.Rows {
					for k, c := range row {
						// Line ends within a field are one kind in CSV.
						got := strings.TrimPrefix(rows[at][k+1], "'")
						want := strings.TrimPrefix(c.Text, "'")
						assert.Equal(t, want, got, "%s, %s", part.Title, part.Columns[k].Name)
						if _, err := strconv.ParseFloat(rows[at][k+1], 64); err != nil && rows[at][k+1] != "" {
							assert.NotContains(t, "=+-@\t\r", rows[at][k+1][:1], "%q would be a formula", rows[at][k+1])
						}
					}
					at++
				}
			}
			assert.Len(t, rows, at)
		}
	})
}
