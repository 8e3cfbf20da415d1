package plan

import (
	"slices"
	"strconv"
	"strings"
)

// ID names one thing in a file. It is opaque, unique in the file and never changes;
// names are for people.
type ID string

// GearKind is the family a thing belongs to.
type GearKind string

// The families of gear.
const (
	Guitar     GearKind = "guitar"
	Pedal      GearKind = "pedal"
	Amp        GearKind = "amp"
	Controller GearKind = "controller"
	Supply     GearKind = "supply"
	Board      GearKind = "board"
	CableStock GearKind = "cable"
	Interface  GearKind = "interface"
)

// Gear is a thing owned once and used in many rigs.
type Gear struct {
	ID      ID       `json:"id"`
	Name    string   `json:"name"`
	Kind    GearKind `json:"kind" enum:"guitar,pedal,amp,controller,supply,board,cable,interface"`
	Circuit string   `json:"circuit,omitempty" doc:"Generic kind of circuit, such as mid-hump overdrive."`
	Colour  string   `json:"colour,omitempty" doc:"What colour the box is, in words."`
	Notes   string   `json:"notes,omitempty"`

	Blocks       []Block      `json:"blocks,omitempty" doc:"The circuits in it, each placeable on its own."`
	Controls     []Control    `json:"controls,omitempty" doc:"Controls of the whole thing: a pickup selector, a guitar's volume, a preset."`
	Footswitches []Footswitch `json:"footswitches,omitempty"`
	Jacks        []Jack       `json:"jacks,omitempty"`
	Size         *Size        `json:"size,omitempty" doc:"The enclosure."`
	FloorUnit    *Size        `json:"floor_unit,omitempty" doc:"What stands on the floor, when it is not the enclosure: an amp's footswitch."`
	Board        *BoardSpec   `json:"board,omitempty" doc:"Of a board: slats, slope and clearances."`
	WeightG      *float64     `json:"weight_g,omitempty" minimum:"0" maximum:"200000"`
	Power        *PowerDraw   `json:"power,omitempty"`
	Supply       *PowerSupply `json:"supply,omitempty" doc:"What a supply gives; absent when it is not known."`
	Cable        *CableSpec   `json:"cable,omitempty" doc:"Of cable."`
	Wiring       *Wiring      `json:"wiring,omitempty" doc:"Pots and capacitors of a guitar; absent when they are not known."`
	Loop         *AmpLoop     `json:"loop,omitempty" doc:"The effects loop of an amp; absent when it has none."`
	SpeakerOut   *SpeakerOut  `json:"speaker_out,omitempty" doc:"Of an amp; absent when it is not known."`
	Switcher     *Switcher    `json:"switcher,omitempty" doc:"The loops of a loop switcher."`
	Banks        int          `json:"banks,omitempty" minimum:"0" maximum:"128" doc:"How many banks of programs it holds; absent when it is not known."`
	SkipsEmpty   bool         `json:"skips_empty_banks,omitempty" doc:"Its bank switches pass over banks without a program."`
	Relays       []Relay      `json:"relays,omitempty" doc:"Switch contacts of a controller, for footswitch jacks of amps and other boxes."`
	Pickups      []Pickup     `json:"pickups,omitempty"`
	Positions    []Position   `json:"positions,omitempty" doc:"What positions of a guitar's pickup selector have on; where none is told of, a position has on the pickups it names, side by side."`
	MIDI         *MIDIPort    `json:"midi,omitempty"`

	Assumed map[string]float64 `json:"assumed,omitempty" doc:"Figures as its kind has them, by path: assumed while they stand so."`
}

// Size is an outside measure in mm.
type Size struct {
	Width  float64  `json:"width_mm" minimum:"1" maximum:"3000"`
	Depth  float64  `json:"depth_mm" minimum:"1" maximum:"3000"`
	Height *float64 `json:"height_mm,omitempty" minimum:"1" maximum:"3000"`
}

// Jack is a socket and the side of the enclosure it is on.
type Jack struct {
	ID   ID     `json:"id"`
	Name string `json:"name,omitempty"`
	Side string `json:"side,omitempty" enum:"left,right,top,front,back"`

	At *float64 `json:"at_mm,omitempty" minimum:"0" maximum:"3000" doc:"How far its middle is along its side, in mm from the left, or from the far end; in the middle of the side, or spread along it with others, when absent."`

	Block ID `json:"block,omitempty" doc:"The block it belongs to, in a box whose blocks can stand apart."`
}

