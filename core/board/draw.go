package board

import (
	"encoding/xml"
	"fmt"
	"io"
	"strings"

	"envex/core/plan"
)

// Draw writes a picture of the main board from above, one millimetre for one millimetre, with what stands on it:
// outlines, switches and names, and a line of 100 mm to hold a ruler against.
func Draw(w io.Writer, p *plan.Plan, r *Report) error {
	const edge = 10.0
	width, depth := r.Width, r.Depth
	for _, b := range r.Floor.Boxes {
		if b.Placed && !b.Off && b.Board == r.Board {
			width, depth = max(width, b.X+b.Width), max(depth, b.Y+b.Depth)
		}
	}
	width, depth = max(width, 120), max(depth, 20)
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="%gmm" height="%gmm" viewBox="%g %g %g %g" font-family="sans-serif" font-size="7">`+"\n",
		width+2*edge, depth+2*edge+14, -edge, -edge, width+2*edge, depth+2*edge+14)
	fmt.Fprintf(&b, "<title>%s</title>\n", escaped(r.Name))
	if r.Width > 0 {
		fmt.Fprintf(&b, `<rect x="0" y="0" width="%g" height="%g" fill="none" stroke="black" stroke-width="0.6"/>`+"\n", r.Width, r.Depth)
	}
	if g, ok := p.FindGear(r.Board); ok && g.Board != nil {
		for _, s := range g.Board.Slats {
			fmt.Fprintf(&b, `<rect x="0" y="%g" width="%g" height="%g" fill="none" stroke="black" stroke-width="0.2"/>`+"\n", s.Y, r.Width, s.Depth)
		}
	}
	for _, x := range r.Floor.Boxes {
		if !x.Placed || x.Off || x.Board != r.Board {
			continue
		}
		dash := ""
		if x.Under {
			dash = ` stroke-dasharray="3 2"`
		}
		fmt.Fprintf(&b, `<rect x="%g" y="%g" width="%g" height="%g" fill="none" stroke="black" stroke-width="0.4"%s/>`+"\n", x.X, x.Y, x.Width, x.Depth, dash)
		fmt.Fprintf(&b, `<text x="%g" y="%g" text-anchor="middle">%s</text>`+"\n", x.X+x.Width/2, x.Y+x.Depth/2, escaped(x.Name))
		for _, s := range r.Floor.Switches {
			if s.Key.Gear() == x.Gear {
				fmt.Fprintf(&b, `<circle cx="%g" cy="%g" r="6" fill="none" stroke="black" stroke-width="0.4"/>`+"\n", s.X, s.Y)
			}
		}
	}
	y := depth + 12
	fmt.Fprintf(&b, `<path d="M0 %gh100M0 %gv4M100 %gv4" fill="none" stroke="black" stroke-width="0.4"/><text x="104" y="%g">100 mm</text>`+"\n", y, y-2, y-2, y+2)
	b.WriteString("</svg>\n")
	_, err := io.WriteString(w, b.String())
	return err
}

func escaped(s string) string {
	var b strings.Builder
	_ = xml.EscapeText(&b, []byte(s)) // a builder takes everything
	return b.String()
}
