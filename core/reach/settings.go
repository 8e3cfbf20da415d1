package reach

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"envex/core/plan"
)

// GuitarKey is the variable for which guitar is in hand, in which tuning and with which capo. It cannot clash: keys of gear
// have a slash.
const GuitarKey plan.Key = "guitar"

// slotKey is the variable for which box stands in a swap slot. It has no slash either.
func slotKey(id plan.ID) plan.Key { return "slot " + plan.Key(id) }

func isSlot(k plan.Key) bool { return strings.HasPrefix(string(k), "slot ") }

// variable is something of the rig that can differ between two sections, with the values
// it can take in this show.
type variable struct {
	plan.Variable
	ring   float64 // how long its block rings on, seconds
	guitar plan.ID // the guitar it belongs to, if it does
	silent bool    // nobody hears it: the bank a controller stands on
	gain   bool    // it turns a gain stage on and off
	when   []condition
	values []plan.Value
	index  map[plan.Value]int
}

// condition is a plan.KeyCondition with its variable looked up.
type condition struct {
	v int
	plan.KeyCondition
}

func (v *variable) intern(x plan.Value) int {
	if i, ok := v.index[x]; ok {
		return i
	}
	if v.Control != nil && v.Control.Unit == "ms" && x.Kind() == plan.NumberValue {
		for i, y := range v.values { // a time that nobody can tell from another is that one
			if y.Kind() == plan.NumberValue && plan.SameTime(x.Float(), y.Float()) {
				return i
			}
		}
	}
	v.index[x] = len(v.values)
	v.values = append(v.values, x)
	return len(v.values) - 1
}

// want is what a recipe asks of one variable: one value, one of several, or nothing.
type want struct {
	oneOf []int // nil when it does not matter
	inert bool  // its condition does not hold: it cannot be heard
}

// wants is what a recipe asks of every variable, and why it cannot be had, if it cannot.
type wants struct {
	of     []want
	synced []int         // variables that follow the tempo
	tapped map[int][]int // by variable: values a tap at this tempo can give
	broken string
}

// settings works out what each part asks of each variable.
type settings struct {
	plan    *plan.Plan
	rig     *plan.Rig
	vars    []*variable
	byKey   map[plan.Key]int
	synced  bool // some setting follows the tempo, so that wants depend on it
	slots   *plan.Evening
	guitars map[int]plan.InHand // by position: how the guitar of the part stood when it was last in hand before
	looped  map[plan.Key]bool   // blocks in loops of a switcher

	clocked map[plan.ID]bool // gear that follows a clock
	memory  []*variable
	notes   map[int][]plan.Value // by variable: note lengths asked of it
	cache   map[wantsKey]*wants
	taps    map[tempoKey]map[int][]int
}

// wantsKey tells apart what can make wants differ; the tempo is left out where nothing the
// recipe asks follows it.
type wantsKey struct {
	recipe *plan.Recipe
	inHand plan.InHand
	tempoKey
}

// tempoKey is what of a tempo its times follow from.
type tempoKey struct {
	bpm  float64
	beat string
}

func newSettings(p *plan.Plan, r *plan.Rig, evening *plan.Evening) *settings {
	s := &settings{
		slots: evening, plan: p, rig: r, byKey: map[plan.Key]int{}, looped: r.Looped(), clocked: r.Clocked(),
		cache: map[wantsKey]*wants{}, taps: map[tempoKey]map[int][]int{},
	}
	for _, v := range p.VariablesIn(r) {
		if g, ok := p.FindGear(v.Gear); ok {
			s.add(g, v)
		}
	}
	s.addBanks(r.GearIn())
	if len(r.Guitars) > 0 || tunedOtherwise(p) {
		s.put(
			&variable{
				Variable: plan.Variable{
					Key: GuitarKey, Label: "Guitar", Access: plan.SlowHand, Control: &plan.Control{Kind: plan.Selector},
				},
			},
		)
	}
	for _, slot := range evening.Swaps {
		s.put(
			&variable{
				Variable: plan.Variable{
					Key: slotKey(
						slot.ID,
					), Label: slot.Name, Access: plan.SlowHand, Control: &plan.Control{Kind: plan.Selector},
				},
			},
		)
	}
	for _, v := range append(append([]*variable(nil), s.vars...), s.memory...) {
		for _, c := range v.When {
			if i, ok := s.byKey[c.Key]; ok {
				v.when = append(v.when, condition{i, c})
			}
		}
	}
	s.noteLengths()
	return s
}

