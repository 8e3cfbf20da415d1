package choose

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"envex/core/floor"
	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
)

// Options say what is chosen for.
type Options struct {
	Rig      plan.ID   // whose guitars and amp are played; the first guitar and amp where empty
	SetList  plan.ID   // whose sounds have to be made, and over which presses are counted
	Sounds   []plan.ID // instead of those of the set list
	Pile     []plan.ID // the pedals that may be taken; all that are owned where empty
	Kinds    []string  // generic kinds that may be taken besides
	Most     int       // boxes; as many as it takes where 0
	Board    plan.ID   // on which they are to stand, owned or of [board.Sizes]; none where empty
	Supply   plan.ID   // by which they are to be fed; none where empty
	NewID    func() plan.ID
	Progress func(share float64)
	Kept     *signal.Kept
}

// Report is which boxes to take.
type Report struct {
	Rig     plan.ID   `json:"rig,omitempty"`
	SetList plan.ID   `json:"set_list,omitempty"`
	Pile    []Box     `json:"pile" doc:"What may be taken."`
	Sounds  []Sound   `json:"sounds" doc:"What has to be made."`
	Sets    []Set     `json:"sets" doc:"The choices that make the most sounds with the fewest boxes, the easiest to play first; then what is least to carry and to feed."`
	Bound   int       `json:"bound" doc:"No fewer boxes make as many sounds, of the settings that were tried."`
	Further []Step    `json:"further" doc:"What each number of boxes would make, by the quick meter."`
	Unsaid  []plan.ID `json:"unsaid" doc:"Sounds left aside: they have no targets, and no recipe on any rig to take them from."`
	Tried   int       `json:"tried" doc:"Settings that were metered."`
	Partial bool      `json:"partial,omitempty" doc:"There are more settings than were tried, so nothing is proven."`
	Assumed []string  `json:"assumed"`
}

// Sound is a sound that has to be made, and what of the pile is of use for it.
type Sound struct {
	Sound    plan.ID `json:"sound"`
	Name     string  `json:"name"`
	Bare     bool    `json:"bare,omitempty" doc:"Guitar and amp make it alone."`
	AsMadeBy string  `json:"as_made_by,omitempty" doc:"The rig by whose recipe it is judged, where the sound does not say enough."`

	Alone  []plan.ID `json:"alone" doc:"Boxes each of which makes it."`
	Helps  []plan.ID `json:"helps" doc:"Boxes that make it with others."`
	WhyNot string    `json:"why_not,omitempty" doc:"Why nothing of the pile makes it."`
}

// Set is a choice of boxes.
type Set struct {
	Boxes   []plan.ID `json:"boxes"`
	Names   []string  `json:"names"`
	Covers  []plan.ID `json:"covers" doc:"Sounds that are within all their targets, rendered in full."`
	Misses  []plan.ID `json:"misses"`
	Proven  bool      `json:"proven" doc:"No choice of at most so many boxes makes more sounds, and none of fewer boxes makes as many; never where settings were left out."`
	Presses int       `json:"presses" doc:"Over the set list."`
	ByHand  int       `json:"by_hand" doc:"Changes of the set list that need a hand."`
	Late    int       `json:"late" doc:"Changes that cannot be made in time."`
	WeightG float64   `json:"weight_g" doc:"Of the boxes whose weight is known."`
	Unknown []plan.ID `json:"unknown_weight" doc:"Boxes whose weight is not known."`
	AreaCM2 float64   `json:"area_cm2" doc:"Of floor under the boxes whose size is known."`
	Fits    *bool     `json:"fits,omitempty" doc:"On the board that was named; absent where none was."`
	LeftOut []plan.ID `json:"left_out,omitempty" doc:"What finds no place on it."`

	Floor *floor.Plan `json:"floor,omitempty" doc:"The board with everything as it stands then; absent where none was named."`

	Fed     *bool     `json:"fed,omitempty" doc:"By the supply that was named; absent where none was."`
	Unfed   []plan.ID `json:"unfed,omitempty" doc:"What it cannot feed."`
	Outputs int       `json:"outputs" doc:"Of the supply, that are taken."`
	Adds    []Added   `json:"adds" doc:"What one box more would make, by the quick meter."`
	Made    []Made    `json:"made" doc:"How each sound is made."`

	Rig     plan.Rig    `json:"rig" doc:"The whole rig: in its best order, with knobs, recipes, places on the board and feeds."`
	Ordered bool        `json:"ordered" doc:"Its order is proven the best."`
	New     []plan.Gear `json:"new_gear,omitempty" doc:"Boxes in it that are not owned."`
}

