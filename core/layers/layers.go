package layers

import (
	"fmt"
	"slices"

	"envex/core/plan"
	"envex/core/reach"
)

// Report is the layers of a set on a rig.
type Report struct {
	Looper   plan.Key  `json:"looper,omitempty" doc:"The looper's block; absent where the rig has none."`
	Name     string    `json:"name,omitempty"`
	Songs    []Song    `json:"songs" doc:"Those with layers, in the order of the set."`
	Findings []Finding `json:"findings"`
	Assumed  []string  `json:"assumed"`
}

// Song is the layers of a song of the set.
type Song struct {
	Entry   plan.ID `json:"entry"`
	Song    plan.ID `json:"song"`
	Title   string  `json:"title"`
	Layers  []Layer `json:"layers"`
	Presses []Press `json:"presses" doc:"On the bar, in order."`
	Under   []Under `json:"under" doc:"Layers that run where something after the looper stands otherwise than when they were recorded."`
}

// Layer is what is recorded.
type Layer struct {
	Name      string  `json:"name"`
	Section   plan.ID `json:"section"`
	Label     string  `json:"label"`
	Sound     plan.ID `json:"sound"`
	SoundName string  `json:"sound_name"`
	Recipe    plan.ID `json:"recipe,omitempty"`
	Bars      float64 `json:"bars"`
	LengthS   float64 `json:"length_s"`
	Over      bool    `json:"over" doc:"It is laid over what runs already."`

	tempo plan.Tempo
}

// Act is what a press does to the looper.
type Act string

// The acts of a looper.
const (
	Record  Act = "record"
	Overdub Act = "overdub"
	Close   Act = "close" // the recording, which plays from then on
	Play    Act = "play"
	Stop    Act = "stop"
)

// Press is a press of the looper's switch, on a bar.
type Press struct {
	Section plan.ID  `json:"section"`
	Label   string   `json:"label" doc:"The section it falls in."`
	Bar     float64  `json:"bar" doc:"Of the section, from 1."`
	AtS     float64  `json:"at_s" doc:"From the first downbeat of the song."`
	Act     Act      `json:"act" enum:"record,overdub,close,play,stop"`
	Layer   string   `json:"layer,omitempty"`
	Switch  plan.Key `json:"switch,omitempty"`
	Words   string   `json:"words"`
}

// Under is a layer that runs in a section where what stands after the looper is set otherwise.
type Under struct {
	Layer    string                  `json:"layer"`
	Section  plan.ID                 `json:"section"`
	Label    string                  `json:"label"`
	Recorded plan.ID                 `json:"recorded" doc:"The sound it was recorded in."`
	Recipe   plan.ID                 `json:"recipe" doc:"Of that sound."`
	Sound    plan.ID                 `json:"sound" doc:"The sound of the section."`
	Changes  []string                `json:"changes" doc:"What stands otherwise."`
	Over     map[plan.Key]plan.Value `json:"over" doc:"The settings after the looper, over the recorded sound: so the layer is heard here."`
	Words    string                  `json:"words"`
}

// Finding is something wrong with the layers.
type Finding struct {
	ID    string  `json:"id"`
	Title string  `json:"title"`
	Words string  `json:"words"`
	Entry plan.ID `json:"entry,omitempty"`
}

// Compute works out the layers of a set on a rig at one of its destinations, or as it stands when that is "". The
// plan must be valid. It fails when rig, destination or set list are not there.
func Compute(p *plan.Plan, rig, destination, setList plan.ID) (*Report, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("layers: %w", err)
	}
	l, err := there.SetListByID(setList)
	if err != nil {
		return nil, fmt.Errorf("layers: %w", err)
	}
	r, _ := there.FindRig(rig)
	w := &work{plan: there, rig: r, out: &Report{Songs: []Song{}, Findings: []Finding{}, Assumed: []string{}}}
	w.findLooper()
	for _, e := range l.Entries {
		song, ok := there.FindSong(e.Song)
		if !ok || len(song.Layers()) == 0 {
			continue
		}
		s := &looping{
			work: w, song: song,
			out: Song{Entry: e.ID, Song: song.ID, Title: song.Title, Layers: []Layer{}, Presses: []Press{}, Under: []Under{}},
		}
		s.run()
		w.out.Songs = append(w.out.Songs, s.out)
	}
	if len(w.out.Songs) == 0 {
		return w.out, nil
	}
	if w.out.Looper == "" {
		w.find(
			"", "layers:none", "No looper is in "+r.Name,
			"Songs of the set ask for layers, and the chain has nothing that records them.",
		)
		return w.out, nil
	}
	return w.out, w.feet(setList)
}

