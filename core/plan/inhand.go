package plan

import (
	"cmp"
	"fmt"
	"strconv"
	"strings"
)

// InHand is a guitar as a song is played on it.
type InHand struct {
	Guitar ID     `json:"guitar,omitempty"`
	Tuning string `json:"tuning,omitempty" doc:"As the song writes it; absent for the standard."`
	Capo   int    `json:"capo,omitempty"`
}

// InHand is a guitar in the tuning of a song, with its capo.
func (s *Song) InHand(guitar ID) InHand {
	h := InHand{Guitar: guitar, Tuning: strings.TrimSpace(s.Tuning), Capo: s.Capo}
	if strings, ok := StringsOf(h.Tuning); ok && strings == (Strings{}) {
		h.Tuning = ""
	}
	return h
}

// GuitarOf is the guitar that a section of a song is played on: the song's where it matters, else the recipe's, else the
// sound's, else the rig's first; "" where there is none.
func (r *Rig) GuitarOf(song *Song, rec *Recipe, sound *Sound) ID {
	return cmp.Or(song.Guitar, guitarFor(r, rec, sound))
}

// Value tells it apart from others: by the guitar alone where nothing about it is unusual.
func (h InHand) Value() Value {
	if h.Tuning == "" && h.Capo == 0 {
		return Text(string(h.Guitar))
	}
	return Text(fmt.Sprintf("%s|%s|%d", h.Guitar, h.Tuning, h.Capo))
}

// InHandOf is what such a value stands for.
func InHandOf(v Value) InHand {
	guitar, rest, _ := strings.Cut(v.Word(), "|")
	i := strings.LastIndex(rest, "|")
	if i < 0 {
		return InHand{Guitar: ID(guitar)}
	}
	capo, _ := strconv.Atoi(rest[i+1:])
	return InHand{Guitar: ID(guitar), Tuning: rest[:i], Capo: capo}
}

// Retuned is how many strings are tuned otherwise; all of them where a tuning cannot be read.
func (h InHand) Retuned(to InHand) int {
	if strings.EqualFold(h.Tuning, to.Tuning) {
		return 0
	}
	a, ok := StringsOf(h.Tuning)
	b, ok2 := StringsOf(to.Tuning)
	if !ok || !ok2 {
		return len(a)
	}
	n := 0
	for i := range a {
		if a[i] != b[i] {
			n++
		}
	}
	return n
}

// Words are how it is ready, after the name of the guitar; "" where nothing about it is unusual.
func (h InHand) Words() string {
	words := ""
	if h.Tuning != "" {
		words += " in " + h.Tuning
	}
	if h.Capo > 0 {
		words += fmt.Sprintf(", capo on fret %d", h.Capo)
	}
	return words
}

// TakenUp is what it takes to have a guitar in hand after another, or the same one tuned otherwise: seconds, and what is
// done, in words. It stood as it was put away; who is handed a guitar has it ready. Named names a guitar.
func (r *Rig) TakenUp(from, to, stood InHand, named func(ID) string) (seconds float64, words string) {
	foot := r.Profile.Filled()
	was := from
	var acts []string
	switch {
	case from.Guitar == to.Guitar:
	case r.HandedBy != "":
		was, seconds = to, foot.GuitarHanded
		acts = append(acts, fmt.Sprintf("%s hands over %s%s", r.HandedBy, named(to.Guitar), to.Words()))
	default:
		was, seconds = stood, foot.GuitarSwap
		acts = append(acts, "change guitar to "+named(to.Guitar))
	}
	if n := was.Retuned(to); n > 0 {
		seconds += float64(n) * foot.Retune
		acts = append(acts, "tune "+Counted(n, "string", "strings")+" to "+cmp.Or(to.Tuning, "standard"))
	}
	switch {
	case was.Capo == to.Capo:
	case to.Capo == 0:
		seconds += foot.Capo
		acts = append(acts, "take the capo off")
	default:
		seconds += foot.Capo
		acts = append(acts, fmt.Sprintf("capo to fret %d", to.Capo))
	}
	return seconds, strings.Join(acts, ", ")
}