// Added is a box more and the sounds that it would bring.
type Added struct {
	Box    plan.ID   `json:"box"`
	Sounds []plan.ID `json:"sounds"`
}

// Made is how a choice makes a sound.
type Made struct {
	Sound    plan.ID        `json:"sound"`
	Name     string         `json:"name"`
	Within   bool           `json:"within"`
	Dirt     float64        `json:"dirt_pct"`
	OverHome float64        `json:"loudness_lu"`
	DirtMin  float64        `json:"dirt_min_pct" doc:"The band that its dirt has to be in; 0 to 100 where any will do."`
	DirtMax  float64        `json:"dirt_max_pct"`
	LoudMin  *float64       `json:"loud_min_lu,omitempty" doc:"The band that its loudness has to be in; absent where any will do."`
	LoudMax  *float64       `json:"loud_max_lu,omitempty"`
	Words    string         `json:"words" doc:"What is on."`
	Checks   []signal.Check `json:"checks"`
}

// Step is what a number of boxes would make at most.
type Step struct {
	Boxes  int `json:"boxes"`
	Covers int `json:"covers"`
}

const (
	mostSets   = 6  // choices that are rendered in full and given
	mostTries  = 24 // choices that are rendered in full before the search ends without a proof
	atOnce     = 2  // choices that are rendered at once: the next learn from them
	mostRounds = 3  // times that one choice is set anew and rendered in full
)

// For finds the fewest boxes of the pile that make every sound, or, of so many boxes, those that make the most.
// Settings are looked through with a quick meter; what is chosen is rendered in full, and a way that does not hold then
// is struck out and the choice made anew. It fails when the rig, a sound, a kind, the board or the supply are not
// there, and with the context's error when that is cancelled.
func For(ctx context.Context, p *plan.Plan, o Options) (*Report, error) {
	if err := checkPlaces(p, o); err != nil {
		return nil, err
	}
	if o.Kept == nil {
		o.Kept = signal.NewKept()
	}
	sounds, err := wanted(p, o)
	if err != nil {
		return nil, err
	}
	asked, from, err := asMade(ctx, p, sounds, o)
	if err != nil {
		return nil, err
	}
	sounds, unsaid := stated(asked, sounds)
	x, err := newPile(ctx, asked, o.Rig, o)
	if err != nil {
		return nil, err
	}
	o.tell(0.02)
	m, err := x.meter(ctx, sounds, o)
	if err != nil {
		return nil, err
	}
	o.tell(0.6)
	c := &choosing{metering: m, o: o}
	out, err := c.run(ctx)
	if err != nil {
		return nil, err
	}
	for i := range out.Sounds {
		out.Sounds[i].AsMadeBy = from[out.Sounds[i].Sound]
	}
	for _, s := range unsaid {
		out.Unsaid = append(out.Unsaid, s.ID)
	}
	return out, nil
}

func (o Options) tell(share float64) {
	if o.Progress != nil {
		o.Progress(share)
	}
}

// wanted are the sounds that have to be made, with the home sound, against which they are measured.
func wanted(p *plan.Plan, o Options) ([]*plan.Sound, error) {
	asked := map[plan.ID]bool{}
	for _, id := range o.Sounds {
		if _, ok := p.FindSound(id); !ok {
			return nil, reason.Errorf("there is no sound %q", id)
		}
		asked[id] = true
	}
	if o.SetList != "" {
		l, err := p.SetListByID(o.SetList)
		if err != nil {
			return nil, fmt.Errorf("choose: %w", err)
		}
		for _, e := range l.Entries {
			if song, ok := p.FindSong(e.Song); ok && len(o.Sounds) == 0 {
				for _, s := range song.Sections {
					asked[s.Sound] = s.Sound != ""
				}
			}
		}
	}
	var list []*plan.Sound
	home := false
	for i := range p.Sounds {
		s := &p.Sounds[i]
		// The first of the home role is what the others are measured against.
		is := s.Role == plan.HomeRole && !home
		if home = home || is; is || asked[s.ID] || len(o.Sounds) == 0 && o.SetList == "" {
			list = append(list, s)
		}
	}
	if len(list) == 0 {
		return nil, reason.Errorf("there is no sound to make: put sounds into the songs of the set list first")
	}
	slices.SortStableFunc(list, func(a, b *plan.Sound) int {
		return cmp.Compare(b2i(a.Role != plan.HomeRole), b2i(b.Role != plan.HomeRole))
	})
	return list, nil
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}
