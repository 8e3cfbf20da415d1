package exchange

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gitlab.com/gomidi/midi/v2/smf"
	"pgregory.net/rapid"

	"envex/core/plan"
	"envex/demo"
	"envex/golden"
)

func ids() func() plan.ID {
	n := 0
	return func() plan.ID { n++; return plan.ID(fmt.Sprintf("new%d", n)) }
}

// event is one event of a track as another parser reads it: the library that writes the files has a
// reader of its own, which ours has nothing in common with.
type event struct {
	at   uint64
	kind byte // status, or 0xff
	meta byte
	data []byte
}

func parse(t require.TestingT, data []byte) (division int, tracks [][]event) {
	file, err := smf.ReadFrom(bytes.NewReader(data))
	require.NoError(t, err)
	resolution, ok := file.TimeFormat.(smf.MetricTicks)
	require.True(t, ok)
	for _, track := range file.Tracks {
		var list []event
		at := uint64(0)
		for _, m := range track {
			at += uint64(m.Delta)
			raw := m.Message.Bytes()
			e := event{at: at, kind: raw[0]}
			if raw[0] == 0xff {
				e.meta, e.data = raw[1], raw[3:] // texts here are short of 128
			} else {
				e.data = raw[1:]
			}
			list = append(list, e)
		}
		tracks = append(tracks, list)
	}
	return int(resolution), tracks
}

func TestASetIsWrittenWithItsTempoMapMarkersAndChanges(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("switched")
	echo, _ := p.FindGear("echo")
	echo.MIDI = &plan.MIDIPort{Channel: 3}
	for i := range echo.Blocks[0].Controls {
		if c := &echo.Blocks[0].Controls[i]; c.ID == "preset" {
			c.Access = plan.Remote
		}
	}
	set := func(preset string) map[plan.Key]plan.Value {
		return map[plan.Key]plan.Value{"echo/fx/preset": plan.Text(preset)}
	}
	r.Programs = plan.ProgramMap{
		"turntable": {
			"1": {
				"1": {Label: "home", Sound: "home", Values: set("A")},
				"2": {Label: "lead", Sound: "lead", Values: set("B")},
			},
		},
	}
	var out bytes.Buffer
	left, err := WriteSMF(&out, p, "switched", "quay-set", "")
	require.NoError(t, err)
	assert.Contains(t, left, "No program is labelled with Crunch.")
	division, tracks := parse(t, out.Bytes())
	require.Len(t, tracks, 2)
	assert.Equal(t, 960, division)
	var markers, songs []string
	var tempi []float64
	seconds, last, bpm := map[string]float64{}, uint64(0), 120.0
	now := 0.0
	for _, e := range tracks[0] {
		now += float64(e.at-last) / 960 * 60 / bpm
		last = e.at
		switch e.meta {
		case 0x51:
			us := float64(uint32(e.data[0])<<16 | uint32(e.data[1])<<8 | uint32(e.data[2]))
			bpm = 60e6 / us
			tempi = append(tempi, math.Round(bpm))
		case 0x06:
			markers = append(markers, string(e.data))
		case 0x07:
			songs = append(songs, string(e.data))
			seconds[string(e.data)] = now
		}
	}
	assert.Len(t, songs, 14)
	assert.Equal(t, "Ferry Lights", songs[0])
	assert.Equal(t, "Intro [Home]", markers[0])
	assert.Equal(t, []float64{104, 92, 132, 126}, tempi[:4])
	// The second song comes a gap after the first has ended.
	first, _ := p.FindSong(p.SetLists[0].Entries[0].Song)
	length := 0.0
	for _, sec := range first.Sections {
		length += *sec.Bars * first.Tempo.BarSeconds(first.Meter)
	}
	assert.InDelta(t, length+p.SetLists[0].GapBefore(p.SetLists[0].Entries[1]), seconds["Low Tide Cumbia"], 0.01)
	programs := 0
	for _, e := range tracks[1] {
		if e.kind&0xf0 == 0xc0 {
			programs++
			assert.Equal(t, byte(0xc2), e.kind, "channel 3")
		}
	}
	assert.Greater(t, programs, 20)
}

