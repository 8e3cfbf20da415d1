package shorthand

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/core/exchange"
	"envex/core/plan"
)

func TestHowManyOfAKindIsWithinBounds(t *testing.T) {
	for text, want := range map[string]struct {
		left string
		n    int
	}{
		"2 x delay": {"delay", 2}, "1 x delay": {"1 x delay", 1}, "0 x delay": {"0 x delay", 1}, "delay": {"delay", 1},
	} {
		left, n := takeCount(text)
		assert.Equal(t, want.left, left, text)
		assert.Equal(t, want.n, n, text)
	}
	_, n := takeCount(fmt.Sprintf("%d x delay", maxOfAKind))
	assert.Equal(t, maxOfAKind, n)
	_, n = takeCount(fmt.Sprintf("%d x delay", maxOfAKind+1))
	assert.Equal(t, 1, n)
}

func TestPartsOfASongHaveOneNumberEach(t *testing.T) {
	for _, x := range []struct {
		words []string
		n     int
	}{
		{[]string{"verse", "2", "clean"}, 2}, {[]string{"verse", "clean"}, 1}, {[]string{"verse"}, 1},
		{[]string{"verse", "12"}, 2}, {[]string{"verse", "120"}, 1}, {[]string{"clean"}, 0}, {nil, 0},
	} {
		assert.Equal(t, x.n, partWords(x.words), "%v", x.words)
	}
}

func TestASlashBetweenLettersIsPartOfAName(t *testing.T) {
	for text, want := range map[string]bool{
		"a/b": true, "A/B switch": true, "aa/b": false, "a/bb": false, "/b": false, "a/": false, "a/b/c": true, "1/2": false,
	} {
		at := 0
		for i, r := range text {
			if r == '/' {
				at = i
				break
			}
		}
		assert.Equal(t, want, betweenLetters(text, at), text)
	}
}

func TestBarsAreWithinBounds(t *testing.T) {
	for text, want := range map[string]float64{"0.25": 0.25, "8": 8, "1000": 1000, "12.5": 12.5} {
		bars := barsOf(text)
		if assert.NotNil(t, bars, text) {
			assert.Equal(t, want, *bars)
		}
	}
	for _, text := range []string{"0.24", "1000.5", "0", "-4", "x", ""} {
		assert.Nil(t, barsOf(text), text)
	}
}

// Tempi in titles are those that songs have; other numbers are part of the title.
func TestATempoInATitle(t *testing.T) {
	for line, want := range map[string]float64{
		"Ferry Lights 104": 104, "Ferry Lights 40": 40, "Ferry Lights 300": 300, "Ferry Lights 39": 120,
		"Ferry Lights 301": 120,
	} {
		d, err := ReadSet(line, "Set", "")
		if assert.NoError(t, err) && assert.Len(t, d.Songs, 1) {
			assert.Equal(t, want == 120, d.Songs[0].NoTempo, line)
			if want != 120 {
				assert.Equal(t, want, d.Songs[0].Tempo.BPM, line)
			}
		}
	}
}

func TestWordsAreNearAsFarAsIsAsked(t *testing.T) {
	for _, x := range []struct {
		a, b    string
		most, n int
	}{
		{"chorus", "chorus", 2, 0}, {"chorus", "chrous", 2, 1}, {"chorus", "corus", 2, 1}, {"chorus", "chorusses", 3, 3},
		{"chorus", "chorusses", 2, 3}, {"chorusses", "chorus", 2, 3}, {"chorusses", "chorus", 3, 3}, {"", "ab", 2, 2},
		{"abc", "xyz", 3, 3}, {"größe", "grösse", 2, 2},
	} {
		got := typos(x.a, x.b, x.most)
		if x.n > x.most {
			assert.Greater(t, got, x.most, "%+v", x)
			continue
		}
		assert.Equal(t, x.n, got, "%+v", x)
	}
}

func TestASizeIsTakenFromATextWithinBounds(t *testing.T) {
	for text, want := range map[string]*plan.Size{
		"drive 70 x 120 mm": {Width: 70, Depth: 120}, "drive 20 x 20 mm": {Width: 20, Depth: 20},
		"drive 3000 x 3000 mm": {Width: 3000, Depth: 3000}, "drive 19 x 120 mm": nil, "drive 70 x 19 mm": nil,
		"drive 3001 x 120 mm": nil, "drive 70 x 3001 mm": nil, "drive": nil,
	} {
		left, f := takeFigures(text)
		if want == nil {
			assert.Nil(t, f.Size, text)
			continue
		}
		if assert.NotNil(t, f.Size, text) {
			assert.Equal(t, *want, *f.Size, text)
			assert.Equal(t, "drive", strings.TrimSpace(strings.Replace(left, "mm", "", 1)), text)
		}
	}
	_, f := takeFigures("drive 70 x 120 x 55 mm")
	assert.Equal(t, 55.0, *f.Size.Height)
	_, f = takeFigures("drive 70 x 120 x 0 mm")
	assert.Nil(t, f.Size.Height, "nothing is that flat")
}

