package exchange

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"

	"envex/core/plan"
	"envex/core/reason"
)

// ReadCSV reads a set list: a line with the names of its columns, then a line for each song, as [Columns]
// says. Fields are parted by commas, semicolons or tabs; numbers may have a decimal comma. The first fault
// ends it, with its line.
func ReadCSV(data []byte, name string) (*Draft, error) {
	if len(data) > MaxBytes {
		return nil, reason.Errorf("%d bytes are too many: the limit is %d", len(data), MaxBytes)
	}
	text, said := textOf(data)
	r := csv.NewReader(strings.NewReader(text))
	r.FieldsPerRecord, r.Comma = -1, separatorOf(text)
	r.TrimLeadingSpace = r.Comma != '\t' // which is a space itself
	head, err := r.Read()
	if err != nil {
		return nil, csvError(err, 1)
	}
	d := &Draft{SetList: name, Songs: []DraftSong{}, Left: []string{}, Said: []string{}}
	if said != "" {
		d.Said = append(d.Said, said)
	}
	if d.SetList == "" {
		d.SetList = "Set list"
	}
	at := map[string]int{}
	for i, h := range head {
		h = strings.ToLower(strings.TrimSpace(h))
		if other, ok := otherNames[h]; ok {
			h = other
		}
		if _, twice := at[h]; twice {
			return nil, &LineError{1, fmt.Sprintf("the column %q stands twice", h)}
		}
		at[h] = i
		if !contains(columns, h) {
			d.Left = append(d.Left, fmt.Sprintf("The column %q is not understood.", head[i]))
		}
	}
	if _, ok := at["title"]; !ok {
		return nil, &LineError{
			1, fmt.Sprintf("there is no column %q; the columns are %s", "title", strings.Join(columns, ", ")),
		}
	}
	for {
		record, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, csvError(err, 0)
		}
		line, _ := r.FieldPos(0)
		if len(d.Songs) >= maxSongs {
			return nil, &LineError{line, fmt.Sprintf("more than %d songs", maxSongs)}
		}
		field := func(name string) string {
			if i, ok := at[name]; ok && i < len(record) {
				return fromText(strings.TrimSpace(record[i]))
			}
			return ""
		}
		if strings.TrimSpace(strings.Join(record, "")) == "" {
			continue
		}
		s, err := csvSong(field, line)
		if err != nil {
			return nil, err
		}
		d.Songs = append(d.Songs, s)
	}
	if len(d.Songs) == 0 {
		return nil, &LineError{2, "there are no songs"}
	}
	return d, nil
}

func contains(list []string, x string) bool {
	for _, y := range list {
		if x == y {
			return true
		}
	}
	return false
}

func csvError(err error, line int) error {
	var parse *csv.ParseError
	if errors.As(err, &parse) {
		return &LineError{parse.Line, parse.Err.Error()}
	}
	if errors.Is(err, io.EOF) {
		return &LineError{1, "the file is empty"}
	}
	return &LineError{max(1, line), err.Error()}
}

func csvSong(field func(string) string, line int) (DraftSong, error) {
	s := DraftSong{
		Title: field("title"), Tempo: plan.Tempo{BPM: 120}, NoTempo: true, Meter: plan.Meter{Beats: 4, Unit: 4},
		NoMeter: true, Tuning: field("tuning"), Sections: []DraftSection{},
	}
	fail := func(format string, args ...any) (DraftSong, error) {
		return s, &LineError{line, fmt.Sprintf(format, args...)}
	}
	if s.Title == "" || len(s.Title) > plan.MaxName {
		return fail("a song needs a title of %d characters or less", plan.MaxName)
	}
	if x := field("bpm"); x != "" {
		bpm, ok := tempoOf(x)
		if !ok {
			return fail("%q is no tempo from 20 to 400", x)
		}
		s.Tempo.BPM, s.NoTempo = bpm, false
	}
	if x := field("beat"); x != "" && x != "1/4" {
		if _, ok := plan.NoteFraction(x); !ok {
			return fail("%q is no note that could get the beat", x)
		}
		s.Tempo.Beat = x
	}
	if x := field("meter"); x != "" {
		meter, ok := meterOf(x)
		if !ok {
			return fail("%q is no meter, such as 4/4", x)
		}
		s.Meter, s.NoMeter = meter, false
	}
	if x := field("capo"); x != "" {
		capo, ok := capoOf(x)
		if !ok {
			return fail("%q is no capo from 0 to 24", x)
		}
		s.Capo = capo
	}
	if x := field("gap s"); x != "" {
		gap, err := strconv.ParseFloat(decimal(x), 64)
		if err != nil || !(gap >= 0 && gap <= 3600) {
			return fail("%q is no gap from 0 to 3600 s", x)
		}
		s.GapS = &gap
	}
	switch x := strings.ToLower(field("segue")); x {
	case "", "no", "0", "false":
	case "yes", "1", "true", "x":
		s.Segue = true
	default:
		return fail("%q is neither yes nor no", x)
	}
	for _, text := range strings.Split(field("sections"), ";") {
		if strings.TrimSpace(text) == "" {
			continue
		}
		sec, err := csvSection(text)
		if err != nil || len(s.Sections) >= maxSections {
			return fail(
				"%q is no section: write label:sound:bars, then sing and rest 2 where they are meant, %d sections at most",
				strings.TrimSpace(text), maxSections,
			)
		}
		s.Sections = append(s.Sections, sec)
	}
	return s, nil
}