func TestASongRoundTripsThroughAMIDIFile(t *testing.T) {
	base := demo.Plan()
	rapid.Check(t, func(t *rapid.T) {
		p := *base
		s := plan.Song{
			ID: "one", Title: rapid.StringMatching(`[A-Za-z][A-Za-z ]{0,20}[A-Za-z]`).Draw(t, "title"),
			Tempo: plan.Tempo{BPM: float64(rapid.IntRange(20, 400).Draw(t, "bpm"))},
		}
		s.Meter = rapid.SampledFrom(
			[]plan.Meter{{Beats: 4, Unit: 4}, {Beats: 3, Unit: 4}, {Beats: 6, Unit: 8}, {Beats: 7, Unit: 8}},
		).Draw(t, "meter")
		for i := range rapid.IntRange(1, 6).Draw(t, "sections") {
			bars := float64(rapid.IntRange(1, 40).Draw(t, "bars"))
			sec := plan.Section{
				ID: plan.ID(fmt.Sprint("s", i)), Label: fmt.Sprintf("Part %d", i),
				Sound: rapid.SampledFrom(p.Sounds).Draw(t, "sound").ID, Bars: &bars,
			}
			if rapid.IntRange(0, 3).Draw(t, "own tempo") == 0 {
				sec.Tempo = &plan.Tempo{BPM: float64(rapid.IntRange(20, 400).Draw(t, "bpm"))}
			}
			s.Sections = append(s.Sections, sec)
		}
		p.Songs = []plan.Song{s}
		p.SetLists = []plan.SetList{{ID: "set", Name: "Set", Entries: []plan.SetEntry{{ID: "e", Song: "one"}}}}
		var out bytes.Buffer
		_, err := WriteSMF(&out, &p, "", "set", "one")
		require.NoError(t, err)
		parse(t, out.Bytes())
		d, err := ReadSMF(out.Bytes(), "file")
		require.NoError(t, err)
		got := d.Songs[0]
		assert.Equal(t, s.Title, got.Title)
		assert.Equal(t, s.Meter, got.Meter)
		assert.InDelta(t, s.Tempo.BPM, got.Tempo.BPM, 0.01)
		require.Len(t, got.Sections, len(s.Sections))
		plans, said := d.Into(&p, ids())
		assert.Equal(t, []string{s.Title + " is the song that is here already."}, said)
		require.Empty(t, plans.Validate())
		assert.Equal(t, s, plans.Songs[0])
		for i, sec := range s.Sections {
			assert.Equal(t, sec.Label, got.Sections[i].Label)
			assert.InDelta(t, *sec.Bars, *got.Sections[i].Bars, 1e-9)
			assert.InDelta(t, sec.TempoIn(s).BPM, got.Sections[i].BPM, 0.01)
			assert.Equal(t, sec.Sound, plans.Songs[0].Sections[i].Sound)
		}
	})
}

func TestTheFileOfASongStays(t *testing.T) {
	var out bytes.Buffer
	_, err := WriteSMF(&out, demo.Plan(), "long", "quay-set", "lamp-room")
	require.NoError(t, err)
	const file = "testdata/lamp-room-waltz.mid"
	golden.Hold(t, file, out.String())
}

func TestWhatIsNoMIDIFileIsRefused(t *testing.T) {
	for name, data := range map[string][]byte{
		"empty": nil, "text": []byte("hello, this is no file of notes"),
		"cut":    []byte("MThd\x00\x00\x00\x06\x00\x01\x00\x01\x03\xc0MTrk\x00\x00"),
		"frames": []byte("MThd\x00\x00\x00\x06\x00\x00\x00\x01\xe7\x28MTrk\x00\x00\x00\x04\x00\xff\x2f\x00"),
		"large":  make([]byte, MaxBytes+1),
	} {
		_, err := ReadSMF(data, "x")
		assert.Error(t, err, name)
	}
	_, err := WriteSMF(&bytes.Buffer{}, demo.Plan(), "", "nope", "")
	assert.Error(t, err)
	_, err = WriteSMF(&bytes.Buffer{}, demo.Plan(), "nope", "quay-set", "")
	assert.Error(t, err)
	_, err = WriteSMF(&bytes.Buffer{}, demo.Plan(), "", "quay-set", "nope")
	assert.Error(t, err)
}

func FuzzReadSMF(f *testing.F) {
	var out bytes.Buffer
	_, err := WriteSMF(&out, demo.Plan(), "long", "quay-set", "")
	require.NoError(f, err)
	f.Add(out.Bytes())
	f.Add([]byte("MThd\x00\x00\x00\x06\x00\x00\x00\x01\x03\xc0MTrk\x00\x00\x00\x04\x00\xff\x2f\x00"))
	f.Fuzz(func(t *testing.T, data []byte) {
		d, err := ReadSMF(data, "name")
		if err != nil {
			return
		}
		p, _ := d.Into(&plan.Plan{}, ids())
		require.Empty(t, p.Validate())
	})
}

