package mix

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
)

// Finding is something that is not heard as it should be.
type Finding struct {
	ID        string  `json:"id"`
	What      string  `json:"what" enum:"buried,under,covers,alike,rings,repeats,lane"`
	Sound     plan.ID `json:"sound"`
	Part      plan.ID `json:"part,omitempty" doc:"Whom it is about, beside the guitar: a part, or a lane by its key."`
	Title     string  `json:"title"`
	Words     string  `json:"words"`
	Figure    float64 `json:"figure" doc:"What is wrong: per cent; phon for a lead under the band, dB for two guitars, LU for a lane, a number for repeats."`
	Limit     float64 `json:"limit" doc:"What it has to come to."`
	Scenes    []int   `json:"scenes" doc:"By index; the worst first."`
	Positions []int   `json:"positions" doc:"Of the sections it is so in."`

	gravity float64
}

// Limits, all working ones: from where on a listener would say so.
const (
	buriedPct  = 8  // of a sound that has to be heard, what is left of it
	texturePct = 4  // of one that lies under the others
	voicePct   = 40 // of a voice, what the guitar takes of it
	partPct    = 60 // of another part
	leadPct    = 80 // of another part, what a lead takes: that is what it is for
	alikeDB    = 3  // of two guitars, how far their spectra are apart
	laneLU     = 1  // of a lane, how far it is from what is wished
	ringsPct   = 12 // of a part that holds notes or sings, what repeats and tails take of it
)

// check is one thing that is looked at in a scene: its figure, and whether that is well.
type check struct {
	what   string
	part   plan.ID
	name   string
	figure float64
	limit  float64
	more   bool   // the figure has to be the limit or more, not less
	where  string // in frequency
}

// off is how far a figure is from well; 0 or less where it is.
func (c check) off() float64 {
	if c.more {
		return c.limit - c.figure
	}
	return c.figure - c.limit
}

// checks are what is looked at in a scene.
func (x *room) checks(s Scene) []check {
	var list []check
	sound, _ := x.plan.FindSound(s.Sound)
	if len(s.Parts) > 0 {
		limit := float64(buriedPct)
		if sound != nil && sound.Role == plan.TextureRole {
			limit = texturePct
		}
		if s.Lead {
			list = append(list, check{what: "under", name: s.Guitar.Under, figure: s.Guitar.Over, more: true})
		} else {
			list = append(list, check{what: "buried", figure: s.Guitar.Share, limit: limit, more: true})
		}
	}
	for _, p := range s.Parts {
		part, _ := x.band.FindPart(p.Part)
		traits := part.Kind.Traits()
		limit := float64(partPct)
		switch {
		case traits.Sings:
			limit = voicePct
		case s.Lead:
			limit = leadPct
		}
		list = append(
			list,
			check{what: "covers", part: p.Part, name: p.Name, figure: p.Loses, limit: limit, where: p.Most},
		)
		if p.Apart != nil {
			list = append(
				list,
				check{what: "alike", part: p.Part, name: p.Name, figure: *p.Apart, limit: alikeDB, more: true},
			)
		}
		if traits.Holds || traits.Sings {
			list = append(list, check{what: "rings", part: p.Part, name: p.Name, figure: p.Rings, limit: ringsPct})
		}
	}
	for _, l := range s.Lanes {
		if l.Wished == nil {
			continue
		}
		c := check{
			what: "lane", part: plan.ID(l.Key), name: l.Name, figure: math.Abs(l.Level - *l.Wished), limit: laneLU, where: "loud",
		}
		if l.Level < *l.Wished {
			c.where = "quiet"
		}
		list = append(list, c)
	}
	asked := 0
	if sound != nil {
		for _, h := range sound.Targets.Effects {
			if h.Effect == plan.EffectDelay && h.Repeats != nil {
				asked = max(asked, *h.Repeats)
			}
		}
	}
	most := 0
	for _, r := range s.Repeats {
		most = max(most, r.Heard)
	}
	if asked > 0 && len(s.Repeats) > 0 {
		list = append(list, check{
			what: "repeats", figure: float64(most), limit: math.Ceil(float64(asked) / 2), more: true,
			where: fmt.Sprint(asked),
		})
	}
	return list
}

// find gathers what is wrong: what is so in several scenes of a sound once, by the worst of them.
func (x *room) find() {
	at := map[string]int{}
	for i, s := range x.out.Scenes {
		for _, c := range x.checks(s) {
			if c.off() <= 0 {
				continue
			}
			id := fmt.Sprintf("room:%s:%s:%s", c.what, s.Sound, c.part)
			k, known := at[id]
			if !known {
				k = len(x.out.Findings)
				at[id] = k
				x.out.Findings = append(
					x.out.Findings,
					Finding{ID: id, What: c.what, Sound: s.Sound, Part: c.part, gravity: -1},
				)
			}
			f := &x.out.Findings[k]
			if g := gravityOf(c); g > f.gravity {
				f.gravity, f.Figure, f.Limit = g, c.figure, c.limit
				f.Title, f.Words = c.words(s)
				f.Scenes = append([]int{i}, f.Scenes...)
			} else {
				f.Scenes = append(f.Scenes, i)
			}
		}
	}
	for i := range x.out.Findings {
		f := &x.out.Findings[i]
		f.Positions = []int{}
		for _, sec := range x.out.Sections {
			if slices.Contains(f.Scenes, sec.Scene) {
				f.Positions = append(f.Positions, sec.Position)
			}
		}
	}
	slices.SortStableFunc(x.out.Findings, func(a, b Finding) int { return cmp.Compare(b.gravity, a.gravity) })
}

// gravityOf puts what is wrong in order: a lead that is not heard, a voice that is covered, then the rest by how far
// they are off.
func gravityOf(c check) float64 {
	first := map[string]float64{"under": 300, "buried": 200, "covers": 200, "repeats": 0, "rings": 50, "alike": 50}
	g := first[c.what] + math.Min(math.Abs(c.off()), 99)
	if c.what == "covers" && c.limit == voicePct {
		g += 100
	}
	return g
}

// words are a title and a sentence with its figures.
func (c check) words(s Scene) (title, words string) {
	switch c.what {
	case "under":
		return s.Name + " is not over the band",
			fmt.Sprintf("%s is %.0f phon louder for a listener.", c.name, -c.figure)
	case "buried":
		return s.Name + " is buried",
			fmt.Sprintf("%.0f %% of it is heard among the others; %.0f %% is the least.", c.figure, c.limit)
	case "covers":
		return fmt.Sprintf("%s covers %s", s.Name, c.name),
			fmt.Sprintf("It takes %.0f %% of what is heard of %s, most at %s.", c.figure, c.name, c.where)
	case "alike":
		return fmt.Sprintf("%s and %s are the same", s.Name, c.name),
			fmt.Sprintf(
				"Their spectra are %.1f dB apart; from %.0f dB on a listener tells them apart.",
				c.figure,
				c.limit,
			)
	case "lane":
		return fmt.Sprintf("%s is too %s in %s", c.name, c.where, s.Name),
			fmt.Sprintf("It is %.1f LU from where it is wished over home.", c.figure)
	case "rings":
		return fmt.Sprintf("What rings in %s covers %s", s.Name, c.name),
			fmt.Sprintf("Repeats, tails and movement take %.0f %% of what is heard of it.", c.figure)
	}
	return "Repeats of " + s.Name + " are not heard",
		fmt.Sprintf("%.0f of the %s repeats it asks for are heard through the others.", c.figure, c.where)
}