// AmpLoop is the effects loop between an amp's preamp and its power section.
type AmpLoop struct {
	Kind    string   `json:"kind" enum:"series,parallel"`
	LevelDB *float64 `json:"level_db,omitempty" minimum:"-40" maximum:"24" doc:"Nominal level in dBu."`
}

// SpeakerOut is the speaker output of an amp's power section.
type SpeakerOut struct {
	Internal bool      `json:"internal,omitempty" doc:"A speaker of its own is wired to it."`
	Valve    bool      `json:"valve,omitempty" doc:"A valve power section, which is destroyed without a load."`
	Ohms     []float64 `json:"ohms,omitempty" doc:"Loads it may drive."`
}

// Switcher is a box that takes loops of other boxes in and out of the chain.
type Switcher struct {
	Loops    []SwitcherLoop `json:"loops"`
	Reorders bool           `json:"reorders,omitempty" doc:"It can put its loops in any order."`
	Buffered bool           `json:"buffered,omitempty" doc:"It has a buffer at its input."`
}

// SwitcherLoop is one loop: loops are numbered from 1, as they stand in the list.
type SwitcherLoop struct {
	Name   string `json:"name,omitempty"`
	Stereo bool   `json:"stereo,omitempty"`
	Break  bool   `json:"break,omitempty" doc:"The chain can leave the switcher before this loop and come back: a split input, an insert."`
}

// LoopCount is how many loops the gear has as a switcher.
func (g *Gear) LoopCount() int {
	if g.Switcher == nil {
		return 0
	}
	return len(g.Switcher.Loops)
}

// HasLoop reports whether the gear is a switcher with loop k.
func (g *Gear) HasLoop(k int) bool {
	return g.Switcher != nil && k >= 1 && k <= len(g.Switcher.Loops)
}

// Pickup is a guitar pickup as a source: resistance and inductance in series, capacitance across.
type Pickup struct {
	ID            ID       `json:"id"`
	Name          string   `json:"name"`
	ResistanceOhm *float64 `json:"resistance_ohm,omitempty" minimum:"0" maximum:"1000000"`
	InductanceH   *float64 `json:"inductance_h,omitempty" minimum:"0" maximum:"100"`
	CapacitancePF *float64 `json:"capacitance_pf,omitempty" minimum:"0" maximum:"100000"`
	OutputMVRMS   *float64 `json:"output_mv_rms,omitempty" minimum:"0" maximum:"10000" doc:"On strummed chords, on full through 3 m of cable; 100 is taken when absent."`
	Jack          ID       `json:"jack,omitempty" doc:"The jack it comes out of, where it has one of its own, as a piezo may; the main output when absent."`
}

// FindPickup looks a pickup up.
func (g *Gear) FindPickup(id ID) (*Pickup, bool) {
	i := slices.IndexFunc(g.Pickups, func(p Pickup) bool { return p.ID == id })
	if i < 0 {
		return nil, false
	}
	return &g.Pickups[i], true
}

// FindJack looks a jack up.
func (g *Gear) FindJack(id ID) (*Jack, bool) {
	i := slices.IndexFunc(g.Jacks, func(j Jack) bool { return j.ID == id })
	if i < 0 {
		return nil, false
	}
	return &g.Jacks[i], true
}

// Position is what one position of a guitar's pickup selector has on.
type Position struct {
	Is       string `json:"is" doc:"The position, as the control pickup has it among its options."`
	Pickups  []ID   `json:"pickups"`
	Series   bool   `json:"series,omitempty" doc:"They are in series; side by side when absent."`
	Reversed []ID   `json:"reversed,omitempty" doc:"Those of them that are out of phase."`
}

// FindPosition looks up what a position of the pickup selector has on.
func (g *Gear) FindPosition(is string) (*Position, bool) {
	i := slices.IndexFunc(g.Positions, func(p Position) bool { return p.Is == is })
	if i < 0 {
		return nil, false
	}
	return &g.Positions[i], true
}

// Bypass is what a block does to the signal when it is off.
type Bypass string

// The kinds of bypass. AlwaysOn blocks have no off state.
const (
	TrueBypass     Bypass = "true"
	BufferedBypass Bypass = "buffered"
	AlwaysOn       Bypass = "always"
)

