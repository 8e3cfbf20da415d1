package page

import (
	"bytes"
	"crypto/sha256"
	"encoding/base64"
	"encoding/xml"
	"errors"
	"fmt"
	"html/template"
	"io"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
	"pgregory.net/rapid"

	"envex/core/paper"
	"envex/core/plan"
	"envex/demo"
)

// parsed is the elements of a page by name, and all its text outside of styles and scripts.
func parsed(t require.TestingT, data []byte) (elements map[string]int, text string) {
	root, err := html.Parse(bytes.NewReader(data))
	require.NoError(t, err)
	elements = map[string]int{}
	var words []string
	broken := false // a long word goes on
	for n := range root.Descendants() {
		switch n.Type {
		case html.ElementNode:
			if n.Data == "wbr" {
				broken = true
				continue
			}
			elements[n.Data]++
			for _, a := range n.Attr {
				assert.False(t, strings.HasPrefix(a.Key, "on"), "%s has a handler", n.Data)
				if a.Key == "src" || a.Key == "href" {
					assert.Fail(t, "a page loads nothing", "%s %s", n.Data, a.Val)
				}
			}
		case html.TextNode:
			switch {
			case n.Parent.Data == "style" || n.Parent.Data == "script":
			case broken:
				words[len(words)-1] += n.Data
			default:
				words = append(words, n.Data)
			}
			broken = false
		default:
		}
	}
	return elements, strings.Join(words, "\x00")
}

