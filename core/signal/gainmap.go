package signal

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/plan"
	"envex/core/reason"
)

// GainMap is every combination of a rig's gain stages by loudness and dirt, with the sounds that are
// wanted as targets.
type GainMap struct {
	Points   []Point   `json:"points"`
	Targets  []Target  `json:"targets"`
	Letters  []Letter  `json:"letters"`
	Distinct []int     `json:"distinct" doc:"A largest set of points that can be told apart, by index."`
	Same     [][2]int  `json:"same" doc:"Points, of the sounds the rig makes, that are the same twice."`
	Idle     []string  `json:"idle" doc:"Gain stages that change nothing wherever they stand."`
	Whole    bool      `json:"whole" doc:"Every combination was metered; else those next to a sound's."`
	HomeLUFS float64   `json:"home_lufs"`
	Findings []Finding `json:"findings"`
}

// Letter is a gain stage and what it is called on the map.
type Letter struct {
	Letter string   `json:"letter"`
	Block  plan.Key `json:"block"`
	Name   string   `json:"name"`
}

// Point is one combination.
type Point struct {
	Name     string                  `json:"name" doc:"The letters of what is on."`
	On       []plan.Key              `json:"on"`
	Values   map[plan.Key]plan.Value `json:"values" doc:"What it sets, as a recipe would."`
	Guitar   string                  `json:"guitar,omitempty" doc:"How the guitar is set, where sounds differ in that."`
	OverHome float64                 `json:"over_home_lu"`
	Dirt     float64                 `json:"dirt_pct"`
	Squash   float64                 `json:"squash"`
	Noise    float64                 `json:"noise_db"`
	Sounds   []plan.ID               `json:"sounds" doc:"Sounds whose recipe is this."`
	Reaches  []plan.ID               `json:"reaches" doc:"Sounds whose targets of loudness and dirt it meets."`
}

// Target is the region of the map a sound has to be in.
type Target struct {
	Sound    plan.ID  `json:"sound"`
	Name     string   `json:"name"`
	DirtMin  float64  `json:"dirt_min"`
	DirtMax  float64  `json:"dirt_max"`
	LoudMin  *float64 `json:"loud_min,omitempty" doc:"Over home; absent where any loudness will do."`
	LoudMax  *float64 `json:"loud_max,omitempty"`
	Reached  bool     `json:"reached" doc:"Some combination is in it."`
	Made     bool     `json:"made" doc:"The sound's own recipe is."`
	Closest  int      `json:"closest" doc:"The point nearest to it, by index."`
	ShortLU  float64  `json:"short_lu" doc:"How far that one is off in loudness."`
	ShortPct float64  `json:"short_pct" doc:"And in dirt."`
}

// mostPoints is how many combinations are metered; a rig with more has those next to its sounds'.
const mostPoints = 256

// What two sounds may differ in and still be the same to the ear: a working threshold.
const (
	sameLU     = 1.0
	sameSquash = 0.08
	sameDirt   = 5.0
)

// gainBlock is a stage that the map turns on and off, or a channel it switches.
type gainBlock struct {
	key     plan.Key // the variable
	block   plan.Key
	name    string
	letter  string
	values  []plan.Value
	channel bool
}

// MapGain meters every combination of a rig's gain stages, the channels of its amps and the ways its
// sounds set the guitar. It fails when the rig is not there or makes no sound, and with the
// context's error when that is cancelled.
func MapGain(ctx context.Context, p *plan.Plan, rig plan.ID, o Options) (*GainMap, error) {
	r, err := newRendering(p, rig, o.Kept)
	if err != nil {
		return nil, err
	}
	sounds := r.recipes()
	if len(sounds) == 0 {
		return nil, reason.Errorf("%s has no recipe for any sound yet", r.rig.Name)
	}
	m := &mapping{rendering: r, sounds: sounds, blocks: r.gainBlocks()}
	m.combine()
	figures, err := r.fan(ctx, m.settings, o.Dry, true, o.Progress)
	if err != nil {
		return nil, err
	}
	return m.result(figures), nil
}

type mapping struct {
	*rendering
	sounds   []made
	blocks   []gainBlock
	guitars  []Setting // one for each way sounds set the guitar
	settings []Setting
	combos   [][]int // by setting: the position of each block, then the guitar
	whole    bool
}