// Block is one circuit inside a thing. A dual drive has two, a volume pedal one, an amp a
// preamp and a power section.
type Block struct {
	ID       ID       `json:"id"`
	Name     string   `json:"name"`
	Effect   Effect   `json:"effect"`
	Inputs   string   `json:"inputs,omitempty" enum:"mono,stereo" doc:"Mono when absent."`
	Outputs  string   `json:"outputs,omitempty" enum:"mono,stereo" doc:"Mono when absent."`
	Model    string   `json:"model,omitempty" doc:"The circuit its sound is computed by, of those of its effect; the first of them when absent."`
	Bypass   Bypass   `json:"bypass" enum:"true,buffered,always"`
	Access   Access   `json:"access,omitempty" enum:"foot,quick,slow,memory,remote" doc:"How it is turned on and off; by foot when absent."`
	Trails   bool     `json:"trails,omitempty" doc:"It rings on after it is switched off."`
	RingS    *float64 `json:"ring_s,omitempty" minimum:"0" maximum:"60" doc:"How long it rings on, in seconds; 3 when absent."`
	Spills   bool     `json:"spills,omitempty" doc:"Its trails ring on through a change of its preset."`
	Rocker   bool     `json:"rocker,omitempty" doc:"It is played with the foot: a wah, a volume pedal."`
	InputOhm *float64 `json:"input_ohm,omitempty" minimum:"0" maximum:"100000000" doc:"Of a speaker or a load, what it is rated as."`
	InputPF  *float64 `json:"input_pf,omitempty" minimum:"0" maximum:"1000000" doc:"Capacitance across its input; none when absent."`
	OutOhm   *float64 `json:"output_ohm,omitempty" minimum:"0" maximum:"10000000"`
	BypassPF *float64 `json:"bypass_pf,omitempty" minimum:"0" maximum:"1000000" doc:"Capacitance of its wiring while it is off with true bypass; 30 pF when absent."`
	Pot      *Pot     `json:"pot,omitempty" doc:"Of a passive volume pedal: its pot."`
	Level    string   `json:"level,omitempty" enum:"instrument,line,speaker,any" doc:"The level it is made for; instrument when absent."`
	OutLevel string   `json:"out_level,omitempty" enum:"instrument,line,speaker" doc:"The level it gives; that at its input when absent."`

	LatencyMS *float64 `json:"latency_ms,omitempty" minimum:"0" maximum:"1000" doc:"How late the dry signal comes out of it."`
	Inverts   bool     `json:"inverts,omitempty" doc:"It turns the polarity round while it is on."`
	Passive   bool     `json:"passive,omitempty" doc:"Only wire, pots or a transformer: no supply and no buffer."`
	Isolated  bool     `json:"isolated,omitempty" doc:"Its output has no ground in common with its input; of a splitter, every output but the first."`

	Controls []Control `json:"controls,omitempty"`
	ModelAt  []ModelAt `json:"model_at,omitempty" doc:"What circuit it is while a selector stands at a position, in place of its own."`
}

// DefaultRingS is how long a block with trails rings on after it is switched off, where
// the block does not say.
const DefaultRingS = 3.0

// Ring is how long the block sounds on after it is switched off, in seconds.
func (b Block) Ring() float64 {
	switch {
	case !b.Trails:
		return 0
	case b.RingS != nil:
		return *b.RingS
	}
	return DefaultRingS
}

// Access is how a control is moved on stage.
type Access string

// How a control is moved: by foot, by a hand that can stay near the strings, by a hand
// that has to leave the guitar, by recalling a memory, or by another device.
const (
	Foot      Access = "foot"
	QuickHand Access = "quick"
	SlowHand  Access = "slow"
	Memory    Access = "memory"
	Remote    Access = "remote"
)

// ControlKind is the form of a control.
type ControlKind string

// The forms of a control. A preset is a selector whose positions are memories.
const (
	Knob     ControlKind = "knob"
	Selector ControlKind = "selector"
	Preset   ControlKind = "preset"
	Snapshot ControlKind = "snapshot" // positions are memories within a preset
)

// Control is a named knob, selector or preset.
type Control struct {
	ID      ID          `json:"id"`
	Name    string      `json:"name"`
	Kind    ControlKind `json:"kind" enum:"knob,selector,preset,snapshot"`
	Access  Access      `json:"access" enum:"foot,quick,slow,memory,remote"`
	Min     *float64    `json:"min,omitempty" doc:"0 when absent."`
	Max     *float64    `json:"max,omitempty" doc:"10 when absent."`
	Unit    string      `json:"unit,omitempty" doc:"ms, dB, Hz; a plain knob has none."`
	Options []string    `json:"options,omitempty" doc:"The positions of a selector or preset, in order."`

	Measured []Rate `json:"measured,omitempty" doc:"Of a rate knob without a unit: how fast it is at some of its positions, two or more."`

	Default *Value     `json:"default,omitempty"`
	When    *Condition `json:"when,omitempty" doc:"Outside this it does nothing."`
}

