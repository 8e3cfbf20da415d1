package signal

import (
	"context"
	"fmt"
	"math"
	"runtime"
	"slices"
	"sync"

	"envex/core/plan"
)

// Report is the figures of every sound that a rig has a recipe for.
type Report struct {
	Rig     plan.ID  `json:"rig"`
	Home    plan.ID  `json:"home" doc:"The sound that loudness is counted from; the first where none is called home."`
	Sounds  []Sound  `json:"sounds"`
	Assumed []string `json:"assumed" doc:"What was taken where nobody has said."`
}

// Sound is one sound as a rig makes it, against what it has to be.
type Sound struct {
	Sound    plan.ID `json:"sound"`
	Name     string  `json:"name"`
	Recipe   plan.ID `json:"recipe"`
	Figures  Figures `json:"figures"`
	OverHome float64 `json:"over_home_lu" doc:"Of the playing, without what rings."`
	Checks   []Check `json:"checks"`
	Modelled bool    `json:"modelled" doc:"No level of it was measured."`
}

// Met reports whether every target is met.
func (s Sound) Met() bool {
	for _, c := range s.Checks {
		if !c.Met {
			return false
		}
	}
	return true
}

// Check is one target of a sound and whether it is met.
type Check struct {
	What  string  `json:"what" enum:"dirt,loudness,effect,width"`
	Met   bool    `json:"met"`
	By    float64 `json:"by" doc:"How far off, in the unit of the target: too little is negative."`
	Words string  `json:"words"`
}

// Options say how sounds are metered.
type Options struct {
	Dry      []float64 // a recording to play instead of the phrase, in volts at 48 kHz
	Progress func(share float64)
	Kept     *Kept     // what earlier questions left; nil where nothing is kept
	Only     []plan.ID // for [Measure]: these sounds; all when empty
	Want     Want      // for [Measure]: which figures
}

// Want is which figures of a sound are wanted. The others are 0.
type Want int

// The figures that can be wanted.
const (
	Everything Want = iota
	ForTargets      // loudness, dirt, and what else the sound's targets are held against
	AsHeard         // loudness, and what becomes of both sides
	ForEffects      // what the effects that it asks are held against, without loudness and dirt
	WithTimes       // as ForTargets, and what delays and reverbs do, and both sides
)