func TestWhatIsTypedOfABoxGoesOverItsKind(t *testing.T) {
	ma, volts := 45.0, 18.0
	kind := plan.Gear{
		ID: "k", Kind: plan.Pedal, Size: &plan.Size{Width: 70, Depth: 120},
		Blocks: []plan.Block{
			{
				ID:     "in",
				Effect: plan.EffectBuffer,
				Bypass: plan.AlwaysOn,
			},
			{ID: "fx", Effect: plan.EffectBoost, Bypass: plan.BufferedBypass},
		},
		Footswitches: []plan.Footswitch{{ID: "on", X: 35, Y: 20}},
	}
	plain := withChip(kind, Chip{})
	assert.Equal(t, kind, plain)
	wide := withChip(kind, Chip{Figures: Figures{Size: &plan.Size{Width: 140, Depth: 60}}})
	assert.Equal(
		t,
		[]float64{70, 10},
		[]float64{wide.Footswitches[0].X, wide.Footswitches[0].Y},
		"a switch moves along",
	)
	assert.Equal(t, 35.0, kind.Footswitches[0].X, "the kind stays as it is")
	draw := withChip(kind, Chip{Figures: Figures{MA: &ma}})
	assert.Equal(
		t,
		&plan.PowerDraw{Voltage: 9, Polarity: "centre-negative", Connector: "2.1 mm barrel", Current: &ma},
		draw.Power,
	)
	kind.Power = &plan.PowerDraw{Voltage: 12, Current: &ma}
	draw = withChip(kind, Chip{Figures: Figures{Volts: &volts}})
	assert.Equal(t, &plan.PowerDraw{Voltage: 18, Current: &ma}, draw.Power)
	assert.Equal(t, 12.0, kind.Power.Voltage)
	through := withChip(kind, Chip{Bypass: plan.TrueBypass})
	assert.Equal(t, plan.AlwaysOn, through.Blocks[0].Bypass, "what is always on has no bypass")
	assert.Equal(t, plan.TrueBypass, through.Blocks[1].Bypass)
	assert.Equal(t, plan.BufferedBypass, kind.Blocks[1].Bypass)
}

func TestASectionIsReadWithWhatIsNoted(t *testing.T) {
	bars := func(x float64) *float64 { return &x }
	for text, want := range map[string]struct {
		sec   exchange.DraftSection
		times int
	}{
		"verse 2 clean 16":      {exchange.DraftSection{Label: "Verse 2", Sound: "Clean", Bars: bars(16)}, 1},
		"chorus x3":             {exchange.DraftSection{Label: "Chorus"}, 3},
		"chorus x17":            {exchange.DraftSection{Label: "Chorus", Sound: "X17"}, 1},
		"solo lead (rest 2)":    {exchange.DraftSection{Label: "Solo", Sound: "Lead", Rest: 2}, 1},
		"solo lead (rest)":      {exchange.DraftSection{Label: "Solo", Sound: "Lead", Rest: 1}, 1},
		"verse clean (sing)":    {exchange.DraftSection{Label: "Verse", Sound: "Clean", Singing: true}, 1},
		"verse clean (12 bars)": {exchange.DraftSection{Label: "Verse", Sound: "Clean", Bars: bars(12)}, 1},
		"crunch":                {exchange.DraftSection{Label: "Crunch", Sound: "Crunch"}, 1},
		"chorus crunch 8 x2 (sing)": {
			exchange.DraftSection{Label: "Chorus", Sound: "Crunch", Bars: bars(8), Singing: true}, 2,
		},
	} {
		sec, times := readSection(text)
		assert.Equal(t, want.sec, sec, text)
		assert.Equal(t, want.times, times, text)
	}
}

func TestASongHasAHundredSectionsAndNoMore(t *testing.T) {
	for n, want := range map[int]string{maxSongSections: "", maxSongSections + 1: "more than 100 sections"} {
		d, s := &exchange.Draft{}, &exchange.DraftSong{Title: "Quay"}
		list := readSections(d, s, strings.Repeat("verse clean,", n))
		assert.Len(t, list, 100)
		assert.Equal(t, "Verse 100", list[99].Label)
		if want == "" {
			assert.Empty(t, d.Left)
		} else {
			assert.Contains(t, d.Left[0], want)
		}
	}
	d, s := &exchange.Draft{}, &exchange.DraftSong{Title: "Quay"}
	assert.Len(t, readSections(d, s, "verse clean,, ,(sing)"), 1)
	assert.Contains(t, d.Left[0], "names no section")
}
