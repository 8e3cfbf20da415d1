package path

import (
	"cmp"
	"slices"

	"envex/core/plan"
)

// Report is what is to be said of a rig's order.
type Report struct {
	Cost      float64     `json:"cost" doc:"Weight of the preferences that the order violates."`
	Words     string      `json:"words" doc:"How good the order is, in a sentence."`
	Findings  []Finding   `json:"findings"`
	Best      Best        `json:"best"`
	Path      []plan.Node `json:"path" doc:"The chain that is judged: the rig's, or its overlay at the destination."`
	Stops     []Traced    `json:"stops" doc:"What arrives at, and leaves, each stop and each split, in signal order."`
	Splits    []Named     `json:"splits" doc:"What each split and its lanes are called."`
	Kept      []Kept      `json:"kept" doc:"The other orders that were kept, each beside this one."`
	Differs   []string    `json:"differs,omitempty" doc:"What is in the rig's own chain and not in this one, and the other way round."`
	Questions []Question  `json:"questions"`
	Chosen    []Chosen    `json:"chosen" doc:"The side in force for each question."`
	Estimated []string    `json:"estimated,omitempty" doc:"What was estimated or assumed, in words."`
}

// Chosen is the side in force for a question.
type Chosen struct {
	Question string `json:"question"`
	Side     string `json:"side"`
	ByPlayer bool   `json:"by_player" doc:"False where none was chosen and the commoner habit stands in."`
}

// Gravity is how much a finding matters.
type Gravity string

// The gravities, worst first.
const (
	Danger     Gravity = "danger"     // it can hurt someone or break something
	Fault      Gravity = "fault"      // it cannot work, or not as it looks
	Preference Gravity = "preference" // another order is the better habit
	Notice     Gravity = "notice"     // worth knowing
)

// gravities lists them, worst first.
var gravities = []Gravity{Danger, Fault, Preference, Notice}

// SortByGravity puts the worst findings first, and of one gravity those that weigh most.
func SortByGravity(list []Finding) {
	slices.SortStableFunc(list, func(a, b Finding) int {
		return cmp.Or(
			cmp.Compare(slices.Index(gravities, a.Gravity), slices.Index(gravities, b.Gravity)), cmp.Compare(b.Weight, a.Weight),
		)
	})
}

// Finding is something to be said against the chain as it stands.
type Finding struct {
	ID      string     `json:"id" doc:"A stable name, by which it can be settled."`
	Rule    string     `json:"rule"`
	Gravity Gravity    `json:"gravity" enum:"danger,fault,preference,notice"`
	Title   string     `json:"title"`
	Stops   []plan.Key `json:"stops" doc:"Of a preference: the one that had better come first, then the other."`
	Names   []string   `json:"names"`
	Weight  float64    `json:"weight" doc:"Of a preference; 0 for what is no matter of weighing."`
	Reason  string     `json:"reason"`
	Figures []Figure   `json:"figures,omitempty"`
	Caution string     `json:"caution,omitempty" doc:"The usual caution, where the work can hurt."`
	School  string     `json:"school,omitempty" doc:"The question it is one side of."`
	Settled string     `json:"settled,omitempty" doc:"The player's reason for leaving it so."`
	Repairs []Move     `json:"repairs"`
	Ways    []Way      `json:"ways" doc:"Sides of schools to choose instead, or as well."`
}

// Figure is a number that a finding rests on.
type Figure struct {
	Name  string  `json:"name"`
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
}

// Move is an edit of the path, and what it leads to.
type Move struct {
	Words string          `json:"words"`
	Stop  plan.Key        `json:"stop,omitempty" doc:"What is moved: a stop, or the id of a split."`
	Cost  float64         `json:"cost" doc:"Of the order it leads to."`
	Order []plan.Key      `json:"order" doc:"The stops in the order it leads to."`
	Path  []plan.Node     `json:"path" doc:"The whole path it leads to."`
	Held  []plan.HeldLoop `json:"held,omitempty" doc:"Loops to hold on besides those that are."`
}

// Best is the best order there is.
type Best struct {
	Cost   float64     `json:"cost"`
	Order  []plan.Key  `json:"order"`
	Path   []plan.Node `json:"path"`
	Proven bool        `json:"proven"`
	Bound  float64     `json:"bound" doc:"No order costs less than this."`
	Moves  []Move      `json:"moves" doc:"From the order as it stands, one after the other."`
}

// Traced is what arrives at a stop or a split and what leaves it.
type Traced struct {
	Stop     plan.Key  `json:"stop" doc:"gear/block, or the id of a split."`
	Zone     plan.Zone `json:"zone" enum:"front,loop,out"`
	In       int       `json:"in" doc:"1 for mono, 2 for stereo."`
	Out      int       `json:"out" doc:"1 for mono, 2 for stereo."`
	LevelIn  string    `json:"level_in" enum:"instrument,line,speaker"`
	LevelOut string    `json:"level_out" enum:"instrument,line,speaker"`
}

// Named is what a split and its lanes are called.
type Named struct {
	Split plan.ID  `json:"split"`
	Name  string   `json:"name"`
	Lanes []string `json:"lanes"`
}

// Kept is an order that was kept to compare, with what can be said for and against it.
type Kept struct {
	Name   string   `json:"name"`
	Cost   float64  `json:"cost"`
	Cables float64  `json:"cables_m" doc:"Length of all its cables."`
	Mends  []string `json:"mends" doc:"Findings of the present order that it does not have."`
	Brings []string `json:"brings" doc:"Findings that the present order does not have."`
	Moves  []string `json:"moves" doc:"What is moved to come there from the present order."`
}
