package electric

import (
	"fmt"
	"math"
	"slices"

	"envex/core/path"
	"envex/core/plan"
)

// What is taken of power where nobody has said.
const (
	usualMA       = 100.0 // of a box whose draw is not known
	usualBattery  = 500.0 // mAh of an alkaline 9 V block
	usualPlug     = "2.1 mm barrel"
	usualPolarity = "centre-negative"
	reserve       = 1.2  // of the current that is drawn: 20 per cent are kept in reserve
	tolerance     = 0.06 // of a voltage: 9 V boxes run on 9.5
)

// Power is how a rig is fed.
type Power struct {
	Rig        plan.ID        `json:"rig"`
	Supplies   []SupplyState  `json:"supplies" doc:"Those the rig uses, then the others that are owned."`
	Loads      []Load         `json:"loads" doc:"Everything in the rig that wants power."`
	DrawnMA    float64        `json:"drawn_ma" doc:"Of all loads, at their own voltages."`
	DrawnW     float64        `json:"drawn_w"`
	Leads      []string       `json:"leads" doc:"Leads the player allows."`
	Assignment Assignment     `json:"assignment" doc:"The best there is with the supplies the rig uses, or with all that are owned where it uses none."`
	Findings   []path.Finding `json:"findings" doc:"Of the feeds as they stand."`
	Assumed    []string       `json:"assumed"`
	Cautions   []string       `json:"cautions"`
}

// SupplyState is a supply with what hangs on it.
type SupplyState struct {
	Supply  plan.ID       `json:"supply"`
	Name    string        `json:"name"`
	Used    bool          `json:"used"`
	MainsV  string        `json:"mains_v,omitempty"`
	DrawnMA float64       `json:"drawn_ma"`
	TotalMA float64       `json:"total_ma" doc:"What all its outputs give together."`
	Outputs []OutputState `json:"outputs"`
}

// OutputState is an output with what hangs on it.
type OutputState struct {
	Output    plan.ID   `json:"output"`
	Name      string    `json:"name"`
	Voltage   float64   `json:"voltage_v" doc:"What it is switched to."`
	Voltages  []float64 `json:"voltages_v"`
	CurrentMA float64   `json:"current_ma"`
	AC        bool      `json:"ac,omitempty"`
	Polarity  string    `json:"polarity"`
	Shared    bool      `json:"shared,omitempty" doc:"Not isolated."`
	Loads     []plan.ID `json:"loads"`
	DrawnMA   float64   `json:"drawn_ma"`
	Headroom  float64   `json:"headroom" doc:"The share of its current that is left, 0 to 1; less than 0 where it is overdrawn."`
	Lead      string    `json:"lead,omitempty"`
	With      plan.ID   `json:"with,omitempty" doc:"The other output of a doubling lead."`
	Pinned    bool      `json:"pinned,omitempty"`
	Troubles  []Trouble `json:"troubles" doc:"What hangs on it and does not go with it."`
}

// Trouble is a load that does not go with the output it hangs on.
type Trouble struct {
	Gear    plan.ID `json:"gear"`
	Verdict Verdict `json:"verdict" enum:"fits,fault,danger"`
	Why     string  `json:"why"`
}

// Load is a box that wants power.
type Load struct {
	Gear      plan.ID  `json:"gear"`
	Name      string   `json:"name"`
	Voltage   float64  `json:"voltage_v"`
	CurrentMA float64  `json:"current_ma"`
	Assumed   bool     `json:"assumed,omitempty" doc:"Its draw is not known, and is assumed."`
	AC        bool     `json:"ac,omitempty"`
	Polarity  string   `json:"polarity"`
	Digital   bool     `json:"digital,omitempty"`
	Battery   bool     `json:"battery,omitempty" doc:"It can run on a battery."`
	Fed       string   `json:"fed" enum:"output,battery,nothing"`
	Where     string   `json:"where,omitempty" doc:"What feeds it, in words."`
	HoursLeft *float64 `json:"hours_left,omitempty" doc:"On a battery."`
	Choices   []Choice `json:"choices" doc:"Every output, and whether it could feed the box as things stand."`
}

// Choice is one output for one load.
type Choice struct {
	Supply  plan.ID `json:"supply"`
	Output  plan.ID `json:"output"`
	Verdict Verdict `json:"verdict" enum:"fits,fault,danger"`
	Voltage float64 `json:"voltage_v" doc:"What the output would be switched to."`
	Lead    string  `json:"lead,omitempty"`
	Why     string  `json:"why,omitempty"`
}

// Verdict is how a load and an output go together.
type Verdict string

