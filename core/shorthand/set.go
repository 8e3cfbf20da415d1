package shorthand

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"envex/core/exchange"
	"envex/core/plan"
	"envex/core/reason"
)

// A set is a line for each song:
//
//	Ferry Lights 104: clean, verse clean x2 (sing), chorus crunch (sing), solo lead 16, out crunch
//	Low Tide
//	3. Nine Gulls @ 132 6/8: intro clean 4 | verse trem 16 (sing)
//
//	title [tempo] [meter]: sections   a title alone is enough
//	section: [part] sound [bars] [x times] [(sing, rest 2, 16 bars)]
//	& at the head of a line           it follows the song before without a gap
//	# words                           nothing
//
// A part is a word such as verse, chorus, solo, out, with a number or not; what is left is the sound. Where a line
// holds tabs it is a row of a spreadsheet: the first words are the title, a number from 40 to 300 the tempo. A text
// whose first line names columns is read by [exchange.ReadCSV].

// parts are words for the parts of a song.
var parts = map[string]bool{
	"intro": true, "verse": true, "pre": true, "prechorus": true, "pre-chorus": true, "chorus": true, "refrain": true,
	"bridge": true, "solo": true, "out": true, "outro": true, "break": true,
	"riff": true, "middle": true, "tag": true, "end": true, "ending": true, "coda": true, "interlude": true,
	"instrumental": true, "head": true, "build": true, "drop": true, "breakdown": true,
	"vamp": true, "hook": true, "theme": true, "turnaround": true, "post": true, "stop": true, "last": true,
	"final": true, "double": true, "half": true, "section": true, "part": true,
}

// MaxSetLine is how long a line of a set may be, in bytes.
const MaxSetLine = 4000

