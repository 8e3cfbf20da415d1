package plan

import (
	"slices"
	"strings"
)

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
	ID       ID      `json:"id"`
	Name     string  `json:"name"`
	Notes    string  `json:"notes,omitempty"`
	Guitars  []ID    `json:"guitars,omitempty" doc:"The guitars that plug in; the first is played where nothing says otherwise."`
	HandedBy string  `json:"handed_by,omitempty" doc:"Who hands guitars over, tuned; the player changes them alone when absent."`
	Player   *PartOf `json:"player,omitempty" doc:"Who plays it, as a part of a band; the player whose sounds songs name when absent."`
	Path     []Node  `json:"path,omitempty" doc:"The signal chain, from the guitar on."`

	Base         map[Key]Value            `json:"base,omitempty" doc:"Settings of everything that recipes do not name."`
	PerGuitar    map[ID]map[Key]Value     `json:"per_guitar,omitempty" doc:"Settings while a guitar is played, over the base: what recipes name goes before them."`
	Recipes      []Recipe                 `json:"recipes,omitempty" doc:"How this rig makes each sound; the first for a sound is its default."`
	Presets      PresetMap                `json:"presets,omitempty" doc:"What each preset of a piece of gear holds."`
	PresetNames  map[ID]map[string]string `json:"preset_names,omitempty" doc:"What the player calls the presets of a piece of gear: by gear and preset."`
	Snapshots    SnapshotMap              `json:"snapshots,omitempty" doc:"What each snapshot within a preset holds, over what the preset does: by gear, preset and snapshot."`
	Programs     ProgramMap               `json:"programs,omitempty" doc:"By controller, bank and slot."`
	OwnSwitches  []Key                    `json:"own_switches,omitempty" doc:"Blocks that keep their own switch: no loop is looked for them (gear/block)."`
	SlotPins     []SlotPin                `json:"slot_pins,omitempty" doc:"Sounds that stay on a slot when programs are laid out."`
	MIDI         []MIDILink               `json:"midi,omitempty" doc:"Channels that controllers send on, where it is not the device's own."`
	Relays       []RelayLink              `json:"relays,omitempty" doc:"What relays of controllers are plugged into."`
	Assignments  []Assignment             `json:"assignments,omitempty" doc:"What footswitches do in this rig, where it is not what the gear says."`
	Floor        Floor                    `json:"floor"`
	Leads        []Lead                   `json:"leads,omitempty" doc:"What the player says of single cables."`
	PatchCable   ID                       `json:"patch_cable,omitempty" doc:"The stock that cables between boxes are cut from, where leads do not say."`
	PowerPlan    []PowerFeed              `json:"power,omitempty"`
	PowerLeads   []string                 `json:"power_leads,omitempty" doc:"Leads that power may be shared and changed by: daisy-chain, current-doubling, voltage-doubling, reversing."`
	Batteries    []BatteryUse             `json:"batteries,omitempty"`
	Schools      []School                 `json:"schools,omitempty"`
	MostGains    *int                     `json:"most_gain_stages,omitempty" minimum:"1" maximum:"20" doc:"How many pedals with gain the player allows on at once; no limit when absent."`
	Clocks       []Clock                  `json:"clocks,omitempty" doc:"Boxes whose tempo others follow."`
	Settled      []IgnoredFinding         `json:"settled,omitempty" doc:"Findings the player has answered."`
	Held         []HeldLoop               `json:"held,omitempty" doc:"Loops of a switcher that are on all night."`
	Orders       []KeptOrder              `json:"orders,omitempty" doc:"Other orders of the chain, kept to compare."`
	Levels       []Level                  `json:"levels,omitempty" doc:"What the player measured of blocks; it goes before what is modelled."`
	Dialled      []Dialled                `json:"dialled,omitempty" doc:"Where knobs stood when it sounded good."`
	LaneLevels   []LaneLevel              `json:"lane_levels,omitempty" doc:"How loud lanes are wished."`
	Profile      FootProfile              `json:"profile"`
	Destinations []Destination            `json:"destinations,omitempty"`
	Swaps        []Swap                   `json:"swaps,omitempty" doc:"Places in the chain where one of several boxes stands."`
}

// PresetMap is what each preset of each piece of gear sets its variables to.
type PresetMap map[ID]map[string]map[Key]Value

// SnapshotMap is what each snapshot of each preset of each piece of gear sets its variables to.
type SnapshotMap map[ID]map[string]map[string]map[Key]Value

// Level is what a player measured of a block: how much louder it is on than off, with its knobs as
// they stood.
type Level struct {
	Block  Key           `json:"block" doc:"gear/block"`
	OnOver float64       `json:"on_over_off_db" minimum:"-60" maximum:"60"`
	At     map[Key]Value `json:"at,omitempty" doc:"Where its controls stood."`
}

// SlotPin keeps a sound on a slot of a controller: in every bank, or in one where it names it.
type SlotPin struct {
	Controller ID     `json:"controller"`
	Bank       string `json:"bank,omitempty"`
	Slot       string `json:"slot"`
	Sound      ID     `json:"sound"`
}

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
	Stop     Key    `json:"stop,omitempty" doc:"gear/block"`
	Split    *Split `json:"split,omitempty"`
	Switcher ID     `json:"switcher,omitempty" doc:"The loop switcher it stands in, if any."`
	Loop     int    `json:"loop,omitempty" minimum:"0" maximum:"64" doc:"The loop of the switcher it stands in."`
	Pinned   bool   `json:"pinned,omitempty" doc:"Nothing is to cross it."`
	KeyIn    Key    `json:"key,omitempty" doc:"The earlier stop it listens to, as a gate does."`
	Takes    string `json:"takes,omitempty" enum:"sum,left" doc:"What a mono input takes of a stereo signal: both sides summed, or the left alone. Absent when nobody has said."`
}

