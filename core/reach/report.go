package reach

import (
	"envex/core/floor"
	"envex/core/plan"
)

// Verdict is how a change turns out.
type Verdict string

// The verdicts. In time and tight changes are reached; the others are not.
const (
	InTime     Verdict = "in_time"
	Tight      Verdict = "tight"
	Late       Verdict = "late"
	ByHand     Verdict = "by_hand"
	Impossible Verdict = "impossible"
	NotSet     Verdict = "not_set" // the rig has no recipe yet for one of the two sounds: nothing can be said
)

// Reached reports whether a change with this verdict is made in time.
func (v Verdict) Reached() bool { return v == InTime || v == Tight }

// fails reports whether a change with this verdict is a failure; what is not set yet is none.
func (v Verdict) fails() bool { return !v.Reached() && v != NotSet }

// Report is the reach of a rig over a set list.
type Report struct {
	Rig      Named      `json:"rig"`
	SetList  Named      `json:"set_list"`
	Reach    Totals     `json:"reach"`
	Exact    bool       `json:"exact" doc:"The plan of presses is proven the best. False only where a rig leaves more choices than are searched."`
	Findings []Finding  `json:"findings" doc:"What fails, worst first."`
	Changes  []Change   `json:"changes"`
	Songs    []Song     `json:"songs" doc:"In the order of the set."`
	Sections []Section  `json:"sections"`
	Rows     []Row      `json:"rows" doc:"What can be switched, in chain order."`
	First    *Change    `json:"first,omitempty" doc:"What the first section needs where the set is followed from a rig that does not stand as it asks."`
	Floor    floor.Plan `json:"floor"`
}

// Song is one song of the set.
type Song struct {
	Entry plan.ID `json:"entry"`
	Worst Verdict `json:"worst" enum:"in_time,tight,late,by_hand,impossible,not_set" doc:"Of the changes into its sections; in time where there are none."`
}

// Named is a thing's id and its name.
type Named struct {
	ID   plan.ID `json:"id"`
	Name string  `json:"name"`
}

// Totals count the changes of the show by verdict. Those to or from a sound that has no recipe yet are apart.
type Totals struct {
	Total      int `json:"total" doc:"Of changes between sounds that are set."`
	NotSet     int `json:"not_set" doc:"Changes to or from a sound that has no recipe yet; not in the total."`
	Reached    int `json:"reached"`
	InTime     int `json:"in_time"`
	Tight      int `json:"tight"`
	Late       int `json:"late"`
	ByHand     int `json:"by_hand"`
	Impossible int `json:"impossible"`
}

// AnyOrder counts, when songs are called in any order, from how many to how many the first
// sound of the next can be reached within the usual gap.
type AnyOrder struct {
	Total   int `json:"total"`
	Reached int `json:"reached"`
}

// Place is a section of the show: its position from 0, and ids beside names, so that a
// song played twice stays apart.
type Place struct {
	Position  int     `json:"position"`
	Entry     plan.ID `json:"entry"`
	SongID    plan.ID `json:"song_id"`
	Song      string  `json:"song"`
	SectionID plan.ID `json:"section_id"`
	Section   string  `json:"section"`
}

// Section is a section of the show as this rig plays it.
type Section struct {
	Place
	Sound      plan.ID   `json:"sound"`
	Recipe     plan.ID   `json:"recipe,omitempty"`
	BPM        float64   `json:"bpm"`
	StartsSong bool      `json:"starts_song"`
	Segue      bool      `json:"segue,omitempty"`
	GapS       float64   `json:"gap_s" doc:"Seconds before it, between songs."`
	DurationS  *float64  `json:"duration_s,omitempty" doc:"Absent when it is open."`
	ReadyEarly []Leisure `json:"ready_early" doc:"What is best done during this section for a change to come."`

	Stands      map[plan.Key]plan.Value `json:"stands,omitempty" doc:"Of the first section of a song: where everything stands as it begins."`
	RockerBlock plan.Key                `json:"rocker,omitempty" doc:"What the foot is busy with."`
	Silent      []plan.Key              `json:"silent,omitempty" doc:"Stops in lanes that are not chosen: the signal does not pass them."`
}

