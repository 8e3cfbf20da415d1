package exchange

import (
	"bytes"
	"io"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

func TestMetersAreReadWithinTheirBounds(t *testing.T) {
	for text, want := range map[string]plan.Meter{
		"1/1": {Beats: 1, Unit: 1}, "4/4": {Beats: 4, Unit: 4}, " 6 / 8 ": {Beats: 6, Unit: 8},
		"32/32": {Beats: 32, Unit: 32},
		"0/4":   {}, "33/4": {}, "4/3": {}, "4/64": {}, "4": {}, "x/4": {}, "4/x": {}, "": {}, "-1/4": {},
	} {
		got, ok := meterOf(text)
		assert.Equal(t, want, got, text)
		assert.Equal(t, want != plan.Meter{}, ok, text)
	}
	for text, ok := range map[string]bool{
		"20": true, "400": true, "19.9": false, "400.1": false, "120,5": true, "": false,
	} {
		_, is := tempoOf(text)
		assert.Equal(t, ok, is, text)
	}
}

func TestALabelMayEndInItsSound(t *testing.T) {
	for text, want := range map[string]DraftSection{
		"Solo [Lead]": {Label: "Solo", Sound: "Lead"}, "Solo [2] [Lead]": {Label: "Solo [2]", Sound: "Lead"},
		"[Lead]": {Label: "[Lead]"}, "Solo [Lead": {Label: "Solo [Lead"}, "Solo Lead]": {Label: "Solo Lead]"}, "": {},
		"x[]": {Label: "x"},
	} {
		assert.Equal(t, want, labelled(text), text)
	}
	for text, ok := range map[string]bool{"0": true, "24": true, "25": false, "-1": false, "x": false} {
		_, is := capoOf(text)
		assert.Equal(t, ok, is, text)
	}
}

func TestWhatIsLeftOutIsListedUpToALimit(t *testing.T) {
	r := chordPro{draft: &Draft{}}
	for i := range maxLeft + 5 {
		r.left("line %d", i)
	}
	assert.Len(t, r.draft.Left, maxLeft+1)
	assert.Equal(t, "And more.", r.draft.Left[maxLeft])
	assert.Equal(t, "line 99", r.draft.Left[maxLeft-1])
}

// merged is what a draft of one song comes to in a plan that has it.
func merged(t *testing.T, here plan.Song, draft DraftSong) (plan.Song, string) {
	t.Helper()
	p := &plan.Plan{
		Sounds: []plan.Sound{
			{ID: "home", Name: "Home", Role: plan.HomeRole},
			{ID: "lead", Name: "Lead", Role: plan.LeadRole},
		},
		Songs: []plan.Song{here},
	}
	d := &Draft{Songs: []DraftSong{draft}}
	out, said := d.Into(p, ids())
	s, ok := out.FindSong(here.ID)
	require.True(t, ok)
	return *s, strings.Join(said, " ")
}

func TestWhatAFileSaysOfAKnownSongIsTakenFieldByField(t *testing.T) {
	bars, more := 8.0, 12.0
	here := plan.Song{
		ID: "s", Title: "Quay", Tempo: plan.Tempo{BPM: 120}, Meter: plan.Meter{Beats: 4, Unit: 4}, Tuning: "E", Capo: 2,
		Sections: []plan.Section{
			{ID: "one", Label: "Verse", Sound: "home", Recipe: "quiet", Bars: &bars, Rest: 1},
			{ID: "two", Label: "Solo", Sound: "lead"},
		},
	}
	same := DraftSong{Title: "quay", NoTempo: true, NoMeter: true}
	verse, solo := DraftSection{Label: "verse"}, DraftSection{Label: "Solo"}
	for name, x := range map[string]struct {
		draft DraftSong
		want  func(*plan.Song)
		says  string
	}{
		"nothing": {same, func(*plan.Song) {}, "the song that is here already"},
		"the same meter": {
			DraftSong{Title: "Quay", NoTempo: true, Meter: plan.Meter{Beats: 4, Unit: 4}}, func(*plan.Song) {}, "here already.",
		},
		"a tempo a hair off": {
			DraftSong{Title: "Quay", NoMeter: true, Tempo: plan.Tempo{BPM: 120.005}}, func(*plan.Song) {}, "here already.",
		},
		"another tempo": {
			DraftSong{Title: "Quay", NoMeter: true, Tempo: plan.Tempo{BPM: 120.02}},
			func(s *plan.Song) { s.Tempo.BPM = 120.02 }, "the tempo is 120 here",
		},
		"the same capo": {
			DraftSong{Title: "Quay", NoTempo: true, NoMeter: true, Capo: 2}, func(*plan.Song) {}, "here already.",
		},
		"no capo": {
			DraftSong{Title: "Quay", NoTempo: true, NoMeter: true, Tuning: "E"}, func(*plan.Song) {}, "here already.",
		},
		"another tuning": {
			DraftSong{Title: "Quay", NoTempo: true, NoMeter: true, Tuning: "D"}, func(s *plan.Song) { s.Tuning = "D" },
			"the tuning differs",
		},
		"the same sections": {
			DraftSong{Title: "Quay", NoTempo: true, NoMeter: true, Sections: []DraftSection{verse, solo}}, func(*plan.Song) {},
			"here already.",
		},
		"the sound it has": {
			DraftSong{
				Title: "Quay", NoTempo: true, NoMeter: true, Sections: []DraftSection{{Label: "Verse", Sound: "home"}, solo},
			}, func(*plan.Song) {}, "here already.",
		},
		"another sound": {
			DraftSong{
				Title: "Quay", NoTempo: true, NoMeter: true, Sections: []DraftSection{{Label: "Verse", Sound: "Lead"}, solo},
			},
			func(s *plan.Song) { s.Sections[0].Sound, s.Sections[0].Recipe = "lead", "" }, "the sections differ",
		},
		"bars, a rest and a voice": {
			DraftSong{
				Title: "Quay", NoTempo: true, NoMeter: true,
				Sections: []DraftSection{{Label: "Verse", Bars: &more, Rest: 2, Singing: true}, solo},
			},
			func(s *plan.Song) { s.Sections[0].Bars, s.Sections[0].Rest, s.Sections[0].Singing = &more, 2, true },
			"the sections differ",
		},
		"a tempo of its own": {
			DraftSong{
				Title: "Quay", Tempo: plan.Tempo{BPM: 120}, NoMeter: true,
				Sections: []DraftSection{verse, {Label: "Solo", BPM: 90}},
			},
			func(s *plan.Song) { s.Sections[1].Tempo = &plan.Tempo{BPM: 90} }, "the sections differ",
		},
		"the tempo it has": {
			DraftSong{
				Title: "Quay", Tempo: plan.Tempo{BPM: 120}, NoMeter: true,
				Sections: []DraftSection{{Label: "Verse", BPM: 120}, solo},
			}, func(*plan.Song) {}, "here already.",
		},
		"one section fewer": {
			DraftSong{Title: "Quay", NoTempo: true, NoMeter: true, Sections: []DraftSection{verse}},
			func(s *plan.Song) { s.Sections = s.Sections[:1] }, "the sections differ",
		},
	} {
		want := here
		want.Sections = slices.Clone(here.Sections)
		x.want(&want)
		got, said := merged(t, here, x.draft)
		assert.Equal(t, want, got, name)
		assert.Contains(t, said, x.says, name)
	}
}

func TestANewSectionHasATempoOfItsOwnWhereItDiffers(t *testing.T) {
	d := &Draft{Songs: []DraftSong{{
		Title: "New", Tempo: plan.Tempo{BPM: 100, Beat: "1/4."},
		Sections: []DraftSection{{Label: "A", BPM: 100}, {Label: "B", BPM: 80}, {Label: "C"}},
	}}}
	out, _ := d.Into(&plan.Plan{}, ids())
	list := out.Songs[0].Sections
	assert.Nil(t, list[0].Tempo)
	assert.Equal(t, &plan.Tempo{BPM: 80, Beat: "1/4."}, list[1].Tempo)
	assert.Nil(t, list[2].Tempo)
	assert.Len(t, out.Sounds, 1, "a plan without sounds gets one, once")
	assert.Equal(t, list[0].Sound, list[2].Sound)
}

func TestAMIDIFileIsReadAsFarAsItSaysAndNoFurther(t *testing.T) {
	head := []byte("MThd\x00\x00\x00\x06\x00\x01\x00\x01\x01\xe0")
	track := []byte("MTrk\x00\x00\x00\x04\x00\xff\x2f\x00")
	_, tracks, err := scanSMF(slices.Concat(head, track))
	require.NoError(t, err)
	assert.Len(t, tracks, 1)
	_, _, err = scanSMF(slices.Concat(head, track[:len(track)-1]))
	require.ErrorIs(t, err, errShort, "a byte is missing")
	_, tracks, err = scanSMF(slices.Concat(head, []byte("Odd \x00\x00\x00\x01x"), track))
	require.NoError(t, err)
	assert.Len(t, tracks, 1, "what is no track is passed over")
	_, _, err = scanSMF(slices.Concat(head, track, []byte("MTrk\x00\x00\x00\x01\xff")))
	assert.ErrorContains(t, err, "track 2: ")
	_, _, err = scanSMF(head[:13])
	assert.ErrorContains(t, err, "not a Standard MIDI File")
	longer := slices.Concat([]byte("MThd\x00\x00\x00\x08\x00\x01\x00\x01\x01\xe0xx"), track)
	_, tracks, err = scanSMF(longer)
	require.NoError(t, err)
	assert.Len(t, tracks, 1, "a head may be longer")
}

func TestSectionsOfATableAreReadWithinTheirBounds(t *testing.T) {
	name := strings.Repeat("n", plan.MaxName)
	for text, ok := range map[string]bool{
		name: true, name + "n": false, "": false, "A:B:0.25": true, "A:B:0.2": false, "A:B:1000": true,
		"A:B:1000.5": false, "A:B:4:rest 0": true, "A:B:4:rest 256": true, "A:B:4:rest 257": false,
		"A:B:4:rest -1": false, "A:B:4:sing:rest 1": true,
		"A:B:4:sing:rest 1:sing": false, "A:B:4:hum": false, "A::4": true, "A:B:": true,
	} {
		data := []byte("title,bpm,sections\nQuay,100," + text + "\n")
		d, err := ReadCSV(data, "set.csv")
		if text == "" {
			require.NoError(t, err)
			assert.Empty(t, d.Songs[0].Sections)
			continue
		}
		assert.Equal(t, ok, err == nil, "%s: %v", text, err)
	}
	for gap, want := range map[string]bool{
		"0": true, "3600": true, "3600.5": false, "-1": false, "x": false, "2,5": true,
	} {
		_, err := ReadCSV([]byte("title,bpm,gap s\nQuay,100,\""+gap+"\"\n"), "set.csv")
		assert.Equal(t, want, err == nil, gap)
	}
}

// What a file of events says of two songs: where each begins, by the tempo of the one before over the gap between them.
func TestEventsStandWhereTheSetHasThem(t *testing.T) {
	bars, gap := 2.0, 6.0
	song := func(id plan.ID, bpm float64, meter plan.Meter) plan.Song {
		return plan.Song{
			ID: id, Title: string(id), Tempo: plan.Tempo{BPM: bpm}, Meter: meter,
			Sections: []plan.Section{
				{ID: "1", Label: "One", Sound: "home", Bars: &bars}, {ID: "2", Label: "Two", Sound: "home"},
			},
		}
	}
	p := &plan.Plan{
		Sounds: []plan.Sound{{ID: "home", Name: "Home"}},
		Songs: []plan.Song{
			song("waltz", 120, plan.Meter{Beats: 3, Unit: 4}), song("jig", 90, plan.Meter{Beats: 6, Unit: 8}),
		},
		SetLists: []plan.SetList{{ID: "set", Name: "Set", Entries: []plan.SetEntry{
			{ID: "a", Song: "waltz"}, {ID: "b", Song: "jig", GapS: &gap}, {ID: "c", Song: "waltz", Segue: true},
		}}},
	}
	starts := func(song plan.ID) (at []float64) {
		var out bytes.Buffer
		left, err := WriteSMF(&out, p, "", "set", song)
		require.NoError(t, err)
		assert.Equal(t, []string{"Sections of open length are written as eight bars."}, left)
		resolution, tracks, err := scanSMF(out.Bytes())
		require.NoError(t, err)
		require.Len(t, tracks, 1, "nothing is sent")
		for _, e := range tracks[0] {
			if e.meta == 0x06 {
				at = append(at, float64(e.at)/float64(resolution))
			}
		}
		return at
	}
	// In quarter notes: 2 and 8 bars of 3; 6 s at 120 are 12; 2 and 8 bars of 6/8 are 6 and 24; and straight on.
	assert.Equal(t, []float64{0, 6, 42, 48, 72, 78}, starts(""))
	assert.Equal(t, []float64{0, 6}, starts("waltz"), "played twice, written once")
	_, err := WriteSMF(io.Discard, p, "", "set", "none")
	require.ErrorContains(t, err, "no song")
}

func TestEventsOfAChannelAreAsLongAsTheirKindIs(t *testing.T) {
	head := []byte("MThd\x00\x00\x00\x06\x00\x01\x00\x01\x01\xe0")
	_, _, err := scanSMF(head)
	require.ErrorContains(t, err, "no tracks", "a head alone is a file without tracks")
	track := func(events string) []byte {
		return slices.Concat(head, []byte("MTrk\x00\x00\x00"), []byte{byte(len(events))}, []byte(events))
	}
	for name, x := range map[string]struct {
		events string
		want   int
	}{
		"a program and a pressure have one byte": {"\x00\xc0\x05\x00\xd0\x07\x00\xff\x2f\x00", 3},
		"a note and a bend of the last channel":  {"\x00\x90\x3c\x40\x00\xef\x00\x40\x00\xff\x2f\x00", 3},
		"the status goes on":                     {"\x00\x90\x3c\x40\x10\x3c\x00\x00\xff\x2f\x00", 3},
	} {
		_, tracks, err := scanSMF(track(x.events))
		require.NoError(t, err, name)
		assert.Len(t, tracks[0], x.want, name)
	}
	for name, events := range map[string]string{
		"a note without its velocity": "\x00\x90\x3c", "a program without its number": "\x00\xc0",
		"what no file has": "\x00\xf1\x00", "no status to go on": "\x00\x3c\x40",
	} {
		_, _, err := scanSMF(track(events))
		require.Error(t, err, name)
	}
	_, tracks, err := scanSMF(slices.Concat(track("\x00\xff\x2f\x00"), []byte("Odd \x00\x00\x00\x00")))
	require.NoError(t, err)
	assert.Len(t, tracks, 1, "an empty piece at the end is passed over")
}