// Measure meters every sound of a rig as it stands in the plan, or those that are asked for, and checks it against
// its targets. It fails when the rig is not there, and with the context's error when that is cancelled.
func Measure(ctx context.Context, p *plan.Plan, rig plan.ID, o Options) (*Report, error) {
	r, err := newRendering(p, rig, o.Kept)
	if err != nil {
		return nil, err
	}
	list := r.recipes()
	if home := homeOf(list); len(o.Only) > 0 && home >= 0 {
		against := list[home].sound.ID
		list = slices.DeleteFunc(list, func(m made) bool {
			return m.sound.ID != against && !slices.Contains(o.Only, m.sound.ID)
		})
	}
	out := &Report{Rig: rig, Sounds: make([]Sound, len(list)), Assumed: []string{}}
	err = inParallel(ctx, len(list), o.Progress, func(i int) error {
		want := everything
		if o.Want != Everything {
			want = depthFor(list[i].sound.Targets, o.Want)
		}
		want.spread = len(list) < runtime.GOMAXPROCS(0)
		f, err := r.branch().figures(ctx, list[i].setting, o.Dry, want)
		if err != nil {
			return err
		}
		out.Sounds[i] = Sound{
			Sound: list[i].sound.ID, Name: list[i].sound.Name, Recipe: list[i].recipe.ID, Figures: *f,
			Modelled: !r.measuredIn(list[i].setting),
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	for _, m := range list {
		r.line(m.setting)
		for _, words := range append(slices.Clone(r.assumed), r.assumptions(m.setting)...) {
			if !slices.Contains(out.Assumed, words) {
				out.Assumed = append(out.Assumed, words)
			}
		}
	}
	home := homeOf(list)
	for i := range out.Sounds {
		s := &out.Sounds[i]
		if home >= 0 {
			out.Home = list[home].sound.ID
			s.OverHome = s.Figures.Playing - out.Sounds[home].Figures.Playing
		}
		s.Checks = r.checks(list[i], s.Figures, s.OverHome)
	}
	if len(o.Only) > 0 { // the home sound was needed, and need not have been asked for
		out.Sounds = slices.DeleteFunc(out.Sounds, func(s Sound) bool { return !slices.Contains(o.Only, s.Sound) })
	}
	return out, nil
}

// made is a sound with the recipe that makes it and the rig as that sets it.
type made struct {
	sound   *plan.Sound
	recipe  *plan.Recipe
	setting Setting
	tempo   plan.Tempo
}

// recipes are the sounds of the plan that the rig makes, each by its first recipe, in the plan's order.
func (r *rendering) recipes() []made {
	var list []made
	for i := range r.plan.Sounds {
		sound := &r.plan.Sounds[i]
		rec := r.rig.RecipeFor(plan.Section{Sound: sound.ID})
		if rec == nil {
			continue
		}
		tempo := r.tempoOf(sound.ID)
		list = append(list, made{sound, rec, r.setFor(rec, sound, tempo), tempo})
	}
	return list
}

// branch is a rendering of the same rig for another goroutine.
func (r *rendering) branch() *rendering {
	return &rendering{plan: r.plan, rig: r.rig, path: r.path, wired: r.wired, kept: r.kept, digests: r.digests}
}

// tempoOf is that of the first song which uses a sound, 120 where none does.
func (r *rendering) tempoOf(sound plan.ID) plan.Tempo { return r.plan.FirstTempo(sound) }

// homeOf is the sound of the home role, else the first; -1 where there is none.
func homeOf(list []made) int {
	for i, m := range list {
		if m.sound.Role == plan.HomeRole {
			return i
		}
	}
	return min(0, len(list)-1)
}

// measuredIn reports whether the level of a block that is on was measured.
func (r *rendering) measuredIn(s Setting) bool {
	for _, l := range r.rig.Levels {
		if s.At(l.Block + "/on").IsOn() {
			return true
		}
	}
	return false
}

// DirtBand is the band a sound's dirt has to be in, in per cent, and whether it asks for one.
func DirtBand(t plan.Targets) (low, high float64, asked bool) {
	low, high = 0, 100
	if t.DirtMin != nil {
		low, asked = *t.DirtMin, true
	}
	if t.DirtMax != nil {
		high, asked = *t.DirtMax, true
	}
	return low, high, asked
}

// usualTolerance is how far a loudness may be off where the sound does not say, in LU.
const usualTolerance = 1.0

// LoudnessBand is the band a sound's loudness over home has to be in, in LU, and whether it asks for one.
func LoudnessBand(t plan.Targets) (low, high float64, asked bool) {
	if t.LoudnessLU == nil {
		return math.Inf(-1), math.Inf(1), false
	}
	tolerance := usualTolerance
	if t.ToleranceLU != nil {
		tolerance = *t.ToleranceLU
	}
	return *t.LoudnessLU - tolerance, *t.LoudnessLU + tolerance, true
}

// off is how far x is outside a band: negative below it, 0 within.
func off(x, low, high float64) float64 {
	switch {
	case x < low:
		return x - low
	case x > high:
		return x - high
	}
	return 0
}

func (r *rendering) checks(m made, f Figures, over float64) []Check {
	list := []Check{}
	if low, high, asked := DirtBand(m.sound.Targets); asked {
		by := off(f.Dirt, low, high)
		list = append(list, Check{What: "dirt", Met: by == 0, By: by, Words: bandWords("dirt", f.Dirt, low, high, by, "%")})
	}
	if low, high, asked := LoudnessBand(m.sound.Targets); asked {
		by := off(over, low, high)
		list = append(
			list, Check{What: "loudness", Met: by == 0, By: by, Words: bandWords("over home", over, low, high, by, "LU")},
		)
	}
	on := map[plan.Effect]bool{}
	r.line(m.setting).each(func(s *stage) {
		if s.on {
			on[s.effect] = true
		}
	})
	answers := map[int]plan.Key{}
	for key, i := range r.plan.Answers(r.rig, m.recipe, m.sound) {
		answers[i] = key
	}
	for i, h := range m.sound.Targets.Effects {
		c := Check{What: "effect", Met: on[h.Effect], Words: fmt.Sprintf("%s is heard.", h.Effect)}
		if !c.Met {
			c.By, c.Words = -1, fmt.Sprintf("No %s is on.", h.Effect)
		}
		if h.Effect == plan.EffectDelay && h.Repeats != nil && c.Met {
			c = repeatsCheck(f, answers[i], *h.Repeats)
		}
		if h.Effect == plan.EffectDelay && answers[i] == "" && c.Met {
			c.Met, c.By, c.Words = false, -1, "Fewer delays are on than it asks."
		}
		list = append(list, c)
		if h.Effect == plan.EffectDelay && h.LevelDB != nil && c.Met {
			list = append(list, firstRepeatCheck(f, answers[i], *h.LevelDB))
		}
		if h.Effect == plan.EffectReverb && h.Size != "" && c.Met {
			list = append(list, reverbSizeCheck(f, answers[i], h.Size))
		}
	}
	if m.sound.Targets.Width == "stereo" {
		c := Check{What: "width", Met: f.Sides != nil && *f.Sides < 0.98, Words: "It is wide."}
		if !c.Met {
			c.By, c.Words = -1, "It has to be stereo, and both sides carry the same."
		}
		list = append(list, c)
	}
	return list
}

// repeatsCheck compares the repeats that can be heard of the delay that answers for them with those that are
// asked: within a half of them, and one at least.
func repeatsCheck(f Figures, stop plan.Key, want int) Check {
	heard, name := 0, "It"
	for _, t := range f.Times {
		if t.Stop == stop {
			heard, name = t.Audible, t.Name
		}
	}
	by := heard - want
	return Check{
		What: "effect", Met: abs(by) <= max(1, want/2), By: float64(by),
		Words: fmt.Sprintf("%d repeats of %s above -30 dB; %d asked.", heard, name, want),
	}
}

// repeatTolerance is how far the first repeat may be from what a sound asks, in dB: as much as is easily heard.
const repeatTolerance = 3.0

// firstRepeatCheck compares how loud the first repeat of a delay is with what is asked of it.
func firstRepeatCheck(f Figures, stop plan.Key, want float64) Check {
	for _, t := range f.Times {
		if t.Stop == stop {
			by := off(t.First, want-repeatTolerance, want+repeatTolerance)
			return Check{
				What: "effect", Met: by == 0, By: by,
				Words: fmt.Sprintf("The first repeat of %s is %+.1f dB over the dry note; %+.1f dB asked.", t.Name, t.First, want),
			}
		}
	}
	return Check{What: "effect", By: -1, Words: fmt.Sprintf("No delay answers for a first repeat of %+.1f dB.", want)}
}

// reverbSizes is how long a reverb of a size rings, in seconds to -60 dB. The bands meet with some room, since
// nobody hears a border. A club is under a second, a theatre one to two, a hall two or more: after the usual
// figures of room acoustics, such as H. Kuttruff, "Room Acoustics".
var reverbSizes = map[string][2]float64{"small": {0, 1.1}, "medium": {0.9, 2.2}, "large": {1.8, math.Inf(1)}}

// reverbSizeCheck compares how long the reverb that answers for a size rings with what is asked of it.
func reverbSizeCheck(f Figures, stop plan.Key, size string) Check {
	band := reverbSizes[size]
	for _, t := range f.Times {
		if t.Stop == stop {
			by := off(t.Rings, band[0], band[1])
			return Check{
				What: "effect", Met: by == 0, By: by,
				Words: fmt.Sprintf("%s rings for %.1f s; %s.", t.Name, t.Rings, sizeWords(size, band)),
			}
		}
	}
	return Check{What: "effect", By: -1, Words: fmt.Sprintf("No reverb answers for a %s one.", size)}
}

func sizeWords(size string, band [2]float64) string {
	switch {
	case math.IsInf(band[1], 1):
		return fmt.Sprintf("%s is %.1f s or more", size, band[0])
	case band[0] == 0:
		return fmt.Sprintf("%s is %.1f s or less", size, band[1])
	}
	return fmt.Sprintf("%s is %.1f to %.1f s", size, band[0], band[1])
}

func abs(n int) int { return max(n, -n) }

func bandWords(what string, x, low, high, by float64, unit string) string {
	x = math.Round(10*x)/10 + 0 // nothing is -0.0 of anything
	switch {
	case by < 0:
		return fmt.Sprintf("%.1f %s %s, %.1f short of %g.", x, unit, what, -by, low)
	case by > 0:
		return fmt.Sprintf("%.1f %s %s, %.1f over %g.", x, unit, what, by, high)
	}
	return fmt.Sprintf("%.1f %s %s.", x, unit, what)
}

// inParallel does n pieces of work on as many processors as there are, says how far it is, and stops
// at the first error.
func inParallel(ctx context.Context, n int, progress func(float64), work func(i int) error) error {
	var (
		mu    sync.Mutex
		done  int
		first error
		wait  sync.WaitGroup
		next  = make(chan int)
	)
	for range min(n, runtime.GOMAXPROCS(0)) {
		wait.Go(func() {
			for i := range next {
				err := ctx.Err()
				if err == nil {
					err = guarded(work, i)
				}
				mu.Lock()
				if done++; err != nil && first == nil {
					first = err
				}
				if progress != nil && first == nil {
					progress(float64(done) / float64(n))
				}
				mu.Unlock()
			}
		})
	}
	for i := range n {
		next <- i
	}
	close(next)
	wait.Wait()
	if first != nil {
		return fmt.Errorf("signal: %w", first)
	}
	return nil
}

// guarded turns a fault inside a piece of work into its error: one that escapes a goroutine would take
// everything down.
func guarded(work func(i int) error, i int) (err error) {
	defer func() {
		if fault := recover(); fault != nil {
			err = fmt.Errorf("something went wrong inside Envex: %v", fault)
		}
	}()
	return work(i)
}
