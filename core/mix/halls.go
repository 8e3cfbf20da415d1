package mix

import (
	"context"

	"envex/core/plan"
	"envex/core/reason"
)

// Hall is a room by how long it rings.
type Hall struct {
	Name    string  `json:"name"`
	ReverbS float64 `json:"reverb_s" doc:"How long a sound takes to fall by 60 dB, in s; 0 is the open air."`
}

// UsualHalls are rooms to compare, with the reverberation times that are usual for their kind with people in them (H.
// Kuttruff, "Room Acoustics").
func UsualHalls() []Hall {
	return []Hall{{"Open air", 0}, {"Club", 0.6}, {"Theatre", 1.2}, {"Hall", 2}, {"Church", 4}}
}

// Beside is a set among a band in several halls, side by side.
type Beside struct {
	Sounds []BesideSound `json:"sounds" doc:"One for each scene of the set."`
	Halls  []BesideHall  `json:"halls"`
}

// BesideSound is a sound, where it first comes.
type BesideSound struct {
	Sound   plan.ID `json:"sound"`
	Name    string  `json:"name"`
	Tuned   string  `json:"tuned,omitempty"`
	Title   string  `json:"title" doc:"Of the song it first comes in."`
	Section string  `json:"section"`
}

// BesideHall is what is heard in one of them.
type BesideHall struct {
	Hall
	Heard    []BesideHeard `json:"heard" doc:"One for each sound."`
	Findings []string      `json:"findings" doc:"What is wrong there that is not wrong in the first."`
}

// BesideHeard is what is heard of a sound.
type BesideHeard struct {
	Share   float64 `json:"heard_pct"`
	Over    float64 `json:"over_phon"`
	Repeats int     `json:"repeats" doc:"That are heard, of its delay of which most are."`
}

// Halls says what is heard of a rig in a set among a band in each of some halls: the rig is rendered once. It fails as
// [Room] does.
func Halls(ctx context.Context, p *plan.Plan, rig, setList plan.ID, halls []Hall, o Options) (*Beside, error) {
	first, err := newRoom(p, rig, setList)
	if err != nil {
		return nil, err
	}
	tell := func(from, to, share float64) {
		if o.Progress != nil {
			o.Progress(from + (to-from)*share)
		}
	}
	const rendered = 0.8 // of the time, the halls being worked out of that
	once := o
	once.Progress = func(share float64) { tell(0, rendered, share) }
	if err := first.render(ctx, once); err != nil {
		return nil, err
	}
	out := &Beside{Sounds: []BesideSound{}, Halls: []BesideHall{}}
	known := map[string]bool{}
	for i, h := range halls {
		x, err := newRoom(p, rig, setList)
		if err != nil {
			return nil, err
		}
		x.noCuts, x.out.HallS = true, h.ReverbS
		if err := x.renderFrom(ctx, first, nil, Options{Dry: o.Dry, Kept: o.Kept}); err != nil {
			return nil, err
		}
		if err := x.report(ctx); err != nil {
			return nil, err
		}
		if i == 0 {
			out.Sounds = soundsOf(x.out)
		}
		hall := BesideHall{Hall: h, Heard: []BesideHeard{}, Findings: []string{}}
		for _, s := range x.out.Scenes {
			heard := BesideHeard{Share: s.Guitar.Share, Over: s.Guitar.Over}
			for _, r := range s.Repeats {
				heard.Repeats = max(heard.Repeats, r.Heard)
			}
			hall.Heard = append(hall.Heard, heard)
		}
		for _, f := range x.out.Findings {
			if i == 0 {
				known[f.ID] = true
			}
			if i == 0 || !known[f.ID] {
				hall.Findings = append(hall.Findings, f.Title)
			}
		}
		out.Halls = append(out.Halls, hall)
		tell(rendered, 1, float64(i+1)/float64(len(halls)))
	}
	if len(out.Halls) == 0 {
		return nil, reason.Errorf("there are no halls to compare")
	}
	return out, nil
}

func soundsOf(r *Report) []BesideSound {
	list := make([]BesideSound, len(r.Scenes))
	for i, s := range r.Scenes {
		list[i] = BesideSound{Sound: s.Sound, Name: s.Name, Tuned: s.Tuned}
		for _, sec := range r.Sections {
			if sec.Scene == i {
				list[i].Title, list[i].Section = sec.Title, sec.Label
				break
			}
		}
	}
	return list
}
