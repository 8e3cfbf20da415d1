package exchange

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/plan"
)

const halyard = `# made up for the quay
{title: Halyard}
{subtitle: Trad. of Kelp Street}
{key: D}
{tempo: 96}
{time: 6/8}
{capo: 2}
{x_tuning: Drop D}

{comment: Intro}
[D] [A]

{start_of_verse}
The [D]rope goes up and the [A]rope comes down
{end_of_verse}
{soc}
Haul a[G]way
{eoc}
{sov}
The wind has [D]turned
{eov}
{chorus}
{comment: softly}
{start_of_bridge: label="Solo [Lead]"}
{start_of_tab}
e|--2--|
{end_of_tab}
{end_of_bridge}
{chorus: Last chorus}
`

func labels(s DraftSong) []string {
	var list []string
	for _, x := range s.Sections {
		list = append(list, x.Label)
	}
	return list
}

func TestASongIsReadAsChordPro(t *testing.T) {
	d, err := ReadChordPro([]byte(halyard), "halyard")
	require.NoError(t, err)
	assert.Empty(t, d.SetList, "one song is no set")
	require.Len(t, d.Songs, 1)
	s := d.Songs[0]
	assert.Equal(t, "Halyard", s.Title)
	assert.Equal(t, plan.Tempo{BPM: 96}, s.Tempo)
	assert.False(t, s.NoTempo)
	assert.Equal(t, plan.Meter{Beats: 6, Unit: 8}, s.Meter)
	assert.Equal(t, 2, s.Capo)
	assert.Equal(t, "Drop D", s.Tuning)
	assert.Equal(t, []string{"Intro", "Verse", "Chorus", "Verse 2", "Chorus", "Solo", "Last chorus"}, labels(s))
	assert.Equal(t, "Lead", s.Sections[5].Sound)
	for _, sec := range s.Sections {
		assert.Nil(t, sec.Bars, "how long it is, nobody says")
	}
	assert.Equal(t, []string{"Words and chords are left out."}, d.Left)
}

func TestSeveralSongsAreASet(t *testing.T) {
	d, err := ReadChordPro(
		[]byte("\ufeff{t: One}\r\n{c: Verse}\r\n{new_song}\r\n{meta: title Two}\r\n{meta: tempo 120.5}\r\n{ns}\r\n"),
		"Saturday",
	)
	require.NoError(t, err)
	assert.Equal(t, "Saturday", d.SetList)
	require.Len(t, d.Songs, 2)
	assert.Equal(t, "One", d.Songs[0].Title)
	assert.True(t, d.Songs[0].NoTempo)
	assert.Equal(t, 120.5, d.Songs[1].Tempo.BPM)
	assert.Equal(t, []string{"Two names no sections."}, d.Left)
	d, err = ReadChordPro([]byte("{t:One}\n{ns}\n{t:Two}"), "")
	require.NoError(t, err)
	assert.Equal(t, "Set list", d.SetList)
}

func TestASongWithoutATitleHasTheFilesName(t *testing.T) {
	d, err := ReadChordPro([]byte("just words"), "Slack Water")
	require.NoError(t, err)
	assert.Equal(t, "Slack Water", d.Songs[0].Title)
	d, err = ReadChordPro([]byte("{sov}\n{ns}\n{t: Two}"), "x")
	require.NoError(t, err)
	assert.Equal(t, "Song 1", d.Songs[0].Title)
	assert.Contains(t, d.Left, "The song from line 1 on has no {title: …}; it is called Song 1.")
}

func TestWhatIsOddIsLeftOutWithItsLineAndTheRestIsTaken(t *testing.T) {
	for text, says := range map[string]string{
		"{t: X}\n{tempo: fast}":                                `Line 2 is left out: "fast" is no tempo from 20 to 400.`,
		"{t: X}\n\n{tempo: 4000}":                              `Line 3 is left out: "4000" is no tempo from 20 to 400.`,
		"{t: X}\n{time: waltz}":                                `Line 2 is left out: "waltz" is no meter, such as 4/4.`,
		"{t: X}\n{time: 3/5}":                                  `Line 2 is left out: "3/5" is no meter, such as 4/4.`,
		"{t: X}\n{capo: 99}":                                   `Line 2 is left out: "99" is no capo from 0 to 24.`,
		"{t: X}\n{tempo 104":                                   `Line 2 is left out: "{tempo 104" is no directive, such as {tempo: 104}.`,
		"{t: X}\n{start_of_}":                                  "Line 2 is left out: {start_of_} does not say of what.",
		"{t: X}\n" + strings.Repeat("{sov}\n", 201):            "Line 202 is left out: more than 200 sections.",
		"{t: X}\n{title: " + strings.Repeat("x", 201) + "}":    "Line 2 is left out: ",
		"{t: X}\n" + strings.Repeat("{t: X}\n{ns}\n{x\n", 120): "And more.",
	} {
		d, err := ReadChordPro([]byte(text), "")
		require.NoError(t, err)
		assert.Equal(t, "X", d.Songs[0].Title)
		assert.Equal(t, 120.0, d.Songs[0].Tempo.BPM)
		assert.Equal(t, plan.Meter{Beats: 4, Unit: 4}, d.Songs[0].Meter)
		assert.Contains(t, strings.Join(d.Left, "\n"), says)
		assert.LessOrEqual(t, len(d.Left), maxLeft+1)
	}
	for _, text := range []string{"", "# only a remark\n\n"} {
		_, err := ReadChordPro([]byte(text), "")
		require.EqualError(t, err, "line 1: there are no songs")
	}
	_, err := ReadChordPro(make([]byte, MaxBytes+1), "")
	require.ErrorContains(t, err, "are too many")
	d, err := ReadChordPro([]byte(strings.Repeat("{t: x}\n{ns}\n", 501)), "")
	require.NoError(t, err)
	assert.Len(t, d.Songs, 500)
	assert.Contains(t, strings.Join(d.Left, "\n"), "more than 500 songs")
}