// gainBlocks are the gain stages of a chain that can be off, and the channels of its preamps.
func (r *rendering) gainBlocks() []gainBlock {
	var list []gainBlock
	used := map[string]bool{}
	letter := func(name string) string {
		for _, c := range strings.ToUpper(name) {
			if c >= 'A' && c <= 'Z' && !used[string(c)] {
				used[string(c)] = true
				return string(c)
			}
		}
		l := fmt.Sprint(len(list) + 1)
		used[l] = true
		return l
	}
	for _, key := range plan.StopsIn(r.path) {
		g, ok := r.plan.FindGear(key.Gear())
		if !ok {
			continue
		}
		b, ok := g.FindBlock(plan.ID(key.Rest()))
		if !ok || !b.Effect.IsGain() {
			continue
		}
		if b.Bypass != plan.AlwaysOn {
			name := g.StopName(b)
			list = append(
				list,
				gainBlock{
					key: plan.OnKey(g.ID, b.ID), block: key, name: name, letter: letter(name),
					values: []plan.Value{plan.On(false), plan.On(true)},
				},
			)
		}
		for _, v := range g.Variables() {
			if v.Control == nil || v.Control.Kind != plan.Selector || v.Control.ID != "channel" ||
				(v.Block != "" && v.Block != b.ID) {
				continue
			}
			x := gainBlock{key: v.Key, block: key, name: v.Label, letter: letter(v.Label), channel: true}
			for _, o := range v.Control.Options {
				x.values = append(x.values, plan.Text(o))
			}
			list = append(list, x)
		}
	}
	return list
}

// allowed reports whether a combination keeps to the player's limit of gain stages at once, or is one that a
// sound has all the same.
func (m *mapping) allowed(at []int) bool {
	if m.rig.MostGains == nil {
		return true
	}
	on := 0
	for i, b := range m.blocks {
		if !b.channel && b.values[at[i]].IsOn() {
			on++
		}
	}
	return on <= *m.rig.MostGains ||
		slices.ContainsFunc(m.sounds, func(s made) bool { return slices.Equal(m.of(s.setting), at) })
}

// combine lists the settings that are metered: all, or where there are too many those that a sound
// uses and what is one step from them, two, and so on.
func (m *mapping) combine() {
	m.whole = true
	seen := map[string]bool{}
	for _, s := range m.sounds {
		if name := m.guitarName(s.setting); !seen[name] {
			seen[name] = true
			m.guitars = append(m.guitars, s.setting)
		}
	}
	count := len(m.guitars)
	for _, b := range m.blocks {
		if count *= len(b.values); count > mostPoints {
			m.whole = false
			break
		}
	}
	if m.whole {
		at := make([]int, len(m.blocks)+1)
		for {
			m.take(at)
			if !m.next(at) {
				return
			}
		}
	}
	taken := map[string]bool{}
	var queue [][]int
	add := func(at []int) {
		if name := fmt.Sprint(at); !taken[name] && len(taken) < mostPoints {
			taken[name] = true
			queue = append(queue, at)
			m.take(at)
		}
	}
	for _, s := range m.sounds {
		add(m.of(s.setting))
	}
	for k := 0; k < len(queue); k++ {
		for i, b := range m.blocks {
			for v := range b.values {
				step := slices.Clone(queue[k])
				step[i] = v
				add(step)
			}
		}
	}
}

func (m *mapping) next(at []int) bool {
	for i := range at {
		size := len(m.guitars)
		if i < len(m.blocks) {
			size = len(m.blocks[i].values)
		}
		if at[i]++; at[i] < size {
			return true
		}
		at[i] = 0
	}
	return false
}

// of is the combination that a setting is.
func (m *mapping) of(s Setting) []int {
	at := make([]int, len(m.blocks)+1)
	for i, b := range m.blocks {
		at[i] = max(0, slices.Index(b.values, s.At(b.key)))
	}
	at[len(m.blocks)] = slices.IndexFunc(m.guitars, func(g Setting) bool { return m.guitarName(g) == m.guitarName(s) })
	return at
}

func (m *mapping) take(at []int) {
	if !m.allowed(at) {
		return
	}
	from := m.guitars[at[len(m.blocks)]]
	// Everything that is no gain stage stands as the home sound has it.
	base := m.sounds[max(0, homeOf(m.sounds))].setting
	s := Setting{Values: map[plan.Key]plan.Value{}, Guitar: from.Guitar, Tuned: from.Tuned}
	for key, x := range base.Values {
		s.Values[key] = x
	}
	for key, x := range from.Values {
		if key.Gear() == from.Guitar {
			s.Values[key] = x
		}
	}
	for i, b := range m.blocks {
		s.Values[b.key] = b.values[at[i]]
	}
	for _, own := range m.sounds { // where a sound is this combination, its own knobs count
		if slices.Equal(m.of(own.setting), at) {
			s = own.setting
			break
		}
	}
	m.settings = append(m.settings, s)
	m.combos = append(m.combos, slices.Clone(at))
}

// guitarName says in words how the guitar is set.
func (m *mapping) guitarName(s Setting) string {
	g, ok := m.plan.FindGear(s.Guitar)
	if !ok {
		return ""
	}
	var words []string
	for _, v := range g.Variables() {
		words = append(words, fmt.Sprintf("%s %s", v.Control.Name, s.At(v.Key)))
	}
	return g.Name + ": " + strings.Join(words, ", ")
}

