package play

import (
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
)

// Step is one timed move of the foot between two switches of a rig.
type Step struct {
	From    plan.Key `json:"from" doc:"gear/switch"`
	To      plan.Key `json:"to" doc:"gear/switch"`
	Seconds float64  `json:"seconds" minimum:"0" maximum:"60" doc:"From one press to the next."`
}

// Feet are a player's feet as a drill on a rig showed them.
type Feet struct {
	Fit
	Profile  plan.FootProfile `json:"profile" doc:"The rig's, with the fixed part and the time for each bit that were fitted."`
	Measured bool             `json:"measured" doc:"It was steady, and the boxes stand where the plan says: it can be kept."`
	Why      string           `json:"why" doc:"Why it cannot be kept; empty where it can."`
}

// Drilled fits feet to moves between the switches of a rig, over the distances between them. It fails as [FitFeet]
// does, and where the rig has no such switch.
func Drilled(p *plan.Plan, script *Script, steps []Step) (*Feet, error) {
	moves := make([]Move, len(steps))
	for i, s := range steps {
		from, to := script.find(s.From), script.find(s.To)
		if from == nil || to == nil {
			return nil, reason.Errorf("move %d is between switches that this rig does not have", i+1)
		}
		moves[i] = Move{Distance: math.Hypot(to.X-from.X, to.Y-from.Y), Width: to.Width, Seconds: s.Seconds}
	}
	fit, err := FitFeet(moves)
	if err != nil {
		return nil, err
	}
	r, err := p.RigByID(script.Rig)
	if err != nil {
		return nil, fmt.Errorf("play: %w", err)
	}
	out := &Feet{Fit: *fit, Profile: r.Profile}
	// From press to press a foot also dwells on the switch it came from.
	fixed, bit := math.Max(0, fit.Sum-r.Profile.Filled().Dwell), fit.B
	out.Profile.A, out.Profile.B = &fixed, &bit
	switch {
	case !script.Spaced:
		out.Why = "The boxes have no places in mm yet: place them in Step."
	case !fit.Good:
		out.Why = "It is not steady enough to keep."
	default:
		out.Measured = true
	}
	return out, nil
}

func (s *Script) find(key plan.Key) *Switch {
	if i := slices.IndexFunc(s.Switches, func(x Switch) bool { return x.Key == key }); i >= 0 {
		return &s.Switches[i]
	}
	return nil
}
