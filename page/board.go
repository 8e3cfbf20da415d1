package page

import (
	"bytes"
	"fmt"
	"html/template"
	"math"

	"envex/core/board"
	"envex/core/floor"
	"envex/core/plan"
	"envex/core/reason"
)

// What a printer can be counted on to print of a sheet of paper: all but an edge, in mm.
const printEdge = 10.0

var paperMM = map[Size][2]float64{A4: {210, 297}, Letter: {215.9, 279.4}}

// Tile is one sheet of paper of a drawing that is larger than paper.
type Tile struct {
	Name   string // such as B2: second from the left, second from the top
	ViewX  float64
	ViewY  float64
	Corner template.HTML // crop marks, the line of 100 mm and the name
}

// Board writes a board at 1:1 over as many sheets of paper as it takes, with crop marks where they meet and a line of
// 100 mm on each. The plan must be valid and the report one of it. It fails when there is no such size.
func Board(p *plan.Plan, r *board.Report, size Size) ([]byte, error) {
	paper, ok := paperMM[size]
	if !ok {
		return nil, reason.Errorf("there is no paper %q; there are a4 and letter", size)
	}
	d := board.Drawn(p, r)
	w, h := paper[0]-2*printEdge, paper[1]-2*printEdge
	// On its side where that takes fewer sheets.
	wide := sheets(d.Area, h, w) < sheets(d.Area, w, h)
	if wide {
		w, h = h, w
	}
	t, err := template.New("board.html").ParseFS(files, "board.html")
	if err != nil {
		return nil, fmt.Errorf("page: %w", err)
	}
	var b bytes.Buffer
	err = t.Execute(&b, map[string]any{
		"Title": d.Title, "Policy": SheetPolicy, "Size": size, "Wide": wide, "Edge": printEdge, "Width": w, "Height": h,
		"Shapes": template.HTML(d.Shapes), //nolint:gosec // names in it are escaped where it is drawn
		"Tiles":  tiles(d.Area, w, h),
	})
	if err != nil {
		return nil, fmt.Errorf("page: %w", err)
	}
	return b.Bytes(), nil
}

func sheets(area floor.Rect, w, h float64) int {
	return int(max(1, math.Ceil(area.W/w)) * max(1, math.Ceil(area.D/h)))
}

// tiles are the sheets of a drawing, row by row.
func tiles(area floor.Rect, w, h float64) []Tile {
	var list []Tile
	across, down := int(max(1, math.Ceil(area.W/w))), int(max(1, math.Ceil(area.D/h)))
	for row := range down {
		for column := range across {
			x, y := area.X+float64(column)*w, area.Y+float64(row)*h
			t := Tile{Name: fmt.Sprintf("%c%d", 'A'+column%26, row+1), ViewX: x, ViewY: y}
			marks := ""
			for _, c := range [][4]float64{{x, y, 1, 1}, {x + w, y, -1, 1}, {x, y + h, 1, -1}, {x + w, y + h, -1, -1}} {
				marks += fmt.Sprintf(
					`<path d="M%g %gh%gM%g %gv%g" stroke="black" stroke-width="0.3"/>`, c[0], c[1], 6*c[2], c[0], c[1], 6*c[3],
				)
			}
			marks += fmt.Sprintf(`<text x="%g" y="%g" font-size="5" fill="#555">%s</text>`, x+8, y+h-3, t.Name)
			t.Corner = template.HTML(marks + board.Ruler(x+20, y+h-5)) //nolint:gosec // figures alone
			list = append(list, t)
		}
	}
	return list
}
