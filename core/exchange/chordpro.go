package exchange

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"envex/core/plan"
	"envex/core/reason"
)

// ReadChordPro reads songs as ChordPro: the title, tempo, time and capo of each, and its sections in
// order, from the blocks that are started, choruses that are repeated, and comments that name a part of
// a song. A label "Solo [Lead]" names the sound. How long a section is, the format does not say: it is open.
// Chords and words are left out. Several songs in one file are a set. What is odd is left out and said, with
// its line; the rest is taken.
func ReadChordPro(data []byte, name string) (*Draft, error) {
	if len(data) > MaxBytes {
		return nil, reason.Errorf("%d bytes are too many: the limit is %d", len(data), MaxBytes)
	}
	text, said := textOf(data)
	r := &chordPro{draft: &Draft{Songs: []DraftSong{}, Left: []string{}, Said: []string{}}}
	if said != "" {
		r.draft.Said = append(r.draft.Said, said)
	}
	r.begin(1)
	for i, line := range strings.Split(text, "\n") {
		r.odd(r.line(strings.TrimSpace(line), i+1))
	}
	r.odd(r.end(name))
	if len(r.draft.Songs) == 0 {
		return nil, &LineError{1, "there are no songs"}
	}
	if len(r.draft.Songs) > 1 {
		r.draft.SetList = name
		if name == "" {
			r.draft.SetList = "Set list"
		}
	}
	return r.draft, nil
}

// odd says of a line that it is left out.
func (r *chordPro) odd(err error) {
	var line *LineError
	if errors.As(err, &line) {
		r.left("Line %d is left out: %s.", line.Line, line.What)
	}
}

type chordPro struct {
	draft  *Draft
	song   DraftSong
	began  int            // line
	any    bool           // something stands in the song
	counts map[string]int // of sections without a label of their own
	block  string         // the block that is open
	words  int            // lines of words and chords
}

func (r *chordPro) begin(line int) {
	r.song = DraftSong{
		Tempo: plan.Tempo{BPM: 120}, NoTempo: true, Meter: plan.Meter{Beats: 4, Unit: 4}, NoMeter: true,
		Sections: []DraftSection{},
	}
	r.began, r.any, r.counts, r.block, r.words = line, false, map[string]int{}, "", 0
}

// end closes a song. One without a title has the file's name, where it is the only one.
func (r *chordPro) end(name string) error {
	if !r.any {
		return nil
	}
	if r.song.Title == "" {
		r.song.Title = name
	}
	if r.song.Title == "" {
		r.song.Title = fmt.Sprintf("Song %d", len(r.draft.Songs)+1)
		r.left("The song from line %d on has no {title: …}; it is called %s.", r.began, r.song.Title)
	}
	if len(r.draft.Songs) >= maxSongs {
		return &LineError{r.began, fmt.Sprintf("more than %d songs", maxSongs)}
	}
	if r.words > 0 {
		r.left("Words and chords are left out.")
	}
	if len(r.song.Sections) == 0 {
		r.left("%s names no sections.", r.song.Title)
	}
	r.draft.Songs = append(r.draft.Songs, r.song)
	return nil
}

func (r *chordPro) left(format string, args ...any) {
	if len(r.draft.Left) == maxLeft {
		r.draft.Left = append(r.draft.Left, "And more.")
	}
	if len(r.draft.Left) > maxLeft {
		return
	}
	r.draft.Left = appendOnce(r.draft.Left, fmt.Sprintf(format, args...))
}

// directive is a line such as {tempo: 104}: its name, which may be led to what it is for by a hyphen, and
// what follows it.
var directive = regexp.MustCompile(`^\{\s*([A-Za-z_]+)(?:-[A-Za-z0-9!_-]+)?\s*(?::|\s)?\s*(.*?)\s*\}$`)

// labelIs is a label given as an attribute: label="Verse 2".
var labelIs = regexp.MustCompile(`label\s*=\s*"([^"]*)"`)

// short are the short names of directives.
var short = map[string]string{
	"t": "title", "st": "subtitle", "c": "comment", "ci": "comment", "cb": "comment", "comment_italic": "comment",
	"comment_box": "comment", "highlight": "comment",
	"ns": "new_song", "sov": "start_of_verse", "eov": "end_of_verse", "soc": "start_of_chorus", "eoc": "end_of_chorus",
	"sob": "start_of_bridge", "eob": "end_of_bridge",
	"sot": "start_of_tab", "eot": "end_of_tab", "sog": "start_of_grid", "eog": "end_of_grid",
}

// inner are blocks that are no part of a song of their own: notation within one.
var inner = []string{"tab", "grid", "abc", "ly", "svg", "textblock", "musicxml"}

