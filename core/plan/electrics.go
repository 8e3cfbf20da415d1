package plan

import "slices"

// Wiring is what stands between a guitar's pickups and its jack. A guitar without one is not
// known in this respect; a part that is absent is not there.
type Wiring struct {
	Volume *Pot         `json:"volume,omitempty" doc:"The volume pot, a divider; absent when there is none."`
	Tone   *ToneControl `json:"tone,omitempty" doc:"Absent when there is none."`
	Bleed  *TrebleBleed `json:"bleed,omitempty" doc:"Bridges the upper part of the volume pot."`
}

// The tapers of a pot: how its electrical fraction follows its turn. An audio pot is two
// straight slopes that meet at half turn.
const (
	LinearTaper  = "linear"
	AudioTaper   = "audio"    // 15 % at half turn
	AudioTaper10 = "audio-10" // 10 % at half turn
)

// Pot is a potentiometer.
type Pot struct {
	Control ID      `json:"control,omitempty" doc:"The control that turns it; volume, tone or position when absent."`
	Ohm     float64 `json:"ohm" minimum:"0" maximum:"100000000"`
	Taper   string  `json:"taper,omitempty" enum:"linear,audio,audio-10" doc:"Audio, 15 % at half turn, when absent."`
}

// Fraction is the part of the pot between its wiper and its earthed end, 0 to 1, for a turn
// of 0 to 1.
func (p Pot) Fraction(turn float64) float64 {
	turn = min(1, max(0, turn))
	half := 0.15
	switch p.Taper {
	case LinearTaper:
		return turn
	case AudioTaper10:
		half = 0.10
	}
	if turn <= 0.5 {
		return turn * 2 * half
	}
	return half + (turn-0.5)*2*(1-half)
}

// ToneControl is a pot and a capacitor in series to earth.
type ToneControl struct {
	Pot         Pot     `json:"pot"`
	CapacitorNF float64 `json:"capacitor_nf" minimum:"0" maximum:"100000"`
	Vintage     bool    `json:"vintage,omitempty" doc:"It hangs on the volume pot's wiper, not on the pickup."`
}

// TrebleBleed is a capacitor across the upper part of a volume pot, alone or with a resistor.
type TrebleBleed struct {
	CapacitancePF float64  `json:"capacitance_pf" minimum:"0" maximum:"1000000"`
	ResistanceOhm *float64 `json:"resistance_ohm,omitempty" minimum:"0" maximum:"100000000"`
	Series        bool     `json:"series,omitempty" doc:"The resistor is in series with the capacitor, not across it."`
}

// CableSpec is what a stock of cable, or a made-up lead, is.
type CableSpec struct {
	PFPerM  *float64 `json:"pf_per_m,omitempty" minimum:"0" maximum:"10000" doc:"Capacitance of a metre; 100 pF is taken when absent."`
	LengthM *float64 `json:"length_m,omitempty" minimum:"0" maximum:"1000" doc:"Of a made-up lead; absent for stock that is cut."`
	Plugs   string   `json:"plugs,omitempty" enum:"straight,angled,flat"`
}

// Lead is what a player says of one cable run: what it is made of, how long it is.
type Lead struct {
	From    Key      `json:"from" doc:"Where it comes from: gear/block, a guitar, or gear/jack of a loop switcher or a tap."`
	To      Key      `json:"to" doc:"Where it goes."`
	Cable   ID       `json:"cable,omitempty" doc:"The cable stock, or the made-up lead."`
	LengthM *float64 `json:"length_m,omitempty" minimum:"0" maximum:"1000" doc:"The lead's own, or what is derived, when absent."`
}