// The verdicts. What is dangerous is not to be plugged.
const (
	Fits    Verdict = "fits"
	Unwise  Verdict = "fault"
	Harmful Verdict = "danger"
)

// wrongSupplyCaution stands beside every danger.
const wrongSupplyCaution = "Wrong voltage or polarity kills pedals. Check the label of the box itself before you plug it in."

var powerCautions = []string{
	"Spare current does no harm; wrong voltage or polarity does.",
	"On tour, check the mains voltage that the supply and the amp are set to.",
	"Mains distribution on stage follows the local electrical code and the venue's licensed electrician.",
}

const valveCaution = "Valve amps hold lethal voltage even when they are unplugged: work inside is for a qualified tech. A valve amp always needs its speaker, or a load rated for it."

// hasValves reports whether an amp of the rig has valves in its power section.
func (f *feeding) hasValves() bool {
	return slices.ContainsFunc(f.rig.GearIn(), func(id plan.ID) bool {
		g, ok := f.plan.FindGear(id)
		return ok && g.SpeakerOut != nil && g.SpeakerOut.Valve
	})
}

// FeedRig tells how a rig is fed at one of its destinations, or as it stands when that is "", what is
// wrong with that, and the best assignment. The plan must be valid. It fails when rig or destination
// are not there.
func FeedRig(p *plan.Plan, rig, destination plan.ID) (*Power, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("electric: %w", err)
	}
	r, _ := there.FindRig(rig)
	f := &feeding{plan: there, rig: r}
	f.read()
	out := &Power{
		Rig: rig, Supplies: []SupplyState{}, Loads: []Load{}, Leads: append([]string{}, r.PowerLeads...), Assumed: []string{},
		Cautions: powerCautions,
	}
	for _, l := range f.loads {
		out.DrawnMA += l.ma
		out.DrawnW += l.ma * l.draw.Voltage / 1000
		if l.draw.Current == nil {
			out.Assumed = append(
				out.Assumed, fmt.Sprintf("The draw of %s is not known; %.0f mA is taken.", l.gear.Name, usualMA),
			)
		} else if l.gear.IsAssumed("power/current_ma") {
			words := fmt.Sprintf("%.0f mA is what boxes like %s draw; read its label.", l.ma, l.gear.Name)
			out.Assumed = append(out.Assumed, words)
		}
	}
	if f.hasValves() {
		out.Cautions = append(slices.Clone(powerCautions), valveCaution)
	}
	out.Supplies = f.supplyStates()
	for i := range f.loads {
		out.Loads = append(out.Loads, f.loadState(&f.loads[i]))
	}
	out.Assignment = f.assign()
	out.Findings = f.findings()
	return out, nil
}

// feeding is a rig with its loads and the outputs there are.
type feeding struct {
	plan    *plan.Plan
	rig     *plan.Rig
	loads   []load
	outputs []output
}

type load struct {
	gear    *plan.Gear
	draw    *plan.PowerDraw
	ma      float64
	gain    bool
	battery *plan.BatteryUse
}

type output struct {
	supply *plan.Gear
	*plan.PowerOutput
	used bool // the rig uses its supply
}

func (o *output) name() string {
	if o.Name != "" {
		return o.Name
	}
	return string(o.ID)
}

func (o *output) polarity() string { return polarityOr(o.Polarity, o.AC) }

func polarityOr(p string, ac bool) string {
	switch {
	case ac:
		return "none"
	case p == "":
		return usualPolarity
	}
	return p
}

// most is the highest voltage a load takes.
func (l *load) most() float64 { return math.Max(l.draw.Voltage, or(l.draw.Highest, l.draw.Voltage)) }

func (f *feeding) read() {
	for _, id := range f.rig.GearIn() {
		g, ok := f.plan.FindGear(id)
		if !ok || g.Power == nil || g.Kind == plan.Amp || g.Kind == plan.Guitar || g.Kind == plan.Supply {
			continue
		}
		l := load{gear: g, draw: g.Power, ma: or(g.Power.Current, usualMA)}
		for _, b := range g.Blocks {
			l.gain = l.gain || b.Effect.IsGain()
		}
		if i := slices.IndexFunc(f.rig.Batteries, func(b plan.BatteryUse) bool { return b.Gear == id }); i >= 0 {
			l.battery = &f.rig.Batteries[i]
		}
		f.loads = append(f.loads, l)
	}
	used := map[plan.ID]bool{}
	for _, feed := range f.rig.PowerPlan {
		used[feed.Supply] = true
	}
	for _, first := range []bool{true, false} {
		for i := range f.plan.Gear {
			g := &f.plan.Gear[i]
			if g.Supply == nil || used[g.ID] != first {
				continue
			}
			for k := range g.Supply.Outputs {
				f.outputs = append(f.outputs, output{g, &g.Supply.Outputs[k], first})
			}
		}
	}
}

