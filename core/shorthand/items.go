package shorthand

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// span is a part of a text, by bytes.
type span struct{ from, to int }

// item is what stands between two separators, and where.
type item struct {
	text    string
	span    span
	before  rune // the separator it follows: 0 at the start of a text
	segment int  // how many > stand before it
	lane    int  // how many | stand before it, in its segment
	bracket int  // which [ it stands in, from 1; 0 outside
}

// separators of a chain. A slash between two single letters, as in A/B, is none.
const separators = ",\n;>|[]+/=:"

// itemsOf parts a chain into its items. Every byte of it is in an item, a separator, blank or a comment.
func itemsOf(text string) []item {
	var items []item
	at := item{}
	from, bracket, depth := 0, 0, 0
	end := func(to int) {
		raw := text[from:to]
		lead := len(raw) - len(strings.TrimLeftFunc(raw, unicode.IsSpace))
		if trimmed := strings.TrimSpace(raw); trimmed != "" {
			it := at
			it.text, it.span = trimmed, span{from + lead, from + lead + len(trimmed)}
			items = append(items, it)
		}
	}
	for i := 0; i < len(text); {
		r, size := utf8.DecodeRuneInString(text[i:])
		switch {
		case r == '#' && (i == 0 || strings.ContainsRune(" \t\n", rune(text[i-1]))):
			end(i)
			for i < len(text) && text[i] != '\n' {
				i++
			}
			from, at.before = i, ','
			continue
		case r == '(':
			depth++
		case r == ')' && depth > 0:
			depth--
		case depth > 0 && r != '\n' || !strings.ContainsRune(separators, r) || r == '/' && betweenLetters(text, i):
		default:
			depth = 0
			end(i)
			from = i + size
			at.before = r
			switch r {
			case '>':
				at.segment, at.lane, at.bracket = at.segment+1, 0, 0
			case '|':
				at.lane, at.bracket = at.lane+1, 0
			case '[':
				bracket++
				at.bracket = bracket
			case ']':
				at.bracket = 0
			}
		}
		i += size
	}
	end(len(text))
	return items
}

// betweenLetters reports whether a slash stands between two single letters.
func betweenLetters(text string, i int) bool {
	letter := func(k int) bool { return k >= 0 && k < len(text) && unicode.IsLetter(rune(text[k])) }
	return letter(i-1) && letter(i+1) && !letter(i-2) && (!letter(i+2) || i+2 < len(text) && text[i+2] == '/')
}