func TestASetListRoundTripsThroughCSV(t *testing.T) {
	p := demo.Plan()
	for i, title := range []string{`=1+1,"<b>`, "@cmd", "two\nlines", "  spaced", "-5"} {
		p.Songs[i].Title = title
	}
	var out bytes.Buffer
	require.NoError(t, WriteCSV(&out, p, "quay-set"))
	assert.Contains(t, out.String(), `"'=1+1,""<b>"`, "a spreadsheet takes it for text")
	d, err := ReadCSV(out.Bytes(), "Quay set")
	require.NoError(t, err)
	require.Len(t, d.Songs, len(p.SetLists[0].Entries))
	assert.Empty(t, d.Left)
	for i, e := range p.SetLists[0].Entries {
		s, _ := p.FindSong(e.Song)
		got := d.Songs[i]
		assert.Equal(t, strings.TrimSpace(s.Title), got.Title)
		assert.Equal(t, s.Tempo, got.Tempo)
		assert.Equal(t, e.Segue, got.Segue)
		require.Len(t, got.Sections, len(s.Sections))
		for k, sec := range s.Sections {
			assert.Equal(t, sec.Label, got.Sections[k].Label)
			assert.Equal(t, sec.Bars, got.Sections[k].Bars)
		}
	}
	plans, said := d.Into(p, ids())
	for _, text := range said {
		assert.Contains(t, text, "is the song that is here already.")
	}
	require.Empty(t, plans.Validate())
	assert.Equal(t, "Quay set", plans.SetLists[0].Name)
	assert.Error(t, WriteCSV(&out, p, "nope"))
}

func TestACSVOfAnotherHand(t *testing.T) {
	d, err := ReadCSV([]byte("\xef\xbb\xbfSong, Tempo, Key\nFerry Lights,,G\nNew One,96,\n\nOther,140,\n"), "")
	require.NoError(t, err)
	require.Len(t, d.Songs, 3)
	assert.True(t, d.Songs[0].NoTempo)
	assert.Equal(t, []string{`The column "Key" is not understood.`}, d.Left)
	p := demo.Plan()
	plans, said := d.Into(p, ids())
	require.Empty(t, plans.Validate())
	assert.Equal(t, []string{"Ferry Lights is the song that is here already."}, said)
	known, _ := p.FindSong(p.SetLists[0].Entries[0].Song)
	assert.Equal(t, known.ID, plans.SetLists[0].Entries[0].Song)

	d, err = ReadCSV([]byte("title,sections\nX,Verse:Fuzzy:8; Bridge; Solo:ld\n"), "")
	require.NoError(t, err)
	plans, said = d.Into(p, ids())
	assert.Equal(t, []string{"Fuzzy is no sound here; Home stands in.", "Bridge names no sound; Home stands in."}, said)
	assert.Equal(t, plan.ID("lead"), plans.Songs[0].Sections[2].Sound, "by its letters")
	plans, _ = d.Into(&plan.Plan{}, ids())
	require.Empty(t, plans.Validate())
	assert.Equal(t, "Home", plans.Sounds[0].Name, "an empty plan gets a home sound")
}

// A set goes out and comes back as its songs, with their gaps, and every song is known again.
func TestASetRoundTripsThroughAMIDIFile(t *testing.T) {
	p := demo.Plan()
	var out bytes.Buffer
	_, err := WriteSMF(&out, p, "long", "quay-set", "")
	require.NoError(t, err)
	d, err := ReadSMF(out.Bytes(), "file")
	require.NoError(t, err)
	l, _ := p.FindSetList("quay-set")
	assert.Equal(t, l.Name, d.SetList)
	require.Len(t, d.Songs, len(l.Entries))
	for i, e := range l.Entries {
		s, _ := p.FindSong(e.Song)
		assert.Equal(t, s.Title, d.Songs[i].Title)
		assert.Equal(t, s.Meter, d.Songs[i].Meter, s.Title)
		assert.InDelta(t, quarters(s.Tempo), d.Songs[i].Tempo.BPM, 0.01, s.Title)
		require.Len(t, d.Songs[i].Sections, len(s.Sections), s.Title)
		assert.Equal(t, i > 0 && l.GapBefore(e) == 0, d.Songs[i].Segue, s.Title)
		if i > 0 && !d.Songs[i].Segue {
			gap := plan.DefaultGapS
			if d.Songs[i].GapS != nil {
				gap = *d.Songs[i].GapS
			}
			assert.InDelta(t, l.GapBefore(e), gap, 0.02, s.Title)
		}
	}
	plans, said := d.Into(p, ids())
	require.Empty(t, plans.Validate())
	for _, text := range said {
		assert.NotContains(t, text, "tempo")
		assert.NotContains(t, text, "meter")
	}
	for i, e := range l.Entries {
		assert.Equal(t, e.Song, plans.SetLists[0].Entries[i].Song)
	}
}

