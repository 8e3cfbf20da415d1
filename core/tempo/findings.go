package tempo

import (
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
)

// Finding is something to be said of the times of the set.
type Finding struct {
	ID    string   `json:"id"`
	Title string   `json:"title"`
	Words string   `json:"words"`
	Entry plan.ID  `json:"entry"`
	Sound plan.ID  `json:"sound"`
	Stop  plan.Key `json:"stop"`
	Songs []Off    `json:"songs,omitempty" doc:"Where it is so of several songs: by how much in each."`
}

// Off is by how much a time is off its note in a song.
type Off struct {
	Title    string  `json:"title"`
	SetMS    float64 `json:"set_ms"`
	WantedMS float64 `json:"wanted_ms"`
}

// LooseShare is how far a time may be off the note in a sound that need not lock, as a share.
const LooseShare = 0.10

// find says what is worth a word, each thing once for a sound of a song.
func (n *night) find() {
	for _, s := range n.out.Songs {
		for _, u := range s.Uses {
			say := func(rule, title, words string) {
				n.out.Findings = append(n.out.Findings, Finding{
					ID:    fmt.Sprintf("tempo:%s:%s:%s:%s", rule, u.Stop, s.Song, u.Sound),
					Title: title, Words: words, Entry: s.Entry, Sound: u.Sound, Stop: u.Stop,
				})
			}
			switch {
			case u.TooLong && u.LongestMS == nil:
				say(
					"too-long", fmt.Sprintf("%s does not go that far in %s", u.Name, s.Title),
					fmt.Sprintf("%s asks %s, %.0f ms; its knob has no position for it.", u.SoundName, u.Words, *u.WantedMS),
				)
			case u.TooLong:
				say(
					"too-long", fmt.Sprintf("%s cannot be that long in %s", u.Name, s.Title),
					fmt.Sprintf("%s asks %s, %.0f ms; its longest is %.0f ms.", u.SoundName, u.Words, *u.WantedMS, *u.LongestMS),
				)
			case u.Heard:
				say(
					"off", fmt.Sprintf("%s is out of time in %s", u.Name, s.Title),
					fmt.Sprintf(
						"%s asks %s, %.0f ms; it is at %.0f ms, so the last repeat is %.0f ms off.", u.SoundName, u.Words, *u.WantedMS,
						*u.SetMS, u.LastOffMS,
					),
				)
			case u.Way == ByTap && u.Strict && u.Drift != nil && u.Drift.First > 0:
				say(
					"drift", fmt.Sprintf("A tap may not be enough in %s", s.Title),
					fmt.Sprintf(
						"A tap is off by %.1f %%, so repeat %d of %s is heard off; a stored tempo or a click is not.", u.Drift.Pct,
						u.Drift.First, u.Name,
					),
				)
			}
			if u.Way == ByTap && !u.TapFits {
				say(
					"no-room", fmt.Sprintf("No time to tap in %s", s.Title),
					fmt.Sprintf("Tapping takes %.1f s, and the set leaves %.1f s before %s.", u.TapS, u.RoomS, u.SoundName),
				)
			}
			if !u.Strict && u.WantedMS != nil && u.SetMS != nil && !u.TooLong && math.Abs(u.OffMS) > LooseShare**u.WantedMS {
				n.loose(s, u)
			}
			if u.Untimed {
				n.untimed(s, u)
			}
			if u.AskedDB != nil && u.Echo != nil && math.Abs(u.FirstDB-*u.AskedDB) > levelApart {
				n.level(s, u)
			}
			if u.Clutter {
				say(
					"clutter", fmt.Sprintf("%s clutters in %s", u.Name, s.Title),
					fmt.Sprintf("Its repeats are closer than an eighth and carry %.1f dB of the note's energy.", u.EnergyDB),
				)
			}
		}
	}
}

// levelApart is how far a first repeat may be from the level that is asked, in dB.
const levelApart = 3.0

// once says something that is the same in every song.
func (n *night) once(rule string, s Song, u Use, title, words string) {
	id := fmt.Sprintf("tempo:%s:%s:%s", rule, u.Stop, u.Sound)
	for _, f := range n.out.Findings {
		if f.ID == id {
			return
		}
	}
	n.out.Findings = append(
		n.out.Findings, Finding{ID: id, Title: title, Words: words, Entry: s.Entry, Sound: u.Sound, Stop: u.Stop},
	)
}

func (n *night) untimed(s Song, u Use) {
	n.once("untimed", s, u, fmt.Sprintf("%s cannot be timed", u.Name),
		fmt.Sprintf(
			"%s asks %s of it, and nobody has said how fast it is: give its speed knob a unit, or measure it at three positions.",
			u.SoundName, u.Words,
		))
}

func (n *night) level(s Song, u Use) {
	way := "louder"
	if u.FirstDB < *u.AskedDB {
		way = "softer"
	}
	n.once("level", s, u,
		fmt.Sprintf(
			"The first repeat of %s is %.0f dB %s than %s asks", u.Name, math.Abs(u.FirstDB-*u.AskedDB), way, u.SoundName,
		),
		fmt.Sprintf("It is %.1f dB over the dry note as it is set; %.1f is asked.", u.FirstDB, *u.AskedDB))
}

// loose gathers the songs in which a sound that need not lock is far from its note: one finding for all.
func (n *night) loose(s Song, u Use) {
	id := fmt.Sprintf("tempo:loose:%s:%s", u.Stop, u.Sound)
	here := Off{Title: s.Title, SetMS: *u.SetMS, WantedMS: *u.WantedMS}
	i := slices.IndexFunc(n.out.Findings, func(f Finding) bool { return f.ID == id })
	if i < 0 {
		i = len(n.out.Findings)
		n.out.Findings = append(n.out.Findings, Finding{
			ID: id, Title: fmt.Sprintf("%s is not at the %s of %s", u.Name, u.Words, u.SoundName),
			Entry: s.Entry, Sound: u.Sound, Stop: u.Stop,
		})
	}
	f := &n.out.Findings[i]
	if !slices.Contains(f.Songs, here) {
		f.Songs = append(f.Songs, here)
	}
	f.Words = "More than a tenth off in one song."
	if len(f.Songs) > 1 {
		f.Words = fmt.Sprintf("More than a tenth off in %d songs.", len(f.Songs))
	}
}
