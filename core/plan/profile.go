package plan

// FootProfile is how a player moves, and the leave a change may take. Every field may be
// absent; Filled gives the value in force.
type FootProfile struct {
	A           *float64 `json:"a_s,omitempty" minimum:"0" maximum:"5" doc:"Fixed part of a move, seconds."`
	B           *float64 `json:"b_s,omitempty" minimum:"0" maximum:"5" doc:"Seconds a bit of difficulty."`
	Dwell       *float64 `json:"dwell_s,omitempty" minimum:"0" maximum:"5" doc:"Foot on a switch, seconds."`
	Width       *float64 `json:"width_mm,omitempty" minimum:"5" maximum:"300" doc:"Effective width of a switch."`
	Singing     *float64 `json:"singing_factor,omitempty" minimum:"1" maximum:"10" doc:"Moves take this much longer while singing."`
	QuickHand   *float64 `json:"quick_hand_s,omitempty" minimum:"0" maximum:"60"`
	SlowHand    *float64 `json:"slow_hand_s,omitempty" minimum:"0" maximum:"600"`
	GuitarSwap  *float64 `json:"guitar_change_s,omitempty" minimum:"0" maximum:"3600"`
	GuitarHand  *float64 `json:"guitar_handed_s,omitempty" minimum:"0" maximum:"3600" doc:"To change guitars where somebody hands the other one over, tuned; 6 when absent."`
	Retune      *float64 `json:"retune_s,omitempty" minimum:"0" maximum:"3600" doc:"To tune one string otherwise; 8 when absent."`
	Capo        *float64 `json:"capo_s,omitempty" minimum:"0" maximum:"3600" doc:"To put a capo on, move it or take it off; 4 when absent."`
	BoxSwap     *float64 `json:"box_change_s,omitempty" minimum:"0" maximum:"3600" doc:"To put another box in its place and plug it in; 30 when absent."`
	Hold        *float64 `json:"hold_s,omitempty" minimum:"0" maximum:"10" doc:"How long a switch is held for its hold."`
	DoubleTime  *float64 `json:"double_s,omitempty" minimum:"0" maximum:"5" doc:"The window of a double press."`
	TapErrorMS  *float64 `json:"tap_error_ms,omitempty" minimum:"0" maximum:"500" doc:"How far a tap is off; 15 when absent."`
	Taps        *int     `json:"taps,omitempty" minimum:"2" maximum:"16" doc:"Taps it takes to give a tempo."`
	Lead        *float64 `json:"lead_beats,omitempty" minimum:"0" maximum:"64"`
	Grace       *float64 `json:"grace_beats,omitempty" minimum:"0" maximum:"64"`
	TightMargin *float64 `json:"tight_s,omitempty" minimum:"0" maximum:"10" doc:"Less slack than this is tight."`
	ShortS      *float64 `json:"short_s,omitempty" minimum:"0" maximum:"60" doc:"After a section shorter than this the foot starts from where it was."`
	LeisureS    *float64 `json:"leisure_s,omitempty" minimum:"0" maximum:"60" doc:"Clear time a press at leisure needs."`
}

// Footwork is a FootProfile with every value in force.
type Footwork struct {
	A, B, Dwell, Width, Singing        float64
	QuickHand, SlowHand                float64
	GuitarSwap, GuitarHanded, BoxSwap  float64
	Retune, Capo                       float64 // a string; a capo
	Hold, DoubleTime                   float64
	Taps                               int
	TapError                           float64 // ms
	Lead, Grace, Tight, Short, Leisure float64
}

// DefaultFootwork are the starting values: Fitts' law in Shannon form with a = 0.12 s and
// b = 0.14 s/bit on 30 mm switches (MacKenzie 1992 gives the form; the constants are
// starting values for a shod foot and are meant to be fitted).
func DefaultFootwork() Footwork {
	return Footwork{
		A: 0.12, B: 0.14, Dwell: 0.08, Width: 30, Singing: 1.3,
		QuickHand: 0.4, SlowHand: 4, GuitarSwap: 12, GuitarHanded: 6, BoxSwap: 30, Retune: 8, Capo: 4,
		Hold: 0.6, DoubleTime: 0.3, Taps: 4, TapError: 15,
		Lead: 1, Grace: 0.25, Tight: 0.15, Short: 2, Leisure: 1,
	}
}

// footFigure is one figure of a player: as it may be given, and in force.
type footFigure struct {
	given   **float64
	inForce *float64
}

func footFigures(p *FootProfile, f *Footwork) []footFigure {
	return []footFigure{
		{&p.A, &f.A}, {&p.B, &f.B}, {&p.Dwell, &f.Dwell}, {&p.Width, &f.Width}, {&p.Singing, &f.Singing},
		{&p.QuickHand, &f.QuickHand}, {&p.SlowHand, &f.SlowHand}, {&p.GuitarSwap, &f.GuitarSwap},
		{&p.GuitarHand, &f.GuitarHanded}, {&p.Retune, &f.Retune}, {&p.Capo, &f.Capo}, {&p.BoxSwap, &f.BoxSwap},
		{&p.Hold, &f.Hold}, {&p.DoubleTime, &f.DoubleTime}, {&p.Lead, &f.Lead}, {&p.Grace, &f.Grace},
		{&p.TapErrorMS, &f.TapError}, {&p.TightMargin, &f.Tight}, {&p.ShortS, &f.Short}, {&p.LeisureS, &f.Leisure},
	}
}

// UsualFeet is a profile that gives every starting value.
func UsualFeet() FootProfile {
	f := DefaultFootwork()
	p := FootProfile{Taps: &f.Taps}
	for _, x := range footFigures(&p, &f) {
		*x.given = x.inForce
	}
	return p
}

// Filled is the profile with the starting values where it is silent.
func (p FootProfile) Filled() Footwork {
	f := DefaultFootwork()
	for _, x := range footFigures(&p, &f) {
		if *x.given != nil {
			*x.inForce = **x.given
		}
	}
	if p.Taps != nil {
		f.Taps = *p.Taps
	}
	return f
}