func TestAMIDIFileMadeElsewhere(t *testing.T) {
	p := demo.Plan()
	var out bytes.Buffer
	_, err := WriteSMF(&out, p, "", "quay-set", "tin-cabana")
	require.NoError(t, err)
	plain, err := ReadSMF(out.Bytes(), "x")
	require.NoError(t, err)
	wrapped := append(
		[]byte("RIFF\x00\x00\x00\x00RMIDLIST\x03\x00\x00\x00abc\x00data"), byte(out.Len()), byte(out.Len()>>8),
		byte(out.Len()>>16), 0,
	)
	d, err := ReadSMF(append(wrapped, out.Bytes()...), "x")
	require.NoError(t, err)
	assert.Equal(t, plain, d, "in RIFF it says the same")
	_, err = ReadSMF(wrapped, "x")
	require.ErrorContains(t, err, "ends too early")
	_, err = ReadSMF([]byte("RIFF\x00\x00\x00\x00RMID"), "x")
	require.ErrorContains(t, err, "it has no MIDI file in it")
	frames := bytes.Clone(out.Bytes())
	frames[12] = 0xe8
	_, err = ReadSMF(frames, "x")
	require.ErrorContains(t, err, "the file counts frames")
	// A title and a marker in Latin-1: 0xe9 is an e with a mark.
	latin := []byte(
		"MThd\x00\x00\x00\x06\x00\x00\x00\x01\x03\xc0MTrk\x00\x00\x00\x17\x00\xff\x03\x06Caf\xe9 X\x00\xff\x06\x04R\xe9el\x8f\x00\xff\x2f\x00",
	)
	d, err = ReadSMF(latin, "x")
	require.NoError(t, err)
	assert.Equal(t, "Café X", d.Songs[0].Title)
	assert.Equal(t, "Réel", d.Songs[0].Sections[0].Label)
	assert.Contains(t, d.Said[0], "Latin-1")
}

// However a table is parted, its lines end and its letters are written, it says the same.
func TestATableOfAnyHand(t *testing.T) {
	rows := "title,bpm,gap,sections\nCafé,104.5,20,Intro:Home:4; Solo:Lead:16.5:rest 2\nBaß,,,Verse:Home:8:sing\n"
	want, err := ReadCSV([]byte(rows), "Set")
	require.NoError(t, err)
	assert.Equal(t, 2.0, want.Songs[0].Sections[1].Rest)
	assert.True(t, want.Songs[1].Sections[0].Singing)
	utf16 := func(text string, order binary.AppendByteOrder, mark bool) []byte {
		var b []byte
		if mark {
			b = order.AppendUint16(b, 0xfeff)
		}
		for _, r := range text {
			b = order.AppendUint16(b, uint16(r))
		}
		return b
	}
	semicolons := "title;bpm;gap;sections\nCafé;104,5;20;\"Intro:Home:4; Solo:Lead:16,5:rest 2\"\nBaß;;;Verse:Home:8:sing\n"
	latin := strings.NewReplacer("é", "\xe9", "ß", "\xdf").Replace(rows)
	for name, test := range map[string]struct {
		data []byte
		said string
	}{
		"with a mark":             {[]byte("\ufeff" + rows), ""},
		"CRLF":                    {[]byte(strings.ReplaceAll(rows, "\n", "\r\n")), ""},
		"CR":                      {[]byte(strings.ReplaceAll(rows, "\n", "\r")), ""},
		"semicolons and commas":   {[]byte(semicolons), ""},
		"tabs":                    {[]byte(strings.NewReplacer(",", "\t").Replace(rows)), ""},
		"UTF-16, little":          {utf16(rows, binary.LittleEndian, true), ""},
		"UTF-16, big":             {utf16(rows, binary.BigEndian, true), ""},
		"UTF-16 without a mark":   {utf16(rows, binary.LittleEndian, false), "UTF-16"},
		"UTF-16 big, and no mark": {utf16(rows, binary.BigEndian, false), "UTF-16"},
		"Latin-1":                 {[]byte(latin), "Latin-1"},
	} {
		t.Run(name, func(t *testing.T) {
			d, err := ReadCSV(test.data, "Set")
			require.NoError(t, err)
			assert.Equal(t, want.Songs, d.Songs)
			if test.said != "" {
				require.Len(t, d.Said, 1)
				assert.Contains(t, d.Said[0], test.said)
			} else {
				assert.Empty(t, d.Said)
			}
		})
	}
}

