package board

import (
	"encoding/xml"
	"fmt"
	"io"
	"strings"

	"envex/core/floor"
	"envex/core/plan"
)

// lineMM is how long the line is that a ruler is held against.
const lineMM = 100.0

// Drawing is the main board from above, in mm from its far left corner: outlines, switches, names, and crosses to
// drill or to fix at: in the middle of each box and 10 mm inside its corners.
type Drawing struct {
	Title  string
	Area   floor.Rect // all that is drawn
	Shapes string     // elements of an SVG
}

// Drawn is the drawing of the board of a report.
func Drawn(p *plan.Plan, r *Report) Drawing {
	d := Drawing{Title: r.Name, Area: floor.Rect{W: r.Width, D: r.Depth}}
	if d.Title == "" {
		d.Title = "The bare floor"
	}
	var b strings.Builder
	if r.Width > 0 {
		outline(&b, floor.Rect{W: r.Width, D: r.Depth}, 0.6, "")
	}
	if g, ok := p.FindGear(r.Board); ok && g.Board != nil {
		for _, s := range g.Board.Slats {
			outline(&b, floor.Rect{Y: s.Y, W: r.Width, D: s.Depth}, 0.2, "")
		}
	}
	for _, x := range r.Floor.Boxes {
		if !x.Placed || x.Off || x.Board != r.Board {
			continue
		}
		d.Area = around(d.Area, x.Rect())
		dash := ""
		if x.Under {
			dash = ` stroke-dasharray="3 2"`
		}
		outline(&b, x.Rect(), 0.4, dash)
		fmt.Fprintf(
			&b, `<text x="%g" y="%g" text-anchor="middle">%s</text>`+"\n", x.X+x.Width/2, x.Y+x.Depth/2-4, escaped(x.Name),
		)
		crosses(&b, x.Rect())
		for _, s := range r.Floor.Switches {
			if s.Key.Gear() == x.Gear {
				fmt.Fprintf(&b, `<circle cx="%g" cy="%g" r="6" fill="none" stroke="black" stroke-width="0.4"/>`+"\n", s.X, s.Y)
			}
		}
	}
	d.Shapes = b.String()
	return d
}

func around(a, b floor.Rect) floor.Rect {
	x, y := min(a.X, b.X), min(a.Y, b.Y)
	return floor.Rect{X: x, Y: y, W: max(a.Right(), b.Right()) - x, D: max(a.Front(), b.Front()) - y}
}

func outline(b *strings.Builder, r floor.Rect, stroke float64, more string) {
	fmt.Fprintf(
		b, `<rect x="%g" y="%g" width="%g" height="%g" fill="none" stroke="black" stroke-width="%g"%s/>`+"\n", r.X, r.Y, r.W,
		r.D, stroke, more,
	)
}

// crosses marks where a box is fixed.
func crosses(b *strings.Builder, r floor.Rect) {
	const in, arm = 10.0, 2.5
	at := [][2]float64{{r.X + r.W/2, r.Y + r.D/2}}
	if r.W > 3*in && r.D > 3*in {
		at = append(
			at, [2]float64{r.X + in, r.Y + in}, [2]float64{r.Right() - in, r.Y + in}, [2]float64{r.X + in, r.Front() - in},
			[2]float64{r.Right() - in, r.Front() - in},
		)
	}
	for _, p := range at {
		fmt.Fprintf(
			b, `<path d="M%g %gh%gM%g %gv%g" stroke="black" stroke-width="0.2"/>`+"\n", p[0]-arm, p[1], 2*arm, p[0], p[1]-arm,
			2*arm,
		)
	}
}

// Ruler is a line of 100 mm from a point on, to hold a ruler against.
func Ruler(x, y float64) string {
	return fmt.Sprintf(
		`<path d="M%g %gh%gM%g %gv4M%g %gv4" fill="none" stroke="black" stroke-width="0.4"/><text x="%g" y="%g">100 mm</text>`+"\n",
		x, y, lineMM, x, y-2, x+lineMM, y-2, x+lineMM+4, y+2,
	)
}

// Draw writes the drawing of a board as one SVG, one millimetre for one millimetre.
func Draw(w io.Writer, p *plan.Plan, r *Report) error {
	const edge = 10.0
	d := Drawn(p, r)
	width, depth := max(d.Area.W, 1.4*lineMM), max(d.Area.D, 20)
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="%gmm" height="%gmm" viewBox="%g %g %g %g" font-family="sans-serif" font-size="7">`+"\n",
		width+2*edge, depth+2*edge+14, d.Area.X-edge, d.Area.Y-edge, width+2*edge, depth+2*edge+14)
	fmt.Fprintf(&b, "<title>%s</title>\n%s%s</svg>\n", escaped(d.Title), d.Shapes, Ruler(d.Area.X, d.Area.Y+depth+12))
	_, err := io.WriteString(w, b.String())
	return err
}

func escaped(s string) string {
	var b strings.Builder
	_ = xml.EscapeText(&b, []byte(s)) // a builder takes everything
	return b.String()
}