// ID is the node's name in lists of an order: the stop's key, or the split's id.
func (n Node) ID() Key {
	if n.Split != nil {
		return Key(n.Split.ID)
	}
	return n.Stop
}

// The kinds of split.
const (
	SplitTap       = "tap"        // a lane from a named jack; the main path goes on
	SplitCopy      = "copy"       // every lane gets the whole signal
	SplitLeftRight = "left-right" // the first lane gets the left side, the second the right
	SplitCrossfade = "crossfade"  // a control fades between the lanes
	SplitAB        = "AB"         // a switch chooses the lane
)

// The ways lanes come together again. A split without a join ends the path.
const (
	JoinSum       = "sum"       // added up
	JoinStereo    = "stereo"    // the first lane becomes the left side, the second the right
	JoinCrossfade = "crossfade" // a control fades between the lanes
)

// Split is where the signal divides into lanes.
type Split struct {
	ID     ID      `json:"id"`
	Kind   string  `json:"kind" enum:"tap,copy,left-right,crossfade,AB"`
	From   Key     `json:"from,omitempty" doc:"What divides the signal: the jack of a tap (gear/jack), else the block of a splitter (gear/block). Absent for a plain Y lead, or for the two outputs of the stop before."`
	Lanes  []Lane  `json:"lanes"`
	Join   string  `json:"join,omitempty" enum:"sum,stereo,crossfade" doc:"Absent when each lane ends on its own."`
	Choice Key     `json:"choice,omitempty" doc:"What chooses among the lanes: a selector or a block that is on or off (gear/control, gear/block/control, gear/block/on). Of an A/B split the first selector of what divides it, when absent."`
	Main   []Value `json:"main,omitempty" doc:"Of a tap: where the choice stands while the main path sounds; it always does when absent."`
	To     Key     `json:"to,omitempty" doc:"The block of a mixer that joins the lanes (gear/block). Absent for a plain Y lead, or for the two inputs of the next stop."`
}

// Lane is one of the paths of a split.
type Lane struct {
	Name  string  `json:"name,omitempty"`
	Nodes []Node  `json:"nodes,omitempty"`
	When  []Value `json:"when,omitempty" doc:"Where the choice of the split stands while the lane sounds. Of an A/B split its own place among the positions, when absent; else it always sounds."`
}

// HeldLoop is a loop of a switcher that is on all night.
type HeldLoop struct {
	Switcher ID  `json:"switcher"`
	Loop     int `json:"loop" minimum:"1" maximum:"64"`
}

// KeptOrder is another order of the chain, kept to compare.
type KeptOrder struct {
	Name string `json:"name"`
	Path []Node `json:"path,omitempty"`
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

	Notes map[Key]string `json:"notes,omitempty" doc:"Which of the notes that its sound asks a block answers for (gear/block), where several could; the nearest when absent."`
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
	Board        ID               `json:"board,omitempty" doc:"The main board."`
	Boards       []BoardPlace     `json:"boards,omitempty" doc:"Other boards: a small one at the microphone."`
	Places       map[ID]Placement `json:"places,omitempty" doc:"By gear."`
	Limits       *CarryLimits     `json:"limits,omitempty" doc:"The most the player carries."`
	DoubleStomps []DoubleStomp    `json:"double_stomps,omitempty"`
}

// Placement is where a box stands: its far left corner, as the player sees it, and how it is turned.
type Placement struct {
	X        float64 `json:"x_mm" minimum:"-5000" maximum:"5000"`
	Y        float64 `json:"y_mm" minimum:"-5000" maximum:"5000"`
	Rotation int     `json:"rotation_deg,omitempty" enum:"0,90,180,270"`
	Board    ID      `json:"board,omitempty" doc:"The board it stands on, from whose far left corner its place is measured; the main one when absent."`
	On       string  `json:"on,omitempty" enum:"ground,off" doc:"It stands on no board: on the bare floor, or off the floor, in a rack or on an amp. When absent, it stands on the main board where it touches it, else on the bare floor."`
	Under    bool    `json:"under,omitempty" doc:"It hangs beneath the board."`
	Pinned   bool    `json:"pinned,omitempty" doc:"It stays where it stands when the board is fitted."`
}

// DoubleStomp is a pair of neighbouring switches the player presses under one shoe.
type DoubleStomp struct {
	A Key `json:"a" doc:"gear/switch"`
	B Key `json:"b" doc:"gear/switch"`
}

// School is the side a player has chosen where good players disagree.
type School struct {
	Question string `json:"question"`
	Side     string `json:"side"`
}

// Clock is a box whose tempo others follow: what is bound to a note in them needs no hand and no foot.
type Clock struct {
	From ID   `json:"from"`
	To   []ID `json:"to"`
}

// IgnoredFinding is a finding the player has answered, and why.
type IgnoredFinding struct {
	Finding string `json:"finding"`
	Reason  string `json:"reason"`
}

// Supplies are those that feed something in the rig, each once.
func (r *Rig) Supplies() []ID {
	var list []ID
	for _, f := range r.PowerPlan {
		if !slices.Contains(list, f.Supply) {
			list = append(list, f.Supply)
		}
	}
	return list
}