func (s *settings) add(g *plan.Gear, v plan.Variable) {
	x := &variable{Variable: v}
	if b, ok := g.FindBlock(v.Block); ok {
		x.ring = b.Ring()
		x.gain = v.IsOn() && b.Effect.IsGain()
	}
	if g.Kind == plan.Guitar {
		x.guitar = g.ID
	}
	if v.Access == plan.Memory {
		s.memory = append(s.memory, x)
		return
	}
	s.put(x)
	switch {
	case v.IsOn():
		x.intern(plan.On(false))
		x.intern(plan.On(true))
	case v.Control.Kind != plan.Knob:
		for _, o := range v.Control.Options {
			x.intern(plan.Text(o))
		}
	}
}

func (s *settings) put(x *variable) {
	x.index = map[plan.Value]int{}
	s.byKey[x.Key] = len(s.vars)
	s.vars = append(s.vars, x)
}

// resolve fills in, for every part, the recipe, the guitar and what they ask.
func (s *settings) resolve(parts []*part) {
	nothing := &wants{of: make([]want, len(s.vars))}
	for _, x := range parts {
		x.recipe = s.rig.RecipeFor(*x.sec)
		x.guitar = s.rig.GuitarOf(x.song, x.recipe, x.sound)
		if x.recipe == nil {
			x.broken = fmt.Sprintf("%s has no recipe for %s.", s.rig.Name, soundName(x.sound))
			x.wants = nothing
			continue
		}
		if len(x.recipe.Rockers) > 0 {
			x.rocker = x.recipe.Rockers[0]
		}
		x.wants = s.wantsFor(x)
		x.broken = x.wants.broken
	}
}

// wantsFor is what a part asks, worked out once for each recipe and guitar, and where
// settings follow the tempo finished once for each tempo.
func (s *settings) wantsFor(x *part) *wants {
	key := wantsKey{recipe: x.recipe, inHand: x.song.InHand(x.guitar)}
	base, ok := s.cache[key]
	if !ok {
		base = s.wantsOf(x)
		if base.broken == "" {
			s.cache[key] = base
		}
	}
	if !s.synced {
		return base
	}
	key.tempoKey = tempoKey{x.tempo.BPM, x.tempo.BeatNote()}
	w, ok := s.cache[key]
	if !ok {
		w = s.atTempo(x, base)
		s.cache[key] = w
	}
	return w
}

func soundName(s *plan.Sound) string {
	if s == nil {
		return "an unknown sound"
	}
	return s.Name
}

// inSlot is the box that stands in a slot while a song is played.
func (s *settings) inSlot(song plan.ID, slot plan.Key) plan.ID {
	for _, x := range s.slots.Songs[song] {
		if slotKey(x.Swap) == slot {
			return x.Gear
		}
	}
	i := slices.IndexFunc(s.slots.Swaps, func(x plan.Swap) bool { return slotKey(x.ID) == slot })
	return s.rig.InSlot(&s.slots.Swaps[i])
}

// asked is what the recipe, or else the rig while a guitar is played, sets a variable to.
func (s *settings) asked(rec *plan.Recipe, guitar plan.ID, v plan.Variable) plan.Value {
	if x, ok := rec.Values[v.Key]; ok && !x.IsZero() {
		return x
	}
	return s.rig.BaseFor(v, guitar)
}

// wantsOf is what a part asks, but for settings that follow the tempo.
func (s *settings) wantsOf(x *part) *wants {
	w := &wants{of: make([]want, len(s.vars)), broken: s.missing(x)}
	values := make([]plan.Value, len(s.vars))
	for i, v := range s.vars {
		values[i] = s.asked(x.recipe, x.guitar, v.Variable)
	}
	for i, v := range s.vars {
		if v.Key == GuitarKey {
			w.of[i] = want{oneOf: []int{v.intern(x.song.InHand(x.guitar).Value())}}
			continue
		}
		if isSlot(v.Key) {
			w.of[i] = want{oneOf: []int{v.intern(plan.Text(string(s.inSlot(x.song.ID, v.Key))))}}
			continue
		}
		w.of[i].inert = v.silent || !holds(x, v, values)
		switch kind := values[i].Kind(); {
		case w.of[i].inert || kind == plan.FreeValue || kind == plan.NoValue:
		case kind == plan.SyncValue && s.clocked[v.Key.Gear()]:
			// The clock sets it, and nobody has to.
		case kind == plan.SyncValue:
			w.synced = append(w.synced, i)
		default:
			w.of[i].oneOf = []int{v.intern(values[i])}
		}
	}
	s.presets(x, w, values)
	return w
}

