package paper

import (
	"bytes"
	"encoding/csv"
	"html"
	"regexp"
	"strings"
	"testing"

	"envex/demo"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"
	"pgregory.net/rapid"
)

const nasty = `=1+1,"<b>`

// saying is a sheet that says one thing everywhere.
func saying(words string) *Sheet {
	return &Sheet{
		Kind: SetSheet, Title: words, Facts: []Fact{{"Show", words}},
		Parts: []Part{
			{
				Title: words, Note: words, Columns: []Column{{"what", false}, {"count", true}},
				Rows: []Row{{text(words), text("-3.5")}},
			},
		},
		Cautions: []string{words},
	}
}

func TestASongWithAnOddTitleStaysText(t *testing.T) {
	p := demo.Plan()
	p.Songs[0].Title = nasty
	s := sheet(t, p, "quay-12", SetSheet)
	assert.Contains(t, s.Parts[0].Title, nasty)
	data, err := CSV(s)
	require.NoError(t, err)
	r := csv.NewReader(bytes.NewReader(data))
	rows, err := r.ReadAll()
	require.NoError(t, err)
	assert.Equal(t, "1. "+nasty, rows[1][0])
	assert.NotContains(t, rendered(t, Markdown(s)), "<b>")
}

func TestFormulasAreTextAndFiguresAreFigures(t *testing.T) {
	data, err := CSV(saying(nasty))
	require.NoError(t, err)
	rows, err := csv.NewReader(bytes.NewReader(data)).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, [][]string{{"part", "what", "count"}, {"'" + nasty, "'" + nasty, "-3.5"}}, rows)
	s := saying("x")
	s.Parts[0].Rows[0][1] = text("-cmd")
	data, err = CSV(s)
	require.NoError(t, err)
	assert.Contains(t, string(data), "'-cmd", "only figures go unescaped")
	data, err = CSV(saying("-3"))
	require.NoError(t, err)
	assert.Contains(t, string(data), "'-3,-3.5", "a song called -3 is a text")
}

func rendered(t require.TestingT, md []byte) string {
	var b bytes.Buffer
	require.NoError(t, goldmark.New(goldmark.WithExtensions(extension.GFM)).Convert(md, &b))
	return b.String()
}

var cell = regexp.MustCompile(`(?s)<(td|h1|h2|p|li)[^>]*>(.*?)</(?:td|h1|h2|p|li)>`)

// A sheet's Markdown, read by an independent reader, says what the plan said.
func TestMarkdownSaysWhatThePlanSaid(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		words := rapid.OneOf(
			rapid.StringOfN(rapid.RuneFrom([]rune("ab1 .)(#+-=*_`~|\\[]<>!&;:/\"'@$%^{}?,é")), 1, 24, -1),
			rapid.SampledFrom(
				[]string{
					nasty, "1. x", "- x", "# x", "&amp;", "<b>x</b>", "[x](y)", "a|b", `a\|b`, "---", "===", "> x", "~~x~~", "**x**",
					"12) x", "+ x", "| x |", "[x]: y", "\tx", "- #", "C #", "x ##",
				},
			),
		).Filter(func(s string) bool { return len(strings.Fields(s)) > 0 }).Draw(t, "words")
		want := strings.Join(strings.Fields(words), " ")
		said := 0
		for _, m := range cell.FindAllStringSubmatch(rendered(t, Markdown(saying(words))), -1) {
			got := html.UnescapeString(links.ReplaceAllString(m[2], ""))
			if m[1] == "li" {
				got = strings.TrimPrefix(got, "Show: ")
			}
			if got == "-3.5" || got == "Take care" {
				continue
			}
			assert.Equal(t, want, got, m[0])
			said++
		}
		assert.Equal(t, 6, said, "title, fact, heading, note, cell, caution")
	})
}

// An address may become a link; its text is what counts.
var links = regexp.MustCompile(`</?a[^>]*>`)
