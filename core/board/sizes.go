package board

import (
	"fmt"

	"envex/core/plan"
)

// Sizes are generic boards, from the smallest that carries anything to the largest one carries alone. Their
// weights are those of plain birch ply of 12 mm with feet, a rough rule: 8 kg a square metre and 300 g.
func Sizes() []plan.Gear {
	var list []plan.Gear
	for _, s := range [][2]float64{
		{250, 130}, {320, 140}, {400, 160}, {400, 260}, {460, 300}, {500, 200}, {520, 340}, {600, 360}, {650, 356},
		{720, 400}, {820, 400}, {900, 450},
	} {
		weight := s[0]*s[1]/1e6*8000 + 300
		height := 30.0
		list = append(list, plan.Gear{
			ID:   plan.ID(fmt.Sprintf("plain-%.0fx%.0f", s[0], s[1])),
			Name: fmt.Sprintf("Plain board, %.0f × %.0f mm", s[0], s[1]), Kind: plan.Board,
			Size: &plan.Size{Width: s[0], Depth: s[1], Height: &height}, WeightG: &weight,
		})
	}
	return list
}
