package signal

import (
	"cmp"
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

// Rung is one sound, by one recipe and with one choice of boxes in swap slots.
type Rung struct {
	Sound     plan.ID  `json:"sound"`
	Name      string   `json:"name"`
	Recipe    plan.ID  `json:"recipe"`
	First     bool     `json:"first" doc:"By the first recipe of the sound, as the rig stands."`
	Way       string   `json:"way,omitempty" doc:"Where it is not: the recipe, and the boxes that songs pick."`
	Positions []int    `json:"positions,omitempty" doc:"Of the sections of the set that are played so."`
	OverHome  float64  `json:"over_home_lu"`
	Wanted    *float64 `json:"wanted_lu,omitempty"`
	By        float64  `json:"by_lu" doc:"How far outside its target."`
	Dirt      float64  `json:"dirt_pct"`
	DirtBy    float64  `json:"dirt_by_pct" doc:"How far outside its target."`
	Peak      float64  `json:"peak_dbfs"`
}

// Title is the name of the sound, and how it is made where it is not made as usual.
func (x Rung) Title() string {
	if x.Way == "" {
		return x.Name
	}
	return x.Name + " (" + x.Way + ")"
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
	ways, err := r.waysOf(l)
	if err != nil {
		return nil, err
	}
	out := &Ladder{Rungs: []Rung{}, Steps: []LevelStep{}, Unity: []UnityOf{}, Findings: []Finding{}}
	if len(ways) == 0 {
		return out, nil
	}
	// Sounds as they are, then each with one compressor or drive out.
	without := map[*way][]UnityOf{}
	figures, err := fanWays(ctx, ways, func(w *way) (settings []Setting) {
		w.on.line(w.setting).each(func(x *stage) {
			if x.on && x.set.block.Bypass != plan.AlwaysOn && evens(x.effect) {
				without[w] = append(without[w], UnityOf{
					Block: x.key, Name: x.name, Sound: w.sound.ID, Comp: x.effect == plan.EffectCompressor,
				})
				settings = append(settings, with(w.setting, x.key+"/on", plan.On(false)))
			}
		})
		return settings
	}, o.Dry, o.Progress)
	if err != nil {
		return nil, err
	}
	peaks := make([]float64, len(ways))
	err = inParallel(ctx, len(ways), nil, func(i int) error {
		m, w := &figuring{}, ways[i]
		err := w.on.branch().stream(ctx, w.setting, w.on.source(w.setting).play(o.Dry), 1, mode{}, m.take)
		peaks[i] = m.figures().Peak
		return err
	})
	if err != nil {
		return nil, err
	}
	home := figures[max(0, slices.IndexFunc(ways, func(w *way) bool { return w.sound.Role == plan.HomeRole }))][0].loudness
	for i, w := range ways {
		low, high, asked := LoudnessBand(w.sound.Targets)
		rung := Rung{
			Sound: w.sound.ID, Name: w.sound.Name, Recipe: w.recipe.ID, Way: w.words, First: w.first, Positions: w.at,
			OverHome: figures[i][0].loudness - home, Peak: peaks[i], Dirt: figures[i][0].dirt,
		}
		if from, to, asked := DirtBand(w.sound.Targets); asked {
			rung.DirtBy = off(rung.Dirt, from, to)
		}
		if asked {
			rung.Wanted, rung.By = w.sound.Targets.LoudnessLU, off(rung.OverHome, low, high)
		}
		out.Rungs = append(out.Rungs, rung)
		for k, u := range without[w] {
			u.OnOver = figures[i][0].loudness - figures[i][k+1].loudness
			out.Unity = append(out.Unity, u)
		}
	}
	slices.SortStableFunc(out.Rungs, func(a, b Rung) int { return cmp.Compare(b.OverHome, a.OverHome) })
	out.steps(p, l)
	out.find(out.Rungs[0])
	return out, nil
}

// ByPosition are the rungs by the sections that are played on them.
func (out *Ladder) ByPosition() map[int]Rung {
	at := map[int]Rung{}
	for _, x := range out.Rungs {
		for _, position := range x.Positions {
			at[position] = x
		}
	}
	return at
}

// steps lists the jumps between adjacent sections.
func (out *Ladder) steps(p *plan.Plan, l *plan.SetList) {
	at := out.ByPosition()
	position := -1
	for _, e := range l.Entries {
		song, ok := p.FindSong(e.Song)
		if !ok {
			continue
		}
		for i, sec := range song.Sections {
			position++
			a, okA := at[position-1]
			b, okB := at[position]
			if !okA || !okB || i == 0 && !e.Segue {
				continue
			}
			if jump := b.OverHome - a.OverHome; math.Abs(jump) > jumpLU {
				out.Steps = append(out.Steps, LevelStep{
					Position: position, Song: song.Title, Section: sec.Label, From: a.Sound, To: b.Sound, Jump: jump,
					Wanted: wanted(p, a.Sound, b.Sound, jump),
				})
			}
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

func (out *Ladder) find(loudest Rung) {
	for _, x := range out.Rungs {
		if x.By != 0 {
			id := levelID(x.Sound)
			if !x.First {
				id += ":" + string(x.Recipe) + ":" + x.Way
			}
			// Knobs are looked for as the rig stands, by the first recipe.
			out.Findings = append(out.Findings, Finding{
				ID: id, Sound: x.Sound, Tunes: x.First, Title: x.Title() + " is not at its level",
				Words: fmt.Sprintf("%+.1f LU over home, %s.", x.OverHome, shortWords(x.By, "LU", "")),
			})
		}
	}
	for _, x := range out.Rungs {
		if x.DirtBy == 0 || x.First { // of the first the map of gain stages says it
			continue
		}
		more := "dirtier"
		if x.DirtBy < 0 {
			more = "cleaner"
		}
		out.Findings = append(out.Findings, Finding{
			ID: "level:dirt:" + string(x.Sound) + ":" + string(x.Recipe) + ":" + x.Way, Sound: x.Sound,
			Title: x.Title() + " is " + more + " than it asks",
			Words: fmt.Sprintf("%.0f %% dirt, %s.", x.Dirt, shortWords(x.DirtBy, "%", "")),
		})
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
