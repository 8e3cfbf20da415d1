package dial

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"math"
	"slices"

	"envex/core/hearing"
	"envex/core/plan"
	"envex/core/signal"
)

// Travels are what each knob of a sound does over its travel.
type Travels struct {
	Rig    plan.ID  `json:"rig"`
	Sound  plan.ID  `json:"sound"`
	Name   string   `json:"name"`
	Recipe plan.ID  `json:"recipe"`
	Knobs  []Travel `json:"knobs" doc:"The one that does most where it stands comes first."`
}

// Travel is what one knob does.
type Travel struct {
	signal.KnobOf
	Points []Point `json:"points" doc:"From its low end to its high end; where it stands is one of them."`
	Mark   float64 `json:"per_mark" doc:"What a tenth of its turn does where it stands, in just noticeable differences: 1 LU, 5 points of dirt, or 1.5 dB of what lies over 2 kHz or under 200 Hz are one."`
	Steep  Span    `json:"steep" doc:"Where a tenth of its turn does most."`
	Words  string  `json:"words" doc:"What a small turn does."`
	Shares string  `json:"shares,omitempty" doc:"Which other sounds move with it, in words."`
}

// Point is a place of a knob and what the sound is there.
type Point struct {
	At     float64 `json:"at"`
	Louder float64 `json:"louder_lu" doc:"Than where it stands."`
	Dirt   float64 `json:"dirt_pct"`
	Bright float64 `json:"brighter_db" doc:"What lies over 2 kHz, than where it stands."`
	Deep   float64 `json:"deeper_db" doc:"What lies under 200 Hz, than where it stands."`
}

// Span is a part of a knob's turn.
type Span struct {
	From float64 `json:"from"`
	To   float64 `json:"to"`
	Mark float64 `json:"per_mark" doc:"In just noticeable differences, of a tenth of its turn."`
}

// Differences that are just noticed: the working thresholds of two sounds that are the same, and of brightness half of
// what shelving controls are usually marked by.
const (
	noticedLU     = 1.0
	noticedDirt   = 5.0
	noticedBright = 1.5 // of depth too
)

// apart is how far two points are from each other, in just noticeable differences.
func (p Point) apart(q Point) float64 {
	return math.Sqrt(square((p.Louder-q.Louder)/noticedLU) + square((p.Dirt-q.Dirt)/noticedDirt) +
		square((p.Bright-q.Bright)/noticedBright) + square((p.Deep-q.Deep)/noticedBright))
}

func square(x float64) float64 { return x * x }

// What is softer than where a knob stands by so many LU is silent; by so many, nobody asks how steep it is there.
const (
	silent = -60.0
	faint  = -20.0
)

// places are where a knob is tried, in tenths of its turn.
var places = []float64{0, 1, 2.5, 4, 5.5, 7, 8.5, 10}

// Options say how it is worked out.
type Options struct {
	Song     plan.ID // that is played, where steps are of one
	Kept     *signal.Kept
	Progress func(share float64)
}

// Knobs are what each knob of a sound does over its travel, those of the guitar among them: loudness, dirt and
// brightness. What belongs to delays, reverbs and movement is metered with them on, the others without. It fails when
// rig, sound or recipe are not there, and with the context's error when that is cancelled.
func Knobs(ctx context.Context, p *plan.Plan, rig, sound, recipe plan.ID, o Options) (*Travels, error) {
	list, err := signal.Knobs(p, rig, sound, recipe)
	if err != nil {
		return nil, fmt.Errorf("dial: %w", err)
	}
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("dial: %w", err)
	}
	s, err := p.SoundByID(sound)
	if err != nil {
		return nil, fmt.Errorf("dial: %w", err)
	}
	rec := r.RecipeFor(plan.Section{Sound: sound, Recipe: recipe}) // a knob has one
	out := &Travels{Rig: rig, Sound: sound, Name: s.Name, Recipe: rec.ID, Knobs: []Travel{}}
	for _, k := range list {
		out.Knobs = append(out.Knobs, Travel{KnobOf: k, Points: pointsOf(k), Shares: sharing(p, r, k.Shared)})
	}
	if err := meterDry(ctx, p, *rec, out, o); err != nil {
		return nil, err
	}
	if err := meterWet(ctx, p, *rec, out, o); err != nil {
		return nil, err
	}
	for i := range out.Knobs {
		out.Knobs[i].judge()
	}
	slices.SortStableFunc(out.Knobs, func(a, b Travel) int { return cmp.Compare(b.Mark, a.Mark) })
	return out, nil
}

