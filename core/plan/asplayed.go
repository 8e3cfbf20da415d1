package plan

import "fmt"

// PickedRig is a rig with boxes of swap slots in the places of those that stand in its chain, in a plan of its own.
type PickedRig struct {
	Name  string // tells what is picked apart: "" for what stands in the chain
	Picks []Pick
	Plan  *Plan
	Rig   *Rig
}

// Boxes are the names of the boxes that are picked.
func (x *PickedRig) Boxes() []string {
	var names []string
	for _, pick := range x.Picks {
		if g, ok := x.Plan.FindGear(pick.Gear); ok {
			names = append(names, g.Name)
		}
	}
	return names
}

// PlayedSong is a song of a set on the rig as it stands then. Its sections begin at a position in the set, from 0.
type PlayedSong struct {
	Song  *Song
	Begin int
	On    *PickedRig
}

// AsPlayed are the songs of a set in its order, each with the rig as it stands then: songs that pick the same boxes
// share one. It fails where rig or set list is not in the plan, or a box cannot stand where it is asked to.
func (p *Plan) AsPlayed(rig, setList ID) ([]PlayedSong, error) {
	evening, err := p.EveningOf(rig, setList)
	if err != nil {
		return nil, err
	}
	l, err := p.SetListByID(setList)
	if err != nil {
		return nil, fmt.Errorf("plan: %w", err)
	}
	standings := map[string]*PickedRig{}
	var list []PlayedSong
	begin := 0
	for _, e := range l.Entries {
		song, ok := p.FindSong(e.Song)
		if !ok {
			continue
		}
		picks := evening.Songs[song.ID]
		name := ""
		if len(picks) > 0 {
			name = fmt.Sprint(picks)
		}
		on := standings[name]
		if on == nil {
			if on, err = p.pickedRig(rig, name, picks); err != nil {
				return nil, err
			}
			standings[name] = on
		}
		list = append(list, PlayedSong{Song: song, Begin: begin, On: on})
		begin += len(song.Sections)
	}
	return list, nil
}

func (p *Plan) pickedRig(rig ID, name string, picks []Pick) (*PickedRig, error) {
	there := p
	if len(picks) > 0 {
		var err error
		if there, err = p.WithPicks(rig, picks); err != nil {
			return nil, err
		}
	}
	r, err := there.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("plan: %w", err)
	}
	return &PickedRig{Name: name, Picks: picks, Plan: there, Rig: r}, nil
}
