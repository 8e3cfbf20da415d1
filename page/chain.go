package page

import (
	"fmt"
	"strings"

	"envex/core/path"
	"envex/core/plan"
)

// Measures of the chain in pixels.
const (
	boxWidth  = 116.0
	boxHeight = 46.0
	boxGap    = 24.0
	laneGap   = 22.0
	pageWidth = 1010.0
)

// piece is something on a line: how wide it is, how far it goes above and below the line, and how it is
// drawn from its left end on.
type piece struct {
	key          plan.Key
	width        float64
	above, below float64
	stereoIn     bool
	draw         func(x, y float64)
}

type chain struct {
	*svg
	plan   *plan.Plan
	rig    *plan.Rig
	stereo map[plan.Key]bool // places that both sides come to
	zones  map[plan.Key]plan.Zone
}

// drawChain draws the path in signal order, in as many lines as it needs.
func drawChain(p *plan.Plan, r *plan.Rig, s *plan.Show) (*svg, error) {
	cables, err := path.DeriveCables(p, r.ID, "")
	if err != nil {
		return nil, err
	}
	c := &chain{
		svg: &svg{title: "Signal chain of " + r.Name + " at " + s.Name, width: pageWidth}, plan: p, rig: r,
		stereo: map[plan.Key]bool{}, zones: p.Zones(r.Path),
	}
	for _, run := range cables.Runs {
		if run.Stereo {
			c.stereo[run.To.Place] = true
		}
	}
	var pieces []piece
	if len(r.Guitars) > 0 {
		if g, ok := p.FindGear(r.Guitars[0]); ok {
			pieces = append(pieces, c.box("round", g.Name, "guitar", "", 23))
		}
	}
	if pieces = append(pieces, c.pieces(r.Path)...); len(pieces) == 0 {
		c.height = 40
		c.text("small", chainMargin, 24, 0, false, "Nothing is in the chain yet.")
		return c.svg, nil
	}
	c.lines(pieces)
	return c.svg, nil
}

// row is what stands in one line of the page.
type row struct {
	pieces       []piece
	above, below float64
}

const chainMargin = 14.0

// rows parts pieces into lines that fit the page; one that is wider makes the page wider.
func (c *chain) rows(pieces []piece) []row {
	var list []row
	x := 0.0
	for _, p := range pieces {
		if n := len(list); n == 0 || x+p.width+chainMargin > c.width {
			list = append(list, row{})
			x = chainMargin
		}
		last := &list[len(list)-1]
		last.pieces = append(last.pieces, p)
		last.above, last.below = max(last.above, p.above), max(last.below, p.below)
		x += p.width
		c.width = max(c.width, x+chainMargin)
		x += boxGap
	}
	return list
}

// lines draws pieces in lines of the page, and leads the end of each round to the next one's beginning.
func (c *chain) lines(pieces []piece) {
	zone := plan.Zone("")
	y := 8.0 // where a line's room begins
	from, turn := 0.0, 0.0
	rows := c.rows(pieces)
	for n, r := range rows {
		line := y + 22 + r.above
		first := r.pieces[0]
		if n > 0 {
			c.wire(first.stereoIn, from, turn, 4, turn, 4, line, chainMargin, line)
		}
		x := chainMargin
		for i, p := range r.pieces {
			if i > 0 {
				c.wire(p.stereoIn, x-boxGap, line, x, line)
			}
			if z := c.zones[p.key]; z != "" && z != zone {
				zone = z
				c.text(
					"zone", x, line-p.above-7, 0, false,
					map[plan.Zone]string{plan.FrontOfAmp: "AHEAD OF THE AMP", plan.InTheLoop: "IN THE LOOP", plan.Out: "OUT"}[z],
				)
			}
			p.draw(x, line)
			x += p.width + boxGap
		}
		x -= boxGap
		y = line + r.below + 16
		from, turn = x+8, y-4
		if n+1 < len(rows) {
			c.wire(rows[n+1].pieces[0].stereoIn, x, line, from, line, from, turn)
		}
	}
	c.height = y + 6
}

func (c *chain) pieces(nodes []plan.Node) []piece {
	var list []piece
	for _, n := range nodes {
		if n.Split != nil {
			list = append(list, c.split(n))
			continue
		}
		if p, ok := c.stop(n.Stop, n); ok {
			list = append(list, p)
		}
	}
	return list
}