func (m *mapping) result(figures []quick) *GainMap {
	out := &GainMap{
		Whole: m.whole, Points: []Point{}, Targets: []Target{}, Letters: []Letter{}, Same: [][2]int{}, Idle: []string{},
		Findings: []Finding{}, Distinct: []int{},
	}
	for _, b := range m.blocks {
		out.Letters = append(out.Letters, Letter{b.letter, b.block, b.name})
	}
	home := m.find(m.of(m.sounds[max(0, homeOf(m.sounds))].setting))
	out.HomeLUFS = figures[home].loudness
	for i, f := range figures {
		out.Points = append(out.Points, m.point(i, f, out.HomeLUFS))
	}
	for _, s := range m.sounds {
		k := m.find(m.of(s.setting))
		out.Points[k].Sounds = append(out.Points[k].Sounds, s.sound.ID)
	}
	m.aim(out)
	out.Distinct = distinct(out.Points)
	m.idle(out)
	m.twice(out)
	return out
}

func (m *mapping) find(at []int) int {
	return slices.IndexFunc(m.combos, func(c []int) bool { return slices.Equal(c, at) })
}

func (m *mapping) point(i int, f quick, home float64) Point {
	x := Point{
		On: []plan.Key{}, Values: map[plan.Key]plan.Value{}, OverHome: f.loudness - home, Dirt: f.dirt, Squash: f.squash,
		Noise: f.noise, Sounds: []plan.ID{}, Reaches: []plan.ID{},
	}
	for k, b := range m.blocks {
		v := b.values[m.combos[i][k]]
		x.Values[b.key] = v
		if v.IsOn() || (b.channel && m.combos[i][k] > 0) {
			x.On = append(x.On, b.block)
			x.Name += b.letter
		}
	}
	if x.Name == "" {
		x.Name = "–"
	}
	if len(m.guitars) > 1 {
		x.Guitar = m.guitarName(m.settings[i])
	}
	return x
}

// aim lays the targets over the points.
func (m *mapping) aim(out *GainMap) {
	for _, s := range m.sounds {
		dl, dh, dirty := DirtBand(s.sound.Targets)
		ll, lh, loud := LoudnessBand(s.sound.Targets)
		if !dirty && !loud {
			continue
		}
		t := Target{Sound: s.sound.ID, Name: s.sound.Name, DirtMin: dl, DirtMax: dh, Closest: -1}
		if loud {
			t.LoudMin, t.LoudMax = &ll, &lh
		}
		guitar := m.guitarName(s.setting)
		best := math.Inf(1)
		for i := range out.Points {
			x := &out.Points[i]
			a, b := off(x.OverHome, ll, lh), off(x.Dirt, dl, dh)
			if a == 0 && b == 0 {
				x.Reaches = append(x.Reaches, s.sound.ID)
				t.Reached = true
				t.Made = t.Made || slices.Contains(x.Sounds, s.sound.ID)
			}
			away := math.Hypot(a/sameLU, b/sameDirt)
			if m.guitarName(m.settings[i]) != guitar {
				away += 0.5 // another pickup is another sound
			}
			if away < best {
				best, t.Closest, t.ShortLU, t.ShortPct = away, i, a, b
			}
		}
		out.Targets = append(out.Targets, t)
		m.aimFinding(out, t)
	}
}

func (m *mapping) aimFinding(out *GainMap, t Target) {
	near := out.Points[t.Closest]
	switch {
	case t.Made:
	case t.Reached:
		out.Findings = append(out.Findings,
			Finding{ID: "gain:missed:" + string(t.Sound), Sound: t.Sound, Tunes: true,
				Title: t.Name + " is set beside its target",
				Words: fmt.Sprintf(
					"%s is in it: %+.1f LU over home, %.0f %% dirt.", named(near, out.Letters), near.OverHome, near.Dirt,
				)})
	default:
		out.Findings = append(out.Findings,
			Finding{ID: unreachedID(t.Sound), Sound: t.Sound, Tunes: true, Title: "Nothing reaches " + t.Name,
				Words: fmt.Sprintf(
					"Closest is %s: %s, %s.", named(near, out.Letters), shortWords(t.ShortLU, "LU", "loud enough"),
					shortWords(t.ShortPct, "points of dirt", "dirty enough"),
				)})
	}
}

// named is a point by the names of what is on.
func named(x Point, letters []Letter) string {
	var names []string
	for _, l := range letters {
		if slices.Contains(x.On, l.Block) {
			names = append(names, l.Name)
		}
	}
	if len(names) == 0 {
		return "no gain stage"
	}
	return strings.Join(names, " + ")
}

func shortWords(by float64, unit, right string) string {
	switch {
	case by < 0:
		return fmt.Sprintf("%.1f %s short", -by, unit)
	case by > 0:
		return fmt.Sprintf("%.1f %s over", by, unit)
	}
	return right
}
