package night

import (
	"slices"

	"envex/core/paper"
	"envex/core/plan"
	"envex/core/reach"
)

// Step is a section of the show, and how it is come to.
type Step struct {
	Entry   plan.ID  `json:"entry"`
	Song    plan.ID  `json:"song"`
	Title   string   `json:"title"`
	Section plan.ID  `json:"section"`
	Label   string   `json:"label"`
	Facts   []string `json:"facts" doc:"What one wants to know before the count-in."`
	Starts  bool     `json:"starts,omitempty" doc:"It begins a song."`
	Segue   bool     `json:"segue,omitempty"`
	GapS    float64  `json:"gap_s,omitempty" doc:"Before it, between songs."`
	Singing bool     `json:"singing,omitempty"`

	Sound   plan.ID  `json:"sound"`
	Name    string   `json:"name" doc:"Of the sound."`
	Short   string   `json:"short"`
	Tape    string   `json:"tape"`
	Meant   string   `json:"meant,omitempty" doc:"The sound that it would have, and that is lost tonight."`
	Without string   `json:"without,omitempty" doc:"What its sound is without tonight."`
	Bars    *float64 `json:"bars,omitempty"`
	LengthS *float64 `json:"length_s,omitempty" doc:"Absent where it is open."`
	Clocks  int      `json:"clocks,omitempty" doc:"Ticks of a MIDI clock that it lasts, 24 to a quarter note; absent where it is open."`
	BeatS   float64  `json:"beat_s"`
	Beats   int      `json:"beats" doc:"In a bar."`
	BPM     float64  `json:"bpm"`

	Verdict reach.Verdict   `json:"verdict,omitempty" enum:"in_time,tight,late,by_hand,impossible,not_set"`
	NeededS float64         `json:"needed_s"`
	FreeS   float64         `json:"free_s"`
	Presses []reach.Press   `json:"presses"`
	Pressed []string        `json:"pressed" doc:"The same in a few words."`
	Hands   []reach.Hand    `json:"hands"`
	Reason  string          `json:"reason,omitempty"`
	Ready   []reach.Leisure `json:"ready" doc:"What is best made ready in it."`
	Early   []string        `json:"early" doc:"The same in words."`
}

// clocksInQuarter is how often a MIDI clock ticks in a quarter note.
const clocksInQuarter = 24

// stepAt is a section of a report as it is played.
func stepAt(p *plan.Plan, r *reach.Report, i int, marks map[place]substitute) Step {
	s := r.Sections[i]
	song, _ := p.FindSong(s.SongID)
	x := Step{
		Entry: s.Entry, Song: s.SongID, Title: s.Song, Section: s.SectionID, Label: s.Section, Starts: s.StartsSong,
		Segue: s.Segue, GapS: s.GapS, Sound: s.Sound, LengthS: s.DurationS, BPM: s.BPM, Presses: []reach.Press{},
		Pressed: []string{}, Hands: []reach.Hand{}, Ready: s.ReadyEarly, Early: paper.Early(s), Facts: []string{},
	}
	if x.Early == nil {
		x.Early = []string{}
	}
	if i := slices.IndexFunc(song.Sections, func(x plan.Section) bool { return x.ID == s.SectionID }); i >= 0 {
		sec := song.Sections[i]
		tempo := sec.TempoIn(*song)
		x.Bars, x.Singing, x.BeatS = sec.Bars, sec.Singing, tempo.BeatSeconds()
		x.Beats = max(1, int(tempo.BarSeconds(song.Meter)/tempo.BeatSeconds()+0.5))
		x.Facts = paper.CountIn(p, song, tempo)
		if sec.Bars != nil {
			x.Clocks = int(*sec.Bars*float64(song.Meter.Beats)*4/float64(song.Meter.Unit)*clocksInQuarter + 0.5)
		}
	}
	mark := marks[place{s.SongID, s.SectionID}]
	x.Meant, x.Without = mark.meant, mark.without
	if sound, ok := p.FindSound(s.Sound); ok {
		x.Name, x.Short, x.Tape = sound.Name, sound.Short, sound.Tape
	}
	change := r.First
	if i > 0 {
		change = &r.Changes[i-1]
	}
	if change != nil {
		x.Verdict, x.NeededS, x.FreeS, x.Reason = change.Verdict, change.NeededS, change.FreeS, change.Reason
		x.Presses, x.Hands, x.Pressed = change.Presses, change.Hands, append(x.Pressed, paper.Pressed(*change)...)
	}
	return x
}
