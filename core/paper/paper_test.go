package paper

import (
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/demo"
	"envex/golden"
)

func sheet(t require.TestingT, p *plan.Plan, show plan.ID, kind Kind) *Sheet {
	s, err := Make(p, show, kind)
	require.NoError(t, err)
	return s
}

// cells are the texts of a part's column.
func cells(t require.TestingT, p Part, column string) []string {
	i := slices.IndexFunc(p.Columns, func(c Column) bool { return c.Name == column })
	require.GreaterOrEqual(t, i, 0, column)
	var list []string
	for _, r := range p.Rows {
		list = append(list, r[i].Text)
	}
	return list
}

func TestSheetsOfTheDemoAreAsTheyWere(t *testing.T) {
	p := demo.Plan()
	for i, show := range p.Shows {
		kinds := Kinds()
		if i == 0 {
			kinds = AllKinds() // sounds are rendered for what is sent ahead: one is enough
		}
		for _, kind := range kinds {
			s := sheet(t, p, show.ID, kind)
			written, err := CSV(s)
			require.NoError(t, err)
			for ext, data := range map[string][]byte{"md": Markdown(s), "csv": written} {
				name := filepath.Join("testdata", string(show.ID)+"-"+string(kind)+"."+ext)
				golden.Hold(t, name, string(data))
			}
		}
	}
}

// wired follows a patch list, its lines in any order, from the guitar on. Within a box the signal goes
// on from the jack it came in by to the first jack behind it that a cable is in: an amp's input to its
// send, a loop's return to the next loop's send, a switcher's insert where its chain can be broken.
func wired(t require.TestingT, part Part, guitar string, breaks map[string]float64) []string {
	type cable struct{ from, out, to, in string }
	var cables []cable
	for _, r := range part.Rows {
		cables = append(cables, cable{r[1].Text, r[2].Text, r[3].Text, r[4].Text})
	}
	behind := func(box, jack string) float64 {
		kind, n, numbered := strings.Cut(jack, " ")
		number, _ := strconv.ParseFloat(n, 64)
		switch {
		case kind == "input":
			return 0
		case kind == "insert":
			return breaks[box] - 0.5
		case kind == "output":
			return 1000
		case numbered:
			return number
		}
		return 1 // the loop of an amp
	}
	boxes := []string{guitar}
	at, in := guitar, "input"
	for range len(cables) + 1 {
		var next *cable
		for i, c := range cables {
			if c.from == at && behind(at, c.out) > behind(at, in) &&
				(next == nil || behind(at, c.out) < behind(at, next.out)) {
				next = &cables[i]
			}
		}
		if next == nil {
			return boxes
		}
		at, in = next.to, next.in
		boxes = append(boxes, at)
	}
	require.Fail(t, "the cables go round in a circle")
	return nil
}

// broken is the loops of switchers ahead of which the chain can leave them.
func broken(p *plan.Plan) map[string]float64 {
	at := map[string]float64{}
	for _, g := range p.Gear {
		if g.Switcher == nil {
			continue
		}
		for i, l := range g.Switcher.Loops {
			if l.Break {
				at[g.Name] = float64(i + 1)
			}
		}
	}
	return at
}

// passed is the boxes that a path without splits goes through, each as often as it is plugged into.
func passed(p *plan.Plan, r *plan.Rig) []string {
	name := func(id plan.ID) string {
		g, _ := p.FindGear(id)
		return g.Name
	}
	list := []string{name(r.Guitars[0])}
	var in plan.Node
	for _, n := range r.Path {
		if n.Switcher != in.Switcher || n.Loop != in.Loop {
			if in.Switcher != "" {
				list = append(list, name(in.Switcher))
			}
			if n.Switcher != "" && n.Switcher != in.Switcher {
				list = append(list, name(n.Switcher))
			}
		}
		in = n
		g, _ := p.FindGear(n.Stop.Gear())
		if b, _ := g.FindBlock(plan.ID(n.Stop.Rest())); g.Name != list[len(list)-1] &&
			(b.Effect != plan.EffectSpeaker) {
			list = append(list, g.Name)
		}
	}
	if in.Switcher != "" {
		list = append(list, name(in.Switcher))
	}
	return list
}

