package paper

import (
	"bytes"
	"fmt"
	"strings"
)

// Markdown writes a sheet as Markdown with tables. Every character of the plan's words that would
// mean something else there is escaped, so that they are read as they were written.
func Markdown(s *Sheet) []byte {
	var b bytes.Buffer
	fmt.Fprintf(&b, "# %s\n", plain(s.Title))
	if len(s.Facts) > 0 {
		b.WriteString("\n")
		for _, f := range s.Facts {
			fmt.Fprintf(&b, "- %s: %s\n", plain(f.Label), plain(f.Text))
		}
	}
	for _, p := range s.Parts {
		fmt.Fprintf(&b, "\n## %s\n", plain(p.Title))
		if p.Note != "" {
			fmt.Fprintf(&b, "\n%s\n", plain(p.Note))
		}
		if len(p.Rows) == 0 {
			b.WriteString("\nNothing.\n")
			continue
		}
		b.WriteString("\n|")
		for _, c := range p.Columns {
			fmt.Fprintf(&b, " %s |", plain(c.Name))
		}
		b.WriteString("\n|")
		for _, c := range p.Columns {
			if c.Number {
				b.WriteString(" ---: |")
			} else {
				b.WriteString(" --- |")
			}
		}
		b.WriteString("\n")
		for _, r := range p.Rows {
			b.WriteString("|")
			for _, c := range r {
				fmt.Fprintf(&b, " %s |", plain(c.Text))
			}
			b.WriteString("\n")
		}
	}
	for _, part := range []struct {
		title string
		words []string
	}{{"Assumed", s.Assumed}, {"Take care", s.Cautions}} {
		if len(part.words) == 0 {
			continue
		}
		fmt.Fprintf(&b, "\n## %s\n\n", part.title)
		for _, x := range part.words {
			fmt.Fprintf(&b, "- %s\n", plain(x))
		}
	}
	return b.Bytes()
}

// plain escapes what Markdown gives a meaning within a line, and what gives one to a line it begins or
// ends, as # does to a heading; a backslash before any of them is the mark itself (CommonMark 2.4). A line's end is a space: a cell is
// one line.
func plain(s string) string {
	s = strings.Join(strings.Fields(s), " ")
	var b strings.Builder
	digits := 0 // how many digits the line has begun with: "1." and "1)" begin a list
	for i, r := range s {
		ends := i+1 == len(s) || s[i+1] == ' '
		begins := i > 0 && r == '#' && s[i-1] == ' ' || i == 0 && strings.ContainsRune("#+-=:", r) ||
			i > 0 && i == digits && ends && (r == '.' || r == ')')
		if begins || strings.ContainsRune("\\`*_[]<>|~&", r) {
			b.WriteByte('\\')
		}
		if r >= '0' && r <= '9' && digits == i {
			digits++
		}
		b.WriteRune(r)
	}
	return b.String()
}
