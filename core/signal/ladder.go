package signal

import (
	"context"
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
)

// Ladder is the sounds of a set in order of loudness, and what is to be said of their levels.
type Ladder struct {
	Rungs    []Rung      `json:"rungs" doc:"The loudest first."`
	Steps    []LevelStep `json:"steps" doc:"Adjacent sections that are further apart than a listener would want."`
	Unity    []UnityOf   `json:"unity" doc:"What compressors and drives do to the level where they are switched in."`
	Headroom float64     `json:"headroom_db" doc:"Left in the loudest sound, under full scale at the microphone."`
	Findings []Finding   `json:"findings"`
}

// Rung is one sound.
type Rung struct {
	Sound    plan.ID  `json:"sound"`
	Name     string   `json:"name"`
	OverHome float64  `json:"over_home_lu"`
	Wanted   *float64 `json:"wanted_lu,omitempty"`
	By       float64  `json:"by_lu" doc:"How far outside its target."`
	Peak     float64  `json:"peak_dbfs"`
}

// LevelStep is a jump between two sections.
type LevelStep struct {
	Position int     `json:"position" doc:"Of the section it leads to."`
	Song     string  `json:"song"`
	Section  string  `json:"section"`
	From     plan.ID `json:"from"`
	To       plan.ID `json:"to"`
	Jump     float64 `json:"jump_lu"`
	Wanted   bool    `json:"wanted" doc:"The targets of the two sounds are as far apart."`
}

// UnityOf is how much louder a block makes a sound that uses it.
type UnityOf struct {
	Block  plan.Key `json:"block"`
	Name   string   `json:"name"`
	Sound  plan.ID  `json:"sound"`
	OnOver float64  `json:"on_over_off_lu"`
	Comp   bool     `json:"compressor"`
}

// Limits beyond which levels are worth a finding.
const (
	jumpLU    = 3.0
	unityLU   = 1.0
	headroomD = 1.0
)

// evens reports whether a box is meant to come out as loud as what goes in: a compressor, and a drive that is no boost.
func evens(e plan.Effect) bool {
	return e.Traits().Pushes && e != plan.EffectBoost
}

// Level puts the sounds of a set on a ladder. It fails when rig or set list are not there, and with
// the context's error when that is cancelled.
func Level(ctx context.Context, p *plan.Plan, rig, setList plan.ID, o Options) (*Ladder, error) {
	l, err := p.SetListByID(setList)
	if err != nil {
		return nil, fmt.Errorf("signal: %w", err)
	}
	r, err := newRendering(p, rig, o.Kept)
	if err != nil {
		return nil, err
	}
	sounds := r.recipes()
	out := &Ladder{Rungs: []Rung{}, Steps: []LevelStep{}, Unity: []UnityOf{}, Findings: []Finding{}}
	if len(sounds) == 0 {
		return out, nil
	}
	// Sounds as they are, then each with one compressor or drive out.
	settings := []Setting{}
	for _, s := range sounds {
		settings = append(settings, s.setting)
	}
	var without []UnityOf
	for _, s := range sounds {
		r.line(s.setting).each(func(x *stage) {
			if x.on && x.set.block.Bypass != plan.AlwaysOn && evens(x.effect) {
				without = append(
					without, UnityOf{Block: x.key, Name: x.name, Sound: s.sound.ID, Comp: x.effect == plan.EffectCompressor},
				)
				settings = append(settings, with(s.setting, x.key+"/on", plan.On(false)))
			}
		})
	}
	figures, err := r.fan(ctx, settings, o.Dry, false, o.Progress)
	if err != nil {
		return nil, err
	}
	peaks := make([]float64, len(sounds))
	err = inParallel(ctx, len(sounds), nil, func(i int) error {
		m := &figuring{}
		err := r.branch().stream(ctx, sounds[i].setting, r.source(sounds[i].setting).play(o.Dry), 1, mode{}, m.take)
		peaks[i] = m.figures().Peak
		return err
	})
	if err != nil {
		return nil, err
	}
	home := figures[max(0, homeOf(sounds))].loudness
	over := map[plan.ID]float64{}
	for i, s := range sounds {
		over[s.sound.ID] = figures[i].loudness - home
		low, high, asked := LoudnessBand(s.sound.Targets)
		rung := Rung{Sound: s.sound.ID, Name: s.sound.Name, OverHome: over[s.sound.ID], Peak: peaks[i]}
		if asked {
			rung.Wanted, rung.By = s.sound.Targets.LoudnessLU, off(rung.OverHome, low, high)
		}
		out.Rungs = append(out.Rungs, rung)
	}
	slices.SortStableFunc(out.Rungs, func(a, b Rung) int {
		switch {
		case a.OverHome > b.OverHome:
			return -1
		case a.OverHome < b.OverHome:
			return 1
		}
		return 0
	})
	at := map[plan.ID]int{}
	for i, s := range sounds {
		at[s.sound.ID] = i
	}
	for k, u := range without {
		u.OnOver = figures[at[u.Sound]].loudness - figures[len(sounds)+k].loudness
		out.Unity = append(out.Unity, u)
	}
	out.steps(p, l, over)
	out.find(r, out.Rungs[0])
	return out, nil
}

