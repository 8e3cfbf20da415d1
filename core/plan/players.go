package plan

import "slices"

// PartOf names a part of a band: who plays a rig.
type PartOf struct {
	Band ID `json:"band"`
	Part ID `json:"part"`
}

// OtherPlayer is what another player than the one whose sounds a song names plays in a section.
type OtherPlayer struct {
	PartOf
	Sound   ID   `json:"sound"`
	Recipe  ID   `json:"recipe,omitempty" doc:"A recipe of that sound, where the first of the player's rig is not wanted."`
	Singing bool `json:"singing,omitempty"`
}

// ShowRig is one more rig at a show.
type ShowRig struct {
	Rig         ID     `json:"rig"`
	Destination ID     `json:"destination,omitempty"`
	Picks       []Pick `json:"picks,omitempty" doc:"Which box stands in a swap slot that night, where it is not the one in the chain."`
}

// PlayedBy is the plan as the player of a rig has it: in each section the sound that the player has there, that of the
// section where none is named. A rig whose player is not said is that of the player whose sounds songs name: then it is
// the plan itself. The plan is not changed.
func (p *Plan) PlayedBy(r *Rig) *Plan {
	if r.Player == nil {
		return p
	}
	q := *p
	q.Songs = slices.Clone(p.Songs)
	for i := range q.Songs {
		song := &q.Songs[i]
		song.Sections = slices.Clone(song.Sections)
		for k := range song.Sections {
			s := &song.Sections[k]
			for _, o := range s.Others {
				if o.PartOf == *r.Player {
					s.Sound, s.Recipe, s.Singing = o.Sound, o.Recipe, o.Singing
				}
			}
			s.Others = nil
		}
	}
	return &q
}

// Rigs are the rigs at a show, its own first.
func (s *Show) Rigs() []ID {
	list := []ID{s.Rig}
	for _, o := range s.Others {
		list = append(list, o.Rig)
	}
	return list
}

// On is a show as one of its rigs plays it: with the destination and the picks of that rig. One that is not at the show
// is taken as it stands. "" is the show's own rig.
func (s *Show) On(rig ID) *Show {
	if rig == "" || rig == s.Rig {
		return s
	}
	own := *s
	own.Rig, own.Destination, own.Picks = rig, "", nil
	own.Others = []ShowRig{{s.Rig, s.Destination, s.Picks}}
	for _, o := range s.Others {
		if o.Rig == rig {
			own.Destination, own.Picks = o.Destination, o.Picks
			continue
		}
		own.Others = append(own.Others, o)
	}
	return &own
}

// ShowOn is the plan in which a show is as one of its rigs plays it; the plan itself where that is the show's own. It
// fails where show or rig are not in the plan. The plan is not changed.
func (p *Plan) ShowOn(show, rig ID) (*Plan, error) {
	s, err := p.ShowByID(show)
	if err != nil {
		return nil, err
	}
	if rig == "" || rig == s.Rig {
		return p, nil
	}
	if _, err := p.RigByID(rig); err != nil {
		return nil, err
	}
	q := *p
	q.Put(*s.On(rig))
	return &q, nil
}

// Player is who plays a rig, by the name of the part of the band; "" where that is not said.
func (p *Plan) Player(r *Rig) string {
	if r.Player == nil {
		return ""
	}
	if b, ok := p.FindBand(r.Player.Band); ok {
		for _, part := range b.Parts {
			if part.ID == r.Player.Part {
				return part.Name
			}
		}
	}
	return ""
}

// partIs adds a problem where a part is named that no band has.
func (v *validator) partIs(path string, part PartOf) {
	b, ok := v.plan.FindBand(part.Band)
	if !ok {
		v.problems.add(dot(path, "band"), "there is no band %q", part.Band)
		return
	}
	if !slices.ContainsFunc(b.Parts, func(x Part) bool { return x.ID == part.Part }) {
		v.problems.add(dot(path, "part"), "%s has no part %q", b.Name, part.Part)
	}
}

// others checks what other players play in a section.
func (v *validator) others(path string, s *Section) {
	seen := map[PartOf]bool{}
	for i, o := range s.Others {
		op := at(dot(path, "others"), i)
		v.partIs(op, o.PartOf)
		if seen[o.PartOf] {
			v.problems.add(dot(op, "part"), "one player plays one sound in a section")
		}
		seen[o.PartOf] = true
		if !v.soundByID[o.Sound] {
			v.problems.add(dot(op, "sound"), "there is no sound %q", o.Sound)
		}
		if sound, ok := v.recipes[o.Recipe]; o.Recipe != "" && (!ok || sound != o.Sound) {
			v.problems.add(dot(op, "recipe"), "there is no recipe %q of that sound", o.Recipe)
		}
	}
}

// showRigs checks the other rigs at a show.
func (v *validator) showRigs(path string, s *Show) {
	seen := map[ID]bool{s.Rig: true}
	for i, o := range s.Others {
		op := at(dot(path, "others"), i)
		r, ok := v.plan.FindRig(o.Rig)
		switch {
		case !ok:
			v.problems.add(dot(op, "rig"), "there is no rig %q", o.Rig)
			continue
		case seen[o.Rig]:
			v.problems.add(dot(op, "rig"), "%s is at the show already", r.Name)
		}
		seen[o.Rig] = true
		if _, ok := r.FindDestination(o.Destination); o.Destination != "" && !ok {
			v.problems.add(dot(op, "destination"), "%s has no destination %q", r.Name, o.Destination)
		}
		v.picks(dot(op, "picks"), r, o.Picks)
	}
}
