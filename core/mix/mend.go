package mix

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"envex/core/plan"
)

// Mending is what would put right one finding.
type Mending struct {
	Finding Finding `json:"finding"`
	Moves   []Move  `json:"moves" doc:"The least first; what has a price after what has none."`
	Words   string  `json:"words" doc:"That nothing helps; empty where there are moves."`
}

// Move is one thing that may be done.
type Move struct {
	What   string                  `json:"what" enum:"knob,part,register" doc:"A knob of the rig, how a part plays, or where the guitar plays: that is no setting."`
	Words  string                  `json:"words"`
	Figure float64                 `json:"figure" doc:"What the finding's figure comes to, where it is worst."`
	Brings []string                `json:"brings" doc:"What is wrong with it that is not wrong now."`
	Ends   []string                `json:"ends" doc:"What else is wrong now and would not be."`
	Breaks []string                `json:"breaks" doc:"Sounds that are in their targets now and would not be."`
	Values map[plan.Key]plan.Value `json:"values,omitempty" doc:"The knob of a move and where it goes, to be listened to."`
	Rig    *plan.Rig               `json:"rig,omitempty" doc:"The whole rig with the knob moved: at the destination it was asked for alone, where it was asked for one."`
	Band   *plan.Band              `json:"band,omitempty" doc:"The whole band with the part playing so."`

	size float64
}

// price is how much a move brings that is not wanted.
func (m Move) price() int { return len(m.Brings) + len(m.Breaks) }

// The most moves that are given, and the most knobs that are tried in full.
const (
	mostMoves = 6
	mostKnobs = 3
)

// Mend looks for the least move that puts a finding right: one knob of the sound's chain or of the guitar, or how one
// part plays in those sections; and says where playing in another register would. Every move is worked out again for
// the whole set by the same figures, and for the targets of the sounds. It fails as [Room] does. Of a finding that is no
// more it says so.
func Mend(
	ctx context.Context,
	p *plan.Plan,
	rig, destination, setList plan.ID,
	finding string,
	o Options,
) (*Mending, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("mix: %w", err)
	}
	x, err := newRoom(there, rig, setList)
	if err != nil {
		return nil, err
	}
	x.out.HallS = o.HallS
	if err := x.render(ctx, Options{Dry: o.Dry, Kept: o.Kept}); err != nil {
		return nil, err
	}
	x.noCuts = true
	if err := x.report(ctx); err != nil {
		return nil, err
	}
	i := slices.IndexFunc(x.out.Findings, func(f Finding) bool { return f.ID == finding })
	if i < 0 {
		return &Mending{Finding: Finding{ID: finding, Scenes: []int{}, Positions: []int{}}, Moves: []Move{}, Words: gone}, nil
	}
	m := &mender{room: x, own: p, destination: destination, o: o, finding: x.out.Findings[i], met: map[plan.ID]bool{}}
	out := &Mending{Finding: m.finding, Moves: []Move{}}
	for _, find := range []func(context.Context) ([]Move, error){m.knobs, m.parts, m.register} {
		found, err := find(ctx)
		if err != nil {
			return nil, err
		}
		out.Moves = append(out.Moves, found...)
	}
	slices.SortStableFunc(out.Moves, func(a, b Move) int {
		return cmp.Or(cmp.Compare(a.price(), b.price()), cmp.Compare(a.size, b.size))
	})
	out.Moves = out.Moves[:min(len(out.Moves), mostMoves)]
	if len(out.Moves) == 0 {
		out.Words = "No one knob of this sound, and nothing that one part would do otherwise, puts it right."
	}
	return out, nil
}

// gone is said of a finding that is no more: somebody has mended it.
const gone = "That is not so any more."

// mender looks for moves.
type mender struct {
	*room
	own         *plan.Plan // the plan without the destination
	destination plan.ID
	o           Options
	finding     Finding
	met         map[plan.ID]bool // sounds that are in their targets as it is, as far as they were asked
}

// worst is the scene in which the finding is worst.
func (m *mender) worst() *scene { return m.scenes[m.finding.Scenes[0]] }

// figureIn is the finding's figure in a scene that has been listened to, and how far it is from well.
func (m *mender) figureIn(x *room, s Scene) (figure, off float64) {
	for _, c := range x.checks(s) {
		if c.what == m.finding.What && c.part == m.finding.Part {
			return c.figure, c.off()
		}
	}
	return 0, -1 // there is nothing to be wrong: the part rests
}

// quiet are the options without what reports progress.
func (m *mender) quiet() Options { return Options{Dry: m.o.Dry, Kept: m.o.Kept, HallS: m.o.HallS} }

// share reports progress within a part of the whole.
func (m *mender) share(from, to float64) func(float64) {
	return func(done float64) {
		if m.o.Progress != nil {
			m.o.Progress(from + (to-from)*done)
		}
	}
}