// sharing names sounds that move with a knob: all of them at once where they are all that the rig makes besides.
func sharing(p *plan.Plan, r *plan.Rig, sounds []plan.ID) string {
	made := map[plan.ID]bool{}
	for _, rec := range r.Recipes {
		made[rec.Sound] = true
	}
	if len(sounds) > 2 && len(sounds) == len(made)-1 {
		return "every other sound"
	}
	var names []string
	for _, id := range sounds {
		if s, ok := p.FindSound(id); ok {
			names = append(names, s.Name)
		}
	}
	return plan.Listed(names)
}

// pointsOf are the places of a knob that are metered: where it stands in place of one that is near it.
func pointsOf(k signal.KnobOf) []Point {
	turn := k.High - k.Low
	points := []Point{{At: k.At}}
	for _, x := range places {
		at := k.Low + x*turn/10
		if math.Abs(at-k.At) >= 0.05*turn {
			points = append(points, Point{At: math.Round(100*at) / 100})
		}
	}
	slices.SortFunc(points, func(a, b Point) int { return cmp.Compare(a.At, b.At) })
	return points
}

// wet reports whether a knob belongs to what rings or moves: what it does is not heard where that is bypassed.
func wet(p *plan.Plan, k signal.KnobOf) bool {
	v, ok := p.VariableOf(k.Key)
	if !ok || v.Block == "" {
		return false
	}
	g, _ := p.FindGear(v.Gear)
	b, ok := g.FindBlock(v.Block)
	return ok && b.Effect.Traits().Wet
}

func meterDry(ctx context.Context, p *plan.Plan, rec plan.Recipe, out *Travels, o Options) error {
	x, err := signal.NewSketcher(p, out.Rig, o.Kept)
	if err != nil {
		return fmt.Errorf("dial: %w", err)
	}
	now, err := x.Of(ctx, []plan.Recipe{rec})
	if err != nil {
		return fmt.Errorf("dial: %w", err)
	}
	for i := range out.Knobs {
		k := &out.Knobs[i]
		var list []plan.Recipe
		for n := range k.Points {
			k.Points[n].Dirt = now[0].Dirt
			list = append(list, turned(rec, k.Key, k.Points[n].At))
		}
		if wet(p, k.KnobOf) {
			continue
		}
		got, err := x.Of(ctx, list)
		if err != nil {
			return fmt.Errorf("dial: %w", err)
		}
		for n, q := range got {
			x := Point{
				At: k.Points[n].At, Louder: q.Loudness - now[0].Loudness, Dirt: q.Dirt, Bright: q.Bright - now[0].Bright,
				Deep: q.Deep - now[0].Deep,
			}
			if x.Louder < silent {
				x.Louder, x.Bright, x.Deep = silent, 0, 0
			}
			k.Points[n] = x
		}
		if o.Progress != nil {
			o.Progress(0.7 * float64(i+1) / float64(len(out.Knobs)))
		}
	}
	return nil
}

func turned(rec plan.Recipe, key plan.Key, to float64) plan.Recipe {
	rec.Values = maps.Clone(rec.Values)
	if rec.Values == nil {
		rec.Values = map[plan.Key]plan.Value{}
	}
	rec.Values[key] = plan.Number(to)
	return rec
}

