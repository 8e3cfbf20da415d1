package page

import (
	"bytes"
	"encoding/xml"
	"fmt"

	"envex/core/paper"
	"envex/core/plan"
	"envex/core/reason"
)

// drawings are the sheets that have a drawing, and who makes it.
var drawings = map[paper.Kind]func(p *plan.Plan, r *plan.Rig, s *plan.Show) (*svg, error){
	paper.Walk: drawChain, paper.PatchList: drawChain, paper.FloorSheet: drawFloor,
}

// IsDrawn reports whether a sheet has a drawing.
func IsDrawn(kind paper.Kind) bool {
	_, ok := drawings[kind]
	return ok
}

// Drawing is a sheet's drawing as an SVG file: the chain for the patch list and the walk, the floor for
// the floor. The plan must be valid. It fails when there is no such show, or nothing to draw on the sheet.
func Drawing(p *plan.Plan, show plan.ID, kind paper.Kind) ([]byte, error) {
	draw, ok := drawings[kind]
	if !ok {
		return nil, reason.Errorf(
			"nothing is drawn on the sheet %q; the chain is on patch and walk, the floor on floor", kind,
		)
	}
	s, ok := p.FindShow(show)
	if !ok {
		return nil, reason.Errorf("there is no show %q", show)
	}
	given, err := p.AtShow(s)
	if err != nil {
		return nil, fmt.Errorf("page: %w", err)
	}
	there, err := given.At(s.Rig, s.Destination)
	if err != nil {
		return nil, fmt.Errorf("page: %w", err)
	}
	r, ok := there.FindRig(s.Rig)
	if !ok {
		return nil, reason.Errorf("there is no rig %q", s.Rig)
	}
	d, err := draw(there, r, s)
	if err != nil {
		return nil, fmt.Errorf("page: %w", err)
	}
	return d.file(), nil
}

// svg is a drawing while it is made, in pixels of a page that is as large as what is on it.
type svg struct {
	title         string
	width, height float64
	body          bytes.Buffer
}

const svgStyle = `text{font-family:'Barlow Condensed','Arial Narrow',sans-serif;fill:#000}.name{font-size:17px;font-weight:600}.small{font-size:13px;fill:#333}.zone{font-size:13px;font-weight:600;letter-spacing:.06em;fill:#333}.box{fill:#fff;stroke:#000;stroke-width:1.5}.amp{stroke-width:3}.round{fill:#fff;stroke:#000;stroke-width:1.5}.wire{fill:none;stroke:#000;stroke-width:1.5}.two{stroke-width:5}.core{fill:none;stroke:#fff;stroke-width:2}.board{fill:none;stroke:#777;stroke-width:2;stroke-dasharray:8 5}`

func (d *svg) file() []byte {
	var b bytes.Buffer
	fmt.Fprintf(
		&b,
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %.0f %.0f" width="%.0f" height="%.0f" role="img" aria-label="%s"><title>%s</title><style>%s</style>`,
		d.width, d.height, d.width, d.height, escaped(d.title), escaped(d.title), svgStyle,
	)
	b.Write(d.body.Bytes())
	b.WriteString("</svg>\n")
	return b.Bytes()
}

// escaped is a text as it may stand in an element or an attribute.
func escaped(s string) string {
	var b bytes.Buffer
	// Writing to a buffer does not fail.
	_ = xml.EscapeText(&b, []byte(s))
	return b.String()
}

func (d *svg) rect(class string, x, y, w, h, round float64) {
	fmt.Fprintf(
		&d.body, `<rect class="%s" x="%.1f" y="%.1f" width="%.1f" height="%.1f" rx="%.1f"/>`, class, x, y, w, h, round,
	)
}

func (d *svg) circle(class string, x, y, r float64) {
	fmt.Fprintf(&d.body, `<circle class="%s" cx="%.1f" cy="%.1f" r="%.1f"/>`, class, x, y, r)
}

// text writes a text at its middle, or from its left end. One that is wider than its place is cut off,
// and is there whole for whoever points at it.
func (d *svg) text(class string, x, y, room float64, middle bool, s string) {
	anchor := ""
	if middle {
		anchor = ` text-anchor="middle"`
	}
	shown := cutTo(s, room, class)
	fmt.Fprintf(&d.body, `<text class="%s" x="%.1f" y="%.1f"%s>%s`, class, x, y, anchor, escaped(shown))
	if shown != s {
		fmt.Fprintf(&d.body, `<title>%s</title>`, escaped(s))
	}
	d.body.WriteString("</text>")
}

// cutTo cuts a text to what fits in a width, by the usual width of a letter of the class.
func cutTo(s string, room float64, class string) string {
	letter := 6.0
	if class == "name" {
		letter = 7.6
	}
	most := max(1, int(room/letter))
	letters := []rune(s)
	if room <= 0 || len(letters) <= most {
		return s
	}
	return string(letters[:max(1, most-1)]) + "…"
}

// wire draws lines from point to point; both sides of a stereo signal are a double line.
func (d *svg) wire(stereo bool, points ...float64) {
	var b bytes.Buffer
	for i := 0; i+1 < len(points); i += 2 {
		word := "L"
		if i == 0 {
			word = "M"
		}
		fmt.Fprintf(&b, "%s%.1f %.1f", word, points[i], points[i+1])
	}
	if stereo {
		fmt.Fprintf(&d.body, `<path class="wire two" d="%s"/><path class="core" d="%s"/>`, b.String(), b.String())
		return
	}
	fmt.Fprintf(&d.body, `<path class="wire" d="%s"/>`, b.String())
}
