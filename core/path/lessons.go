package path

import (
	"fmt"
	"slices"
	"strings"

	"envex/core/plan"
)

// Lesson is a rule of order: why it is so, who sees it otherwise, what to listen for, and how it stands on a rig.
type Lesson struct {
	Rule   string  `json:"rule"`
	Title  string  `json:"title"`
	Reason string  `json:"reason"`
	Weight float64 `json:"weight" doc:"How much it counts against others."`
	Listen string  `json:"listen" doc:"A question to the ear."`

	Question *Question `json:"question,omitempty" doc:"What good players disagree on, where the rule is one side of it."`
	Pairs    []Pair    `json:"pairs" doc:"Boxes of the rig that it is about, at most three."`
}

// Pair is two boxes of the main line that a rule is about.
type Pair struct {
	Stops []plan.Key  `json:"stops" doc:"The one that had better come first, then the other."`
	Names []string    `json:"names"`
	Kept  bool        `json:"kept" doc:"They stand so."`
	Path  []plan.Node `json:"path" doc:"The chain with the two exchanged, to be compared and heard; empty where that cannot be wired."`
}

// mostPairs is how many pairs a lesson shows.
const mostPairs = 3

// questions to the ear, by rule.
var listenFor = map[string]string{
	"looper-last":             "Does the loop keep its sound when you switch the drive off?",
	"stereo-after-mono":       "Is there still a left and a right at the end?",
	"pitch-before-gain":       "Does the added note hold still, or does it warble?",
	"fuzz-before-buffer":      "Does the fuzz clean up when you turn the guitar down?",
	"gate-after-gain":         "Is it quiet between notes with the drive on?",
	"gate-before-delay":       "Do the repeats die away, or are they cut?",
	"volume-before-time":      "Do the repeats ring on when the heel comes down?",
	"gain-before-modulation":  "Does the wobble stay clear, or does it turn to grit?",
	"short-before-long":       "Can you hear any difference at all?",
	"light-before-heavy":      "Does the second drive tighten up when the first comes on?",
	"fuzz-before-overdrive":   "Does the fuzz keep its bite?",
	"fuzz-before-wah":         "Does the wah sweep all the way?",
	"modulation-before-delay": "Do the repeats move like the note did?",
	"wah-before-gain":         "Does it speak like a voice, or only get brighter?",
	"eq-after-gain":           "Does the equaliser change the tone, or the amount of dirt?",
	"volume-before-gain":      "Does the drive clean up as the heel comes down?",
	"volume-after-gain":       "Is it as dirty when it is soft?",
	"compressor-first":        "Is every pick stroke as dirty as the last?",
	"compressor-after-gain":   "Is the drive as dirty with the compressor on as without?",
	"boost-before-gain":       "Does the boost make it louder, or only thicker?",
	"boost-after-gain":        "Is it louder, with the same dirt?",
	"vibe-before-gain":        "Does the drive chew on the throb?",
	"vibe-after-gain":         "Does the whole sound sway?",
	"delay-before-reverb":     "Does the room come last?",
	"reverb-before-delay":     "Does each repeat carry its own room?",
	"gain-before-time":        "Can you tell the repeats from the note?",
	"preamp-before-time":      "Are the repeats clear with the amp driven?",
	"time-before-preamp":      "Do the repeats smear, and do you like it?",
	"cab-after-time":          "Do the repeats sound as if they came from an amp?",
	"cab-before-time":         "Are the repeats brighter than the note?",
	"tuner-first":             "Does the needle settle at once?",
}

// Lessons are the rules of order that hold for a rig at one of its destinations, or as it stands when that is "": those
// that are about boxes of it first, what is broken before what is kept. Of questions on which players disagree it is the
// side that the rig has chosen. It fails where there is no such rig or destination.
func Lessons(p *plan.Plan, rig, destination plan.ID, driven Driven) ([]Lesson, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("path: %w", err)
	}
	r, _ := there.FindRig(rig)
	d, _ := r.FindDestination(destination)
	j := newJudge(there, r, d, r.Path, driven)
	line := map[plan.Key]int{}
	for i, n := range r.Path {
		if n.Stop != "" {
			line[n.Stop] = i
		}
	}
	lessons := []Lesson{}
	for _, rule := range rules(sides(r), true) {
		lesson := Lesson{
			Rule: rule.name, Title: titleOf(rule.name), Reason: rule.reason, Weight: rule.weight, Listen: listenFor[rule.name],
			Pairs: []Pair{},
		}
		if i := slices.IndexFunc(Questions(), func(q Question) bool { return q.ID == rule.school }); i >= 0 {
			q := Questions()[i]
			lesson.Question = &q
		}
		for i, a := range j.stops {
			for _, b := range j.stops[i+1:] {
				_, first := line[a.key]
				_, second := line[b.key]
				if !first || !second || a.gear == b.gear {
					continue
				}
				if share, ok := rule.holds(a, b); ok && share > 0 {
					lesson.Pairs = append(lesson.Pairs, j.pair(a, b, true))
				}
				if share, ok := rule.holds(b, a); ok && share > 0 {
					lesson.Pairs = append(lesson.Pairs, j.pair(b, a, false))
				}
			}
		}
		slices.SortStableFunc(lesson.Pairs, func(a, b Pair) int { return brokenFirst(a.Kept, b.Kept) })
		lesson.Pairs = lesson.Pairs[:min(len(lesson.Pairs), mostPairs)]
		lessons = append(lessons, lesson)
	}
	slices.SortStableFunc(lessons, func(a, b Lesson) int { return rank(a) - rank(b) })
	return lessons, nil
}

func brokenFirst(a, b bool) int {
	switch {
	case a == b:
		return 0
	case a:
		return 1
	}
	return -1
}

// rank puts lessons that are broken first, then those that are about boxes of the rig.
func rank(l Lesson) int {
	switch {
	case len(l.Pairs) == 0:
		return 2
	case l.Pairs[0].Kept:
		return 1
	}
	return 0
}

// titleOf is a rule's name as words.
func titleOf(name string) string {
	words := strings.ReplaceAll(name, "-", " ")
	return strings.ToUpper(words[:1]) + words[1:]
}

// pair is two stops, and the chain with the two exchanged.
func (j *judge) pair(first, second *stop, kept bool) Pair {
	p := Pair{
		Stops: []plan.Key{first.key, second.key}, Names: []string{first.name, second.name}, Kept: kept, Path: []plan.Node{},
	}
	other := slices.Clone(j.path)
	at := func(key plan.Key) int {
		return slices.IndexFunc(other, func(n plan.Node) bool { return n.Stop == key })
	}
	i, k := at(first.key), at(second.key)
	other[i].Stop, other[k].Stop = other[k].Stop, other[i].Stop
	if j.wirable(other) {
		p.Path = other
	}
	return p
}
