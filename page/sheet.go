package page

import (
	"bytes"
	"context"
	"fmt"
	"html/template"
	"slices"
	"strings"

	"envex/core/paper"
	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
)

// Size is a size of paper.
type Size string

// The sizes of paper there are.
const (
	A4     Size = "a4"
	Letter Size = "letter"
)

// Sizes are the sizes of paper there are.
func Sizes() []Size { return []Size{A4, Letter} }

// SheetPolicy is the content security policy of sheets: they run nothing and load nothing.
const SheetPolicy = "default-src 'none'; style-src 'unsafe-inline'; font-src data:"

// Sheets writes sheets of a show as one HTML file that prints each from a new page. The plan must be
// valid. What was rendered before is in kept, which may be nil. It fails when there is no such show, sheet or size, and
// with the context's error when that is cancelled.
func Sheets(
	ctx context.Context, p *plan.Plan, show plan.ID, kinds []paper.Kind, size Size, kept *signal.Kept,
) ([]byte, error) {
	if !slices.Contains(Sizes(), size) {
		return nil, reason.Errorf("there is no paper %q; there are a4 and letter", size)
	}
	list, err := sheetsOf(ctx, p, show, kinds, kept)
	if err != nil {
		return nil, err
	}
	css, err := styles("sheet.css")
	if err != nil {
		return nil, err
	}
	t, err := template.New("sheet.html").Funcs(functions).ParseFS(files, "sheet.html")
	if err != nil {
		return nil, fmt.Errorf("page: %w", err)
	}
	name := "Every sheet"
	if len(list) == 1 {
		name = list[0].Title
	}
	s, _ := p.FindShow(show)
	var b bytes.Buffer
	err = t.Execute(
		&b, map[string]any{"Title": name, "Show": s.Name, "Policy": SheetPolicy, "Styles": css, "Size": size, "Sheets": list},
	)
	if err != nil {
		return nil, fmt.Errorf("page: %w", err)
	}
	return b.Bytes(), nil
}

// laid is a sheet as it is laid out: parts with the same columns are one table.
type laid struct {
	*paper.Sheet
	Drawing template.HTML
	Tables  []table
}

type table struct {
	Columns []paper.Column
	Parts   []paper.Part
	Alone   bool // one part, whose heading stands over the table
}

func sheetsOf(
	ctx context.Context, p *plan.Plan, show plan.ID, kinds []paper.Kind, kept *signal.Kept,
) ([]laid, error) {
	var list []laid
	for _, kind := range kinds {
		s, err := paper.MakeWith(ctx, p, show, kind, kept)
		if err != nil {
			return nil, err
		}
		x := laid{Sheet: s, Tables: tablesOf(s.Parts, kind == paper.SetSheet)}
		if IsDrawn(kind) {
			svg, err := Drawing(p, show, kind)
			if err != nil {
				return nil, err
			}
			x.Drawing = template.HTML(svg) //nolint:gosec // its texts are escaped where it is drawn
		}
		list = append(list, x)
	}
	return list, nil
}

// tablesOf makes a table of each part, or one of parts that follow each other and have the same columns,
// and leaves out columns in which nothing stands.
func tablesOf(parts []paper.Part, together bool) []table {
	var list []table
	for _, p := range parts {
		if n := len(list); together && n > 0 && slices.Equal(list[n-1].Columns, p.Columns) && len(p.Rows) > 0 {
			list[n-1].Parts = append(list[n-1].Parts, p)
			continue
		}
		list = append(list, table{Columns: p.Columns, Parts: []paper.Part{p}})
	}
	for i := range list {
		list[i] = list[i].withoutEmpty()
		list[i].Alone = len(list[i].Parts) == 1
	}
	return list
}

func (t table) withoutEmpty() table {
	var keep []int
	for i := range t.Columns {
		if i == 0 || slices.ContainsFunc(t.Parts, func(p paper.Part) bool {
			return slices.ContainsFunc(p.Rows, func(r paper.Row) bool { return r[i].Text != "" })
		}) {
			keep = append(keep, i)
		}
	}
	out := table{}
	for _, i := range keep {
		out.Columns = append(out.Columns, t.Columns[i])
	}
	for _, p := range t.Parts {
		rows := make([]paper.Row, len(p.Rows))
		for k, r := range p.Rows {
			for _, i := range keep {
				rows[k] = append(rows[k], r[i])
			}
		}
		p.Columns, p.Rows = out.Columns, rows
		out.Parts = append(out.Parts, p)
	}
	return out
}

// longWord is from how many letters on a word may be broken, and every so many letters.
const (
	longWord = 24
	breakAt  = 12
)

// soft is a text in which a word that is longer than any line should have to hold may be broken; short
// words never are.
func soft(text string) template.HTML {
	var b strings.Builder
	for i, word := range strings.Split(text, " ") {
		if i > 0 {
			b.WriteByte(' ')
		}
		letters := []rune(word)
		for len(letters) > longWord {
			b.WriteString(template.HTMLEscapeString(string(letters[:breakAt])) + "<wbr>")
			letters = letters[breakAt:]
		}
		b.WriteString(template.HTMLEscapeString(string(letters)))
	}
	return template.HTML(b.String()) //nolint:gosec // every letter of the text is escaped
}

var functions = template.FuncMap{
	"colour": colour,
	"soft":   soft,
	// hand is how far a clock face's hand is turned from noon, in degrees.
	"hand": func(turn float64) string { return fmt.Sprintf("%.0f", -150+300*turn) },
}