func TestTempiAndCaposAreTakenToTheirEndsAndNoFurther(t *testing.T) {
	for text, ok := range map[string]bool{
		"{tempo: 20}": true, "{tempo: 400}": true, "{tempo: 19.9}": false, "{tempo: 400.5}": false, "{tempo: NaN}": false,
		"{tempo: -96}": false,
		"{capo: 0}":    true, "{capo: 24}": true, "{capo: 25}": false, "{capo: -1}": false, "{time: 1/1}": true,
		"{time: 32/32}": true, "{time: 33/4}": false, "{time: 0/4}": false,
	} {
		d, err := ReadChordPro([]byte("{t: X}\n"+text), "")
		require.NoError(t, err)
		assert.Equal(t, ok, !strings.Contains(strings.Join(d.Left, ""), "Line 2 is left out"), text)
	}
	for bpm, ok := range map[string]bool{"20": true, "400": true, "19.9": false, "400.5": false} {
		_, err := ReadCSV([]byte("title,bpm\nX,"+bpm+"\n"), "")
		assert.Equal(t, ok, err == nil, bpm)
	}
}

func TestWhatIsNotUnderstoodIsSaidAndWhatSaysNothingIsPassedBy(t *testing.T) {
	d, err := ReadChordPro(
		[]byte(
			"{t: X}\n{artist: nobody}\n{textsize: 12}\n{x_light: blue}\n{fireworks: now}\n{fireworks: again}\n{c: watch the drummer}\n{title-band: Y}\n{sov: Verse one}",
		),
		"",
	)
	require.NoError(t, err)
	assert.Equal(t, []string{"{fireworks} is not understood."}, d.Left)
	assert.Equal(t, []string{"Verse one"}, labels(d.Songs[0]))
}

func TestACommentIsASectionOnlyWhereItNamesAPartAndStandsAlone(t *testing.T) {
	d, err := ReadChordPro(
		[]byte(
			"{t: X}\n{c: Solo [Lead]}\n{sov}\n{c: Bridge of sighs, sung}\n{eov}\n{c: PRE-CHORUS}\n{c: Outstanding}\n{highlight: Outro x2}",
		),
		"",
	)
	require.NoError(t, err)
	assert.Equal(t, []string{"Solo", "Verse", "PRE-CHORUS", "Outro x2"}, labels(d.Songs[0]))
}

// What is written in the format is read back: titles, tempi and the labels of blocks.
func TestChordProIsReadAsItIsWritten(t *testing.T) {
	word := rapid.StringMatching(`[A-Za-z][A-Za-z ]{0,20}[a-z]`)
	rapid.Check(t, func(t *rapid.T) {
		var b strings.Builder
		var want []DraftSong
		for i := range rapid.IntRange(1, 4).Draw(t, "songs") {
			if i > 0 {
				b.WriteString("{new_song}\n")
			}
			s := DraftSong{
				Title: word.Draw(t, "title"), Tempo: plan.Tempo{BPM: float64(rapid.IntRange(20, 400).Draw(t, "bpm"))},
				Meter: plan.Meter{Beats: rapid.IntRange(1, 32).Draw(t, "beats"), Unit: 8},
				Capo:  rapid.IntRange(0, 24).Draw(t, "capo"), Sections: []DraftSection{},
			}
			fmt.Fprintf(
				&b, "{%s: %s}\n{tempo: %g}\n{ time :%d/8}\n{capo %d}\n",
				rapid.SampledFrom([]string{"title", "t", "TITLE"}).Draw(t, "directive"), s.Title, s.Tempo.BPM, s.Meter.Beats,
				s.Capo,
			)
			for range rapid.IntRange(0, 5).Draw(t, "sections") {
				label, sound := word.Draw(t, "label"), rapid.SampledFrom([]string{"", "Lead"}).Draw(t, "sound")
				text := label
				if sound != "" {
					text += " [" + sound + "]"
				}
				fmt.Fprintf(
					&b, "{start_of_%s: %s}\nla la\n{end_of_verse}\n",
					rapid.SampledFrom([]string{"verse", "chorus", "solo"}).Draw(t, "kind"), text,
				)
				s.Sections = append(s.Sections, DraftSection{Label: label, Sound: sound})
			}
			want = append(want, s)
		}
		d, err := ReadChordPro([]byte(b.String()), "x")
		require.NoError(t, err, b.String())
		assert.Equal(t, want, d.Songs)
	})
}

func FuzzReadChordPro(f *testing.F) {
	f.Add([]byte(halyard))
	f.Add([]byte("{t: X}\n{start_of_}\n{meta}\n{sov:label=\"\"}\n{:}"))
	f.Fuzz(func(t *testing.T, data []byte) {
		d, err := ReadChordPro(data, "x")
		if err != nil {
			var line *LineError
			if len(data) <= MaxBytes && !errors.As(err, &line) {
				t.Fatalf("a fault without a line: %v", err)
			}
			return
		}
		n := 0
		p, _ := d.Into(&plan.Plan{}, func() plan.ID { n++; return plan.ID(fmt.Sprint("n", n)) })
		if problems := p.Validate(); len(problems) > 0 {
			t.Fatalf("%q gives a plan that is not valid: %v", data, problems)
		}
	})
}
