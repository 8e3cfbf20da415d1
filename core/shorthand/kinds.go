package shorthand

import (
	"cmp"
	"slices"
	"strings"
	"unicode"

	"envex/core/catalog"
)

// Guess is a kind that words may mean.
type Guess struct {
	Kind  string   `json:"kind" doc:"Of the catalogue."`
	Name  string   `json:"name"`
	Sure  bool     `json:"sure" doc:"Every word of a name of it is there, spelt right."`
	left  []string // words that no name took
	score float64
}

// filler are words that say nothing of what a box does.
var filler = map[string]bool{
	"a": true, "an": true, "the": true, "my": true, "pedal": true, "box": true, "one": true, "old": true, "new": true,
	"with": true, "and": true,
	"stompbox": true, "unit": true, "effect": true, "into": true, "then": true, "some": true, "small": false,
}

// wordsOf are the words of a text: lower case, without marks, hyphens parting them.
func wordsOf(text string) []string {
	return strings.FieldsFunc(strings.ToLower(text), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '/'
	})
}

// named is one name of a kind, as words.
type named struct {
	kind  string
	name  string
	words []string
	first bool // the name it is listed under
}

// Kinds are the names that kinds of gear go by, to be looked through by [Kinds.Guesses].
type Kinds struct {
	names []named
	byID  map[string]catalog.Kind
}

// NewKinds gathers the names of a catalogue.
func NewKinds(kinds []catalog.Kind) *Kinds {
	k := &Kinds{byID: map[string]catalog.Kind{}}
	for _, kind := range kinds {
		k.byID[kind.ID] = kind
		for i, name := range append([]string{kind.Name, kind.ID}, kind.Also...) {
			if words := wordsOf(name); len(words) > 0 {
				k.names = append(k.names, named{kind.ID, kind.Name, words, i == 0})
			}
		}
	}
	return k
}

// maxGuesses is how many kinds are offered for one text.
const maxGuesses = 6

// Guesses are the kinds a text may mean, the likeliest first: those of which a name is wholly in the text, misspelt
// or not, longer names before shorter ones, and before those with words that no name takes.
func (k *Kinds) Guesses(text string) []Guess {
	words := wordsOf(text)
	best := map[string]Guess{}
	for _, n := range k.names {
		score, left, sure, ok := inText(n.words, words)
		if !ok {
			continue
		}
		g := Guess{n.kind, n.name, sure, left, score}
		if old, seen := best[n.kind]; !seen || g.score > old.score {
			best[n.kind] = g
		}
	}
	var list []Guess
	seen := map[string]bool{}
	for _, n := range k.names {
		if g, ok := best[n.kind]; ok && !seen[n.kind] {
			seen[n.kind] = true
			list = append(list, g)
		}
	}
	slices.SortStableFunc(list, func(a, b Guess) int { return cmp.Compare(b.score, a.score) })
	return list[:min(len(list), maxGuesses)]
}

// inText looks for every word of a name among those of a text, each once. Its score counts letters that were found,
// a misspelt word less, and takes off a little for each word of the text that is left.
func inText(name, text []string) (score float64, left []string, sure, ok bool) {
	used := make([]bool, len(text))
	sure = true
	for _, want := range name {
		at, cost := -1, 3
		for i, have := range text {
			if used[i] {
				continue
			}
			if c := apart(want, have); c < cost {
				at, cost = i, c
			}
		}
		if at < 0 {
			if filler[want] {
				continue
			}
			return 0, nil, false, false
		}
		used[at] = true
		score += float64(len(want)) * (1 - 0.3*float64(cost))
		sure = sure && cost == 0
	}
	for i, w := range text {
		if !used[i] && !filler[w] {
			left = append(left, w)
			score -= 0.4
		}
	}
	return score, left, sure, score > 0
}

// apart is how many letters two words differ by, as somebody mistypes them: 0 for none or a plural, 3 for other words.
func apart(want, have string) int {
	if want == have || want+"s" == have || want == have+"s" {
		return 0
	}
	most := 0
	switch n := min(len(want), len(have)); {
	case n >= 8:
		most = 2
	case n >= 4:
		most = 1
	}
	if d := typos(want, have, most); d <= most {
		return d
	}
	return 3
}

// typos is the least number of letters left out, put in, exchanged or swapped with their neighbour that makes one word of
// another (optimal string alignment), or more than most.
func typos(a, b string, most int) int {
	x, y := []rune(a), []rune(b)
	if len(x)-len(y) > most || len(y)-len(x) > most {
		return most + 1
	}
	d := make([][]int, len(x)+1)
	for i := range d {
		d[i] = make([]int, len(y)+1)
		d[i][0] = i
	}
	for j := range d[0] {
		d[0][j] = j
	}
	for i := 1; i <= len(x); i++ {
		for j := 1; j <= len(y); j++ {
			cost := 1
			if x[i-1] == y[j-1] {
				cost = 0
			}
			d[i][j] = min(d[i-1][j]+1, d[i][j-1]+1, d[i-1][j-1]+cost)
			if i > 1 && j > 1 && x[i-1] == y[j-2] && x[i-2] == y[j-1] {
				d[i][j] = min(d[i][j], d[i-2][j-2]+1)
			}
		}
	}
	return d[len(x)][len(y)]
}
