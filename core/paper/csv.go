package paper

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"strconv"

	"envex/core/exchange"
)

// CSV writes a sheet's tables. Parts with the same columns are one table, led by a column that names
// the part; others follow after an empty line, each under its own heading. What a spreadsheet would
// take for a formula is led by an apostrophe, so that it stays text; figures stay figures.
func CSV(s *Sheet) ([]byte, error) {
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	for i, p := range s.Parts {
		if i == 0 || !sameColumns(s.Parts[i-1], p) {
			if i > 0 {
				w.Flush()
				b.WriteString("\n")
			}
			head := []string{"part"}
			for _, c := range p.Columns {
				head = append(head, c.Name)
			}
			if err := w.Write(head); err != nil {
				return nil, fmt.Errorf("paper: write CSV: %w", err)
			}
		}
		for _, r := range p.Rows {
			line := []string{exchange.AsText(p.Title)}
			for k, c := range r {
				line = append(line, field(c.Text, p.Columns[k].Number))
			}
			if err := w.Write(line); err != nil {
				return nil, fmt.Errorf("paper: write CSV: %w", err)
			}
		}
	}
	w.Flush()
	if err := w.Error(); err != nil {
		return nil, fmt.Errorf("paper: write CSV: %w", err)
	}
	return b.Bytes(), nil
}

func field(text string, number bool) string {
	if _, err := strconv.ParseFloat(text, 64); number && err == nil {
		return text
	}
	return exchange.AsText(text)
}

func sameColumns(a, b Part) bool {
	if len(a.Columns) != len(b.Columns) {
		return false
	}
	for i := range a.Columns {
		if a.Columns[i] != b.Columns[i] {
			return false
		}
	}
	return true
}
