package path

import "envex/core/plan"

// Report is what is to be said of a rig's order.
type Report struct {
	Cost      float64    `json:"cost" doc:"Weight of the preferences that the order violates."`
	Findings  []Finding  `json:"findings"`
	Best      Best       `json:"best"`
	Questions []Question `json:"questions"`
	Chosen    []Chosen   `json:"chosen" doc:"The side in force for each question."`
	Estimated []string   `json:"estimated,omitempty" doc:"What was estimated, in words."`
}

// Chosen is the side in force for a question.
type Chosen struct {
	Question string `json:"question"`
	Side     string `json:"side"`
	ByPlayer bool   `json:"by_player" doc:"False where none was chosen and the commoner habit stands in."`
}

// Finding is a preference that the order violates.
type Finding struct {
	ID      string     `json:"id" doc:"A stable name, by which it can be settled."`
	Rule    string     `json:"rule"`
	Stops   []plan.Key `json:"stops" doc:"The one that had better come first, then the other."`
	Names   []string   `json:"names"`
	Weight  float64    `json:"weight"`
	Reason  string     `json:"reason"`
	School  string     `json:"school,omitempty" doc:"The question it is one side of."`
	Settled string     `json:"settled,omitempty" doc:"The player's reason for leaving it so."`
	Repairs []Move     `json:"repairs"`
}

// Move is one stop put elsewhere.
type Move struct {
	Stop   plan.Key   `json:"stop"`
	Before plan.Key   `json:"before,omitempty" doc:"Absent to put it at the end."`
	Words  string     `json:"words"`
	Cost   float64    `json:"cost" doc:"Of the order it leads to."`
	Order  []plan.Key `json:"order" doc:"The order it leads to."`
}

// Best is the best order there is.
type Best struct {
	Cost   float64    `json:"cost"`
	Order  []plan.Key `json:"order"`
	Proven bool       `json:"proven"`
	Bound  float64    `json:"bound" doc:"No order costs less than this."`
	Moves  []Move     `json:"moves" doc:"From the order as it stands, one after the other."`
}