// meterWet meters the knobs of what rings or moves as they are heard.
func meterWet(ctx context.Context, p *plan.Plan, rec plan.Recipe, out *Travels, o Options) error {
	list := []signal.Playing{{Sound: out.Sound, Recipe: rec.ID, HeardOnly: true}}
	var where [][2]int
	for i, k := range out.Knobs {
		if !wet(p, k.KnobOf) {
			continue
		}
		for n, point := range k.Points {
			list = append(list, signal.Playing{
				Sound: out.Sound, Recipe: rec.ID, HeardOnly: true, Over: map[plan.Key]plan.Value{k.Key: plan.Number(point.At)},
			})
			where = append(where, [2]int{i, n})
		}
	}
	if len(where) == 0 {
		return nil
	}
	got, err := signal.Spread(ctx, p, out.Rig, list, signal.Options{Kept: o.Kept, Progress: func(share float64) {
		if o.Progress != nil {
			o.Progress(0.7 + 0.3*share)
		}
	}})
	if err != nil {
		return fmt.Errorf("dial: %w", err)
	}
	for k, at := range where {
		point := &out.Knobs[at[0]].Points[at[1]]
		point.Louder = got[k+1].Heard.Level() - got[0].Heard.Level()
		point.Bright = between(got[k+1].Heard, 2000, 20000) - between(got[0].Heard, 2000, 20000)
		point.Deep = between(got[k+1].Heard, 0, 200) - between(got[0].Heard, 0, 200)
	}
	return nil
}

// between is the level of what lies between two frequencies, over that of all.
func between(s hearing.Spectrum, low, high float64) float64 {
	part := s
	for band := range part {
		if hz := hearing.Centre(band); hz < low || hz >= high {
			part[band] = 0
		}
	}
	return part.Level() - s.Level()
}

// judge says where a knob is steep and what a mark does where it stands.
func (t *Travel) judge() {
	turn := t.High - t.Low
	var near []float64
	var up Point
	for i := 1; i < len(t.Points); i++ {
		a, b := t.Points[i-1], t.Points[i]
		mark := a.apart(b) / (b.At - a.At) * turn / 10
		if mark > t.Steep.Mark && math.Min(a.Louder, b.Louder) > faint {
			t.Steep = Span{From: a.At, To: b.At, Mark: mark}
		}
		if a.At == t.At || b.At == t.At {
			near = append(near, mark)
			by := turn / 10 / (b.At - a.At)
			up.Louder += by * (b.Louder - a.Louder)
			up.Dirt += by * (b.Dirt - a.Dirt)
			up.Bright += by * (b.Bright - a.Bright)
			up.Deep += by * (b.Deep - a.Deep)
		}
	}
	if n := float64(len(near)); n > 0 {
		t.Mark = slices.Max(near)
		up.Louder, up.Dirt, up.Bright, up.Deep = up.Louder/n, up.Dirt/n, up.Bright/n, up.Deep/n
	}
	if t.At == t.High {
		up = Point{Louder: -up.Louder, Dirt: -up.Dirt, Bright: -up.Bright, Deep: -up.Deep}
		t.Words = wordsOf(t.Mark, up, "down")
		return
	}
	t.Words = wordsOf(t.Mark, up, "up")
}

// wordsOf says what turning a knob by a tenth of its turn does.
func wordsOf(mark float64, up Point, way string) string {
	if mark < 0.25 {
		return "A tenth of its turn is not heard here."
	}
	var list []string
	say := func(x, noticed float64, format string) {
		if math.Abs(x) >= 0.25*noticed {
			list = append(list, fmt.Sprintf(format, x))
		}
	}
	say(up.Louder, noticedLU, "%+.1f LU")
	say(up.Dirt, noticedDirt, "%+.0f points of dirt")
	say(up.Bright, noticedBright, "%+.1f dB of brightness")
	say(up.Deep, noticedBright, "%+.1f dB of depth")
	if len(list) == 0 {
		return "A tenth of its turn is just heard here."
	}
	return "A tenth " + way + ": " + plan.Listed(list) + "."
}
