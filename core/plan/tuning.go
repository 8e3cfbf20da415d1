package plan

import (
	"strings"
)

// Strings is how far each of six strings is tuned from the standard E A D G B E, in semitones, the lowest first.
type Strings [6]int

// standard are the notes of the open strings, in semitones over C.
var standard = Strings{4, 9, 2, 7, 11, 4}

// openTunings are those that are called by their chord.
var openTunings = map[string]string{
	"open a": "E A E A C# E", "open c": "C G C G C E", "open d": "D A D F# A D", "open e": "E B E G# B E",
	"open g": "D G D G B D",
}

// steps are those that are called by how far they lie down.
var steps = map[string]int{
	"half step down": -1, "half a step down": -1, "semitone down": -1, "a semitone down": -1, "whole step down": -2,
	"a whole step down": -2, "tone down": -2, "a tone down": -2, "half step up": 1, "semitone up": 1,
}

// StringsOf reads a tuning as people write it: Standard, Eb, D standard, Drop D, Open G, Half step down, or the six
// notes from the lowest, as in DADGAD or C G C F A D. It is false for what it cannot read. "" is the standard.
func StringsOf(tuning string) (Strings, bool) {
	written := strings.Fields(strings.NewReplacer("♭", "b", "♯", "#", ",", " ", "-", " ").Replace(tuning))
	for i, word := range written {
		if low := strings.ToLower(word); !asNotes(low) {
			written[i] = low
		}
	}
	text := strings.TrimSpace(strings.TrimSuffix(strings.Join(written, " "), "tuning"))
	if low := strings.ToLower(text); low == "" || low == "standard" {
		return Strings{}, true
	} else if by, ok := steps[low]; ok {
		return allBy(by), true
	} else if open, ok := openTunings[low]; ok {
		text = open
	}
	if rest, ok := strings.CutPrefix(text, "drop "); ok {
		return dropped(notesIn(rest))
	}
	notes := notesIn(strings.TrimSpace(strings.TrimSuffix(strings.ReplaceAll(text, " flat", "b"), "standard")))
	switch len(notes) {
	case 1: // the note of the lowest string, and all others as far
		return allBy(downTo(notes[0], standard[0])), true
	case len(standard):
		var s Strings
		for i, n := range notes {
			s[i] = nearest(n, standard[i])
		}
		return s, true
	}
	return Strings{}, false
}

// asNotes reports whether a word, in small letters, has nothing but notes in it.
func asNotes(word string) bool { return strings.Trim(word, "abcdefg#") == "" }

// dropped has the lowest string a tone under where the others would have it.
func dropped(notes []int) (Strings, bool) {
	if len(notes) != 1 {
		return Strings{}, false
	}
	low := downTo(notes[0], standard[0])
	s := allBy(low + 2)
	s[0] = low
	return s, true
}

func allBy(by int) (s Strings) {
	for i := range s {
		s[i] = by
	}
	return s
}

// Up is all strings so many semitones up: a capo, or another octave.
func (s Strings) Up(by int) Strings {
	for i := range s {
		s[i] += by
	}
	return s
}

// notesIn are the notes of a text one after the other, in semitones over C; nil where there is anything else in it. A
// small b is a flat after a capital, and in a word of two letters; elsewhere it is the note.
func notesIn(text string) []int {
	places := map[byte]int{'c': 0, 'd': 2, 'e': 4, 'f': 5, 'g': 7, 'a': 9, 'b': 11}
	var notes []int
	for _, word := range strings.Fields(text) {
		for i := 0; i < len(word); i++ {
			capital := word[i] < 'a'
			n, ok := places[word[i]|0x20]
			switch {
			case word[i] == '#' && i > 0:
				notes[len(notes)-1]++
			case !ok:
				return nil
			default:
				if i+1 < len(word) && word[i+1] == 'b' && (capital || len(word) == 2) {
					i++
					n--
				}
				notes = append(notes, n)
			}
		}
	}
	return notes
}

// nearest is how far a note is from a string, the shorter way: down where both are as far.
func nearest(note, open int) int { return mod(note-open+6, 12) - 6 }

// downTo is how far a note is from a string, down where that is seven semitones at most.
func downTo(note, open int) int {
	by := mod(note-open, 12)
	if by >= 5 {
		by -= 12
	}
	return by
}

func mod(a, n int) int { return (a%n + n) % n }

// TunedFor is how the strings of a guitar sound in a song, with its capo; false where its tuning cannot be read, which
// is then taken as the standard.
func (s Song) TunedFor() (Strings, bool) {
	t, ok := StringsOf(s.Tuning)
	return t.Up(s.Capo), ok
}