func nasty() *rapid.Generator[string] {
	return rapid.OneOf(
		rapid.SampledFrom(
			[]string{
				`=1+1,"<b>`, `</style><script>alert(1)</script>`, `'); }`, `]]>&amp;`, `" onload="x`, `</svg><b>`,
				`</title><img src=x>`, "a & b < c", `{{.Show}}`, `\`,
			},
		),
		rapid.StringMatching(`[ -~éßñ…]{1,40}`),
	).Filter(func(s string) bool { return strings.TrimSpace(s) == s && s != "" })
}

func TestEveryTextOfThePlanStaysText(t *testing.T) {
	short := func(t require.TestingT) *plan.Plan {
		p := demo.Plan()
		p.SetLists[0].Entries = p.SetLists[0].Entries[:2]
		return p
	}
	clean, _ := parsed(t, must(Sheets(t.Context(), short(t), "quay-12", paper.Kinds(), A4, nil))(t))
	night, _ := parsed(t, must(Gig(short(t), "quay-12"))(t))
	rapid.Check(t, func(t *rapid.T) {
		p := short(t)
		name := nasty().Draw(t, "name")
		p.Songs[0].Title, p.Songs[0].Sections[0].Label = name, name
		p.Shows[0].Name, p.Shows[0].Place = name, name
		p.Sounds[0].Name = name
		p.Rigs[0].Name = name
		amber, _ := p.FindGear("amber")
		amber.Name, amber.Colour, amber.Circuit = name, name, name
		for i := range amber.Footswitches {
			amber.Footswitches[i].Label = name
		}
		elements, text := parsed(t, must(Sheets(t.Context(), p, "quay-12", paper.Kinds(), A4, nil))(t))
		// A text that is cut in a drawing is there whole as its title.
		elements["title"], clean["title"] = 0, 0
		assert.Equal(t, clean, elements)
		assert.Contains(t, text, "1. "+name)
		elements, text = parsed(t, must(Gig(p, "quay-12"))(t))
		elements["title"], night["title"] = 0, 0
		assert.Equal(t, night, elements)
		assert.Contains(t, text, name)
		for _, kind := range []paper.Kind{paper.Walk, paper.FloorSheet} {
			assert.Contains(t, read(t, must(Drawing(p, "quay-12", kind))(t)), name)
		}
	})
}

// must is a file that was made.
func must(data []byte, err error) func(require.TestingT) []byte {
	return func(t require.TestingT) []byte {
		require.NoError(t, err)
		return data
	}
}

// read is all text of an SVG file, which it must be.
func read(t require.TestingT, data []byte) string {
	d := xml.NewDecoder(bytes.NewReader(data))
	var words strings.Builder
	for {
		token, err := d.Token()
		if errors.Is(err, io.EOF) {
			return words.String()
		}
		require.NoError(t, err)
		switch x := token.(type) {
		case xml.CharData:
			words.Write(x)
			words.WriteByte(0)
		case xml.StartElement:
			assert.Contains(t, []string{"svg", "title", "style", "rect", "circle", "text", "path"}, x.Name.Local)
		}
	}
}

func TestOnlyWordsThatNoLineHoldsMayBeBroken(t *testing.T) {
	assert.Equal(t, template.HTML("microphone"), soft("microphone"))
	assert.Equal(t, template.HTML("a &lt;b&gt; c"), soft("a <b> c"))
	long := strings.Repeat("é", 30)
	assert.Equal(t, template.HTML(strings.Repeat("é", 12)+"<wbr>"+strings.Repeat("é", 18)), soft(long))
	assert.Equal(
		t, template.HTML("&lt;&lt;&lt;&lt;&lt;&lt;&lt;&lt;&lt;&lt;&lt;&lt;<wbr>"+strings.Repeat("&lt;", 13)),
		soft(strings.Repeat("<", 25)), "it is escaped letter by letter",
	)
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.String().Draw(t, "text")
		elements, read := parsed(t, []byte("<p>"+string(soft(text))+"</p>"))
		assert.Equal(t, map[string]int{"html": 1, "head": 1, "body": 1, "p": 1}, elements)
		if want := strings.NewReplacer("\r\n", "\n", "\r", "\n", "\x00", "\ufffd").Replace(
			strings.ToValidUTF8(text, "\ufffd"),
		); !strings.Contains(text, "\x00") {
			assert.Equal(t, want, read)
		}
	})
}

func TestEachSheetIsInTheFileOfAllOnce(t *testing.T) {
	p := demo.Plan()
	all := string(must(Sheets(t.Context(), p, "quay-12", paper.Kinds(), Letter, nil))(t))
	assert.Contains(t, all, "size: letter")
	for _, kind := range paper.Kinds() {
		s, err := paper.Make(p, "quay-12", kind)
		require.NoError(t, err)
		assert.Equal(t, 1, strings.Count(all, "<h1>"+s.Title+"</h1>"), s.Title)
		one := string(must(Sheets(t.Context(), p, "quay-12", []paper.Kind{kind}, A4, nil))(t))
		assert.Contains(t, one, "<title>"+s.Title+", Quay stage</title>")
		assert.Equal(t, 1, strings.Count(one, "<article"))
		_, text := parsed(t, []byte(one))
		for _, part := range s.Parts {
			for _, row := range part.Rows {
				for _, c := range row {
					require.Contains(t, text, c.Text)
				}
			}
		}
	}
}

func TestAColumnIsLeftOutOnlyWhereNothingStandsInIt(t *testing.T) {
	columns := []paper.Column{{Name: "a"}, {Name: "b"}, {Name: "c"}}
	row := func(texts ...string) (r paper.Row) {
		for _, x := range texts {
			r = append(r, paper.Cell{Text: x})
		}
		return r
	}
	one := paper.Part{Title: "One", Columns: columns, Rows: []paper.Row{row("", "", "1")}}
	two := paper.Part{Title: "Two", Columns: columns, Rows: []paper.Row{row("", "", "2"), row("", "x", "")}}
	apart := tablesOf([]paper.Part{one, two}, false)
	require.Len(t, apart, 2)
	assert.Equal(t, []paper.Column{{Name: "a"}, {Name: "c"}}, apart[0].Columns, "the first names the line")
	assert.Equal(t, []paper.Row{row("", "1")}, apart[0].Parts[0].Rows)
	together := tablesOf([]paper.Part{one, two}, true)
	require.Len(t, together, 1)
	assert.Equal(t, columns, together[0].Columns)
	assert.False(t, together[0].Alone)
}

func TestThePageForTheNightHasEverySection(t *testing.T) {
	p := demo.Plan()
	l, _ := p.FindSetList("quay-set")
	sections := 0
	for _, e := range l.Entries {
		song, _ := p.FindSong(e.Song)
		sections += len(song.Sections)
	}
	data := must(Gig(p, "quay-12"))(t)
	assert.Equal(t, sections, strings.Count(string(data), `class="step"`))
	_, text := parsed(t, data)
	assert.Contains(t, text, "Nudge on\x00")
	assert.Contains(t, text, " Out – Crunch – Nudge off, Echo off")
	assert.Contains(t, text, "End of the set")
	assert.Contains(t, text, "Next song\x00 Low Tide Cumbia, Intro – Skank – Amber off, Slap on")
	assert.Equal(t, len(l.Entries)-1, strings.Count(text, "Next song"))
	assert.Contains(t, text, "▲\x00 Late by 0.30 s")
	assert.Contains(t, text, "◇\x00 Tight: ")
	assert.Contains(t, text, "straight on, 132 bpm")
	assert.Contains(t, text, "112 bpm, Drop D, Bulkhead")
	assert.Contains(t, text, "singing")
	assert.Contains(t, text, "Make ready\x00 Echo preset C for Chorus of Low Tide Cumbia")
}

func TestTheNightRunsItsOwnScriptAndNoOther(t *testing.T) {
	data := string(must(Gig(demo.Plan(), "quay-12"))(t))
	script := regexp.MustCompile(`(?s)<script>(.*)</script>`).FindStringSubmatch(data)
	require.Len(t, script, 2)
	sum := sha256.Sum256([]byte(script[1]))
	policy, err := GigPolicy()
	require.NoError(t, err)
	assert.Contains(t, policy, "'sha256-"+base64.StdEncoding.EncodeToString(sum[:])+"'", "as it stands in the page")
	assert.NotContains(t, policy, "script-src 'unsafe")
	assert.Equal(t, 1, strings.Count(data, "<script"))
}

func TestAnEmptyShowStillHasAPage(t *testing.T) {
	p := &plan.Plan{
		SetLists: []plan.SetList{{ID: "set", Name: "Set"}}, Rigs: []plan.Rig{{ID: "rig", Name: "Rig"}},
		Shows: []plan.Show{{ID: "show", Name: "Show", SetList: "set", Rig: "rig"}},
	}
	assert.Contains(t, string(must(Gig(p, "show"))(t)), "No songs yet")
	must(Sheets(t.Context(), p, "show", paper.Kinds(), A4, nil))(t)
	for kind := range drawings {
		assert.Contains(t, read(t, must(Drawing(p, "show", kind))(t)), "Nothing ", "it says so")
	}
}

func TestAChainOfAnyLengthStaysOnItsPage(t *testing.T) {
	p := demo.Plan()
	for _, rig := range p.Rigs {
		for _, d := range append(rig.Destinations, plan.Destination{}) {
			p.Shows[0].Rig, p.Shows[0].Destination = rig.ID, d.ID
			data := string(must(Drawing(p, "quay-12", paper.Walk))(t))
			size := regexp.MustCompile(`viewBox="0 0 (\d+) (\d+)"`).FindStringSubmatch(data)
			require.Len(t, size, 3)
			width, height := number(t, size[1]), number(t, size[2])
			assert.InDelta(t, pageWidth, width, 0, "what is longer goes on in the next line")
			for _, r := range regexp.MustCompile(
				`<rect class="(?:box|box amp|round)" x="([\d.]+)" y="([\d.]+)" width="([\d.]+)" height="([\d.]+)"`,
			).FindAllStringSubmatch(data, -1) {
				assert.LessOrEqual(t, number(t, r[1])+number(t, r[3]), width)
				assert.LessOrEqual(t, number(t, r[2])+number(t, r[4]), height)
			}
		}
	}
}

// large is a rig of thirty stops and a set of forty songs.
func large(t require.TestingT) *plan.Plan {
	p := demo.Plan()
	r, _ := p.FindRig("long")
	amber, _ := p.FindGear("amber")
	for i := range 30 - len(r.Path) {
		g := *amber
		g.ID, g.Name = plan.ID(fmt.Sprint("more-", i)), fmt.Sprint("More ", i+1)
		p.Gear = append(p.Gear, g)
		r.Path = append([]plan.Node{{Stop: plan.BlockKey(g.ID, "fx")}}, r.Path...)
	}
	l := &p.SetLists[0]
	for i := 0; len(l.Entries) < 40; i++ {
		e := l.Entries[i]
		e.ID = plan.ID(fmt.Sprint("again-", i))
		l.Entries = append(l.Entries, e)
	}
	require.Empty(t, p.Validate())
	return p
}

func TestFortySongsAndThirtyStopsAreAllThere(t *testing.T) {
	p := large(t)
	sections := 0
	for _, e := range p.SetLists[0].Entries {
		song, _ := p.FindSong(e.Song)
		sections += len(song.Sections)
	}
	night := string(must(Gig(p, "quay-12"))(t))
	assert.Equal(t, sections, strings.Count(night, `class="step"`))
	assert.Equal(t, 40, strings.Count(night, "<option "))
	_, text := parsed(t, must(Sheets(t.Context(), p, "quay-12", []paper.Kind{paper.SetSheet}, A4, nil))(t))
	assert.Contains(t, text, "40. ")
	drawing := must(Drawing(p, "quay-12", paper.Walk))(t)
	assert.Equal(t, 31, strings.Count(string(drawing), "<rect "), "the guitar and thirty stops")
	words := read(t, drawing)
	for i := range 30 - 16 {
		assert.Contains(t, words, fmt.Sprint("More ", i+1)+"\x00")
	}
	_, text = parsed(
		t, must(Sheets(t.Context(), p, "quay-12", []paper.Kind{paper.PatchList, paper.FailurePlan, paper.FaultFinding}, Letter, nil))(t),
	)
	for i := range 30 - 16 {
		assert.GreaterOrEqual(
			t, strings.Count(text, fmt.Sprint("More ", i+1)), 4, "in the cables, the failures and the faults",
		)
	}
}

func TestALaneThatIsWiderThanThePageMakesThePageWider(t *testing.T) {
	p := demo.Plan()
	r, _ := p.FindRig("long")
	before := r.Path[:10]
	r.Path = []plan.Node{
		{
			Split: &plan.Split{
				ID: "wide", Kind: plan.SplitCopy, Join: plan.JoinSum, Lanes: []plan.Lane{{Name: "<wet & dry>", Nodes: before}, {}},
			},
		},
	}
	data := must(Drawing(p, "quay-12", paper.PatchList))(t)
	size := regexp.MustCompile(`viewBox="0 0 (\d+)`).FindSubmatch(data)
	assert.Greater(t, number(t, string(size[1])), pageWidth)
	text := read(t, data)
	assert.Contains(t, text, "<wet & dry>")
	assert.Contains(t, text, "lane 2")
}

func TestWhereTheSignalIsInZonesIsWrittenOnce(t *testing.T) {
	text := read(t, must(Drawing(demo.Plan(), "quay-12", paper.Walk))(t))
	for _, zone := range []string{"AHEAD OF THE AMP", "IN THE LOOP", "OUT"} {
		assert.Equal(t, 1, strings.Count(text, zone+"\x00"), zone)
	}
	p := demo.Plan()
	p.Shows[0].Rig = "switched"
	assert.Contains(t, read(t, must(Drawing(p, "quay-12", paper.Walk))(t)), "Turntable loop 3")
}

func TestBothSidesAreADoubleLine(t *testing.T) {
	p := demo.Plan()
	double := func() int {
		return strings.Count(string(must(Drawing(p, "quay-12", paper.Walk))(t)), `class="wire two"`)
	}
	one := double()
	assert.Positive(t, one, "from Echo to Room")
	echo, _ := p.FindGear("echo")
	for i := range echo.Blocks {
		echo.Blocks[i].Outputs = "mono"
	}
	assert.Zero(t, double())
}

func TestTheFloorIsDrawnToScale(t *testing.T) {
	p := demo.Plan()
	data := string(must(Drawing(p, "quay-12", paper.FloorSheet))(t))
	boxes := regexp.MustCompile(
		`<rect class="box" x="([\d.]+)" y="([\d.]+)" width="([\d.]+)" height="([\d.]+)"`,
	).FindAllStringSubmatch(data, -1)
	require.NotEmpty(t, boxes)
	echo, _ := p.FindGear("echo")
	nudge, _ := p.FindGear("nudge")
	sizes := map[float64]bool{}
	for _, b := range boxes {
		sizes[number(t, b[3])/number(t, b[4])] = true
	}
	near := func(want float64) bool {
		for x := range sizes {
			if x > want-0.01 && x < want+0.01 {
				return true
			}
		}
		return false
	}
	assert.True(t, near(echo.Size.Width/echo.Size.Depth))
	assert.True(t, near(nudge.Size.Width/nudge.Size.Depth))
	assert.Contains(t, data, `class="board"`)
	r, _ := p.FindRig("long")
	r.Floor = plan.Floor{}
	r.Path, r.Programs = nil, nil
	assert.Contains(t, read(t, must(Drawing(p, "quay-12", paper.FloorSheet))(t)), "Nothing stands on the floor yet.")
}

func number(t require.TestingT, s string) float64 {
	var x float64
	require.NoError(t, xml.Unmarshal([]byte("<x>"+s+"</x>"), &x))
	return x
}

func TestWhatIsNotThereIsRefused(t *testing.T) {
	p := demo.Plan()
	_, err := Sheets(t.Context(), p, "nowhere", paper.Kinds(), A4, nil)
	require.ErrorContains(t, err, `no show "nowhere"`)
	_, err = Sheets(t.Context(), p, "quay-12", paper.Kinds(), "a3", nil)
	require.ErrorContains(t, err, `no paper "a3"`)
	_, err = Sheets(t.Context(), p, "quay-12", []paper.Kind{"poem"}, A4, nil)
	require.ErrorContains(t, err, `no sheet "poem"`)
	_, err = Gig(p, "nowhere")
	require.ErrorContains(t, err, `no show "nowhere"`)
	_, err = Drawing(p, "quay-12", paper.SetSheet)
	require.ErrorContains(t, err, `nothing is drawn on the sheet "set"`)
	_, err = Drawing(p, "nowhere", paper.Walk)
	require.ErrorContains(t, err, `no show "nowhere"`)
}

func TestTapesHaveTheColoursOfTheScreens(t *testing.T) {
	tokens, err := os.ReadFile("../web/src/theme/tokens.ts")
	require.NoError(t, err)
	for _, name := range plan.Tapes() {
		assert.Contains(t, string(tokens), name+": '"+tapes[name]+"'")
	}
	assert.Len(t, tapes, len(plan.Tapes()))
}

func BenchmarkGig(b *testing.B) {
	p := demo.Plan()
	for b.Loop() {
		if _, err := Gig(p, "quay-12"); err != nil {
			b.Fatal(err)
		}
	}
}
