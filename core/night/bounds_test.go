package night

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/plan"
)

func steps(lengths ...float64) []Step {
	list := make([]Step, len(lengths))
	for i := range lengths {
		list[i] = Step{Song: "song", Entry: "one"}
		if lengths[i] >= 0 {
			list[i].LengthS = &lengths[i]
		}
	}
	return list
}

// A tempo is told from half a minute on, where it differs by more than a fiftieth and by no more than a quarter.
func TestATempoIsToldWithinItsBounds(t *testing.T) {
	p := &plan.Plan{Songs: []plan.Song{{ID: "song", Title: "Song", Tempo: plan.Tempo{BPM: 100}}}}
	for name, x := range map[string]struct {
		steps []Step
		took  float64
		want  float64
	}{
		"half a minute":                     {steps(20, 10, 99), 27, 111},
		"less":                              {steps(20, 9.5, 99), 27, 0},
		"the last counts for nothing":       {steps(10, 10, 99), 27, 0},
		"a fiftieth":                        {steps(51, 9), 50, 102},
		"less than a fiftieth":              {steps(50.9, 9), 50, 0},
		"a quarter":                         {steps(50, 9), 40, 125},
		"more than a quarter":               {steps(50.5, 9), 40, 0},
		"slower":                            {steps(45, 9), 50, 90},
		"to half a beat a minute":           {steps(50, 9), 48.2, 103.5},
		"no time":                           {steps(50, 9), 0, 0},
		"nobody knows how long it is":       {steps(50, -1, 9), 60, 0},
		"how long the last is is not asked": {steps(50, -1), 48, 104},
	} {
		r := &Review{}
		r.tempo(p, x.steps, x.took)
		if x.want == 0 {
			assert.Empty(t, r.Tempos, name)
		} else if assert.Len(t, r.Tempos, 1, name) {
			assert.InDelta(t, x.want, r.Tempos[0].Played, 1e-9, name)
			assert.Equal(t, Tempo{"song", "Song", 100, r.Tempos[0].Played, r.Tempos[0].OverS}, r.Tempos[0], name)
			assert.InDelta(t, x.took, r.Tempos[0].OverS, 0.5, name)
		}
	}
}

// A gap is told where it differs by five seconds, and where it is no break.
func TestAGapIsToldWithinItsBounds(t *testing.T) {
	length, written := 20.0, 15.0
	set := func(change func(e *Evening, l *plan.SetList)) (*Evening, *plan.SetList) {
		e := &Evening{Steps: []Step{
			{Entry: "one", LengthS: &length}, {Entry: "two", Title: "Two", Starts: true},
		}}
		l := &plan.SetList{GapS: &written, Entries: []plan.SetEntry{{ID: "one"}, {ID: "two"}}}
		if change != nil {
			change(e, l)
		}
		return e, l
	}
	for name, x := range map[string]struct {
		passed float64
		change func(e *Evening, l *plan.SetList)
		want   bool
	}{
		"five seconds more":    {20, nil, true},
		"less than that":       {19.9, nil, false},
		"five seconds less":    {10, nil, true},
		"none at all":          {0, nil, true},
		"before its end":       {-0.1, nil, false},
		"ten minutes":          {600, nil, true},
		"a break":              {600.1, nil, false},
		"it goes straight on":  {40, func(e *Evening, _ *plan.SetList) { e.Steps[1].Segue = true }, false},
		"it began elsewhere":   {40, func(e *Evening, _ *plan.SetList) { e.Steps[1].Starts = false }, false},
		"it was called":        {40, func(_ *Evening, l *plan.SetList) { l.Entries = l.Entries[:1] }, false},
		"nobody knows the end": {40, func(e *Evening, _ *plan.SetList) { e.Steps[0].LengthS = nil }, false},
	} {
		e, l := set(x.change)
		r := &Review{}
		came := 1000 + int64((length+x.passed)*1000)
		r.gap(l, e, e.Steps[0], Event{AtMS: 1000, Entry: "one"}, Event{AtMS: came, Entry: "two"})
		if x.want && assert.Len(t, r.Gaps, 1, name) {
			assert.Equal(t, Gap{"two", "Two", 15, x.passed}, r.Gaps[0], name)
		}
		if !x.want {
			assert.Empty(t, r.Gaps, name)
		}
	}
}

// Whatever names a guitar that broke names the other, which stands where the rig had it, or first if the first broke.
func TestAnotherGuitarTakesThePlaceOfOneThatBroke(t *testing.T) {
	for name, x := range map[string]struct {
		have          []plan.ID
		broken, other plan.ID
		want          []plan.ID
	}{
		"the first":             {[]plan.ID{"a", "b", "c"}, "a", "c", []plan.ID{"c", "b"}},
		"another of the rig":    {[]plan.ID{"a", "b", "c"}, "c", "b", []plan.ID{"a", "b"}},
		"by the first":          {[]plan.ID{"a", "b"}, "b", "a", []plan.ID{"a"}},
		"one that is borrowed":  {[]plan.ID{"a", "b", "c"}, "b", "d", []plan.ID{"a", "c", "d"}},
		"the first by borrowed": {[]plan.ID{"a", "b"}, "a", "d", []plan.ID{"d", "b"}},
		"none of the rig's":     {nil, "a", "d", []plan.ID{"d"}},
	} {
		p := &plan.Plan{
			Songs:  []plan.Song{{ID: "s", Guitar: x.broken}, {ID: "t", Guitar: "b"}, {ID: "u"}},
			Sounds: []plan.Sound{{ID: "h", Targets: plan.Targets{Guitar: x.broken}}, {ID: "i"}},
			Rigs: []plan.Rig{
				{ID: "rig", Guitars: x.have, Recipes: []plan.Recipe{{ID: "r", Guitar: x.broken}, {ID: "q"}}},
			},
		}
		w := &wreck{plan: p}
		w.guitar(&p.Rigs[0], x.broken, x.other)
		r, _ := w.plan.FindRig("rig")
		assert.Equal(t, x.want, r.Guitars, name)
		assert.Equal(t, []plan.ID{x.other, ""}, []plan.ID{r.Recipes[0].Guitar, r.Recipes[1].Guitar}, name)
		assert.Equal(t, x.other, w.plan.Songs[0].Guitar, name)
		assert.Empty(t, w.plan.Songs[2].Guitar, name)
		assert.Equal(t, x.other, w.plan.Sounds[0].Targets.Guitar, name)
		assert.Equal(t, x.broken, p.Songs[0].Guitar, "%s: the plan that was given stays", name)
		assert.Equal(t, x.have, p.Rigs[0].Guitars, name)
	}
}

func TestWordsAreThoseOfTheEvent(t *testing.T) {
	e := &Evening{Troubles: []Trouble{{Event: "a", Words: "first"}, {Event: "b", Words: "second"}}}
	assert.Equal(t, []string{"first", "second", ""}, []string{e.WordsOf("a"), e.WordsOf("b"), e.WordsOf("c")})
}