// Change is the move from one section to the next.
type Change struct {
	Place                // of the section it leads to
	From       Named     `json:"from" doc:"The sound before."`
	To         Named     `json:"to" doc:"The sound after."`
	Verdict    Verdict   `json:"verdict" enum:"in_time,tight,late,by_hand,impossible,not_set"`
	Fails      bool      `json:"fails" doc:"It is not made; what is not set yet does not fail."`
	NeededS    float64   `json:"needed_s"`
	FreeS      float64   `json:"free_s"`
	SlackS     float64   `json:"slack_s"`
	FootworkS  float64   `json:"footwork_s"`
	BetweenSet bool      `json:"between_songs"`
	Presses    []Press   `json:"presses"`
	Hands      []Hand    `json:"hands"`
	Moves      []Moved   `json:"moves,omitempty" doc:"What moves at the change and when it is heard, for whoever wants to hear it."`
	Leisure    []Leisure `json:"leisure" doc:"What was made ready early for it."`
	Between    []Between `json:"between" doc:"The sounds it passes through."`
	Cuts       []string  `json:"cuts,omitempty" doc:"What rings at the change and is cut off by it, and why."`
	Finding    string    `json:"finding,omitempty" doc:"A stable name for what is wrong, by which it can be settled."`
	Settled    string    `json:"settled,omitempty" doc:"The player's reason for leaving it so."`
	Reason     string    `json:"reason"`

	unset string // the sound that has no recipe yet
}

// Press is one press of a switch.
type Press struct {
	Switch  plan.Key `json:"switch" doc:"gear/switch"`
	Label   string   `json:"label" doc:"What the switch is called on this rig."`
	Gesture string   `json:"gesture" enum:"press,hold,double"`
	Action  string   `json:"action" doc:"What it does, in words."`
	Act     string   `json:"act" doc:"The same in a few words, as it stands on paper."`
	AtS     float64  `json:"at_s" doc:"After the first moment the sound may be left."`
	MoveS   float64  `json:"move_s" doc:"Getting there from the switch before."`
	SlackS  float64  `json:"slack_s" doc:"How much later it could come and still fit."`
}

// Moved is what one press moves.
type Moved struct {
	AtS    float64                 `json:"at_s"`
	Values map[plan.Key]plan.Value `json:"values"`
}

// Hand is one thing done by hand.
type Hand struct {
	Variable plan.Key    `json:"variable"`
	Access   plan.Access `json:"access"`
	Action   string      `json:"action"`
	To       plan.Value  `json:"to" doc:"Where it stands then."`
	Seconds  float64     `json:"seconds"`
}

// Leisure is something made ready while it cannot be heard.
type Leisure struct {
	During   Place    `json:"during"`
	For      Place    `json:"for"`
	Action   string   `json:"action"`
	Switches []string `json:"switches" doc:"Labels of the switches pressed, in order."`
	Presses  int      `json:"presses"`
	Steps    []Step   `json:"steps" doc:"What is pressed, in order."`
}

// Step is one press made at leisure.
type Step struct {
	Switch  plan.Key `json:"switch" doc:"gear/switch"`
	Label   string   `json:"label"`
	Gesture string   `json:"gesture" enum:"press,hold,double"`
}

// Between is a sound the change passes through on its way.
type Between struct {
	AtS     float64    `json:"at_s"`
	ForS    float64    `json:"for_s"`
	Pending []plan.Key `json:"pending" doc:"Variables that have not moved yet."`
	Words   string     `json:"words"`
	Loud    bool       `json:"loud,omitempty" doc:"Gain of both sounds is on at once: louder or dirtier than either."`
}

// Row is one thing that can be switched, and what it is in each section.
type Row struct {
	Variable plan.Key    `json:"variable"`
	Gear     plan.ID     `json:"gear"`
	Label    string      `json:"label"`
	Switch   bool        `json:"switch" doc:"It is a block's on and off."`
	Access   plan.Access `json:"access"`
	Cells    []Cell      `json:"cells" doc:"One for each section of the show."`
}

// Cell is a variable in one section: where it is planned to stand, and whether the recipe
// minds.
type Cell struct {
	Value string `json:"value"`
	On    bool   `json:"on,omitempty"`
	Free  bool   `json:"free,omitempty" doc:"The recipe does not mind."`
	Moves bool   `json:"moves,omitempty" doc:"It moves at the change into this section."`
}