func (f *feeding) load(id plan.ID) *load {
	i := slices.IndexFunc(f.loads, func(l load) bool { return l.gear.ID == id })
	if i < 0 {
		return nil
	}
	return &f.loads[i]
}

func (f *feeding) output(supply, id plan.ID) *output {
	i := slices.IndexFunc(f.outputs, func(o output) bool { return o.supply.ID == supply && o.ID == id })
	if i < 0 {
		return nil
	}
	return &f.outputs[i]
}

func (f *feeding) allows(lead string) bool { return slices.Contains(f.rig.PowerLeads, lead) }

func (f *feeding) supplyStates() []SupplyState {
	list := []SupplyState{}
	for i := range f.outputs {
		o := &f.outputs[i]
		if len(list) == 0 || list[len(list)-1].Supply != o.supply.ID {
			s := SupplyState{
				Supply: o.supply.ID, Name: o.supply.Name, Used: o.used, MainsV: o.supply.Supply.MainsV,
				TotalMA: totalOf(o.supply.Supply),
			}
			list = append(list, s)
		}
		s := &list[len(list)-1]
		x := f.outputState(o)
		if x.Lead == "" || x.Lead == plan.Reversing || len(x.Loads) > 0 {
			s.DrawnMA += x.DrawnMA
		}
		s.Outputs = append(s.Outputs, x)
	}
	return list
}

func totalOf(s *plan.PowerSupply) float64 {
	if s.TotalMA != nil {
		return *s.TotalMA
	}
	sum := 0.0
	for _, o := range s.Outputs {
		sum += o.CurrentMA
	}
	return sum
}

func (f *feeding) outputState(o *output) OutputState {
	x := OutputState{
		Output: o.ID, Name: o.name(), Voltage: o.Voltages[0], Voltages: o.Voltages, CurrentMA: o.CurrentMA, AC: o.AC,
		Polarity: o.polarity(), Shared: o.Shared, Loads: []plan.ID{}, Headroom: 1, Troubles: []Trouble{},
	}
	for i := range f.rig.PowerPlan {
		feed := &f.rig.PowerPlan[i]
		if feed.Supply != o.supply.ID || feed.Output != o.ID && feed.Second != o.ID {
			continue
		}
		by, ok := f.fedBy(feed)
		if !ok {
			continue
		}
		x.Voltage = or(feed.Voltage, o.Voltages[0])
		x.Lead, x.Pinned = feed.Lead, feed.Pinned
		if x.With = feed.Second; feed.Second == o.ID {
			x.With = feed.Output
		} else {
			x.Loads = append(x.Loads, feed.Gear...)
			x.Troubles = append(x.Troubles, f.troubles(by)...)
		}
		x.DrawnMA = f.drawn(feed.Gear)
		x.Headroom = headroom(by.gives, x.DrawnMA)
	}
	return x
}

// troubles are the loads of a feed that do not go with it.
func (f *feeding) troubles(by fed) []Trouble {
	var list []Trouble
	for _, id := range by.feed.Gear {
		if l := f.load(id); l != nil && l.battery == nil {
			if verdict, why := f.match(l, by.out, by.volts, by.feed.Lead); verdict != Fits {
				list = append(list, Trouble{id, verdict, why})
			}
		}
	}
	return list
}

func (f *feeding) loadState(l *load) Load {
	x := Load{
		Gear: l.gear.ID, Name: l.gear.Name, Voltage: l.draw.Voltage, CurrentMA: l.ma, Assumed: l.draw.Current == nil,
		AC:       l.draw.AC,
		Polarity: polarityOr(l.draw.Polarity, l.draw.AC), Digital: l.draw.Digital, Battery: l.draw.Battery, Fed: "nothing",
		Choices: []Choice{},
	}
	for i := range f.rig.PowerPlan {
		feed := &f.rig.PowerPlan[i]
		if by, ok := f.fedBy(feed); ok && slices.Contains(feed.Gear, l.gear.ID) {
			x.Fed, x.Where = "output", fmt.Sprintf("%s %s", by.out.supply.Name, by.out.name())
		}
	}
	if l.battery != nil {
		x.Fed, x.Where = "battery", "its battery"
		left := math.Max(0, or(l.battery.CapacityMAH, usualBattery)/math.Max(l.ma, 1e-3)-or(l.battery.UsedH, 0))
		x.HoursLeft = &left
	}
	for i := range f.outputs {
		x.Choices = append(x.Choices, f.choice(l, &f.outputs[i]))
	}
	return x
}
