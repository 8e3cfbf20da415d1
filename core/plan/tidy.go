package plan

import (
	"encoding/json"
	"fmt"
	"strings"
	"unicode"
)

// manyLines are the fields that may have line breaks in them.
var manyLines = map[string]bool{"notes": true, "after": true, "text": true, "cured": true, "reason": true}

// Untidy is everything in the text of an aggregate that no hand writes on purpose, by its path in it:
// control characters, line breaks where one line is meant, characters that turn the direction of text and
// so make a name look like another, and dates that are none. It is asked of what is written and of files
// that come in. What stands already may have been written before it was asked.
func Untidy(a Aggregate) Problems {
	var ps Problems
	data, err := json.Marshal(a)
	if err != nil {
		ps.add("", "%v", err)
		return ps
	}
	var tree any
	if err := json.Unmarshal(data, &tree); err != nil {
		ps.add("", "%v", err)
		return ps
	}
	untidy(&ps, "", "", tree)
	if s, ok := a.(Show); ok && s.Date != "" && !isDate(s.Date) {
		ps.add("date", "%q is no date: write year-month-day, as in 2027-06-12", s.Date)
	}
	return ps
}

func untidy(ps *Problems, path, field string, tree any) {
	switch x := tree.(type) {
	case string:
		if said := turned(x, manyLines[field]); said != "" {
			ps.add(path, "%s cannot stand here", said)
		}
	case []any:
		for i, one := range x {
			untidy(ps, at(path, i), field, one)
		}
	case map[string]any:
		for _, name := range SortedKeys(x) {
			here := dot(path, name)
			if strings.Trim(name, "abcdefghijklmnopqrstuvwxyz_") != "" { // of a map, not a field
				here = in(path, name)
			}
			if said := turned(name, false); said != "" {
				ps.add(here, "%s cannot stand here", said)
			}
			untidy(ps, here, name, x[name])
		}
	}
}

// turned says what in a text is out of place; "" where nothing is.
func turned(text string, lines bool) string {
	for _, r := range text {
		switch {
		case (r == '\n' || r == '\r' || r == '\t') && lines:
		case r == '\n' || r == '\r' || r == '\u2028' || r == '\u2029':
			return "a line break"
		case unicode.IsControl(r):
			return fmt.Sprintf("a control character (%U)", r)
		case unicode.Is(unicode.Bidi_Control, r):
			return fmt.Sprintf("a character that turns the direction of text (%U)", r)
		}
	}
	return ""
}

// isDate reports whether a text is a day of the calendar, as year-month-day.
func isDate(text string) bool {
	var year, month, day int
	if n, err := fmt.Sscanf(text, "%4d-%2d-%2d", &year, &month, &day); n != 3 || err != nil ||
		text != fmt.Sprintf("%04d-%02d-%02d", year, month, day) {
		return false
	}
	days := []int{31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31}
	if year%4 == 0 && (year%100 != 0 || year%400 == 0) {
		days[1] = 29
	}
	return month >= 1 && month <= 12 && day >= 1 && day <= days[month-1]
}
