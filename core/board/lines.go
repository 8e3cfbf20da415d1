package board

import (
	"envex/core/floor"
	"envex/core/plan"
)

// LeadLine is a lead as it lies on the floor.
type LeadLine struct {
	From   plan.ID      `json:"from"`
	To     plan.ID      `json:"to"`
	FromX  float64      `json:"from_x_mm"`
	FromY  float64      `json:"from_y_mm"`
	ToX    float64      `json:"to_x_mm"`
	ToY    float64      `json:"to_y_mm"`
	Level  string       `json:"level" enum:"instrument,line,speaker"`
	Stereo bool         `json:"stereo,omitempty"`
	Route  [][2]float64 `json:"route_mm" doc:"Corners from jack to jack, x and y, as it is drawn: round boxes, so at times longer than its run."`
}

// PlugRoom is the room of a plug on the floor.
type PlugRoom struct {
	Gear    plan.ID `json:"gear"`
	Jack    string  `json:"jack"`
	X       float64 `json:"x_mm"`
	Y       float64 `json:"y_mm"`
	Width   float64 `json:"width_mm"`
	Depth   float64 `json:"depth_mm"`
	Assumed bool    `json:"assumed,omitempty" doc:"Where along its side it is is not known."`
}

// lines adds the leads and plugs of a scene.
func (r *Report) lines(s *floor.Scene) {
	for _, l := range s.Leads {
		ax, ay, bx, by := s.Ends(l)
		route := s.Route(l)
		for i, p := range route {
			route[i] = [2]float64{round2(p[0]), round2(p[1])}
		}
		r.Leads = append(
			r.Leads,
			LeadLine{
				s.Pieces[l.From].Gear.ID, s.Pieces[l.To].Gear.ID, round2(ax), round2(ay), round2(bx), round2(by), l.Level,
				l.Count > 1, route,
			},
		)
	}
	for i := range s.Pieces {
		for k, p := range s.Pieces[i].Plugs {
			room := s.PlugRoom(i, k)
			r.Plugs = append(
				r.Plugs, PlugRoom{s.Pieces[i].Gear.ID, p.Jack, round2(room.X), round2(room.Y), room.W, room.D, p.Assumed},
			)
		}
	}
}