// steps lists the jumps between adjacent sections.
func (out *Ladder) steps(p *plan.Plan, l *plan.SetList, over map[plan.ID]float64) {
	var before *plan.Section
	position := -1
	for _, e := range l.Entries {
		song, ok := p.FindSong(e.Song)
		if !ok {
			continue
		}
		for i := range song.Sections {
			sec := &song.Sections[i]
			position++
			if before != nil && (i > 0 || e.Segue) {
				a, okA := over[before.Sound]
				b, okB := over[sec.Sound]
				if jump := b - a; okA && okB && math.Abs(jump) > jumpLU {
					out.Steps = append(
						out.Steps,
						LevelStep{
							Position: position, Song: song.Title, Section: sec.Label, From: before.Sound, To: sec.Sound, Jump: jump,
							Wanted: wanted(p, before.Sound, sec.Sound, jump),
						},
					)
				}
			}
			before = sec
		}
	}
}

// wanted reports whether the targets of two sounds are about as far apart as they are.
func wanted(p *plan.Plan, from, to plan.ID, jump float64) bool {
	a, _ := p.FindSound(from)
	b, _ := p.FindSound(to)
	if a == nil || b == nil || a.Targets.LoudnessLU == nil || b.Targets.LoudnessLU == nil {
		return false
	}
	return math.Abs(*b.Targets.LoudnessLU-*a.Targets.LoudnessLU-jump) <= jumpLU/2
}

func (out *Ladder) find(r *rendering, loudest Rung) {
	for _, x := range out.Rungs {
		if x.By != 0 {
			out.Findings = append(out.Findings,
				Finding{ID: levelID(x.Sound), Sound: x.Sound, Tunes: true, Title: x.Name + " is not at its level",
					Words: fmt.Sprintf("%+.1f LU over home, %s.", x.OverHome, shortWords(x.By, "LU", ""))})
		}
	}
	said := map[plan.Key]bool{}
	for _, u := range out.Unity {
		if !u.Comp || math.Abs(u.OnOver) <= unityLU || said[u.Block] {
			continue
		}
		said[u.Block] = true
		louder := "louder"
		if u.OnOver < 0 {
			louder = "softer"
		}
		out.Findings = append(out.Findings,
			Finding{ID: "level:unity:" + string(u.Block), Block: u.Block, Title: u.Name + " is not level",
				Words: fmt.Sprintf("On is %.1f LU %s than off.", math.Abs(u.OnOver), louder)})
	}
	peak := -240.0
	for _, x := range out.Rungs {
		peak = math.Max(peak, x.Peak)
	}
	out.Headroom = -peak
	if out.Headroom < headroomD {
		out.Findings = append(
			out.Findings,
			Finding{
				ID: "level:headroom", Sound: loudest.Sound, Title: "No headroom is left",
				Words: fmt.Sprintf("The loudest peak is %.1f dB from full scale at the microphone.", -out.Headroom),
			},
		)
	}
}