func TestTheTemplateIsReadAsItIsGiven(t *testing.T) {
	d, err := ReadCSV(Template(), "Set")
	require.NoError(t, err)
	assert.Empty(t, d.Left)
	require.Len(t, d.Songs, 1)
	assert.Equal(t, "Ferry Lights", d.Songs[0].Title)
	assert.Len(t, d.Songs[0].Sections, 3)
	for _, c := range Columns() {
		assert.NotEmpty(t, c.Holds)
	}
}

// A title that is here with another tempo is not decided in silence.
func TestAKnownTitleWithOtherFactsIsAskedAbout(t *testing.T) {
	p := demo.Plan()
	here, _ := p.FindSong("tin-cabana")
	for text, says := range map[string]string{
		"title,bpm\nTin Cabana,99\n": fmt.Sprintf(
			"Tin Cabana is here already: the tempo is %g here and 99 there. You are asked which holds.", here.Tempo.BPM,
		),
		"title,meter\ntin cabana,7/8\n":              "the meter is 4/4 here and 7/8 there",
		"title,tuning,capo\nTin Cabana,Drop D,3\n":   "the tuning differs, the capo differs",
		"title,sections\nTin Cabana,Verse:Lead:12\n": "the sections differ",
	} {
		d, err := ReadCSV([]byte(text), "")
		require.NoError(t, err)
		file, said := d.Into(p, ids())
		require.Empty(t, file.Validate())
		assert.Contains(t, strings.Join(said, " "), says)
		m, err := p.Merge(file, nil, ids())
		require.NoError(t, err)
		require.Len(t, m.Conflicts, 1)
		assert.Equal(t, "Tin Cabana", m.Conflicts[0].Mine)
	}
}

func TestNonsenseIsRefusedWithItsLine(t *testing.T) {
	for text, want := range map[string]string{
		"":                                    "line 1: the file is empty",
		"bpm\n120\n":                          `line 1: there is no column "title"`,
		"title,song\nA,B\n":                   `line 1: the column "title" stands twice`,
		"title\n":                             "line 2: there are no songs",
		"title,bpm\nA,100\nB,fast\n":          `line 3: "fast" is no tempo`,
		"title,bpm\nA,1000\n":                 `line 2: "1000" is no tempo`,
		"title,meter\nA,4/5\n":                `line 2: "4/5" is no meter`,
		"title,capo\nA,-1\n":                  `line 2: "-1" is no capo`,
		"title,gap\nA,long\n":                 `line 2: "long" is no gap`,
		"title,segue\nA,maybe\n":              `line 2: "maybe" is neither yes nor no`,
		"title,sections\nA,Verse:Home:lots\n": `line 2: "Verse:Home:lots" is no section`,
		"title,beat\nA,1/3\n":                 `line 2: "1/3" is no note`,
		"title,bpm\nA,100\n,120\n":            "line 3: a song needs a title",
		"title\n\"A\nB\n":                     "line 3",
	} {
		_, err := ReadCSV([]byte(text), "")
		require.Error(t, err, text)
		assert.Contains(t, err.Error(), want)
	}
}

func FuzzReadCSV(f *testing.F) {
	var out bytes.Buffer
	require.NoError(f, WriteCSV(&out, demo.Plan(), "quay-set"))
	f.Add(out.Bytes())
	f.Add([]byte("title,bpm,sections\n=A,100,Verse:Home:8;Solo\n"))
	f.Add([]byte("title;bpm\r\xe9;100,5\r"))
	f.Add([]byte("t\x00i\x00t\x00l\x00e\x00\n\x00a\x00\n\x00"))
	f.Fuzz(func(t *testing.T, data []byte) {
		d, err := ReadCSV(data, "name")
		if err != nil {
			return
		}
		p, _ := d.Into(&plan.Plan{}, ids())
		require.Empty(t, p.Validate())
		var again bytes.Buffer
		require.NoError(t, WriteCSV(&again, p, p.SetLists[0].ID))
		_, err = ReadCSV(again.Bytes(), "name")
		require.NoError(t, err)
	})
}