func csvSection(text string) (DraftSection, error) {
	parts := strings.Split(text, ":")
	for i := range parts {
		parts[i] = strings.TrimSpace(parts[i])
	}
	s := DraftSection{Label: parts[0]}
	if s.Label == "" || len(s.Label) > plan.MaxName || len(parts) > 5 {
		return s, reason.Errorf("no section")
	}
	if len(parts) > 1 {
		s.Sound = parts[1]
	}
	if len(parts) > 2 && parts[2] != "" {
		bars, err := strconv.ParseFloat(decimal(parts[2]), 64)
		if err != nil || !(bars >= 0.25 && bars <= 1000) {
			return s, reason.Errorf("no bars")
		}
		s.Bars = &bars
	}
	for _, more := range parts[min(3, len(parts)):] {
		beats, rests := strings.CutPrefix(strings.ToLower(more), "rest ")
		switch {
		case more == "":
		case rests:
			rest, err := strconv.ParseFloat(decimal(strings.TrimSpace(beats)), 64)
			if err != nil || !(rest >= 0 && rest <= 256) {
				return s, reason.Errorf("no rest")
			}
			s.Rest = rest
		case strings.EqualFold(more, "sing"), strings.EqualFold(more, "singing"):
			s.Singing = true
		default:
			return s, reason.Errorf("no section")
		}
	}
	return s, nil
}

// WriteCSV writes a set list as [ReadCSV] reads it. A text that a spreadsheet would take for a formula
// is led by an apostrophe. It fails when the set list is not there.
func WriteCSV(w io.Writer, p *plan.Plan, setList plan.ID) error {
	l, err := p.SetListByID(setList)
	if err != nil {
		return fmt.Errorf("exchange: %w", err)
	}
	out := csv.NewWriter(w)
	lines := [][]string{columns}
	for _, e := range l.Entries {
		s, ok := p.FindSong(e.Song)
		if !ok {
			continue
		}
		row := []string{
			AsText(s.Title), number(s.Tempo.BPM), s.Tempo.Beat, fmt.Sprintf("%d/%d", s.Meter.Beats, s.Meter.Unit),
			AsText(s.Tuning), "", "", "", AsText(sectionsOf(p, s)),
		}
		if s.Capo > 0 {
			row[5] = strconv.Itoa(s.Capo)
		}
		if e.GapS != nil {
			row[6] = number(*e.GapS)
		}
		if e.Segue {
			row[7] = "yes"
		}
		lines = append(lines, row)
	}
	if err := out.WriteAll(lines); err != nil {
		return fmt.Errorf("exchange: write CSV: %w", err)
	}
	return nil
}

func number(x float64) string { return strconv.FormatFloat(x, 'g', -1, 64) }

// plainLabel is a label without what parts sections in a column.
func plainLabel(s string) string {
	return strings.TrimSpace(strings.NewReplacer(":", " ", ";", " ").Replace(s))
}

func sectionsOf(p *plan.Plan, s *plan.Song) string {
	var list []string
	for _, sec := range s.Sections {
		text := plainLabel(sec.Label)
		sound := string(sec.Sound)
		if x, ok := p.FindSound(sec.Sound); ok {
			sound = x.Name
		}
		text += ":" + plainLabel(sound)
		if sec.Bars != nil {
			text += ":" + number(*sec.Bars)
		} else if sec.Singing || sec.Rest > 0 {
			text += ":"
		}
		if sec.Singing {
			text += ":sing"
		}
		if sec.Rest > 0 {
			text += ":rest " + number(sec.Rest)
		}
		list = append(list, text)
	}
	return strings.Join(list, "; ")
}

const formula = "=+-@\t\r"

// AsText is a field as it is written to CSV: an apostrophe leads what a spreadsheet would take for a
// formula, so that it stays text.
func AsText(s string) string {
	if s != "" && strings.ContainsRune(formula, rune(s[0])) {
		return "'" + s
	}
	return s
}

func fromText(s string) string {
	if len(s) > 1 && s[0] == '\'' && strings.ContainsRune(formula, rune(s[1])) {
		return s[1:]
	}
	return s
}