type work struct {
	plan   *plan.Plan
	rig    *plan.Rig
	out    *Report
	press  plan.Key // records and plays
	stop   plan.Key // stops
	name   string   // of the first
	stops  string   // how it is stopped, in words
	after  []plan.Key
	before map[plan.ID]bool // gear with a block before the looper
}

// findLooper finds the first looper of the chain, and its switches.
func (w *work) findLooper() {
	w.before = map[plan.ID]bool{}
	for _, key := range w.rig.Stops() {
		g, ok := w.plan.FindGear(key.Gear())
		if !ok {
			continue
		}
		b, ok := g.FindBlock(plan.ID(key.Rest()))
		switch {
		case w.out.Looper != "":
			w.after = append(w.after, key)
		case ok && b.Effect == plan.EffectLooper:
			w.out.Looper, w.out.Name = key, g.StopName(b)
			w.switches(g)
		default:
			w.before[key.Gear()] = true
		}
	}
}

func (w *work) switches(g *plan.Gear) {
	for i := range g.Footswitches {
		s := &g.Footswitches[i]
		key := plan.Key(g.ID) + "/" + plan.Key(s.ID)
		switch {
		case s.Label == "stop":
			w.stop, w.stops = key, "press"
		case w.press == "":
			w.press, w.name = key, w.plan.SwitchName(w.rig, g, s)
		}
	}
	if w.stop == "" && w.press != "" {
		w.stop, w.stops = w.press, "double press"
		w.out.Assumed = append(w.out.Assumed, g.Name+" stops by a double press: it has no switch called stop.")
	}
}

func (w *work) find(entry plan.ID, id, title, words string) {
	f := Finding{ID: id, Title: title, Words: words, Entry: entry}
	if !slices.ContainsFunc(w.out.Findings, func(x Finding) bool { return x.ID == f.ID }) {
		w.out.Findings = append(w.out.Findings, f)
	}
}

// feet are the presses of layers that fall where the foot has no time left after a change.
func (w *work) feet(setList plan.ID) error {
	report, err := reach.Compute(w.plan, w.rig.ID, setList)
	if err != nil {
		return fmt.Errorf("layers: %w", err)
	}
	f := w.rig.Profile.Filled()
	least := f.A + f.Dwell
	for _, c := range report.Changes {
		i := slices.IndexFunc(w.out.Songs, func(s Song) bool { return s.Entry == c.Entry })
		if i < 0 || len(c.Presses) == 0 || !c.Verdict.Reached() || c.BetweenSet {
			continue
		}
		for _, p := range w.out.Songs[i].Presses {
			if p.Section == c.SectionID && p.Bar == 1 && c.SlackS < least {
				w.find(c.Entry, fmt.Sprintf("layers:busy:%s:%s", c.SongID, c.SectionID),
					fmt.Sprintf("%s, %s: the foot is busy", c.Song, c.Section),
					fmt.Sprintf(
						"%s falls on the bar of a change that leaves %.2f s; a press more takes %.2f s at least.", p.Words, c.SlackS,
						least,
					))
			}
		}
	}
	return nil
}

// Looped is what a looper's switch is pressed for in a section, and on which bar where that is not the first.
func (r *Report) Looped(entry, section plan.ID) []string {
	var list []string
	for _, song := range r.Songs {
		for _, p := range song.Presses {
			if song.Entry != entry || p.Section != section {
				continue
			}
			words := p.Words
			if p.Bar != 1 {
				words += fmt.Sprintf(" (bar %g)", p.Bar)
			}
			list = append(list, words)
		}
	}
	return list
}
