package plan

import "strings"

// Key names a variable of a rig: gear/control, gear/block/on or gear/block/control. The
// key of a stop is its block, gear/block.
type Key string

// Gear is the piece of gear a key belongs to.
func (k Key) Gear() ID {
	gear, _, _ := strings.Cut(string(k), "/")
	return ID(gear)
}

// Rest is the key without its gear.
func (k Key) Rest() string {
	_, rest, _ := strings.Cut(string(k), "/")
	return rest
}

// BlockKey is the key of a block: the id of a stop.
func BlockKey(gear, block ID) Key { return Key(string(gear) + "/" + string(block)) }

// OnKey is the variable that turns a block on and off.
func OnKey(gear, block ID) Key { return BlockKey(gear, block) + "/on" }

// Rig is how gear is put together and set.
type Rig struct {
	ID      ID     `json:"id"`
	Name    string `json:"name"`
	Notes   string `json:"notes,omitempty"`
	Guitars []ID   `json:"guitars,omitempty" doc:"The guitars that plug in; the first is played where nothing says otherwise."`
	Path    []Node `json:"path,omitempty" doc:"The signal chain, from the guitar on."`

	Base         map[Key]Value `json:"base,omitempty" doc:"Settings of everything that recipes do not name."`
	Recipes      []Recipe      `json:"recipes,omitempty" doc:"How this rig makes each sound; the first for a sound is its default."`
	Presets      PresetMap     `json:"presets,omitempty" doc:"What each preset of a piece of gear holds."`
	Programs     ProgramMap    `json:"programs,omitempty" doc:"By controller, bank and slot."`
	Assignments  []Assignment  `json:"assignments,omitempty" doc:"What footswitches do in this rig, where it is not what the gear says."`
	Floor        Floor         `json:"floor"`
	PowerPlan    []PowerFeed   `json:"power,omitempty"`
	Schools      []School      `json:"schools,omitempty"`
	Settled      []Settled     `json:"settled,omitempty" doc:"Findings the player has answered."`
	Profile      FootProfile   `json:"profile"`
	Destinations []Destination `json:"destinations,omitempty"`
}

// PresetMap is what each preset of each piece of gear sets its variables to.
type PresetMap map[ID]map[string]map[Key]Value

// ProgramMap is the programs of each controller, by bank and slot.
type ProgramMap map[ID]map[string]map[string]Program

// Program is what one slot of a controller recalls.
type Program struct {
	Label  string        `json:"label,omitempty"`
	Sound  ID            `json:"sound,omitempty" doc:"The sound it serves: a label only."`
	Values map[Key]Value `json:"values,omitempty"`
}

// Node is one place in the path: a stop or a split.
type Node struct {
	Stop   Key    `json:"stop,omitempty" doc:"gear/block"`
	Split  *Split `json:"split,omitempty"`
	Loop   int    `json:"loop,omitempty" minimum:"0" maximum:"64" doc:"The switcher loop it stands in."`
	Pinned bool   `json:"pinned,omitempty" doc:"Nothing is to cross it."`
	KeyIn  Key    `json:"key,omitempty" doc:"The earlier stop it listens to, as a gate does."`
}

// Split is where the signal divides into lanes.
type Split struct {
	ID    ID     `json:"id"`
	Kind  string `json:"kind" enum:"tap,copy,left-right,crossfade,AB"`
	Lanes []Lane `json:"lanes"`
	Join  string `json:"join,omitempty" enum:"sum,stereo,crossfade" doc:"Absent when each lane ends on its own."`
}

// Lane is one of the paths of a split.
type Lane struct {
	Name  string `json:"name,omitempty"`
	Nodes []Node `json:"nodes,omitempty"`
}

// Recipe is how a rig makes one sound. A variable it does not name keeps the rig's base
// setting; a value of {"free": true} says that it does not matter.
type Recipe struct {
	ID      ID            `json:"id"`
	Sound   ID            `json:"sound"`
	Name    string        `json:"name,omitempty"`
	Guitar  ID            `json:"guitar,omitempty"`
	Values  map[Key]Value `json:"values,omitempty"`
	Rockers []Key         `json:"rockers,omitempty" doc:"Blocks the foot has to move while this sounds (gear/block)."`
}

// Assignment says what one footswitch does in a rig.
type Assignment struct {
	Gear   ID     `json:"gear"`
	Switch ID     `json:"switch"`
	Press  *Press `json:"press,omitempty"`
	Hold   *Press `json:"hold,omitempty"`
	Double *Press `json:"double,omitempty"`
}

// Floor is where boxes stand and which switches may be pressed together.
type Floor struct {
	Board        ID               `json:"board,omitempty"`
	Places       map[ID]Placement `json:"places,omitempty" doc:"By gear."`
	DoubleStomps []DoubleStomp    `json:"double_stomps,omitempty"`
}

// Placement is where a box stands: its far left corner, as the player sees it, and how it is turned.
type Placement struct {
	X        float64 `json:"x_mm" minimum:"-5000" maximum:"5000"`
	Y        float64 `json:"y_mm" minimum:"-5000" maximum:"5000"`
	Rotation int     `json:"rotation_deg,omitempty" enum:"0,90,180,270"`
}

// DoubleStomp is a pair of neighbouring switches the player presses under one shoe.
type DoubleStomp struct {
	A Key `json:"a" doc:"gear/switch"`
	B Key `json:"b" doc:"gear/switch"`
}

// PowerFeed is a supply output and what hangs on it.
type PowerFeed struct {
	Supply ID     `json:"supply"`
	Output string `json:"output"`
	Gear   []ID   `json:"gear"`
}

// School is the side a player has chosen where good players disagree.
type School struct {
	Question string `json:"question"`
	Side     string `json:"side"`
}

// Settled is a finding the player has answered, and why.
type Settled struct {
	Finding string `json:"finding"`
	Reason  string `json:"reason"`
}

// Destination is a named overlay on a rig for where it plugs in.
type Destination struct {
	ID       ID            `json:"id"`
	Name     string        `json:"name"`
	Kind     string        `json:"kind" enum:"own-amp,hired-amp,two-amps,stereo-di,mono-di,headphones"`
	Amp      ID            `json:"amp,omitempty"`
	Path     []Node        `json:"path,omitempty"`
	Recipes  []Recipe      `json:"recipes,omitempty"`
	MonoLine string        `json:"mono_line,omitempty" enum:"external-sum,left-sums,left-alone"`
	Base     map[Key]Value `json:"base,omitempty"`
}