// aside are directives that say nothing Envex plans by, or how a page looks.
var aside = []string{
	"subtitle", "artist", "composer", "lyricist", "copyright", "album", "year", "key", "duration", "sorttitle",
	"arranger", "tag", "define", "chord", "transpose",
	"new_page", "np", "new_physical_page", "npp", "column_break", "colb", "columns", "col", "image", "diagrams", "grid",
	"g", "no_grid", "ng", "pagetype", "titles",
	"textfont", "tf", "textsize", "ts", "textcolour", "textcolor", "chordfont", "cf", "chordsize", "cs", "chordcolour",
	"chordcolor",
}

// parts are the words by which a comment is known to name a part of a song.
var parts = regexp.MustCompile(
	`(?i)^(intro|verse|chorus|pre-?chorus|refrain|bridge|solo|break|breakdown|interlude|instrumental|riff|turnaround|middle|vamp|outro|coda|ending|out|tag|head|theme|jam)\b`,
)

func (r *chordPro) line(text string, n int) error {
	if text == "" || strings.HasPrefix(text, "#") {
		return nil
	}
	m := directive.FindStringSubmatch(text)
	if m == nil {
		if strings.HasPrefix(text, "{") {
			return &LineError{n, fmt.Sprintf("%q is no directive, such as {tempo: 104}", clip(text))}
		}
		r.any = true
		r.words++
		return nil
	}
	name, value := strings.ToLower(m[1]), m[2]
	if name == "meta" {
		first, rest, _ := strings.Cut(value, " ")
		name, value = strings.ToLower(first), strings.TrimSpace(rest)
	}
	if long, ok := short[name]; ok {
		name = long
	}
	return r.directive(name, value, n)
}

func (r *chordPro) directive(name, value string, n int) error {
	started, starts := strings.CutPrefix(name, "start_of_")
	_, ends := strings.CutPrefix(name, "end_of_")
	if name != "new_song" {
		r.any = true
	}
	switch {
	case name == "new_song":
		if err := r.end(""); err != nil {
			return err
		}
		r.begin(n)
	case name == "start_of_" || name == "end_of_":
		return &LineError{n, fmt.Sprintf("{%s} does not say of what", name)}
	case starts && slices.Contains(inner, started):
		r.block = started
	case starts:
		r.block = started
		return r.section(started, value, n)
	case ends:
		r.block = ""
	case name == "chorus":
		return r.section("chorus", value, n)
	case name == "comment" && r.block == "" && parts.MatchString(value):
		return r.section("", value, n)
	case name == "comment" || slices.Contains(aside, name) || strings.HasPrefix(name, "x_") && name != "x_tuning":
	default:
		return r.fact(name, value, n)
	}
	return nil
}

// fact is what a directive says of a song.
func (r *chordPro) fact(name, value string, n int) error {
	ok := true
	switch name {
	case "title":
		if ok = value != "" && len(value) <= plan.MaxName; ok {
			r.song.Title = value
		}
	case "tempo":
		var bpm float64
		if bpm, ok = tempoOf(value); ok {
			r.song.Tempo.BPM, r.song.NoTempo = bpm, false
		}
	case "time":
		var meter plan.Meter
		if meter, ok = meterOf(value); ok {
			r.song.Meter, r.song.NoMeter = meter, false
		}
	case "capo":
		var capo int
		if capo, ok = capoOf(value); ok {
			r.song.Capo = capo
		}
	case "x_tuning":
		if ok = len(value) <= plan.MaxName; ok {
			r.song.Tuning = value
		}
	default:
		r.left("{%s} is not understood.", clip(name))
	}
	if !ok {
		return &LineError{n, fmt.Sprintf("%q is %s", clip(value), map[string]string{
			"title": fmt.Sprintf("no title of 1 to %d characters", plan.MaxName), "tempo": "no tempo from 20 to 400",
			"time": "no meter, such as 4/4",
			"capo": "no capo from 0 to 24", "x_tuning": "too long for a tuning",
		}[name])}
	}
	return nil
}

// section is one more part of the song: by its label, else by the kind of block, counted from its second on.
func (r *chordPro) section(kind, value string, n int) error {
	if m := labelIs.FindStringSubmatch(value); m != nil {
		value = m[1]
	}
	if len(r.song.Sections) >= maxSections {
		return &LineError{n, fmt.Sprintf("more than %d sections", maxSections)}
	}
	if value == "" {
		value = strings.ToUpper(kind[:1]) + strings.ReplaceAll(kind[1:], "_", " ")
		r.counts[kind]++
		if r.counts[kind] > 1 && kind != "chorus" {
			value = fmt.Sprintf("%s %d", value, r.counts[kind])
		}
	}
	s := labelled(clip(value))
	if s.Label == "" {
		s.Label = fmt.Sprintf("Section %d", len(r.song.Sections)+1)
	}
	r.song.Sections = append(r.song.Sections, s)
	return nil
}