// PowerDraw is what a thing asks of its supply.
type PowerDraw struct {
	Voltage   float64  `json:"voltage_v" minimum:"0" maximum:"250"`
	Current   *float64 `json:"current_ma,omitempty" minimum:"0" maximum:"20000"`
	Polarity  string   `json:"polarity,omitempty" enum:"centre-negative,centre-positive,none"`
	AC        bool     `json:"ac,omitempty"`
	Connector string   `json:"connector,omitempty"`
	Battery   bool     `json:"battery,omitempty" doc:"It can run on a battery."`
	Highest   *float64 `json:"highest_v,omitempty" minimum:"0" maximum:"250" doc:"The highest voltage it takes; its own when absent."`
	Digital   bool     `json:"digital,omitempty" doc:"It has a processor, whose noise is heard in what shares its supply."`
	Side      string   `json:"side,omitempty" enum:"left,right,top,front,back" doc:"The side its power goes in; not known when absent."`
	At        *float64 `json:"at_mm,omitempty" minimum:"0" maximum:"3000" doc:"How far along that side, in mm from the left, or from the far end; in the middle when absent."`
}

// PowerSupply is what a supply gives.
type PowerSupply struct {
	Outputs []PowerOutput `json:"outputs,omitempty"`
	TotalMA *float64      `json:"total_ma,omitempty" minimum:"0" maximum:"100000" doc:"What all outputs give together; their sum when absent."`
	Doubles []string      `json:"doubles,omitempty" doc:"Leads between two of its outputs that it allows: current-doubling, voltage-doubling."`
	MainsV  string        `json:"mains_v,omitempty" doc:"The mains it takes, such as 100-240."`
}

// PowerOutput is one output of a supply.
type PowerOutput struct {
	ID        ID        `json:"id"`
	Name      string    `json:"name,omitempty"`
	Voltages  []float64 `json:"voltages_v" doc:"One, or those it can be switched to."`
	CurrentMA float64   `json:"current_ma" minimum:"0" maximum:"20000"`
	Polarity  string    `json:"polarity,omitempty" enum:"centre-negative,centre-positive,none" doc:"Centre-negative when absent."`
	AC        bool      `json:"ac,omitempty"`
	Connector string    `json:"connector,omitempty" doc:"2.1 mm barrel when absent."`
	Shared    bool      `json:"shared,omitempty" doc:"It is not isolated: its ground is that of the other such outputs."`
}

// FindOutput looks an output of the supply up by id.
func (s *PowerSupply) FindOutput(id ID) (*PowerOutput, bool) {
	if s == nil {
		return nil, false
	}
	i := slices.IndexFunc(s.Outputs, func(o PowerOutput) bool { return o.ID == id })
	if i < 0 {
		return nil, false
	}
	return &s.Outputs[i], true
}

// Leads between supplies and loads that a player may allow.
const (
	DaisyChain      = "daisy-chain"      // several loads on one output
	CurrentDoubling = "current-doubling" // two outputs side by side
	VoltageDoubling = "voltage-doubling" // two outputs one on the other
	Reversing       = "reversing"        // centre and sleeve changed over
)

// PowerFeed is a supply output and what hangs on it.
type PowerFeed struct {
	Supply  ID       `json:"supply"`
	Output  ID       `json:"output"`
	Gear    []ID     `json:"gear"`
	Voltage *float64 `json:"voltage_v,omitempty" minimum:"0" maximum:"250" doc:"What the output is switched to; its first when absent."`
	Lead    string   `json:"lead,omitempty" enum:"current-doubling,voltage-doubling,reversing"`
	Second  ID       `json:"second,omitempty" doc:"The other output of a doubling lead, of the same supply."`
	Pinned  bool     `json:"pinned,omitempty" doc:"It stays as it is when loads are assigned."`
}

// BatteryUse is a box that runs on a battery in a rig.
type BatteryUse struct {
	Gear        ID       `json:"gear"`
	CapacityMAH *float64 `json:"capacity_mah,omitempty" minimum:"1" maximum:"100000" doc:"500 when absent: a fresh alkaline 9 V block."`
	UsedH       *float64 `json:"used_h,omitempty" minimum:"0" maximum:"10000" doc:"Hours it has run."`
}