// ReadSet reads a set that was typed or pasted. pattern is the sections of songs that name none, as they stand after
// the colon of a line; "" for none. It fails on a text that is too long, and on what [exchange.ReadCSV] refuses, with
// the line.
func ReadSet(text, name, pattern string) (*exchange.Draft, error) {
	if len(text) > exchange.MaxBytes {
		return nil, reason.Errorf("%d characters are too many: the limit is %d", len(text), exchange.MaxBytes)
	}
	if name == "" {
		name = "Set list"
	}
	d := &exchange.Draft{SetList: name, Songs: []exchange.DraftSong{}, Left: []string{}, Said: []string{}}
	lines := strings.Split(strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n"), "\n")
	if hasColumns(lines) {
		csv, err := exchange.ReadCSV([]byte(text), name)
		if err != nil {
			return nil, err
		}
		d = csv
	} else {
		if !isText(text) {
			return nil, errNoText
		}
		for i, line := range lines {
			if len(line) > MaxSetLine {
				return nil, &exchange.LineError{Line: i + 1, What: fmt.Sprintf("it is longer than %d characters", MaxSetLine)}
			}
			if s, ok := readLine(d, line); ok {
				if len(d.Songs) >= maxSetSongs {
					return nil, &exchange.LineError{Line: i + 1, What: fmt.Sprintf("more than %d songs", maxSetSongs)}
				}
				d.Songs = append(d.Songs, s)
			}
		}
	}
	if pattern = strings.TrimSpace(pattern); pattern != "" {
		for i := range d.Songs {
			if s := &d.Songs[i]; len(s.Sections) == 0 {
				s.Sections = readSections(d, s, pattern)
			}
		}
	}
	return d, nil
}

const maxSetSongs = 300

// hasColumns reports whether the first line of a text that is not empty names the columns of a spreadsheet.
func hasColumns(lines []string) bool {
	i := slices.IndexFunc(lines, func(l string) bool { return strings.TrimSpace(l) != "" })
	if i < 0 || !strings.ContainsAny(lines[i], ",;\t") {
		return false
	}
	for _, f := range strings.FieldsFunc(lines[i], func(r rune) bool { return r == ',' || r == ';' || r == '\t' }) {
		switch strings.ToLower(strings.Trim(strings.TrimSpace(f), `"`)) {
		case "title", "song", "name":
			return true
		}
	}
	return false
}

var (
	listNumber = regexp.MustCompile(`^(\d{1,3})[.)]\s+|^[-*•]\s+`)
	tempoWords = regexp.MustCompile(`(?i)(?:^|\s)@?\s*(\d{2,3}(?:[.,]\d)?)\s*(?:bpm)?\s*$`)
	saidTempo  = regexp.MustCompile(`(?i)\(?(\d{2,3}(?:[.,]\d)?)\s*bpm\)?`)
	meterWords = regexp.MustCompile(`(?:^|\s)(\d{1,2})/(1|2|4|8|16)(?:\s|$)`)
	timesWords = regexp.MustCompile(`(?i)(?:^|\s)(?:x\s*(\d{1,2})|(\d{1,2})\s*x)(?:\s|$)`)
	barsWords  = regexp.MustCompile(`(?i)(?:^|\s)(\d{1,3}(?:\.\d{1,2})?)\s*(?:bars?|b|measures?)?\s*$`)
	restWords  = regexp.MustCompile(`(?i)\b(?:rest|stop|gap|silence)\s*(\d{1,2}(?:\.\d)?)?`)
	singWords  = regexp.MustCompile(`(?i)\b(?:sing|sings|singing|vocals?|sung|voice)\b`)
)

// readLine reads one song; it is false where a line holds none.
func readLine(d *exchange.Draft, line string) (exchange.DraftSong, bool) {
	s := exchange.DraftSong{
		Tempo: plan.Tempo{BPM: 120}, NoTempo: true, Meter: plan.Meter{Beats: 4, Unit: 4}, NoMeter: true,
		Sections: []exchange.DraftSection{},
	}
	line = strings.TrimSpace(line)
	if line == "" || strings.HasPrefix(line, "#") {
		return s, false
	}
	if rest, ok := strings.CutPrefix(line, "&"); ok {
		line, s.Segue = strings.TrimSpace(rest), len(d.Songs) > 0
	}
	line = strings.TrimSpace(listNumber.ReplaceAllString(line, ""))
	head, tail, _ := strings.Cut(line, ":")
	if strings.Contains(line, "\t") {
		head, tail = row(d, line)
	}
	if s.Title = titled(takeHead(d, &s, head)); s.Title == "" {
		if strings.Trim(line, "-=_*~ .:\t") != "" {
			d.Left = append(d.Left, fmt.Sprintf("%q has no title.", line))
		}
		return s, false
	}
	if tail = strings.TrimSpace(tail); tail != "" {
		s.Sections = readSections(d, &s, tail)
	}
	return s, true
}

// takeHead takes meter and tempo off the head of a line; what is left is the title.
func takeHead(d *exchange.Draft, s *exchange.DraftSong, head string) string {
	title := strings.TrimSpace(head)
	if m := meterWords.FindStringSubmatchIndex(title); m != nil && m[0] > 0 {
		beats, _ := strconv.Atoi(title[m[2]:m[3]]) // digits, by the expression
		unit, _ := strconv.Atoi(title[m[4]:m[5]])
		if beats >= 1 && beats <= 32 {
			s.Meter, s.NoMeter = plan.Meter{Beats: beats, Unit: unit}, false
			title = strings.TrimSpace(title[:m[0]] + " " + title[m[1]:])
		}
	}
	for _, at := range []*regexp.Regexp{saidTempo, tempoWords} {
		m := at.FindStringSubmatchIndex(title)
		if m == nil || m[0] == 0 {
			continue
		}
		bpm, err := strconv.ParseFloat(strings.Replace(title[m[2]:m[3]], ",", ".", 1), 64)
		if err != nil || bpm < 40 || bpm > 300 {
			continue
		}
		s.Tempo.BPM, s.NoTempo = bpm, false
		rest := strings.TrimSpace(title[:m[0]] + " " + title[m[1]:])
		if at == tempoWords && !strings.Contains(title[m[0]:m[1]], "@") && len(wordsOf(rest)) == 1 {
			d.Said = append(d.Said, fmt.Sprintf("%s: the number is taken as its tempo, %g.", titled(rest), bpm))
		}
		title = rest
		break
	}
	return strings.Trim(strings.TrimSpace(title), ",;@- ")
}

// row is a row of a spreadsheet without a line that names its columns: the first words are the title, a number that can
// be one is the tempo, and what is left is said to be left out.
func row(d *exchange.Draft, line string) (head, tail string) {
	title, bpm := "", ""
	for _, f := range strings.Split(line, "\t") {
		f = strings.Trim(strings.TrimSpace(f), `"`)
		x, err := strconv.ParseFloat(strings.Replace(f, ",", ".", 1), 64)
		switch {
		case f == "":
		case title == "" && err != nil:
			title = f
		case bpm == "" && err == nil && x >= 40 && x <= 300:
			bpm = f
		case tail == "" && strings.Contains(f, ","):
			tail = f
		case title == "" && err == nil: // the number of the row
		default:
			d.Left = append(d.Left, fmt.Sprintf("%q beside %s is not understood.", f, title))
		}
	}
	return strings.TrimSpace(title + " " + bpm), tail
}

// readSections reads the sections of a song. A part that comes again is numbered.
func readSections(d *exchange.Draft, s *exchange.DraftSong, text string) []exchange.DraftSection {
	var list []exchange.DraftSection
	count := map[string]int{}
	for _, piece := range pieces(text) {
		if strings.TrimSpace(piece) == "" {
			continue
		}
		sec, times := readSection(piece)
		if sec.Label == "" {
			d.Left = append(d.Left, fmt.Sprintf("%q in %s names no section.", strings.TrimSpace(piece), s.Title))
			continue
		}
		for range times {
			if len(list) >= maxSongSections {
				d.Left = append(
					d.Left, fmt.Sprintf("%s has more than %d sections; the rest is left out.", s.Title, maxSongSections),
				)
				return list
			}
			one := sec
			count[sec.Label]++
			if n := count[sec.Label]; n > 1 {
				one.Label = fmt.Sprintf("%s %d", sec.Label, n)
			}
			list = append(list, one)
		}
	}
	return list
}

// pieces parts the sections of a song, at what stands in no bracket.
func pieces(text string) []string {
	var list []string
	depth, from := 0, 0
	for i, r := range text {
		switch {
		case r == '(':
			depth++
		case r == ')':
			depth = max(0, depth-1)
		case depth == 0 && strings.ContainsRune(",|;>", r):
			list = append(list, text[from:i])
			from = i + 1
		}
	}
	return append(list, text[from:])
}

const maxSongSections = 100

// readSection reads one section, and how often it is played in a row.
func readSection(text string) (sec exchange.DraftSection, times int) {
	times = 1
	text, note := takeNote(strings.TrimSpace(text))
	sec.Singing = singWords.MatchString(note)
	if m := restWords.FindStringSubmatch(note); m != nil {
		sec.Rest = 1
		if x, err := strconv.ParseFloat(m[1], 64); err == nil && x <= 64 {
			sec.Rest = x
		}
	}
	if m := barsWords.FindStringSubmatch(note); m != nil && strings.Contains(strings.ToLower(note), "bar") {
		sec.Bars = barsOf(m[1])
	}
	if m := timesWords.FindStringSubmatchIndex(text); m != nil {
		n, _ := strconv.Atoi(group(text, m, 1) + group(text, m, 2)) // digits, by the expression
		if n >= 1 && n <= 16 {
			times = n
			text = strings.TrimSpace(text[:m[0]] + " " + text[m[1]:])
		}
	}
	words := strings.Fields(text)
	parts := partWords(words)
	// A number after the sound is bars; one after the part alone is which of them it is.
	if m := barsWords.FindStringSubmatchIndex(text); m != nil && m[0] > 0 &&
		(parts < len(words) || strings.Contains(strings.ToLower(text[m[0]:]), "b")) {
		if bars := barsOf(group(text, m, 1)); bars != nil {
			sec.Bars = bars
			words = strings.Fields(text[:m[0]])
			parts = partWords(words)
		}
	}
	sec.Label, sec.Sound = titled(strings.Join(words[:parts], " ")), titled(strings.Join(words[parts:], " "))
	if sec.Label == "" {
		sec.Label = sec.Sound
	}
	return sec, times
}

func group(text string, m []int, k int) string {
	if m[2*k] < 0 {
		return ""
	}
	return text[m[2*k]:m[2*k+1]]
}

func barsOf(text string) *float64 {
	x, err := strconv.ParseFloat(text, 64)
	if err != nil || x < 0.25 || x > 1000 {
		return nil
	}
	return &x
}

// partWords is how many words at the head name a part of the song, with its number.
func partWords(words []string) int {
	n := 0
	for n < len(words) && parts[strings.ToLower(strings.Trim(words[n], ".-"))] {
		n++
		if n < len(words) && len(words[n]) <= 2 && strings.Trim(words[n], "0123456789") == "" {
			n++
		}
	}
	return n
}

// Songs makes songs, a set list and sounds of a draft, beside those of a plan: sounds that are not there are made of
// their names. Where the plan has no home sound, the first that is made is it.
func Songs(d *exchange.Draft, p *plan.Plan, newID func() plan.ID) (*plan.Plan, []string) {
	file, said := d.IntoWith(p, newID, SoundOf)
	isHome := func(s plan.Sound) bool { return s.Role == plan.HomeRole }
	if len(file.Sounds) > 0 && !slices.ContainsFunc(p.Sounds, isHome) && !slices.ContainsFunc(file.Sounds, isHome) {
		home := file.Sounds[0]
		home.Role = plan.HomeRole
		file.Put(home)
		said = append(said, fmt.Sprintf("%s is taken as the home sound: others are measured against it.", home.Name))
	}
	return file, slices.Concat(d.Said, said)
}