func TestThePatchListWiredAsWrittenGivesThePathBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := demo.Plan()
		show := &p.Shows[0]
		show.Rig, show.Destination = rapid.SampledFrom([]plan.ID{"bare", "long", "switched"}).Draw(t, "rig"), ""
		r, _ := p.FindRig(show.Rig)
		var places []int
		var stops []plan.Key
		for i, n := range r.Path {
			if g, _ := p.FindGear(n.Stop.Gear()); n.Split == nil && g.Kind == plan.Pedal && len(g.Blocks) == 1 {
				places, stops = append(places, i), append(stops, n.Stop)
			}
		}
		for i, stop := range rapid.Permutation(stops).Draw(t, "order") {
			r.Path[places[i]].Stop = stop
		}
		if len(p.Validate()) > 0 {
			t.Skip("no such chain")
		}
		list := sheet(t, p, show.ID, PatchList).Parts[0]
		var lines []int
		for i := range list.Rows {
			lines = append(lines, i)
		}
		rows := slices.Clone(list.Rows)
		for i, k := range rapid.Permutation(lines).Draw(t, "lines") {
			rows[i] = list.Rows[k]
		}
		list.Rows = rows
		guitar, _ := p.FindGear(r.Guitars[0])
		assert.Equal(t, passed(p, r), wired(t, list, guitar.Name, broken(p)))
	})
}

func TestLeadsAreCountedAsTheyAreCut(t *testing.T) {
	s := sheet(t, demo.Plan(), "quay-12", PatchList)
	runs, leads := len(s.Parts[0].Rows), 0
	for _, ch := range cells(t, s.Parts[0], "channels") {
		if ch == "stereo" {
			runs++
		}
	}
	for _, kind := range cells(t, s.Parts[1], "kind") {
		if kind != "power" {
			runs++
		}
	}
	for _, n := range cells(t, s.Parts[2], "leads") {
		count, err := strconv.Atoi(n)
		require.NoError(t, err)
		leads += count
	}
	assert.Equal(t, runs, leads)
}

func TestASetSheetHasEverySectionOfTheNight(t *testing.T) {
	p := demo.Plan()
	s := sheet(t, p, "quay-12", SetSheet)
	l, _ := p.FindSetList("quay-set")
	require.Len(t, s.Parts, len(l.Entries))
	for i, e := range l.Entries {
		song, _ := p.FindSong(e.Song)
		var labels []string
		for _, sec := range song.Sections {
			labels = append(labels, sec.Label)
		}
		assert.Equal(t, labels, cells(t, s.Parts[i], "section"))
		assert.Contains(t, s.Parts[i].Title, song.Title)
	}
	first := s.Parts[0]
	assert.Contains(t, cells(t, first, "press")[4], "Nudge")
	assert.Equal(t, "LD Lead", cells(t, first, "sound")[4])
	lead, _ := p.FindSound("lead")
	assert.Equal(t, lead.Tape, first.Rows[4][2].Tape)
}

func TestASegueIsSaidBeforeTheCountIn(t *testing.T) {
	p := demo.Plan()
	l, _ := p.FindSetList("quay-set")
	for i := range l.Entries {
		l.Entries[i].Segue = true
	}
	s := sheet(t, p, "quay-12", SetSheet)
	assert.NotContains(t, s.Parts[0].Note, "straight on", "nothing is before the first")
	for _, part := range s.Parts[1:] {
		assert.Contains(t, part.Note, "straight on, ")
	}
}

func TestWhatIsHiredIsNotCarried(t *testing.T) {
	p := demo.Plan()
	own := sheet(t, p, "quay-12", LoadOut)
	hired := sheet(t, p, "pilot-19", LoadOut)
	assert.Contains(t, cells(t, own.Parts[0], "thing"), "Pier combo")
	assert.NotContains(t, cells(t, hired.Parts[0], "thing"), "Pier combo")
	r, _ := p.FindRig("long")
	d, _ := r.FindDestination("long-hired")
	amp, _ := p.FindGear(d.Amp)
	assert.NotContains(t, cells(t, hired.Parts[0], "thing"), amp.Name)
	assert.Contains(t, hired.Parts[0].Note, amp.Name+" is there already.")
}