// Rate is how fast an effect runs at a position of its knob.
type Rate struct {
	At float64 `json:"at"`
	Hz float64 `json:"hz" minimum:"0.01" maximum:"100"`
}

// Range is the least and greatest position of a knob.
func (c Control) Range() (low, high float64) {
	low, high = 0, 10
	if c.Min != nil {
		low = *c.Min
	}
	if c.Max != nil {
		high = *c.Max
	}
	return low, high
}

// Initial is where the control stands when nobody has said: its default, else the middle
// of a knob or the first option.
func (c Control) Initial() Value {
	if c.Default != nil && !c.Default.IsZero() {
		return *c.Default
	}
	if c.Kind == Knob {
		low, high := c.Range()
		return Number((low + high) / 2)
	}
	if len(c.Options) > 0 {
		return Text(c.Options[0])
	}
	return Value{}
}

// Condition says when a control does anything: while the variable it names, within the
// same piece of gear, has one of the values.
type Condition struct {
	Variable string  `json:"variable" doc:"Within the gear: block/on, block/control or control."`
	Is       []Value `json:"is"`
}

// Footswitch is a switch for the foot and its place on the enclosure.
type Footswitch struct {
	ID     ID       `json:"id"`
	Label  string   `json:"label"`
	X      float64  `json:"x_mm" minimum:"0" maximum:"3000" doc:"From the left edge, as the player sees it."`
	Y      float64  `json:"y_mm" minimum:"0" maximum:"3000" doc:"From the far edge, as the player sees it."`
	Width  *float64 `json:"width_mm,omitempty" minimum:"5" maximum:"300" doc:"Effective width for the foot; the profile's when absent."`
	Press  *Press   `json:"press,omitempty"`
	Hold   *Press   `json:"hold,omitempty"`
	Double *Press   `json:"double,omitempty"`
}

// Press is what happens when a footswitch is pressed, held or pressed twice.
type Press struct {
	Actions   []Action `json:"actions"`
	Momentary bool     `json:"momentary,omitempty" doc:"Only while it is held."`
}

// ActionKind is what an action does.
type ActionKind string

// What an action does.
const (
	Toggle ActionKind = "toggle" // turn a block on or off
	Set    ActionKind = "set"    // set a control to a value
	Step   ActionKind = "step"   // move a selector or preset along its options
	Tap    ActionKind = "tap"    // tap a tempo
	Recall ActionKind = "recall" // recall a program
	Bank   ActionKind = "bank"   // step through banks of programs
	Mute   ActionKind = "mute"   // silence the output
)

// Action is one thing a press does. Its target is a variable: within the gear for the
// gear's own footswitches (block/on, block/control, control), whole (gear/...) in a rig's
// assignments.
type Action struct {
	Kind   ActionKind `json:"kind" enum:"toggle,set,step,tap,recall,bank,mute"`
	Target Key        `json:"target,omitempty"`
	Value  *Value     `json:"value,omitempty" doc:"For set; for recall the bank and slot; for bank the one it goes to, where it does not step."`
	By     int        `json:"by,omitempty" minimum:"-127" maximum:"127" doc:"For step and bank: how far, 1 when absent."`
	Wrap   bool       `json:"wrap,omitempty" doc:"For step and bank: after the last comes the first."`
}

// Stride is how far a step goes.
func (a Action) Stride() int {
	if a.By == 0 {
		return 1
	}
	return a.By
}

// Slot is the slot a recall is of, and its bank where it names one: "3" is a slot of the bank
// the controller stands on, "B/3" one of bank B.
func (a Action) Slot() (bank, slot string, ok bool) {
	if a.Kind != Recall || a.Value == nil || a.Value.Kind() != TextValue {
		return "", "", false
	}
	word := a.Value.Word()
	if bank, slot, ok = strings.Cut(word, "/"); !ok {
		return "", word, word != ""
	}
	return bank, slot, bank != "" && slot != ""
}

// CompareSlots puts names of banks and slots in order: numbers by size, then words.
func CompareSlots(a, b string) int {
	x, errX := strconv.Atoi(a)
	y, errY := strconv.Atoi(b)
	switch {
	case errX == nil && errY == nil && x != y:
		return x - y
	case (errX == nil) != (errY == nil):
		if errX == nil {
			return -1
		}
		return 1
	}
	return strings.Compare(a, b)
}