func (c *chain) stop(key plan.Key, n plan.Node) (piece, bool) {
	g, ok := c.plan.FindGear(key.Gear())
	if !ok {
		return piece{}, false
	}
	b, ok := g.FindBlock(plan.ID(key.Rest()))
	if !ok {
		return piece{}, false
	}
	class := "box"
	if g.Kind == plan.Amp {
		class = "box amp"
	}
	under := ""
	if s, ok := c.plan.FindGear(n.Switcher); ok {
		under = fmt.Sprintf("%s loop %d", s.Name, n.Loop)
	}
	p := c.box(class, g.Name, what(g, b), under, 2)
	p.key, p.stereoIn = key, c.stereo[key]
	return p, true
}

// what is the second line of a box: the block's own name where the gear has several, else what it does.
func what(g *plan.Gear, b *plan.Block) string {
	if len(g.Blocks) > 1 {
		return b.Name
	}
	return string(b.Effect)
}

func (c *chain) box(class, name, second, under string, round float64) piece {
	p := piece{width: boxWidth, above: boxHeight / 2, below: boxHeight / 2}
	if under != "" {
		p.below += 16
	}
	p.draw = func(x, y float64) {
		c.rect(class, x, y-boxHeight/2, boxWidth, boxHeight, round)
		c.text("name", x+boxWidth/2, y-1, boxWidth-8, true, name)
		c.text("small", x+boxWidth/2, y+15, boxWidth-8, true, second)
		if under != "" {
			c.text("small", x+boxWidth/2, y+boxHeight/2+14, boxWidth+boxGap, true, under)
		}
	}
	return p
}

// split stacks lanes between what divides the signal and what joins it.
func (c *chain) split(n plan.Node) piece {
	s := n.Split
	lanes := make([][]piece, len(s.Lanes))
	widths, heights := make([]float64, len(s.Lanes)), make([]float64, len(s.Lanes))
	widest, tall := 0.0, 0.0
	for i, lane := range s.Lanes {
		lanes[i] = c.pieces(lane.Nodes)
		heights[i] = boxHeight
		for k, p := range lanes[i] {
			if k > 0 {
				widths[i] += boxGap
			}
			widths[i] += p.width
			heights[i] = max(heights[i], p.above+p.below)
		}
		widest = max(widest, widths[i])
		tall += heights[i] + laneGap
	}
	tall -= laneGap
	in, hasIn := c.stop(s.Divider(), n)
	out, hasOut := c.stop(s.To, plan.Node{})
	hasOut = hasOut && s.To != s.Divider()
	label := 18.0
	p := piece{key: n.ID(), above: tall/2 + label, below: tall / 2, stereoIn: in.stereoIn}
	p.width = widest + 2*boxGap
	if hasIn {
		p.width += in.width + boxGap
	}
	if hasOut {
		p.width += out.width + boxGap
	}
	p.draw = func(x, y float64) {
		start := x
		if hasIn {
			in.draw(x, y)
			start = x + in.width + boxGap
			c.wire(false, x+in.width, y, start, y)
		}
		end := start + widest + 2*boxGap
		top := y - tall/2
		for i, list := range lanes {
			line := top + heights[i]/2
			c.wire(false, start, y, start, line, start+boxGap, line)
			at := start + boxGap
			c.text("small", at, line-heights[i]/2-5, widest, false, laneName(s, i))
			for k, q := range list {
				if k > 0 {
					c.wire(q.stereoIn, at-boxGap, line, at, line)
				}
				q.draw(at, line)
				at += q.width + boxGap
			}
			if len(list) > 0 {
				at -= boxGap
			}
			if s.Join != "" {
				c.wire(s.Join == plan.JoinStereo, at, line, end, line, end, y)
			}
			top += heights[i] + laneGap
		}
		if s.Kind == plan.SplitTap {
			c.wire(false, start, y, end, y)
		}
		if hasOut {
			c.wire(false, end, y, end+boxGap, y)
			out.draw(end+boxGap, y)
		}
	}
	return p
}

func laneName(s *plan.Split, i int) string {
	name := s.Lanes[i].Name
	if name == "" {
		name = fmt.Sprintf("lane %d", i+1)
	}
	return strings.TrimSpace(name)
}