func TestWeightsAreSummedAndWhatIsHeavyIsCarriedByTwo(t *testing.T) {
	p := demo.Plan()
	grams := func(kg float64) *float64 { g := kg * 1000; return &g }
	for i := range p.Gear {
		p.Gear[i].WeightG = grams(1)
	}
	combo, _ := p.FindGear("pier")
	combo.WeightG = grams(20)
	s := sheet(t, p, "quay-12", LoadOut)
	n := len(s.Parts[0].Rows)
	assert.Equal(t, strconv.Itoa(n)+" things, "+strconv.Itoa(n+19)+".0 kg.", s.Parts[0].Note)
	i := slices.Index(cells(t, s.Parts[0], "thing"), "Pier combo")
	assert.Equal(t, "two people", cells(t, s.Parts[0], "note")[i])
	assert.Len(t, slices.DeleteFunc(cells(t, s.Parts[0], "note"), func(x string) bool { return x == "" }), 1)
	assert.NotEmpty(t, s.Cautions)
}

func TestTheWalkIsInSignalOrderAndSaysWhatIsOnWhen(t *testing.T) {
	p := demo.Plan()
	s := sheet(t, p, "quay-12", Walk)
	what := cells(t, s.Parts[0], "what")
	r, _ := p.FindRig("long")
	require.Len(t, what, len(r.Path)+1, "the guitars, then every stop")
	for i, n := range r.Path {
		g, _ := p.FindGear(n.Stop.Gear())
		assert.Contains(t, what[i+1], g.Name)
	}
	on := cells(t, s.Parts[0], "on in")
	assert.Equal(t, "Dust", on[slices.Index(what, "Undertow")])
	assert.Equal(t, "no sound", on[slices.Index(what, "Plumb")])
	assert.Equal(t, "every sound", on[slices.Index(what, "Squeeze")])
}

func TestTheWalkSaysWhichLoopAThingStandsIn(t *testing.T) {
	p := demo.Plan()
	p.Shows[0].Rig, p.Shows[0].Destination = "switched", ""
	s := sheet(t, p, p.Shows[0].ID, Walk)
	where, what := cells(t, s.Parts[0], "where"), cells(t, s.Parts[0], "what")
	assert.Equal(t, "Turntable loop 3", where[slices.Index(what, "Amber")])
	assert.Equal(t, "ahead of the amp", where[slices.Index(what, "Plumb")])
	assert.Equal(t, "in the amp's loop", where[slices.Index(what, "Room")])
}

func TestARigWithNothingInItHasEmptySheets(t *testing.T) {
	p := &plan.Plan{
		SetLists: []plan.SetList{{ID: "set", Name: "Set"}}, Rigs: []plan.Rig{{ID: "rig", Name: "Rig"}},
		Shows: []plan.Show{{ID: "show", Name: "Show", SetList: "set", Rig: "rig"}},
	}
	for _, kind := range Kinds() {
		s := sheet(t, p, "show", kind)
		for _, part := range s.Parts {
			assert.NotNil(t, part.Rows, "an empty table is a table: %s", part.Title)
			assert.Empty(t, part.Rows)
		}
		_, err := CSV(s)
		require.NoError(t, err)
		assert.NotEmpty(t, Markdown(s))
	}
}

func TestMakeRefusesWhatIsNotThere(t *testing.T) {
	p := demo.Plan()
	_, err := Make(p, "nowhere", SetSheet)
	require.ErrorContains(t, err, `no show "nowhere"`)
	_, err = Make(p, "quay-12", "poem")
	require.ErrorContains(t, err, "set, patch, settings, floor, power, midi, foh, load, failure, faults, walk, standins and ask")
}

func TestWhatIsSetForAGuitarStandsOnTheSettingsSheet(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("long")
	r.PerGuitar = map[plan.ID]map[plan.Key]plan.Value{"bulkhead": {"squeeze/fx/level": plan.Number(2.7)}}
	s := sheet(t, p, "quay-12", SettingSheet)
	for _, part := range s.Parts {
		var rows []string
		for _, row := range part.Rows {
			rows = append(rows, row[0].Text)
		}
		if part.Title == "Squeeze" {
			assert.Contains(t, rows, "with Bulkhead")
		} else {
			assert.NotContains(t, rows, "with Bulkhead", part.Title)
		}
	}
}