// atTempo finishes wants with everything that follows the part's tempo: the settings the
// recipe binds to it, and what a tap could give.
func (s *settings) atTempo(x *part, base *wants) *wants {
	w := &wants{of: base.of, tapped: s.tappedAt(x.tempo), broken: base.broken}
	if len(base.synced) == 0 {
		return w
	}
	w.of = slices.Clone(base.of)
	for _, i := range base.synced {
		v := s.vars[i]
		w.of[i].oneOf = []int{v.intern(resolved(v.Control, s.asked(x.recipe, x.guitar, v.Variable), x.tempo))}
	}
	return w
}

// tappedAt is what a tap at a tempo could give each variable, from every note length that
// some recipe asks of it.
func (s *settings) tappedAt(t plan.Tempo) map[int][]int {
	key := tempoKey{t.BPM, t.BeatNote()}
	if known, ok := s.taps[key]; ok {
		return known
	}
	tapped := make(map[int][]int, len(s.notes))
	for i, notes := range s.notes {
		for _, n := range notes {
			tapped[i] = append(tapped[i], s.vars[i].intern(resolved(s.vars[i].Control, n, t)))
		}
	}
	s.taps[key] = tapped
	return tapped
}

// noteLengths lists, by variable, every length of note that the rig asks of it somewhere.
func (s *settings) noteLengths() {
	s.notes = map[int][]plan.Value{}
	add := func(m map[plan.Key]plan.Value) {
		for _, k := range sortedKeys(m) {
			i, ok := s.byKey[k]
			if m[k].Kind() != plan.SyncValue {
				continue
			}
			s.synced = true
			if ok && !slices.Contains(s.notes[i], m[k]) {
				s.notes[i] = append(s.notes[i], m[k])
			}
		}
	}
	add(s.rig.Base)
	for _, own := range s.rig.PerGuitar {
		add(own)
	}
	for _, rec := range s.rig.Recipes {
		add(rec.Values)
	}
	for _, presets := range s.rig.Presets {
		for _, held := range presets {
			add(held)
		}
	}
	for _, banks := range s.rig.Programs {
		for _, slots := range banks {
			for _, program := range slots {
				add(program.Values)
			}
		}
	}
	for _, presets := range s.rig.Snapshots {
		for _, shots := range presets {
			for _, held := range shots {
				add(held)
			}
		}
	}
}

// resolved turns a note length into where a control stands, to the nearest thousandth.
func resolved(c *plan.Control, v plan.Value, t plan.Tempo) plan.Value {
	if v.Kind() != plan.SyncValue {
		return v
	}
	return plan.Number(math.Round(c.Synced(v, t).Float()*1000) / 1000)
}

// holds reports whether a variable does anything in this part: its guitar is being played
// and each of its conditions holds, as far as the recipe says.
func holds(x *part, v *variable, values []plan.Value) bool {
	if v.guitar != "" && v.guitar != x.guitar {
		return false
	}
	for _, c := range v.when {
		if asked := values[c.v]; asked.Kind() != plan.FreeValue && !c.Holds(asked) {
			return false
		}
	}
	return true
}

// missing says why the recipe cannot sound in this rig, if a block it turns on is not in
// the chain, or if a guitar it needs is not plugged in.
func (s *settings) missing(x *part) string {
	if x.guitar != "" {
		found := false
		for _, id := range s.rig.Guitars {
			found = found || id == x.guitar
		}
		if !found {
			return fmt.Sprintf(
				"%s is played on %s, which %s does not have.",
				x.song.Title,
				s.gearName(x.guitar),
				s.rig.Name,
			)
		}
	}
	if lacks := s.rig.Lacks(x.recipe); len(lacks) > 0 {
		return fmt.Sprintf(
			"%s needs %s, which is not in the chain of %s.",
			soundName(x.sound),
			s.gearName(lacks[0].Gear()),
			s.rig.Name,
		)
	}
	return ""
}

func (s *settings) gearName(id plan.ID) string {
	if g, ok := s.plan.FindGear(id); ok {
		return g.Name
	}
	return string(id)
}

func all(n int) []int {
	list := make([]int, n)
	for i := range list {
		list[i] = i
	}
	return list
}

func contains(list []int, x int) bool {
	for _, y := range list {
		if x == y {
			return true
		}
	}
	return false
}

func sortedKeys[V any](m map[plan.Key]V) []plan.Key {
	keys := make([]plan.Key, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}

// onBlock is the block whose on and off a key is.
func onBlock(k plan.Key) (plan.Key, bool) {
	block, ok := strings.CutSuffix(string(k), "/on")
	return plan.Key(block), ok && strings.Contains(block, "/")
}
